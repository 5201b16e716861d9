"""By how much are the values of one group above those of another?

The shift of Hodges and Lehmann (1963, Ann. Math. Stat. 34, 598-611): the median of all differences between a fish of the
second group and one of the first; its interval are the shifts that the test of Mann and Whitney (1947) does not refute, so
interval and p say the same.
"""

from __future__ import annotations

import math
from collections.abc import Callable

import numpy as np
import scipy  # its stats take a second to load: they are read where one is first used
from numpy.typing import ArrayLike
from scipy import special

from nailwright_core.common.arrays import Floats
from nailwright_core.common.checks import check_level, numbers
from nailwright_core.common.errors import CoreError
from nailwright_core.common.estimate import Estimate

#: Up to this many pairs without ties the test's distribution is counted.
_COUNTED_PAIRS = 2_500
#: Up to this many pairs all differences are written down; of more, those of a board of at most so many steps are counted, and all
#: others are found by order.
_WRITTEN_PAIRS = 1_000_000
_PARTS = 16_384


def shift(a: ArrayLike, b: ArrayLike, level: float = 0.95) -> tuple[Estimate, float]:
    """The shift of the second group from the first with its interval, and Mann and Whitney's p; fish independent.

    Args:
        a, b: shapes (n,) and (m,), in one unit. With n m up to 2,500 and no ties the interval is exact ("at least" its
            level) and infinite where no shift can be refuted; otherwise by the normal approximation with ties.

    Raises:
        CoreError: ``no_data``, ``number_out_of_range``, ``level_out_of_range``.
    """
    check_level(level)
    first, second = numbers(a, "a"), numbers(b, "b")
    if not first.size or not second.size:
        raise CoreError("no_data", "A shift needs values on both sides; got none on one.", "a" if second.size else "b")
    pairs, n = first.size * second.size, first.size + second.size
    tie_sizes = np.unique(np.concatenate([first, second]), return_counts=True)[1].astype(float)
    if pairs <= _COUNTED_PAIRS and tie_sizes.max() == 1:
        p = float(scipy.stats.mannwhitneyu(first, second, method="exact").pvalue)
        chance = _counted(first.size, second.size)
        out = int(np.searchsorted(np.cumsum(chance), (1 - level) / 2 * (1 + 1e-12), side="right")) - 1
        name = "Hodges-Lehmann, exact"
    else:
        variance = pairs / 12 * (n + 1 - float((tie_sizes**3 - tie_sizes).sum()) / (n * (n - 1)))
        p = float(scipy.stats.mannwhitneyu(first, second, method="asymptotic").pvalue) if variance > 0 else 1.0
        z = float(special.ndtri(0.5 + level / 2))
        out = math.floor(pairs / 2 - 0.5 - z * math.sqrt(variance))
        name = "Hodges-Lehmann"
    middle = (pairs - 1) // 2, pairs // 2
    ranks = [*middle, *([] if out < 0 else [out, pairs - 1 - out])]
    found = _differences(first, second, ranks)
    low, high = (-math.inf, math.inf) if out < 0 else (float(found[2]), float(found[3]))
    return Estimate(float(found[0] + found[1]) / 2, math.nan, low, high, level, name, n), p


def middle_difference(a: Floats, b: Floats) -> float:
    """The median of all differences b - a.

    Args:
        a: values of one group, shape (n,).
        b: values of the other, shape (m,).
    """
    pairs = a.size * b.size
    return float(_differences(a, b, [(pairs - 1) // 2, pairs // 2]).mean())


def _counted(n: int, m: int) -> Floats:
    """Chance of each value of Mann and Whitney's U, 0 to n m: coefficients of the Gaussian binomial over their sum."""
    ways = np.ones(1)
    for step in range(1, n + 1):
        grown = np.zeros(ways.size + m + step)
        grown[: ways.size] += ways
        grown[m + step :] -= ways  # times 1 - q^(m + step)
        for place in range(step, grown.size):  # over 1 - q^step
            grown[place] += grown[place - step]
        ways = grown[: m * step + 1]
    return np.asarray(ways / ways.sum())


def _differences(first: Floats, second: Floats, ranks: list[int]) -> Floats:
    """The differences second - first of these ranks among all pairs."""
    if first.size * second.size <= _WRITTEN_PAIRS:
        every = np.subtract.outer(second, first).ravel()
        return np.partition(every, ranks)[ranks]
    low, high = min(first.min(), second.min()), max(first.max(), second.max())
    whole = all(np.array_equal(side, np.rint(side)) for side in (first, second))
    if whole and high - low <= _PARTS:
        return _on_a_board(first, second, ranks, low)
    return np.array([_of_rank(first, second, rank) for rank in ranks])


def _on_a_board(first: Floats, second: Floats, ranks: list[int], low: float) -> Floats:
    """Of values read to whole steps: how many pairs lie so many steps apart is a correlation of the two counts."""
    counts = [np.bincount(np.rint(side - low).astype(np.int64)) for side in (first, second)]
    size = max(each.size for each in counts)
    apart = np.fft.irfft(np.fft.rfft(counts[1], 4 * size) * np.conj(np.fft.rfft(counts[0], 4 * size)), 4 * size).round()
    ordered = np.concatenate([apart[-size:], apart[:size]])
    return np.asarray(np.searchsorted(np.cumsum(ordered), np.asarray(ranks) + 0.5) - size, dtype=np.float64)


def _of_rank(first: Floats, second: Floats, rank: int) -> float:
    """Of any values, by order alone: bounds about the difference are halved until hardly another lies between, so that a wild value
    moves it by its rank and no more."""
    ours, n = np.unique(first, return_counts=True)
    theirs, m = np.unique(second, return_counts=True)
    up_to = np.concatenate([[0], np.cumsum(m)])

    def pairs_up_to(difference: float) -> int:
        return int(n @ up_to[np.searchsorted(theirs, ours + difference, side="right")])

    low, high = _bounds(first, second, rank, pairs_up_to)
    fine = (high - low) * 2.0**-28
    while high - low > fine:
        between = low + (high - low) / 2
        if not low < between < high:
            break
        if pairs_up_to(between) > rank:
            high = between
        else:
            low = between
    after = np.searchsorted(theirs, ours + low, side="right")
    there = after < theirs.size
    following = float((theirs[after[there]] - ours[there]).min())
    return following if pairs_up_to(following) > rank else high


def _bounds(first: Floats, second: Floats, rank: int, pairs_up_to: Callable[[float], int]) -> tuple[float, float]:
    """Bounds about the difference of a rank: those of a thousand quantiles of each side, where they hold, else of all."""
    share = np.linspace(0, 1, 1001)
    some = np.sort(np.subtract.outer(np.quantile(second, share), np.quantile(first, share)).ravel())
    place = rank / (first.size * second.size) * some.size
    near = np.clip([place - 0.01 * some.size, place + 0.01 * some.size], 0, some.size - 1).astype(int)
    low, high = (float(some[each]) for each in near)
    least, most = float(second.min() - first.max()), float(second.max() - first.min())
    if pairs_up_to(low) > rank:
        low = least - max(1e-9, 1e-9 * abs(least))  # below every difference
    return low, high if pairs_up_to(high) > rank else most
