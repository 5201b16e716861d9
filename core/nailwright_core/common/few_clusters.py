"""Degrees of freedom of means and differences of means over few sites of unlike size.

Bell and McCaffrey (2002, Survey Methodology 28, 169-181) and Imbens and Kolesar (2016, Rev. Econ. Stat. 98, 701-712), both from
memory, for the variance of leaving out one site after the other (CR3, ``by_site.jackknife``) and fish alike within sites no more
than between them as the working model. Each variance has degrees of freedom of its own: these belong to that one.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import ArrayLike

from nailwright_core.common.errors import CoreError


def satterthwaite_df(fish: ArrayLike) -> float:
    """tr(D)^2 / sum(D^2), D the covariance of what each site adds to the estimate.

    Args:
        fish: of each site in each group, shape (sites,) for a mean, (sites, 2) for the difference of two; a site may hold fish of
            both groups.

    Returns:
        Degrees of freedom; 0 where the variance cannot be told, since one site holds all fish of a group.

    Raises:
        CoreError: ``count_out_of_range``.
    """
    counts = np.asarray(fish, dtype=np.float64)
    counts = counts[:, None] if counts.ndim == 1 else counts
    if counts.ndim != 2 or not np.isfinite(counts).all() or (counts < 0).any() or (counts.sum(axis=0) <= 0).any():
        raise CoreError("count_out_of_range", "Expected fish at each site in each group, none below 0.", "fish")
    total = counts.sum(axis=0)
    if (counts == total).any():
        return 0.0
    pull = np.where(counts > 0, 1 / (total - counts), 0.0)
    # within a group, sums of residuals of two sites go together by - n_g n_h / N, of one by n_g - n_g^2 / N
    spread = -np.einsum("gk,hk->gh", pull * counts, pull * counts / total)
    spread[np.diag_indices_from(spread)] += (pull**2 * counts).sum(axis=1)
    return float(np.trace(spread) ** 2 / (spread**2).sum())


def satterthwaite_df_of_fit(normal: ArrayLike, wanted: ArrayLike) -> float:
    """As ``satterthwaite_df``, for a combination of the coefficients of a least-squares fit.

    Args:
        normal: X'X of the rows of each site, shape (sites, k, k).
        wanted: the combination, shape (k,).

    Returns:
        Degrees of freedom; 0 where the fit cannot do without one of the sites.

    Raises:
        CoreError: ``count_out_of_range``.
    """
    each, c = np.asarray(normal, dtype=np.float64), np.asarray(wanted, dtype=np.float64)
    if each.ndim != 3 or each.shape[1:] != (c.size, c.size) or not np.isfinite(each).all():
        raise CoreError("count_out_of_range", "Expected the sums of squares of each site.", "normal")
    try:
        inverse = np.linalg.inv(each.sum(axis=0))
        # (I - H_gg)^-1 X_g (X'X)^-1 c is X_g times this
        pull = np.linalg.solve(
            np.eye(c.size) - inverse @ each, np.broadcast_to((inverse @ c)[:, None], (len(each), c.size, 1))
        )[..., 0]
    except np.linalg.LinAlgError:
        return 0.0
    through = np.einsum("gij,gj->gi", each, pull)
    spread = -through @ inverse @ through.T
    spread[np.diag_indices_from(spread)] += np.einsum("gi,gi->g", pull, through)
    squares = float((spread**2).sum())
    return float(np.trace(spread) ** 2 / squares) if np.isfinite(squares) and squares > 0 else 0.0
