"""Intervals for proportions, counts and medians.

``wilson``: Wilson (1927), J. Am. Stat. Assoc. 22, 209-212. ``exact_binomial``: Clopper and Pearson (1934),
Biometrika 26, 404-413. ``exact_poisson``: Garwood (1936), Biometrika 28, 437-442. ``goodman``: Goodman (1965), Technometrics 7, 247-254.
"""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
from numpy.typing import ArrayLike
from scipy import special

from nailwright_core.common.checks import check_level, whole_counts
from nailwright_core.common.errors import CoreError
from nailwright_core.common.estimate import Estimate


def wilson(k: int, n: int, level: float = 0.95) -> tuple[float, float]:
    """Wilson score interval for k of n, as proportions (lower, upper); (0, 1) for n = 0.

    Args:
        k: how many of them have it.
        n: how many were looked at.
        level: of the interval, between 0 and 1.

    Raises:
        CoreError: ``count_out_of_range`` unless 0 <= k <= n, ``level_out_of_range`` unless 0 < level < 1.
    """
    _check(k, n, level)
    if n == 0:
        return 0.0, 1.0
    return score_interval(k / n, n, float(special.ndtri(0.5 + level / 2)))


def exact_binomial(k: int, n: int, level: float = 0.95) -> tuple[float, float]:
    """Clopper-Pearson interval for k of n, as proportions (lower, upper); (0, 1) for n = 0.

    Args:
        k: how many of them have it.
        n: how many were looked at.
        level: of the interval, between 0 and 1.

    Raises:
        CoreError: as ``wilson``.
    """
    _check(k, n, level)
    tail = (1 - level) / 2
    lower = float(special.betaincinv(k, n - k + 1, tail)) if k > 0 else 0.0
    upper = float(special.betaincinv(k + 1, n - k, 1 - tail)) if k < n else 1.0
    return lower, upper


def exact_share(k: int, n: int, of: str, level: float = 0.95) -> Estimate:
    """A share, k of n, with its exact binomial interval and the binomial's standard error.

    Args:
        of: what was counted, in words, such as "fish".

    Raises:
        CoreError: ``count_out_of_range`` for none of none, and as ``exact_binomial``.
    """
    lower, upper = exact_binomial(k, n, level)
    if n == 0:
        raise CoreError("count_out_of_range", f"Expected {of} to count; got none.", "n")
    share = k / n
    return Estimate(share, math.sqrt(share * (1 - share) / n), lower, upper, level, f"exact binomial of {of}", n)


def exact_poisson(n: int, level: float = 0.95) -> tuple[float, float]:
    """Garwood interval for the mean of a count of which ``n`` were seen (lower, upper).

    Args:
        n: how many were seen.
        level: of the interval, between 0 and 1.

    Raises:
        CoreError: ``count_out_of_range`` below 0, ``level_out_of_range`` unless 0 < level < 1.
    """
    _check(n, n, level)
    tail = (1 - level) / 2
    return float(special.gammaincinv(n, tail)) if n > 0 else 0.0, float(special.gammaincinv(n + 1, 1 - tail))


def goodman(counts: Sequence[int], level: float = 0.95) -> list[tuple[float, float]]:
    """Simultaneous intervals for the shares of a multinomial, one (lower, upper) for each count.

    Args:
        counts: of each class.
        level: of the interval, between 0 and 1.

    Raises:
        CoreError: as ``wilson``.
    """
    check_level(level)
    counts = [int(k) for k in whole_counts(counts, "counts")]
    if not counts:
        raise CoreError("no_data", "Shares need at least one count; got none.", "counts")
    n = sum(counts)
    if n == 0:
        return [(0.0, 1.0)] * len(counts)
    z = float(special.ndtri(1 - (1 - level) / (2 * len(counts))))
    return [score_interval(k / n, n, z) for k in counts]


def median_interval(values: ArrayLike, level: float = 0.95) -> Estimate:
    """Median with the distribution-free interval between order statistics (binomial ranks).

    Args:
        values: shape (n,), nan left out.

    Returns:
        Estimate in the unit of ``values``; se is nan, since the method gives none.

    Source: Conover (1999), Practical Nonparametric Statistics, section 3.2 (from memory).
    """
    check_level(level)
    data = np.sort(np.asarray(values, dtype=float))
    data = data[~np.isnan(data)]
    if np.isinf(data).any():
        raise CoreError("number_out_of_range", "Expected finite values; got an infinite one.", "values")
    n = data.size
    if n == 0:
        raise CoreError("no_data", "A median needs at least one value; got none.", "values")
    rank = int(special.bdtrik((1 - level) / 2, n, 0.5)) if n > 1 else 0
    if special.bdtr(rank, n, 0.5) > (1 - level) / 2:
        rank -= 1
    covered = rank >= 0
    lower = float(data[rank]) if covered else -math.inf
    upper = float(data[n - 1 - rank]) if covered else math.inf
    return Estimate(float(np.median(data)), math.nan, lower, upper, level, "order statistics", n)


def score_interval(share: float, n: float, z: float) -> tuple[float, float]:
    """Wilson's interval for a share of n, which need be no whole number: it may be the size of a sample that tells as much.

    Args:
        share: of them that have it.
        n: how many were looked at.
        z: quantile of the normal distribution.
    """
    centre = (share + z * z / (2 * n)) / (1 + z * z / n)
    half = z / (1 + z * z / n) * math.sqrt(share * (1 - share) / n + z * z / (4 * n * n))
    # at none and at all the ends are exactly 0 and 1; rounding must not leave 1e-17 there
    return (0.0 if share == 0 else max(0.0, centre - half)), (1.0 if share == 1 else min(1.0, centre + half))


def _check(k: int, n: int, level: float) -> None:
    whole_counts([n], "n")
    if not 0 <= k <= n:
        raise CoreError("count_out_of_range", f"Expected a count from 0 to n = {n}; got {k}.", "k")
    check_level(level)
