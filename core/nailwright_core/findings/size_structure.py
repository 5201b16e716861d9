"""Length-frequency and proportional size distribution.

Sources: Gabelhouse (1984), N. Am. J. Fish. Manage. 4, 273-285 (categories); Guy et al. (2007), Fisheries 32, 348
(the name proportional size distribution); Goodman (1965) for the incremental shares' simultaneous intervals.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
from numpy.typing import ArrayLike, NDArray
from scipy import special

from nailwright_core.common.by_site import INDEPENDENT_FISH, Likeness, share_by_site
from nailwright_core.common.clusters import cells_of
from nailwright_core.common.errors import CoreError
from nailwright_core.common.estimate import Assumption, Estimate
from nailwright_core.common.intervals import goodman, wilson
from nailwright_core.common.species import CATEGORY_NAMES, SizeCategories
from nailwright_core.findings.cohorts import fit_cohorts
from nailwright_core.findings.length_comparison import compare_lengths

__all__ = [
    "BIN_WIDTHS_MM",
    "FEW_STOCK_FISH",
    "LengthFrequency",
    "SizeDistribution",
    "compare_lengths",
    "fit_cohorts",
    "freedman_diaconis",
    "length_frequency",
    "proportional_size_distribution",
    "suggest_bin",
]

#: Bin widths offered, mm; half and whole inches among them.
BIN_WIDTHS_MM = (1.0, 2.0, 5.0, 10.0, 12.7, 20.0, 25.0, 25.4, 50.0)
#: Below this many stock-length fish the answer is shown, and said to say little (common practice, no source).
FEW_STOCK_FISH = 50
MAX_BINS = 2000
#: Bins that a board can read and a fish can fill, mm.
NARROWEST_BIN_MM, WIDEST_BIN_MM = 0.01, 10_000.0


@dataclass(frozen=True)
class LengthFrequency:
    """``edges`` (mm) of shape (k+1,) and ``counts`` of shape (k,); bin i is [edges[i], edges[i+1])."""

    edges: NDArray[np.float64]
    counts: NDArray[np.int64]


@dataclass(frozen=True)
class SizeDistribution:
    """Proportional size distribution, each an Estimate from 0 to 100.

    ``incremental`` holds S-Q, Q-P, P-M, M-T and T: shares of stock-length fish with simultaneous intervals.
    ``likeness`` tells of PSD how alike fish of one site are; None where sites were not asked about.
    """

    psd: Estimate
    psd_p: Estimate
    psd_m: Estimate
    psd_t: Estimate
    incremental: dict[str, Estimate]
    n_stock: int
    n_all: int
    assumptions: tuple[Assumption, ...]
    likeness: Likeness | None = None


def length_frequency(length_mm: ArrayLike, bin_mm: float, start_mm: float | None = None) -> LengthFrequency:
    """Counts of lengths in bins [start, start + width).

    Args:
        length_mm: shape (n,), mm; nan is refused.
        bin_mm: bin width, mm.
        start_mm: lower edge of the first bin; by default the multiple of the width at or below the smallest length.

    Raises:
        CoreError: ``no_lengths``, ``length_not_positive``, ``bin_out_of_range``, ``bins_too_many``,
            ``start_above_smallest``.
    """
    lengths = _lengths(length_mm)
    if not NARROWEST_BIN_MM <= bin_mm <= WIDEST_BIN_MM:
        raise CoreError(
            "bin_out_of_range",
            f"Expected a bin width from {NARROWEST_BIN_MM:g} to {WIDEST_BIN_MM:,.0f} mm; got {bin_mm:g}.",
            "bin_mm",
        )
    tolerance = 1e-9  # a length on an edge belongs to the bin above it, also where the width is no binary fraction
    smallest, largest = float(lengths.min()), float(lengths.max())
    start = math.floor(smallest / bin_mm + tolerance) * bin_mm if start_mm is None else start_mm
    if start > smallest:
        raise CoreError(
            "start_above_smallest",
            f"The first bin starts at {start:g} mm, above the smallest fish ({smallest:g} mm).",
            "start_mm",
        )
    last = math.floor((largest - start) / bin_mm + tolerance)
    if last >= MAX_BINS:
        raise CoreError("bins_too_many", f"A bin of {bin_mm:g} mm gives {last + 1} bins; choose a wider one.", "bin_mm")
    index = np.floor((lengths - start) / bin_mm + tolerance).astype(np.int64)
    counts = np.bincount(index, minlength=last + 1)
    return LengthFrequency(start + bin_mm * np.arange(last + 2, dtype=np.float64), counts)


def suggest_bin(length_mm: ArrayLike) -> float:
    """Bin width in mm proposed from the 95th percentile of length (common practice, no source).

    Args:
        length_mm: lengths, shape (n,), mm.

    Raises:
        CoreError: ``no_lengths``, ``length_not_positive``.
    """
    large = float(np.percentile(_lengths(length_mm), 95))
    for limit, width in ((150, 5.0), (300, 10.0), (600, 20.0), (1000, 25.0)):
        if large < limit:
            return width
    return 50.0


def freedman_diaconis(length_mm: ArrayLike) -> float:
    """Bin width in mm of Freedman and Diaconis (1981): 2 IQR / n^(1/3); nan where the quartiles coincide.

    Args:
        length_mm: lengths, shape (n,), mm.
    """
    lengths = _lengths(length_mm)
    low, high = np.percentile(lengths, [25, 75])
    width = 2 * (high - low) / lengths.size ** (1 / 3)
    return float(width) if width > 0 else math.nan


def proportional_size_distribution(
    length_mm: ArrayLike,
    categories: SizeCategories | Mapping[str, float],
    level: float = 0.95,
    sites: ArrayLike | None = None,
    years: ArrayLike | None = None,
) -> SizeDistribution:
    """PSD, PSD-P, PSD-M, PSD-T and the incremental shares, with intervals, as percentages of stock-length fish.

    Args:
        length_mm: shape (n,), mm, of one length type: that of the categories.
        categories: lower limits of stock, quality, preferred, memorable and trophy length, mm.
        level: of the intervals; Wilson for the cumulative, Goodman simultaneous for the incremental shares.
        sites: of each fish, shape (n,): intervals are then over sites (``common/by_site``); without it over fish.
        years: of each fish beside its site, where the question is about any year.

    Returns:
        SizeDistribution; with no stock-length fish values are nan with the interval 0-100.

    Raises:
        CoreError: ``no_lengths``, ``length_not_positive``, ``categories_incomplete``, ``categories_out_of_order``,
            ``level_out_of_range``.
    """
    lengths = _lengths(length_mm)
    limits = _limits(categories)
    category = categories_of(lengths, limits)
    cell, cells_in_all, crossed = category, 1, None
    if sites is not None:
        number, cells_in_all, crossed = cells_of(sites, years, lengths.size)
        cell = number * 6 + category
    table = np.bincount(cell, minlength=6 * cells_in_all).reshape(cells_in_all, 6)
    at_least = table[:, ::-1].cumsum(axis=1)[:, ::-1][:, 1:]  # of each category or longer, at each site
    stock = int(at_least[:, 0].sum())
    names = ("S-Q", "Q-P", "P-M", "M-T", "T")
    cells = table[:, 1:].sum(axis=0).tolist()
    likeness = None
    if sites is None:
        psd, psd_p, psd_m, psd_t = (_percentage(int(k), stock, level) for k in at_least.sum(axis=0)[1:])
        shares = [
            _share(k, stock, interval, level, "Goodman")
            for k, interval in zip(cells, goodman(cells, level), strict=True)
        ]
    else:
        found = [share_by_site(at_least[:, place], at_least[:, 0], level, None, crossed) for place in range(1, 5)]
        psd, psd_p, psd_m, psd_t = (_per_cent(share) for share, _ in found)
        likeness = found[0][1]
        z = float(special.ndtri(1 - (1 - level) / (2 * len(names))))  # simultaneous, as Goodman's
        shares = [
            _per_cent(share_by_site(table[:, place], at_least[:, 0], level, z, crossed)[0]) for place in range(1, 6)
        ]
    few = Assumption(
        "Enough stock-length fish",
        "holds" if stock >= FEW_STOCK_FISH else "doubtful",
        f"{stock} stock-length fish; fewer than {FEW_STOCK_FISH} say little.",
    )
    alike = INDEPENDENT_FISH if likeness is None else likeness.assumption
    return SizeDistribution(
        psd, psd_p, psd_m, psd_t, dict(zip(names, shares, strict=True)), stock, int(lengths.size),
        (few, alike, _SELECTION), likeness,
    )  # fmt: skip


_SELECTION = Assumption(
    "Gear takes every size of stock length alike",
    "not checked",
    "Boat electrofishing takes large fish more readily; compare like gear with like.",
)


def categories_of(length_mm: NDArray[np.float64], limits: Sequence[float]) -> NDArray[np.int8]:
    """How many limits each length reaches; for so few limits several times faster than searching.

    Args:
        length_mm: lengths, mm, shape (n,).
        limits: least lengths of the categories, mm, ascending.
    """
    category = np.zeros(length_mm.size, dtype=np.int8)
    for limit in limits:
        category += length_mm >= limit
    return category


def _per_cent(share: Estimate) -> Estimate:
    return Estimate(
        100 * share.value, 100 * share.se, 100 * share.lower, 100 * share.upper, share.level, share.interval, share.n
    )


def _percentage(k: int, n: int, level: float) -> Estimate:
    return _share(k, n, wilson(k, n, level), level, "Wilson")


def _share(k: int, n: int, interval: tuple[float, float], level: float, method: str) -> Estimate:
    share = k / n if n else math.nan
    se = math.sqrt(share * (1 - share) / n) if n else math.nan
    return Estimate(100 * share, 100 * se, 100 * interval[0], 100 * interval[1], level, method, n)


def _limits(categories: SizeCategories | Mapping[str, float]) -> list[float]:
    given = dict(categories)
    missing = [name for name in CATEGORY_NAMES if name not in given]
    if missing:
        raise CoreError(
            "categories_incomplete",
            f"Expected limits for {', '.join(CATEGORY_NAMES)}; {missing} missing.",
            "categories",
        )
    limits = [float(given[name]) for name in CATEGORY_NAMES]
    if any(b <= a for a, b in pairwise(limits)):
        raise CoreError(
            "categories_out_of_order", f"Category limits must rise from stock to trophy; got {limits}.", "categories"
        )
    return limits


def _lengths(length_mm: ArrayLike) -> NDArray[np.float64]:
    lengths = np.asarray(length_mm, dtype=float).ravel()
    if lengths.size == 0:
        raise CoreError(
            "no_lengths", "Expected at least one measured length; got none. Widen the selection.", "length_mm"
        )
    if not (lengths.min() > 0 and lengths.max() < math.inf):  # a nan is neither
        raise CoreError("length_not_positive", "Every length must be a finite number above 0 mm.", "length_mm")
    return lengths
