"""How many fish, from marks or from removal.

Marks: Chapman (1951), Univ. Calif. Publ. Stat. 1, 131-160; Bailey (1951), Biometrika 38, 293-306; Schnabel (1938), Am.
Math. Mon. 45, 348-352; Schumacher and Eschmeyer (1943), J. Tenn. Acad. Sci. 18, 228-249; choice of interval: Seber
(1982), The Estimation of Animal Abundance. Removal: Zippin (1956), Biometrics 12, 163-189; Carle and Strub (1978),
Biometrics 34, 621-630; Seber and Le Cren (1967), J. Anim. Ecol. 36, 631-643. Catch and effort: Leslie and Davis (1939), J.
Anim. Ecol. 8, 94-113, with Ricker's (1975) midpoint. All from memory of these sources.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray
from scipy import special, stats

from nailwright_core.common.errors import CoreError
from nailwright_core.common.estimate import Assumption, Estimate
from nailwright_core.common.intervals import exact_binomial

ESTIMATORS = ("chapman", "bailey", "petersen")
INTERVALS = ("auto", "binomial", "poisson", "normal")
REMOVALS = ("carle-strub", "zippin", "two-pass")
#: Fewer recaptures, or fewer marks times catch than this many times the population, leave a bias (Robson, Regier 1964).
FEW_RECAPTURES = 7
BIAS_PRODUCT = 4


@dataclass(frozen=True)
class MarkEstimate:
    """Fish in a closed water, from marks. ``n`` is the number of fish; ``n.n`` the recaptures behind it."""

    n: Estimate
    estimator: str
    assumptions: tuple[Assumption, ...]


@dataclass(frozen=True)
class RemovalEstimate:
    """Fish before the first pass; ``p`` is the chance of capture in one pass."""

    n: Estimate
    p: Estimate
    method: str
    assumptions: tuple[Assumption, ...]


@dataclass(frozen=True)
class DepletionEstimate:
    """Fish before the first catch; ``q`` is the catchability, share caught by one unit of effort."""

    n: Estimate
    q: Estimate
    assumptions: tuple[Assumption, ...]


def petersen(
    marked: int,
    caught: int,
    recaptured: int,
    estimator: str = "chapman",
    level: float = 0.95,
    interval: str = "auto",
) -> MarkEstimate:
    """Fish in a closed water from one marking and one catch.

    Args:
        marked: fish marked and alive at the second catch, M.
        caught: fish looked at in the second catch, C.
        recaptured: of them marked, R.
        estimator: "chapman", "bailey" (sampling with replacement) or "petersen" (M C / R).
        interval: "auto" takes the binomial where R/C > 0.1, else the normal where R > 50, else the Poisson (Seber 1982).

    Raises:
        CoreError: ``count_out_of_range``, ``no_recaptures`` (petersen only), ``choice_unknown``.
    """
    _check_marks(marked, caught, recaptured)
    if estimator not in ESTIMATORS or interval not in INTERVALS:
        raise CoreError(
            "choice_unknown",
            f"Expected an estimator of {', '.join(ESTIMATORS)} and an interval of {', '.join(INTERVALS)}; got "
            f"'{estimator}', '{interval}'.",
            "estimator",
        )
    if estimator == "petersen" and recaptured == 0:
        raise CoreError(
            "no_recaptures", "With no recapture M C / R has no value; take Chapman's form, or catch more.", "recaptured"
        )
    value, variance = _ESTIMATES[estimator](marked, caught, recaptured)
    se = math.sqrt(variance) if recaptured else math.nan
    how = interval
    if how == "auto":
        how = "binomial" if recaptured > 0.1 * caught else "normal" if recaptured > 50 else "poisson"
    low, high = _mark_interval(how, estimator, marked, caught, recaptured, value, se, level)
    alive = float(marked + caught - recaptured)  # so many different fish were in hand
    n = Estimate(value, se, max(low, alive), high, level, f"{how}, {estimator}", recaptured)
    return MarkEstimate(n, estimator, _mark_assumptions(marked, caught, recaptured, n))


def chapman(marked: ArrayLike, caught: ArrayLike, recaptured: ArrayLike) -> NDArray[np.float64]:
    """Chapman's estimate for many surveys at once, of the shape that the three arrays broadcast to."""
    m, c, r = (np.asarray(values, dtype=float) for values in (marked, caught, recaptured))
    return np.asarray((m + 1) * (c + 1) / (r + 1) - 1, dtype=float)


