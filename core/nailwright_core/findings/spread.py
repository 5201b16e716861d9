"""How the spread of residuals about a line changes along it.

Fish of one length differ in mass more where some have spawned or fed and others have not, so the spread on the logarithm is not
the same at every length; a mean mass is 10^(s^2 ln 10 / 2) times the median, with the spread at its own length. log s^2 is a line
too, fitted by maximum likelihood (Harvey 1976, Econometrica 44, 461-465, from memory), with the sandwich form of its variance,
which bears residuals that are not normal. Where the same spread at every length is not refuted, it is taken.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike

from nailwright_core.common.arrays import Floats

#: With fewer fish the spread is told for all lengths together.
FEWEST_FISH = 30
#: Of more, fish of about one length are put together.
_PUT_TOGETHER, _BINS = 5_000, 256
_STEPS = 25
#: Standard errors from which on a spread that is the same everywhere is refuted (p of 0.05).
_REFUTES = 1.96


@dataclass(frozen=True)
class Spread:
    """Variance of residuals at x: log of it is ``at`` + ``slope`` (x - ``middle``).

    Attributes:
        covariance: of ``at`` and ``slope``, shape (2, 2).
    """

    at: float
    slope: float
    middle: float
    covariance: Floats

    def variance(self, x: ArrayLike) -> Floats:
        """At each x, of any shape."""
        return np.exp(self.at + self.slope * (np.asarray(x, dtype=np.float64) - self.middle))

    def variance_of_variance(self, x: ArrayLike) -> Floats:
        """How sure that is, at each x."""
        off = np.asarray(x, dtype=np.float64) - self.middle
        part = np.stack([np.ones_like(off), off], axis=-1)
        return np.asarray(self.variance(x) ** 2 * np.einsum("...i,ij,...j->...", part, self.covariance, part))


def spread_along(x: Floats, residual: Floats) -> Spread:
    """The spread of residuals of a straight line, which took two degrees of freedom.

    Args:
        x, residual: shape (n,).
    """
    n, middle = x.size, float(x.mean())
    whole = max(float(residual @ residual) / max(n - 2, 1), 1e-300)
    alike = Spread(math.log(whole), 0.0, middle, np.diag([2 / max(n - 2, 1), 0.0]))
    off, squares, weight = x - middle, residual * residual, np.ones(n)
    if n > _PUT_TOGETHER:
        low, high = float(off.min()), float(off.max())
        place = np.minimum(((off - low) * (_BINS / max(high - low, 1e-12))).astype(np.int64), _BINS - 1)
        weight = np.bincount(place, minlength=_BINS).astype(np.float64)
        some = weight > 0
        off, squares, fourth = (
            np.bincount(place, each, _BINS)[some] / weight[some] for each in (off, squares, squares**2)
        )
        weight = weight[some]
    else:
        fourth = squares**2
    if n < FEWEST_FISH or whole <= 1e-18 or np.ptp(off) < 1e-6:
        return alike
    design = np.column_stack([np.ones_like(off), off])
    bread = np.linalg.inv(design.T @ (design * weight[:, None]))
    at = np.array([math.log(whole * (n - 2) / n), 0.0])
    for _ in range(_STEPS):
        share = squares * np.exp(-(design @ at))
        step = bread @ (design.T @ (weight * (share - 1)))
        at = at + np.clip(step, -2, 2)
        if np.abs(step).max() < 1e-9:
            break
    else:
        return alike  # it does not settle: residuals that are nearly all 0
    turn = np.exp(-(design @ at))
    meat = weight * (fourth * turn**2 - 2 * squares * turn + 1)
    covariance = bread @ (design.T @ (design * meat[:, None])) @ bread
    if abs(at[1]) <= _REFUTES * math.sqrt(max(float(covariance[1, 1]), 0.0)):
        return alike
    return Spread(float(at[0]) + math.log(n / (n - 2)), float(at[1]), middle, covariance)
