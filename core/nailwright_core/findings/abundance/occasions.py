"""How many fish, from marks that go out on every occasion.

Schnabel (1938), Am. Math. Mon. 45, 348-352; Schumacher and Eschmeyer (1943), J. Tenn. Acad. Sci. 18, 228-249; the
likelihood of such a census: Darroch (1958), Biometrika 45, 343-359. From memory of these sources.
"""

from __future__ import annotations

import math
from collections.abc import Callable

import numpy as np
import scipy  # its stats take a second to load: they are read where one is first used
from numpy.typing import ArrayLike
from scipy import optimize, special

from nailwright_core.common.arrays import Floats
from nailwright_core.common.checks import check_level, whole_counts
from nailwright_core.common.errors import CoreError
from nailwright_core.common.estimate import Assumption, Estimate, Verdict
from nailwright_core.findings.abundance.marks import MarkEstimate
from nailwright_core.fitting.profile import ends_of_one


def schnabel(
    caught: ArrayLike, recaptured: ArrayLike, marked_at_large: ArrayLike, level: float = 0.95, plus_one: bool = False
) -> MarkEstimate:
    """Fish in a closed water from several catches, each marked and put back.

    The interval is by profile of the likelihood: each catch a sample without replacement, or, where the shares of marked
    fish vary more than that allows (p < 0.05), beta-binomial. docs/methods says what it covers.

    Args:
        caught, recaptured, marked_at_large: shape (s,), one of each an occasion; marks at large before it.
        plus_one: Chapman's modification, which adds one to the recaptures.

    Raises:
        CoreError: ``occasions_too_few``, ``count_out_of_range``, ``level_out_of_range``, ``no_recaptures``.
    """
    c, r, m = _occasions(caught, recaptured, marked_at_large)
    check_level(level)
    product, total = float((c * m).sum()), float(r.sum())
    value = product / (total + plus_one)
    se = value**2 * math.sqrt(total) / product
    return _told("schnabel", c, r, m, value, se, level, mixed=_mixing(c, r, m, value)[1] >= 0.05)


def schumacher_eschmeyer(
    caught: ArrayLike, recaptured: ArrayLike, marked_at_large: ArrayLike, level: float = 0.95
) -> MarkEstimate:
    """As ``schnabel``, by the regression of the share of marked fish on marks at large; for fish that mix badly.

    The interval is by profile of the beta-binomial likelihood, which does not take even mixing for granted.

    Args:
        caught: fish caught, one or many surveys or occasions.
        recaptured: of those caught, fish with marks.
        marked_at_large: marks at large at each occasion, shape (t,).
        level: of the interval, between 0 and 1.

    Raises:
        CoreError: as ``schnabel``; two occasions with marks at large are needed.
    """
    c, r, m = _occasions(caught, recaptured, marked_at_large)
    check_level(level)
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
    return _told("schumacher-eschmeyer", c, r, m, 1 / slope, math.sqrt(spread / cm2) / slope**2, level, mixed=False)


def _told(
    name: str, c: Floats, r: Floats, m: Floats, value: float, se: float, level: float, mixed: bool
) -> MarkEstimate:
    used = (m > 0) & (c > 0)
    likelihood = _without_replacement if mixed else _beta_binomial
    low, high = _profile(likelihood(c[used], r[used], m[used]), c[used], r[used], m[used], value, level, mixed)
    how = f"profile likelihood, {'without replacement' if mixed else 'beta-binomial'}, {name}"
    n = Estimate(value, se, min(low, value), max(high, value), level, how, int(r.sum()))
    return MarkEstimate(n, name, _occasion_assumptions(c, r, m, n))


def _without_replacement(c: Floats, r: Floats, m: Floats) -> Callable[[float], float]:
    """ln likelihood of N: each catch a sample of fish with and without marks (a product of hypergeometric chances)."""

    def log_likelihood(n: float) -> float:
        plain = special.gammaln(n - m + 1) - special.gammaln(n - m - c + r + 1)
        return float((plain - special.gammaln(n + 1) + special.gammaln(n - c + 1)).sum())

    return log_likelihood


