"""How many fish, from removal.

Zippin (1956), Biometrics 12, 163-189; Carle and Strub (1978), Biometrics 34, 621-630; Seber and Le Cren (1967), J. Anim.
Ecol. 36, 631-643. All from memory of these sources.

With N fish and a chance p of capture in each of k passes, what the catches say of both is all in their sum T and in
X = sum (k - i) c_i: the likelihood is N!/(N - T)! p^T (1 - p)^(kN - X - T), and p = T / (kN - X) is best for a given N.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
import scipy  # its stats take a second to load: they are read where one is first used
from numpy.typing import ArrayLike, NDArray
from scipy import optimize, special

from nailwright_core.common.arrays import Floats
from nailwright_core.common.checks import check_level, whole_counts
from nailwright_core.common.errors import CoreError
from nailwright_core.common.estimate import Assumption, Estimate, Verdict
from nailwright_core.common.searching import first_not
from nailwright_core.fitting.profile import cut, ends_of_one

REMOVALS = ("carle-strub", "zippin", "two-pass")
#: Shares by which the chance of capture may fall from pass to pass, under which N is told as well. Falls of a tenth to a third
#: are usual (common practice, no source).
FALLS = (0.1, 0.2, 0.3)
#: The fall that the test of a constant chance is asked about, and the share of surveys that should show it.
_FALL, _POWER = 0.2, 0.8


@dataclass(frozen=True)
class RemovalEstimate:
    """Fish before the first pass; ``p`` is the chance of capture in one pass.

    ``n_if_falling`` maps a share by which that chance falls from each pass to the next to the likeliest number of fish
    then; inf where the catches fall no faster than the chance alone.
    """

    n: Estimate
    p: Estimate
    method: str
    n_if_falling: dict[float, float]
    assumptions: tuple[Assumption, ...]


def removal(catches: Sequence[int], method: str = "carle-strub", level: float = 0.95) -> RemovalEstimate:
    """Fish in a closed stretch from catches that were taken out pass by pass.

    The interval is by profile of the likelihood: its ends are the first whole numbers outside the cut, never under the
    catch; ``inf`` where the catches cannot tell many fish from ever so many. docs/methods says what it covers.

    Args:
        catches: one count a pass, k of them.
        method: "carle-strub" (weighted likelihood, the default), "zippin" (likelihood), "two-pass" (Seber and Le Cren).

    Raises:
        CoreError: ``passes_too_few``, ``count_out_of_range``, ``level_out_of_range``, ``no_fish``, ``no_solution`` where
            the catches do not fall.
    """
    check_level(level)
    counts = whole_counts(catches, "catches")
    k = counts.size
    if method not in REMOVALS:
        raise CoreError("choice_unknown", f"Expected one of {', '.join(REMOVALS)}; got '{method}'.", "method")
    if k < 2:
        raise CoreError("passes_too_few", f"Removal needs at least two passes; got {k}.", "catches")
    if method == "two-pass" and k != 2:
        raise CoreError("passes_too_many", f"The two-pass form takes two passes; got {k}.", "catches")
    total = float(counts.sum())
    if total == 0:
        raise CoreError("no_fish", "No fish were caught in any pass; there is nothing to estimate from.", "catches")
    x = _weighted(counts)
    if not _falls(total, x, k):
        raise CoreError(
            "no_solution",
            f"The catches {', '.join(f'{c:g}' for c in counts)} do not fall from pass to pass, so nothing says how many "
            "were left: any large number explains them as well. Take another pass, or count it as a total caught.",
            "catches",
        )
    if method == "two-pass":
        first, second = map(float, counts)
        value, p = first**2 / (first - second), 1 - second / first
    else:
        value = float(_likeliest(np.array([total]), np.array([x]), k, method == "carle-strub")[0])
        p = float(total / (k * value - x))
    low, high = (float(end[0]) for end in _profile(np.array([total]), np.array([x]), k, level))
    how = f"profile likelihood, {method}"
    n = Estimate(value, _standard_error(value, total, k, p), min(low, value), max(high, value), level, how, int(total))
    caught = Estimate(p, math.nan, *_profile_of_p(total, x, k, level), level, how, int(total))
    falling = {fall: _likeliest_if_falling(counts, fall) for fall in FALLS}
    return RemovalEstimate(n, caught, method, falling, _assumptions(counts, value, p))


def removal_many(catches: ArrayLike, level: float = 0.95) -> tuple[Floats, Floats, Floats]:
    """N and the ends of its interval, as ``removal`` gives by default, for many surveys at once.

    Args:
        catches: shape (surveys, passes).

    Returns:
        Value, lower, upper, each of shape (surveys,); nan where a survey has no solution.

    Raises:
        CoreError: ``passes_too_few``, ``count_out_of_range``, ``level_out_of_range``.
    """
    check_level(level)
    counts = whole_counts(catches, "catches", dimensions=2)
    k = counts.shape[1]
    if k < 2:
        raise CoreError("passes_too_few", f"Removal needs at least two passes; got {k}.", "catches")
    # sum and weighted sum say all, and many surveys share them
    sums, place = np.unique(np.stack([counts.sum(axis=1), _weighted(counts)]), axis=1, return_inverse=True)
    total, x = sums
    found = np.full((3, total.size), np.nan)
    good = (total > 0) & _falls(total, x, k)
    if good.any():
        value = _likeliest(total[good], x[good], k, prior=True)
        low, high = _profile(total[good], x[good], k, level)
        found[:, good] = value, np.minimum(low, value), np.maximum(high, value)
    value, low, high = found[:, place.ravel()]
    return value, low, high


def _weighted(counts: Floats) -> Any:
    """X of Carle and Strub, shape (...,) from (..., k)."""
    k = counts.shape[-1]
    return counts @ np.arange(k - 1, -1, -1.0)


def _falls(total: Any, x: Any, k: int) -> Any:
    """Whether some number of fish explains the catches best (Seber and Whale 1970)."""
    return x > total * (k - 1) / 2


def _log_likelihood(n: Floats, total: Floats, x: Floats, k: int) -> Floats:
    """Of N, with the p that is best for it; less ln of what does not hang on N. ``n`` may be inf."""
    with np.errstate(divide="ignore", invalid="ignore"):
        chances = k * n - x
        p = total / chances
        # N!/(N-T)! as a difference of two gammalns loses all digits where both are large: there by Stirling, term by term
        left = np.maximum(n - total, 1.0)
        by_stirling = total * np.log(n) - (left + 0.5) * np.log1p(-total / n) - total + (1 / n - 1 / left) / 12
        ordered = np.where(
            (n < 1e6) | (n - total < 1e3), special.gammaln(n + 1) - special.gammaln(n - total + 1), by_stirling
        )
        inside = ordered + total * np.log(p) + special.xlog1py(chances - total, -p)
        return np.where(np.isinf(n), total * np.log(total / k) - total, inside)


def _likeliest(total: Floats, x: Floats, k: int, prior: bool) -> Floats:
    """The whole N at which the likelihood (weighted by Carle and Strub's prior: their eq. 7) is highest."""

    def rises(n: Floats) -> NDArray[np.bool_]:
        """Whether N + 1 is better than N."""
        if not prior:
            return np.asarray(_log_likelihood(n + 1, total, x, k) > _log_likelihood(n, total, x, k))
        i = np.arange(1, k + 1)[:, None]
        ratio = np.log((k * n - x - total + 1 + k - i) / (k * n - x + 2 + k - i)).sum(axis=0)
        return np.asarray(np.log((n + 1) / (n - total + 1)) + ratio > 0)

    return first_not(rises, total)


def _profile(total: Floats, x: Floats, k: int, level: float) -> tuple[Floats, Floats]:
    """The first whole N outside the cut on either side of the likeliest."""
    best = _likeliest(total, x, k, prior=False)
    floor = _log_likelihood(best, total, x, k) - cut(level)

    def above(n: Floats) -> NDArray[np.bool_]:
        return np.asarray(_log_likelihood(n, total, x, k) >= floor)

    endless = above(np.full_like(total, np.inf))
    high = np.where(endless, np.inf, first_not(lambda n: above(n) & ~endless, best))
    # below the likeliest: count the other way
    low = best - first_not(lambda down: above(np.maximum(best - down, total)) & (best - down > total), 0 * best)
    return np.maximum(low, total), high


def _profile_of_p(total: float, x: float, k: int, level: float) -> tuple[float, float]:
    """Ends for p, each p with the N that is best for it (here not whole: N of T / (1 - q^k))."""

    def log_likelihood(p: float) -> float:
        n = total / -math.expm1(k * math.log1p(-p))
        ordered = float(special.gammaln(n + 1) - special.gammaln(n - total + 1))
        return float(ordered + total * math.log(p) + (k * n - x - total) * math.log1p(-p))

    _, low, high = ends_of_one(log_likelihood, 1e-7, 1 - 1e-7, level)
    return 0.0 if low is None else low, 1.0 if high is None else high


def _standard_error(n: float, total: float, k: int, p: float) -> float:
    """Of N, from its asymptotic variance (Zippin 1956); nan where N is the catch, of which it would say 0."""
    if n <= total:
        return math.nan
    below = total**2 - n * (n - total) * (k * p) ** 2 / (1 - p)
    return math.sqrt(n * (n - total) * total / below) if below > 0 else math.inf


def _chances(p: float, fall: float, k: int) -> Floats:
    """The share of all fish that each pass takes, where the chance falls by ``fall`` from pass to pass."""
    each = p * (1 - fall) ** np.arange(k)
    return np.asarray(each * np.concatenate([[1.0], np.cumprod(1 - each)[:-1]]))


def _likeliest_if_falling(counts: Floats, fall: float) -> float:
    """N where the chance of capture falls by ``fall`` from pass to pass."""
    k, total = counts.size, float(counts.sum())

    def badness(p: float) -> float:
        shares = _chances(p, fall, k)
        n = max(total, total / float(shares.sum()))
        rest = 1 - float(shares.sum())
        ordered = float(special.gammaln(n + 1) - special.gammaln(n - total + 1))
        return -(ordered + float(special.xlogy(counts, shares).sum()) + float(special.xlogy(n - total, rest)))

    best = optimize.minimize_scalar(badness, bounds=(1e-6, 1 - 1e-9), method="bounded", options={"xatol": 1e-9})
    return math.inf if best.x < 1e-4 else total / float(_chances(best.x, fall, k).sum())


def _assumptions(counts: Floats, n: float, p: float) -> tuple[Assumption, ...]:
    return (
        _constant_chance(counts, n, p),
        Assumption("The stretch is closed while it is fished", "not checked", "Nets or riffles at both ends."),
    )


def _constant_chance(counts: Floats, n: float, p: float) -> Assumption:
    """Chi-square over the passes, and how often it would have shown a fall of a fifth from pass to pass."""
    name, df = "The chance of capture is the same in every pass", counts.size - 2
    if df < 1:
        return Assumption(name, "not checked", "It takes three passes to see.")
    chi2, chance = _misfit(counts, n, p), math.nan
    chance = float(scipy.stats.chi2.sf(chi2, df))
    told = f"Chi-square {chi2:.1f} on {df}, p = {chance:.2g}."
    if chance < 0.05:
        verdict: Verdict = "fails" if chance < 0.01 else "doubtful"
        return Assumption(name, verdict, f"{told} N is then too low.")
    seen = _power(n, p, counts.size)
    if seen < _POWER:
        words = f"This many fish could hardly refute it: a fall of a fifth from pass to pass shows in {100 * seen:.0f} of 100 surveys."
    else:
        words = f"A fall of a fifth from pass to pass would show in {100 * seen:.0f} of 100 surveys."
    return Assumption(name, "not refuted", f"{told} {words}")


def _misfit(counts: Floats, n: float, p: float) -> float:
    expected = n * _chances(p, 0.0, counts.size)
    possible = expected > 0  # every fish in the first pass leaves none to expect later
    return float(((counts[possible] - expected[possible]) ** 2 / expected[possible]).sum())


def _power(n: float, p: float, k: int) -> float:
    """Share of surveys in which a chance that falls by ``_FALL`` gives p < 0.05, by the noncentral chi-square."""
    expected = n * _chances(p, _FALL, k)
    total, x = float(expected.sum()), float(_weighted(expected))
    if not _falls(total, x, k):
        return 0.0
    fitted = float(
        _likeliest(np.array([math.ceil(total)]), np.array([x * math.ceil(total) / total]), k, prior=False)[0]
    )
    off = _misfit(expected, fitted, total / (k * fitted - x))
    return float(scipy.stats.ncx2.sf(scipy.stats.chi2.ppf(0.95, k - 2), k - 2, off))
