"""Do two samples of lengths differ?

Kolmogorov-Smirnov distance with its permutation p, since on a millimetre board many lengths are equal and the textbook p
does not hold (Pratt and Gibbons 1981, chapter 7, from memory). The permutations are counted, not drawn: with ties the
distance is looked at where a reading ends (the idea of Schroer and Trenkler 1995, Comput. Stat. Data Anal. 20, 185-202, from
memory). Medians by bootstrap, categories by Pearson's chi-square.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray
from scipy import stats

from nailwright_core.common.checks import check_level
from nailwright_core.common.errors import CoreError
from nailwright_core.common.estimate import Assumption, Estimate
from nailwright_core.common.species import SizeCategories

#: Up to this many fish all permutations are counted; of more, so many are drawn.
COUNTED_UP_TO = 10_000
PERMUTATIONS = 1999
RESAMPLES = 2000
_CHUNK = 250
#: From so many draws that came as far on, p is known well enough: far from any line at which something is said to differ.
_ENOUGH_HITS = 100
#: States further than this from the expected one, in standard deviations, hold less than 1e-15.
_FAR_SD = 8.5
_TRIM_EACH = 32


@dataclass(frozen=True)
class LengthComparison:
    """Two samples held against each other.

    Attributes:
        ks, ks_p: largest distance of the cumulative curves, and its permutation p.
        ks_p_at_most: whether p is only known to be at most that: no permutation that was drawn came as far.
        median_difference: median of the second less that of the first, mm, bootstrap percentile interval.
        category_chi2, category_p, category_df: chi-square over size categories; None where none apply.
    """

    n: tuple[int, int]
    ks: float
    ks_p: float
    ks_p_at_most: bool
    median_difference: Estimate
    category_chi2: float | None
    category_p: float | None
    category_df: int | None
    seed: int
    assumptions: tuple[Assumption, ...]


def compare_lengths(
    a: ArrayLike,
    b: ArrayLike,
    seed: int = 0,
    categories: SizeCategories | Mapping[str, float] | None = None,
    level: float = 0.95,
) -> LengthComparison:
    """Hold two samples of lengths (mm, one species and length type) against each other.

    Raises:
        CoreError: ``too_few_fish`` for a sample of fewer than two, ``length_not_positive``.
    """
    check_level(level)
    first, second = _sample(a, "a"), _sample(b, "b")
    values = np.unique(np.concatenate([first, second]))
    counts_a = np.bincount(np.searchsorted(values, first), minlength=values.size)
    counts_b = np.bincount(np.searchsorted(values, second), minlength=values.size)
    rng = np.random.default_rng(seed)
    distance = _distance(counts_a, counts_b)
    chi2, p, df = _by_category(first, second, categories)
    few = min(first.size, second.size)
    ks_p, at_most = _permutation_p(counts_a, counts_a + counts_b, distance, rng)
    return LengthComparison(
        n=(first.size, second.size),
        ks=distance,
        ks_p=ks_p,
        ks_p_at_most=at_most,
        median_difference=_median_difference(values, counts_a, counts_b, rng, level),
        category_chi2=chi2,
        category_p=p,
        category_df=df,
        seed=seed,
        assumptions=(
            Assumption(
                "Enough fish on both sides",
                "holds" if few >= 20 else "doubtful",
                f"The smaller side has {few}; below 20 only large differences show.",
            ),
            Assumption(
                "Both were sampled alike", "not checked", "Another gear, season or place changes lengths by itself."
            ),
            Assumption("Fish are sampled independently", "not checked", "Schooling fish make p too small."),
        ),
    )


def _sample(lengths: ArrayLike, name: str) -> NDArray[np.float64]:
    sample = np.asarray(lengths, dtype=np.float64).ravel()
    if sample.size < 2:
        raise CoreError(
            "too_few_fish",
            f"A comparison needs at least two measured fish on each side; got {sample.size}. Widen the selection.",
            name,
        )
    if not (np.all(np.isfinite(sample)) and np.all(sample > 0)):
        raise CoreError("length_not_positive", "Every length must be a finite number above 0 mm.", name)
    return sample


def _distance(counts_a: NDArray[np.int64], counts_b: NDArray[np.int64]) -> float:
    return float(np.abs(np.cumsum(counts_a) / counts_a.sum() - np.cumsum(counts_b) / counts_b.sum()).max())


def _permutation_p(
    counts_a: NDArray[np.int64], pooled: NDArray[np.int64], observed: float, rng: np.random.Generator
) -> tuple[float, bool]:
    """The share of permutations with at least the observed distance, and whether it is only a bound from above."""
    if observed <= 0:
        return 1.0, False
    if int(pooled.sum()) <= COUNTED_UP_TO:
        return _counted_p(int(counts_a.sum()), pooled, observed), False
    n_a, n = int(counts_a.sum()), int(pooled.sum())
    beyond = _tail_bound(n_a, n - n_a, observed)
    if beyond < 1 / (1 + PERMUTATIONS):
        return beyond, True
    whole = np.cumsum(pooled)
    hits = drawn = 0
    while drawn < PERMUTATIONS and hits < _ENOUGH_HITS:
        size = min(_CHUNK, PERMUTATIONS - drawn)
        # reading by reading: its cost does not grow with the number of fish
        below = np.cumsum(rng.multivariate_hypergeometric(pooled, n_a, size=size, method="marginals"), axis=1)
        distances = np.abs(below / n_a - (whole - below) / (n - n_a)).max(axis=1)
        hits += int(np.count_nonzero(distances >= observed - 1e-12))
        drawn += size
    return (1 + hits) / (1 + drawn), hits == 0


def _tail_bound(n_a: int, n_b: int, observed: float) -> float:
    """A bound of the permutation p from above: e times the limit's leading term (Wei and Dudley 2012, Stat. Probab. Lett. 82,
    636-644, from memory); ties only lower the p."""
    return min(1.0, math.e * math.exp(-2 * observed * observed * n_a * n_b / (n_a + n_b)))


def _counted_p(n_a: int, pooled: NDArray[np.int64], observed: float) -> float:
    """All permutations at once: fish are taken in order of length, and each state is how many of them are of the first sample.

    Where a reading ends, what has come as far as the observed distance is added up and goes on no further.
    """
    n = int(pooled.sum())
    n_b = n - n_a
    ends = set(np.cumsum(pooled[pooled > 0]).tolist())
    tolerance = 1e-9 * n
    per_fish = 1 / n_a + 1 / n_b  # one more of the first sample moves the distance by so much
    still_to_come = n_a - np.arange(n_a + 1, dtype=np.float64)
    reached = 0.0
    low, chance = 0, np.ones(1)
    for taken in range(1, n + 1):
        taken_by_a = chance * still_to_come[low : low + chance.size]
        taken_by_a /= n - taken + 1
        grown = np.zeros(chance.size + 1)
        grown[:-1] = chance
        grown[:-1] -= taken_by_a
        grown[1:] += taken_by_a
        chance = grown[: n_a + 1 - low]
        if taken in ends:
            # states up to `under` and from `over` on are as far from equal shares as what was seen
            under = math.floor((taken / n_b - observed) / per_fish + tolerance) + 1 - low
            over = math.ceil((taken / n_b + observed) / per_fish - tolerance) - low
            under, over = max(under, 0), max(over, 0)
            reached += float(chance[:under].sum()) + float(chance[max(over, under) :].sum())
            chance = chance[under : max(over, under)]
            low += under
            if chance.size == 0:
                break
        elif taken % _TRIM_EACH == 0:
            sd = math.sqrt(taken * n_a * n_b * (n - taken) / max(n - 1, 1)) / n
            first = max(low, math.ceil(taken * n_a / n - _FAR_SD * sd) - _TRIM_EACH)
            last = math.floor(taken * n_a / n + _FAR_SD * sd) + _TRIM_EACH
            chance, low = chance[first - low : last - low + 1], first
    return min(reached, 1.0)


def _median_difference(
    values: NDArray[np.float64],
    counts_a: NDArray[np.int64],
    counts_b: NDArray[np.int64],
    rng: np.random.Generator,
    level: float,
) -> Estimate:
    drawn = [_resampled_medians(values, counts, rng) for counts in (counts_a, counts_b)]
    differences = drawn[1] - drawn[0]
    value = _median(values, counts_b) - _median(values, counts_a)
    low, high = np.quantile(differences, [(1 - level) / 2, (1 + level) / 2])
    n = int(counts_a.sum() + counts_b.sum())
    return Estimate(value, float(differences.std(ddof=1)), float(low), float(high), level, "bootstrap percentile", n)


def _resampled_medians(
    values: NDArray[np.float64], counts: NDArray[np.int64], rng: np.random.Generator
) -> NDArray[np.float64]:
    """Medians of ``RESAMPLES`` samples with replacement, without drawing the samples.

    The k-th of n uniform numbers is distributed as Beta(k, n - k + 1), and the next one, given it, as the least of those that
    are left; the sample's own quantiles at them are what resampling would give.
    """
    cumulative = np.cumsum(counts)
    n = int(cumulative[-1])
    k = (n + 1) // 2
    lower = rng.beta(k, n - k + 1, size=RESAMPLES)
    upper = lower if n % 2 else 1 - (1 - lower) * rng.random(RESAMPLES) ** (1 / (n - k))
    last = values.size - 1
    at = [values[np.minimum(np.searchsorted(cumulative, u * n, side="right"), last)] for u in (lower, upper)]
    return np.asarray((at[0] + at[1]) / 2)


def _median(values: NDArray[np.float64], counts: NDArray[np.int64]) -> float:
    cumulative = np.cumsum(counts)
    n = int(cumulative[-1])
    low, high = np.searchsorted(cumulative, [(n - 1) // 2, n // 2], side="right")
    return float((values[low] + values[high]) / 2)


def _by_category(
    first: NDArray[np.float64], second: NDArray[np.float64], categories: SizeCategories | Mapping[str, float] | None
) -> tuple[float | None, float | None, int | None]:
    if categories is None:
        return None, None, None
    limits = [limit for _, limit in (categories.items() if isinstance(categories, Mapping) else categories)]
    table = np.array(
        [
            np.bincount(np.searchsorted(limits, side, side="right"), minlength=len(limits) + 1)
            for side in (first, second)
        ]
    )
    table = table[:, table.sum(axis=0) > 0]
    if table.shape[1] < 2:
        return None, None, None
    found = stats.chi2_contingency(table, correction=False)
    return float(found.statistic), float(found.pvalue) if math.isfinite(found.pvalue) else None, int(found.dof)
