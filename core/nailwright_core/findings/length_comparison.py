"""Do two samples of lengths differ?

Kolmogorov-Smirnov distance with a permutation p, since on a millimetre board many lengths are equal and the textbook p
does not hold (Pratt and Gibbons 1981, chapter 7, from memory). Medians by bootstrap, categories by Pearson's chi-square.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray
from scipy import stats

from nailwright_core.common.errors import CoreError
from nailwright_core.common.estimate import Assumption, Estimate
from nailwright_core.common.species import SizeCategories

PERMUTATIONS = 1999
#: Above this many fish the draws are made reading by reading.
MANY_FISH = 12_000
RESAMPLES = 2000
_CHUNK = 250


@dataclass(frozen=True)
class LengthComparison:
    """Two samples held against each other.

    Attributes:
        ks, ks_p: largest distance of the cumulative curves, and its permutation p.
        median_difference: median of the second less that of the first, mm, bootstrap percentile interval.
        category_chi2, category_p, category_df: chi-square over size categories; None where none apply.
    """

    n: tuple[int, int]
    ks: float
    ks_p: float
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
    first, second = _sample(a, "a"), _sample(b, "b")
    values = np.unique(np.concatenate([first, second]))
    counts_a = np.bincount(np.searchsorted(values, first), minlength=values.size)
    counts_b = np.bincount(np.searchsorted(values, second), minlength=values.size)
    rng = np.random.default_rng(seed)
    distance = _distance(counts_a, counts_b)
    chi2, p, df = _by_category(first, second, categories)
    few = min(first.size, second.size)
    return LengthComparison(
        n=(first.size, second.size),
        ks=distance,
        ks_p=_permutation_p(counts_a, counts_a + counts_b, distance, rng),
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
) -> float:
    """Draws the first sample anew from the pool, without replacement, as counts of equal lengths."""
    n_a, n = int(counts_a.sum()), int(pooled.sum())
    draw = _shuffled if n <= MANY_FISH else _drawn_by_reading
    whole = np.cumsum(pooled)
    hits = 0
    for at in range(0, PERMUTATIONS, _CHUNK):
        below = draw(pooled, n_a, min(_CHUNK, PERMUTATIONS - at), rng)
        distances = np.abs(below / n_a - (whole - below) / (n - n_a)).max(axis=1)
        hits += int(np.count_nonzero(distances >= observed - 1e-12))
    return (1 + hits) / (1 + PERMUTATIONS)


def _shuffled(pooled: NDArray[np.int64], n_a: int, size: int, rng: np.random.Generator) -> NDArray[np.int64]:
    """Fish of the first sample up to each reading, by shuffling who belongs to it: fastest for few fish."""
    belongs = np.zeros((size, int(pooled.sum())), dtype=np.int32)
    belongs[:, :n_a] = 1
    rng.permuted(belongs, axis=1, out=belongs)
    return np.asarray(np.cumsum(belongs, axis=1)[:, np.cumsum(pooled) - 1], dtype=np.int64)


def _drawn_by_reading(pooled: NDArray[np.int64], n_a: int, size: int, rng: np.random.Generator) -> NDArray[np.int64]:
    """The same, drawn reading by reading: its cost does not grow with the number of fish."""
    drawn = rng.multivariate_hypergeometric(pooled, n_a, size=size, method="marginals")
    return np.asarray(np.cumsum(drawn, axis=1), dtype=np.int64)


def _median_difference(
    values: NDArray[np.float64],
    counts_a: NDArray[np.int64],
    counts_b: NDArray[np.int64],
    rng: np.random.Generator,
    level: float,
) -> Estimate:
    drawn = [_resampled_medians(values, counts, rng) for counts in (counts_a, counts_b)]
    differences = drawn[1] - drawn[0]
    value = _medians(values, counts_b[None, :]) - _medians(values, counts_a[None, :])
    low, high = np.quantile(differences, [(1 - level) / 2, (1 + level) / 2])
    n = int(counts_a.sum() + counts_b.sum())
    return Estimate(
        float(value[0]), float(differences.std(ddof=1)), float(low), float(high), level, "bootstrap percentile", n
    )


def _resampled_medians(
    values: NDArray[np.float64], counts: NDArray[np.int64], rng: np.random.Generator
) -> NDArray[np.float64]:
    n = int(counts.sum())
    return np.concatenate(
        [_medians(values, rng.multinomial(n, counts / n, size=_CHUNK)) for _ in range(RESAMPLES // _CHUNK)]
    )


def _medians(values: NDArray[np.float64], counts: NDArray[np.int64]) -> NDArray[np.float64]:
    """Median of each row of counts of ``values``."""
    cumulative = np.cumsum(counts, axis=1)
    n = int(cumulative[0, -1])
    low = np.argmax(cumulative > (n - 1) // 2, axis=1)
    high = np.argmax(cumulative > n // 2, axis=1)
    return np.asarray((values[low] + values[high]) / 2)


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
