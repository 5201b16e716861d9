"""Do two samples of lengths differ?

Kolmogorov-Smirnov distance with its permutation p, since on a millimetre board many lengths are equal and the textbook p
does not hold (Pratt and Gibbons 1981, chapter 7, from memory). The permutations are counted, not drawn: with ties the
distance is looked at where a reading ends (the idea of Schroer and Trenkler 1995, Comput. Stat. Data Anal. 20, 185-202, from
memory). The shift after Hodges and Lehmann, categories by Pearson's chi-square. Where sites are told, they are permuted and
not fish.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np
import scipy  # its stats take a second to load: they are read where one is first used
from numpy.typing import ArrayLike, NDArray

from nailwright_core.common.by_site import INDEPENDENT_FISH
from nailwright_core.common.checks import check_level
from nailwright_core.common.errors import CoreError
from nailwright_core.common.estimate import Assumption, Estimate
from nailwright_core.common.species import SizeCategories
from nailwright_core.findings.shift import shift
from nailwright_core.findings.site_permutation import SitePermutation, by_site
from nailwright_core.findings.value_comparison import mean_difference

KOLMOGOROV_SMIRNOV, MEANS, MEANS_AND_PSD = (
    "Kolmogorov-Smirnov",
    "means by t over sites",
    "means and PSD by t over sites",
)
#: Up to this many fish all permutations are counted; of more, so many are drawn.
COUNTED_UP_TO = 10_000
PERMUTATIONS = 1999
_CHUNK = 250
_READINGS = 2_000
#: From so many draws that came as far on, p is known well enough: far from any line at which something is said to differ.
_ENOUGH_HITS = 100
#: States further than this from the expected one, in standard deviations, hold less than 1e-15.
_FAR_SD = 8.5
_TRIM_EACH = 32


@dataclass(frozen=True)
class LengthComparison:
    """Two samples held against each other.

    Attributes:
        test, p: the test that counts and its p; nan where there is one site only.
        ks, ks_p: largest distance of the cumulative curves, and its permutation p.
        ks_p_at_most: whether p is only known to be at most that: no permutation that was drawn came as far.
        shift, shift_p: by how much the second is longer, mm, with the interval and p of one test: Hodges-Lehmann, or means by t
            over sites where there are too few sites to permute; ``interval`` tells.
        category_chi2, category_p: chi-square over size categories; None where none apply.
    """

    n: tuple[int, int]
    test: str
    p: float
    ks: float
    ks_p: float
    ks_p_at_most: bool
    shift: Estimate
    shift_p: float
    category_chi2: float | None
    category_p: float | None
    seed: int
    assumptions: tuple[Assumption, ...]


def compare_lengths(
    a: ArrayLike,
    b: ArrayLike,
    seed: int = 0,
    categories: SizeCategories | Mapping[str, float] | None = None,
    level: float = 0.95,
    sites: tuple[ArrayLike, ArrayLike] | None = None,
    tests: int = 1,
) -> LengthComparison:
    """Hold two samples of lengths (mm, one species and length type) against each other.

    Args:
        sites: of each fish of either sample, labels of one numbering: sites are then permuted, not fish
            (``site_permutation``); without it each fish stands for itself.
        tests: how many such comparisons are made together; where sites are too few to refute anything after Holm's correction,
            means, and PSD where there are categories, are compared by t over sites instead (the smaller p, doubled).

    Raises:
        CoreError: ``too_few_fish`` for a sample of fewer than two, ``length_not_positive``.
    """
    check_level(level)
    first, second = _sample(a, "a"), _sample(b, "b")
    rng = np.random.default_rng(seed)
    n = (first.size, second.size)
    if sites is not None:
        permuted = by_site(first, second, np.asarray(sites[0]).ravel(), np.asarray(sites[1]).ravel(), rng)
        ks, ks_p = permuted.ks()
        table = None if categories is None else permuted.chi2(_category(permuted.values, categories))
        chi2, p = table or (None, None)
        few = permuted.least_p * tests > 1 - level
        moved, moved_p = mean_difference(first, second, level, sites) if few else permuted.shift(level)
        at_most = not few and not permuted.every and ks_p <= permuted.least_p
        tested = (KOLMOGOROV_SMIRNOV, ks_p)
        if few:
            psd_p = math.nan if categories is None else _psd_p(first, second, sites, categories)
            tested = (MEANS, moved_p) if math.isnan(psd_p) else (MEANS_AND_PSD, min(2 * min(moved_p, psd_p), 1.0))
        about = (*_assumptions(n), _over_sites(permuted, few))
        return LengthComparison(n, *tested, ks, ks_p, at_most, moved, moved_p, chi2, p, seed, about)
    values = np.unique(np.concatenate([first, second]))
    counts_a = np.bincount(np.searchsorted(values, first), minlength=values.size)
    counts_b = np.bincount(np.searchsorted(values, second), minlength=values.size)
    distance = _distance(counts_a, counts_b)
    chi2, p = _by_category(first, second, categories)
    ks_p, at_most = _permutation_p(counts_a, counts_a + counts_b, distance, rng)
    moved, moved_p = shift(first, second, level)
    about = (*_assumptions(n), INDEPENDENT_FISH)
    return LengthComparison(n, KOLMOGOROV_SMIRNOV, ks_p, distance, ks_p, at_most, moved, moved_p, chi2, p, seed, about)


def _assumptions(n: tuple[int, int]) -> tuple[Assumption, ...]:
    return (
        Assumption(
            "Enough fish on both sides",
            "holds" if min(n) >= 20 else "doubtful",
            f"The smaller side has {min(n)}; below 20 only large differences show.",
        ),
    )


def _psd_p(
    first: NDArray[np.float64],
    second: NDArray[np.float64],
    sites: tuple[ArrayLike, ArrayLike],
    categories: SizeCategories | Mapping[str, float],
) -> float:
    """p of the difference of PSD by t over sites: it sees a change of shape that leaves the mean where it was; nan without."""
    stock, quality = [limit for _, limit in (categories.items() if isinstance(categories, Mapping) else categories)][:2]
    long = [side >= stock for side in (first, second)]
    if not all(each.any() for each in long):
        return math.nan
    hits = [(side[each] >= quality).astype(float) for side, each in zip((first, second), long, strict=True)]
    at = [np.asarray(site).ravel()[each] for site, each in zip(sites, long, strict=True)]
    return mean_difference(hits[0], hits[1], sites=(at[0], at[1]))[1]


def _over_sites(permuted: SitePermutation, few: bool) -> Assumption:
    name = "Fish of one site may be alike"
    if few:
        return Assumption(
            name,
            "doubtful",
            f"{permuted.sites} sites can be permuted in {len(permuted.labellings)} ways, too few to refute anything: means (and "
            "PSD) are compared by t over sites, which takes sites to vary near normally.",
        )
    return Assumption(name, "holds", f"Sites are permuted, not fish ({permuted.sites} sites).")


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
    if pooled.size > _READINGS:
        # neighbouring readings as one: what is drawn costs by the reading, and thousands of steps tell no more
        first = np.linspace(0, pooled.size, _READINGS, endpoint=False).astype(np.int64)
        counts_a, pooled = np.add.reduceat(counts_a, first), np.add.reduceat(pooled, first)
        observed = _distance(counts_a, pooled - counts_a)
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


def _by_category(
    first: NDArray[np.float64], second: NDArray[np.float64], categories: SizeCategories | Mapping[str, float] | None
) -> tuple[float | None, float | None]:
    if categories is None:
        return None, None
    both = _category(np.concatenate([first, second]), categories)
    table = np.array([np.bincount(side, minlength=both.max() + 1) for side in np.split(both, [first.size])])
    table = table[:, table.sum(axis=0) > 0]
    if table.shape[1] < 2:
        return None, None
    found = scipy.stats.chi2_contingency(table, correction=False)
    return float(found.statistic), float(found.pvalue) if math.isfinite(found.pvalue) else None


def _category(lengths: NDArray[np.float64], categories: SizeCategories | Mapping[str, float]) -> NDArray[np.int64]:
    limits = [limit for _, limit in (categories.items() if isinstance(categories, Mapping) else categories)]
    return np.searchsorted(limits, lengths, side="right")