def chapman_intervals(
    marked: ArrayLike, caught: ArrayLike, recaptured: ArrayLike, level: float = 0.95
) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """The intervals that ``petersen`` gives by default, for many surveys at once: lower and upper of one shape."""
    m, c, r = np.broadcast_arrays(*(np.asarray(values, dtype=float) for values in (marked, caught, recaptured)))
    tail = (1 - level) / 2
    with np.errstate(divide="ignore", invalid="ignore"):
        share_low = np.where(r > 0, special.betaincinv(r, c - r + 1, tail), 0.0)
        share_high = np.where(r < c, special.betaincinv(r + 1, np.maximum(c - r, 0), 1 - tail), 1.0)
        few = np.where(r > 0, special.gammaincinv(np.maximum(r, 1), tail), 0.0), special.gammaincinv(r + 1, 1 - tail)
        half = special.ndtri(1 - tail) * np.sqrt((m + 1) * (c + 1) * (m - r) * (c - r) / ((r + 1) ** 2 * (r + 2)))
    value = chapman(m, c, r)
    binomial = r > 0.1 * c
    normal = ~binomial & (r > 50)
    low = np.where(binomial, chapman(m, c, c * share_high), np.where(normal, value - half, chapman(m, c, few[1])))
    high = np.where(binomial, chapman(m, c, c * share_low), np.where(normal, value + half, chapman(m, c, few[0])))
    return np.maximum(low, m + c - r), high


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
        low_r, high_r = _poisson(int(total), level)
        low, high, how = product / high_r, product / low_r, "poisson"
    else:
        low, high, how = *_inverted(1 / value, z * se_inverse), "normal on 1/N"
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
    low, high = _inverted(slope, float(stats.t.ppf(0.5 + level / 2, s - 1)) * se)
    n = Estimate(1 / slope, se / slope**2, low, high, level, "t on 1/N, schumacher-eschmeyer", int(r.sum()))
    return MarkEstimate(n, "schumacher-eschmeyer", _occasion_assumptions(c, r, m, n))


def removal(catches: Sequence[int], method: str = "carle-strub", level: float = 0.95) -> RemovalEstimate:
    """Fish in a closed stretch from catches that were taken out pass by pass.

    Args:
        catches: one count a pass, k of them.
        method: "carle-strub" (weighted likelihood, the default), "zippin" (likelihood), "two-pass" (Seber and Le Cren).

    Raises:
        CoreError: ``passes_too_few``, ``count_out_of_range``, ``no_fish``, ``no_solution`` where the catches do not fall.
    """
    counts = np.asarray(catches, dtype=float)
    k = counts.size
    if method not in REMOVALS:
        raise CoreError("choice_unknown", f"Expected one of {', '.join(REMOVALS)}; got '{method}'.", "method")
    if k < 2:
        raise CoreError("passes_too_few", f"Removal needs at least two passes; got {k}.", "catches")
    if method == "two-pass" and k != 2:
        raise CoreError("passes_too_many", f"The two-pass form takes two passes; got {k}.", "catches")
    if (counts < 0).any() or (counts != np.round(counts)).any():
        raise CoreError("count_out_of_range", "Expected whole numbers of fish, 0 or more, for each pass.", "catches")
    total = float(counts.sum())
    if total == 0:
        raise CoreError("no_fish", "No fish were caught in any pass; there is nothing to estimate from.", "catches")
    weighted = float(((k - 1 - np.arange(k)) * counts).sum())  # X of Carle and Strub
    falls = weighted > total * (k - 1) / 2
    if not falls and method != "carle-strub":
        raise CoreError(
            "no_solution",
            f"The catches {', '.join(f'{c:g}' for c in counts)} do not fall from pass to pass, so nothing says how many "
            "were left. Take another pass, or the Carle-Strub form and its wide interval.",
            "catches",
        )
    if method == "two-pass":
        first, second = float(counts[0]), float(counts[1])
        value = first**2 / (first - second)
        p = 1 - second / first
        se = first * second * math.sqrt(total) / (first - second) ** 2
    else:
        value = _smallest_n(counts, total, weighted, prior=method == "carle-strub")
        p = total / (k * value - weighted)
        se = _removal_se(value, total, k, p)
    z = float(special.ndtri(0.5 + level / 2))
    n = Estimate(float(value), se, max(value - z * se, total), value + z * se, level, f"normal, {method}", int(total))
    q = 1 - p
    share = 1 - q**k
    se_p = math.nan
    if value > total:  # Zippin's variance of p
        below = value * share - value * (k * p) ** 2 * (1 - share) / (q * share)
        se_p = p * math.sqrt(q / below) if below > 0 else math.nan
    caught = Estimate(p, se_p, max(p - z * se_p, 0.0), min(p + z * se_p, 1.0), level, f"normal, {method}", int(total))
    return RemovalEstimate(n, caught, method, _removal_assumptions(counts, float(value), p, falls))


