"""How many fish, from marks that go out on every occasion.

Schnabel (1938), Am. Math. Mon. 45, 348-352; Schumacher and Eschmeyer (1943), J. Tenn. Acad. Sci. 18, 228-249. From memory
of these sources.
"""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import ArrayLike, NDArray
from scipy import special, stats

from nailwright_core.common.errors import CoreError
from nailwright_core.common.estimate import Assumption, Estimate
from nailwright_core.findings.abundance.marks import MarkEstimate, inverted, poisson


def schnabel(
    caught: ArrayLike, recaptured: ArrayLike, marked_at_large: ArrayLike, level: float = 0.95, plus_one: bool = False
) -> MarkEstimate:
    """Fish in a closed water from several catches, each marked and put back.

    Args:
        caught, recaptured, marked_at_large: shape (s,), one of each an occasion; marks at large before it.
        plus_one: Chapman's modification, which adds one to the recaptures.

    Raises:
        CoreError: ``occasions_too_few``, ``count_out_of_range``, ``no_recaptures``.
    """
    c, r, m = _occasions(caught, recaptured, marked_at_large)
    product, total = float((c * m).sum()), float(r.sum())
    value = product / (total + plus_one)
    se_inverse = math.sqrt(total) / product
    z = float(special.ndtri(0.5 + level / 2))
    if total < 50:
        low_r, high_r = poisson(int(total), level)
        low, high, how = product / high_r, product / low_r, "poisson"
    else:
        low, high, how = *inverted(1 / value, z * se_inverse), "normal on 1/N"
    n = Estimate(value, value**2 * se_inverse, low, high, level, f"{how}, schnabel", int(total))
    return MarkEstimate(n, "schnabel", _occasion_assumptions(c, r, m, n))


def schumacher_eschmeyer(
    caught: ArrayLike, recaptured: ArrayLike, marked_at_large: ArrayLike, level: float = 0.95
) -> MarkEstimate:
    """As ``schnabel``, by the regression of the share of marked fish on marks at large.

    Raises:
        CoreError: as ``schnabel``; two occasions with marks at large are needed.
    """
    c, r, m = _occasions(caught, recaptured, marked_at_large)
    used = (m > 0) & (c > 0)
    s = int(used.sum())
    if s < 2:
        raise CoreError(
            "occasions_too_few", f"Expected at least 2 occasions with marks at large; got {s}.", "marked_at_large"
        )
    c, r, m = c[used], r[used], m[used]
    cm2, rm = float((c * m * m).sum()), float((r * m).sum())
    slope = rm / cm2
    # the first occasion, with no marks yet, counts among Schumacher and Eschmeyer's s - 2
    spread = max(float((r * r / c).sum()) - rm * rm / cm2, 0.0) / (s - 1)
    se = math.sqrt(spread / cm2)
    low, high = inverted(slope, float(stats.t.ppf(0.5 + level / 2, s - 1)) * se)
    n = Estimate(1 / slope, se / slope**2, low, high, level, "t on 1/N, schumacher-eschmeyer", int(r.sum()))
    return MarkEstimate(n, "schumacher-eschmeyer", _occasion_assumptions(c, r, m, n))


def _occasions(
    caught: ArrayLike, recaptured: ArrayLike, marked: ArrayLike
) -> tuple[NDArray[np.float64], NDArray[np.float64], NDArray[np.float64]]:
    c, r, m = (np.asarray(values, dtype=float) for values in (caught, recaptured, marked))
    if not c.shape == r.shape == m.shape or c.ndim != 1 or c.size < 2:
        raise CoreError(
            "occasions_too_few",
            f"Expected catch, recaptures and marks at large for 2 or more occasions; got {c.size}, {r.size}, {m.size}.",
            "caught",
        )
    if (c < 0).any() or (r < 0).any() or (m < 0).any() or (r > c).any() or (r > m).any():
        raise CoreError(
            "count_out_of_range",
            "Recaptures can be neither more than the catch nor than the marks at large.",
            "recaptured",
        )
    if r.sum() == 0:
        raise CoreError(
            "no_recaptures", "No marked fish was met again on any occasion; nothing can be said.", "recaptured"
        )
    return c, r, m


def _occasion_assumptions(
    c: NDArray[np.float64], r: NDArray[np.float64], m: NDArray[np.float64], n: Estimate
) -> tuple[Assumption, ...]:
    """Whether the share of marks grows along a line with the marks at large: chi-square over occasions."""
    used = (m > 0) & (c > 0)
    expected = c[used] * m[used] / n.value
    df = int(used.sum()) - 1
    chi2 = float(((r[used] - expected) ** 2 / expected).sum())
    p = float(stats.chi2.sf(chi2, df)) if df > 0 else math.nan
    verdict = "not checked" if df < 1 else "fails" if p < 0.01 else "doubtful" if p < 0.05 else "holds"
    return (
        Assumption(
            "The share of marks rises in line with the marks at large",
            verdict,  # type: ignore[arg-type]
            f"Chi-square {chi2:.1f} on {df}, p = {p:.2g}. A bend shows unequal mixing, loss, or marks that avoid capture.",
        ),
        Assumption("Closed over all occasions", "not checked", "No births, deaths or moves; marks kept and seen."),
    )
