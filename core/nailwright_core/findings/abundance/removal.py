"""How many fish, from removal.

Zippin (1956), Biometrics 12, 163-189; Carle and Strub (1978), Biometrics 34, 621-630; Seber and Le Cren (1967), J. Anim.
Ecol. 36, 631-643. All from memory of these sources.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy import special, stats

from nailwright_core.common.errors import CoreError
from nailwright_core.common.estimate import Assumption, Estimate

REMOVALS = ("carle-strub", "zippin", "two-pass")


@dataclass(frozen=True)
class RemovalEstimate:
    """Fish before the first pass; ``p`` is the chance of capture in one pass."""

    n: Estimate
    p: Estimate
    method: str
    assumptions: tuple[Assumption, ...]


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