def leslie(catches: ArrayLike, efforts: ArrayLike, ricker: bool = True, level: float = 0.95) -> DepletionEstimate:
    """Fish before the first catch, from the fall of catch per effort with the fish taken out.

    Args:
        catches, efforts: shape (s,), of each occasion; effort in any one unit.
        ricker: count half of an occasion's own catch among those taken before it.

    Raises:
        CoreError: ``occasions_too_few``, ``count_out_of_range``, ``no_solution``.
    """
    c, f = np.asarray(catches, dtype=float), np.asarray(efforts, dtype=float)
    if c.shape != f.shape or c.ndim != 1 or c.size < 3:
        raise CoreError(
            "occasions_too_few",
            f"Expected at least 3 catches, each with its effort; got {c.size} and {f.size}.",
            "catches",
        )
    if (c < 0).any() or (f <= 0).any():
        raise CoreError("count_out_of_range", "Expected catches of 0 or more and efforts above 0.", "catches")
    rate = c / f
    before = np.cumsum(c) - c + (c / 2 if ricker else 0)
    mean_k, mean_rate = float(before.mean()), float(rate.mean())
    ss = float(((before - mean_k) ** 2).sum())
    slope = float(((before - mean_k) * (rate - mean_rate)).sum()) / ss if ss else 0.0
    if slope >= 0:
        raise CoreError(
            "no_solution",
            "Catch per effort does not fall as fish are taken out, so nothing says how many were left.",
            "catches",
        )
    q = -slope
    value = (mean_rate - slope * mean_k) / q
    residual = rate - (mean_rate + slope * (before - mean_k))
    spread = float((residual**2).sum()) / (c.size - 2)
    se_q = math.sqrt(spread / ss)
    se = math.sqrt(spread / q**2 * (1 / c.size + (value - mean_k) ** 2 / ss))
    t = float(stats.t.ppf(0.5 + level / 2, c.size - 2))
    name = "t, leslie with ricker's midpoint" if ricker else "t, leslie"
    return DepletionEstimate(
        Estimate(value, se, max(value - t * se, float(c.sum())), value + t * se, level, name, int(c.size)),
        Estimate(q, se_q, q - t * se_q, q + t * se_q, level, name, int(c.size)),
        (
            Assumption(
                "Nothing but the catch changes the number of fish",
                "not checked",
                "No births, deaths or moves meanwhile.",
            ),
            Assumption(
                "Catchability stays the same",
                "doubtful" if abs(float(stats.spearmanr(before, np.abs(residual))[0])) > 0.6 else "holds",
                "Told by whether the residuals widen or bend along the line.",
            ),
        ),
    )


def _petersen(m: float, c: float, r: float) -> tuple[float, float]:
    return m * c / r, m * m * c * (c - r) / r**3


def _chapman(m: float, c: float, r: float) -> tuple[float, float]:
    return (m + 1) * (c + 1) / (r + 1) - 1, (m + 1) * (c + 1) * (m - r) * (c - r) / ((r + 1) ** 2 * (r + 2))


def _bailey(m: float, c: float, r: float) -> tuple[float, float]:
    return m * (c + 1) / (r + 1), m * m * (c + 1) * (c - r) / ((r + 1) ** 2 * (r + 2))


_ESTIMATES: dict[str, Callable[[float, float, float], tuple[float, float]]] = {
    "petersen": _petersen,
    "chapman": _chapman,
    "bailey": _bailey,
}


def _mark_interval(
    how: str, estimator: str, m: int, c: int, r: int, value: float, se: float, level: float
) -> tuple[float, float]:
    """Ends for N: those for R put into the estimator; the normal is symmetric about N."""
    if how == "normal":
        z = float(special.ndtri(0.5 + level / 2))
        return value - z * se, value + z * se
    if how == "binomial":
        low_r, high_r = (c * share for share in exact_binomial(r, c, level))
    else:
        low_r, high_r = _poisson(r, level)
    form = _ESTIMATES[estimator]
    return form(m, c, high_r)[0], (form(m, c, low_r)[0] if low_r > 0 or estimator != "petersen" else math.inf)


def _poisson(k: int, level: float) -> tuple[float, float]:
    """Exact interval for a Poisson mean (Garwood 1936)."""
    tail = (1 - level) / 2
    return (float(special.gammaincinv(k, tail)) if k else 0.0), float(special.gammaincinv(k + 1, 1 - tail))