def _beta_binomial(c: Floats, r: Floats, m: Floats) -> Callable[[float], float]:
    """ln likelihood of N where the share of marks in a catch varies about m / N; its spread is the best for each N.

    The spread is told as the correlation of fish within a catch, on the logit scale.
    """

    def at(n: float, logit: float) -> float:
        share = m / n
        rho = special.expit(logit)
        a, b = share * (1 - rho) / rho, (1 - share) * (1 - rho) / rho
        return float((special.betaln(r + a, c - r + b) - special.betaln(a, b)).sum())

    def log_likelihood(n: float) -> float:
        found = optimize.minimize_scalar(lambda logit: -at(n, logit), bounds=(-14.0, 3.0), method="bounded")
        return -float(found.fun)

    return log_likelihood


def _profile(
    log_likelihood: Callable[[float], float],
    c: Floats,
    r: Floats,
    m: Floats,
    value: float,
    level: float,
    mixed: bool,
) -> tuple[float, float]:
    """Ends where the profile falls below its cut; no upper end where it never does."""
    least = float((m + c - r).max()) if mixed else float(m.max()) * (1 + 1e-9) + 1e-6
    most = 1e6 * value

    near = math.log(max(value, least * (1 + 1e-9)))
    _, low, high = ends_of_one(
        lambda ln: log_likelihood(math.exp(ln)), math.log(least), math.log(most), level, search_to=near + 3, xatol=1e-7
    )
    return least if low is None else math.exp(low), math.inf if high is None else math.exp(high)


def _occasions(caught: ArrayLike, recaptured: ArrayLike, marked: ArrayLike) -> tuple[Floats, Floats, Floats]:
    given = {"caught": caught, "recaptured": recaptured, "marked_at_large": marked}
    c, r, m = (whole_counts(values, name) for name, values in given.items())
    if not c.shape == r.shape == m.shape or c.size < 2:
        raise CoreError(
            "occasions_too_few",
            f"Expected catch, recaptures and marks at large for 2 or more occasions; got {c.size}, {r.size}, {m.size}.",
            "caught",
        )
    if (r > c).any() or (r > m).any():
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


def _mixing(c: Floats, r: Floats, m: Floats, n: float) -> tuple[float, float, int]:
    """Whether the share of marks rises with the marks at large: chi-square over occasions, its p and degrees of freedom."""
    used = (m > 0) & (c > 0)
    share = np.minimum(m[used] / n, 1)
    expected, plain = c[used] * share, c[used] * (1 - share)
    df = int(used.sum()) - 1
    off = (r[used] - expected) ** 2
    chi2 = float((off / expected).sum() + np.divide(off, plain, out=np.zeros_like(off), where=plain > 0).sum())
    return chi2, float(scipy.stats.chi2.sf(chi2, df)) if df > 0 else math.nan, df


def _occasion_assumptions(c: Floats, r: Floats, m: Floats, n: Estimate) -> tuple[Assumption, ...]:
    chi2, p, df = _mixing(c, r, m, n.value)
    verdict: Verdict = "not checked" if df < 1 else "fails" if p < 0.01 else "doubtful" if p < 0.05 else "not refuted"
    hardly = f" {n.n} recaptures could hardly refute it." if verdict == "not refuted" and n.n < 5 * df else ""
    return (
        Assumption(
            "The share of marks rises in line with the marks at large",
            verdict,
            f"Chi-square {chi2:.1f} on {df}, p = {p:.2g}.{hardly} A bend shows unequal mixing, loss, or marks that avoid "
            "capture.",
        ),
        Assumption("Closed over all occasions", "not checked", "No births, deaths or moves; marks kept and seen."),
    )