def _inverted(inverse: float, half: float) -> tuple[float, float]:
    return 1 / (inverse + half), 1 / (inverse - half) if inverse > half else math.inf


def _check_marks(marked: int, caught: int, recaptured: int) -> None:
    for name, value in (("marked", marked), ("caught", caught), ("recaptured", recaptured)):
        if value < 0 or value != int(value):
            raise CoreError("count_out_of_range", f"Expected a whole number of fish, 0 or more; got {value}.", name)
    if marked < 1 or caught < 1:
        raise CoreError("count_out_of_range", "Marks and a second catch are needed: both are 1 or more.", "marked")
    if recaptured > min(marked, caught):
        raise CoreError(
            "count_out_of_range",
            f"{recaptured} recaptures cannot be among {marked} marks and {caught} fish caught; are they swapped?",
            "recaptured",
        )


def _mark_assumptions(marked: int, caught: int, recaptured: int, n: Estimate) -> tuple[Assumption, ...]:
    few = recaptured < FEW_RECAPTURES
    small = marked * caught < BIAS_PRODUCT * n.value
    factor = n.upper / n.lower
    wide = f"It spans a factor of {factor:.1f}: " if recaptured < 10 and math.isfinite(factor) else ""
    return (
        Assumption(
            "Enough recaptures",
            "fails" if few or small else "holds",
            f"{recaptured} recaptures. {wide}"
            + (
                f"With fewer than {FEW_RECAPTURES}, or marks times catch under {BIAS_PRODUCT} times the population, the "
                "estimate is biased low."
                if few or small
                else "The bias is below one in fifty."
            ),
        ),
        Assumption(
            "Closed between the two catches",
            "not checked",
            "No births, deaths or moves; marks known to have died or left must be taken off.",
        ),
        Assumption("Marks are kept and seen", "not checked", "Double tags show how many are lost."),
        Assumption(
            "Every fish is as likely to be caught", "not checked", "Compare the share of marks by size, site and gear."
        ),
    )


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


def _smallest_n(counts: NDArray[np.float64], total: float, weighted: float, prior: bool) -> float:
    """The smallest N at which the (weighted) likelihood no longer rises (Carle and Strub 1978, eq. 7; Zippin without)."""
    k = counts.size
    alpha = beta = 1.0 if prior else 0.0
    steps = np.arange(1, k + 1)

    def rises(n: float) -> bool:
        if prior:
            ratio = np.log(
                (k * n - weighted - total + beta + k - steps) / (k * n - weighted + alpha + beta + k - steps)
            )
            return math.log((n + 1) / (n - total + 1)) + float(ratio.sum()) > 0
        left = (k * n - weighted - total) / (k * n - weighted)
        return left > 0 and math.log(n / (n - total)) + k * math.log(left) > 0 if n > total else True

    low, high = total, total + 1
    if not rises(low):
        return low
    while rises(high):
        high = total + 2 * (high - total)
        if high > 1e9:
            raise CoreError("no_solution", "The catches do not fall: no number of fish explains them best.", "catches")
    while high - low > 1:
        middle = math.floor((low + high) / 2)
        low, high = (middle, high) if rises(middle) else (low, middle)
    return high


def _removal_se(n: float, total: float, k: int, p: float) -> float:
    if n <= total:
        return 0.0
    below = total**2 - n * (n - total) * (k * p) ** 2 / (1 - p)
    return math.sqrt(n * (n - total) * total / below) if below > 0 else math.inf


def _removal_assumptions(counts: NDArray[np.float64], n: float, p: float, falls: bool) -> tuple[Assumption, ...]:
    k = counts.size
    expected = n * p * (1 - p) ** np.arange(k)
    df = k - 2
    possible = expected > 0  # every fish in the first pass leaves none to expect later
    chi2 = float(((counts[possible] - expected[possible]) ** 2 / expected[possible]).sum())
    chance = float(stats.chi2.sf(chi2, df)) if df > 0 else math.nan
    verdict = "not checked" if df < 1 else "fails" if chance < 0.01 else "doubtful" if chance < 0.05 else "holds"
    return (
        Assumption(
            "The chance of capture is the same in every pass",
            verdict,  # type: ignore[arg-type]
            f"Chi-square {chi2:.1f} on {df}, p = {chance:.2g}." if df > 0 else "It takes three passes to see.",
        ),
        Assumption(
            "Catches fall from pass to pass",
            "holds" if falls else "fails",
            "They do." if falls else "They do not: the estimate rests on the prior and can be far too low.",
        ),
        Assumption("The stretch is closed while it is fished", "not checked", "Nets or riffles at both ends."),
    )
