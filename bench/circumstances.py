"""How often the intervals that screens show hold the truth under what crews meet (``bin/bench coverage --full``).

Two named grids: *moderate*, in which 93 to 97 of 100 are to hold, and *strong*, which shows how an interval fails. Of each cell: how
many hold, how many lie below the truth and above it, how many surveys were refused, and the median width. 2,000 surveys a cell: the
error of a share is 0.5 points. The tables of docs/methods/coverage.md come from here.
"""

from __future__ import annotations

import math
import zlib
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, replace
from functools import cache, partial

import numpy as np

from bench.coverage import Survey, passes
from bench.size import size
from bench.timing import show
from nailwright_core.common.by_site import mean_by_site, median_by_site, share_by_site
from nailwright_core.common.clusters import cells_of
from nailwright_core.common.estimate import Estimate
from nailwright_core.findings.abundance import FALLS, removal_falling, removal_sites
from nailwright_core.findings.catches.catch_per_effort import cpue, cpue_change, trend_many
from nailwright_core.findings.condition import fit_length_mass
from nailwright_core.findings.length_comparison import compare_lengths
from nailwright_core.findings.line_comparison import compare_lines
from nailwright_core.fitting.coverage import Coverage, coverage

SURVEYS = size(2000, 3)


@dataclass(frozen=True)
class Circumstances:
    """What a survey meets.

    Attributes:
        sites: how many. unlike: CV of fish a site.
        alike: intraclass correlation of a measurement within sites.
        skew: SD of the logarithm of what sites add, drawn lognormal; 0: normal.
        years: how many, each with all sites; year_sd: SD of what a year adds, in SDs of a fish (of rates: of their logarithm).
        step: to which measurements are read, in SDs of a fish.
        empty: share of sites without fish.
    """

    sites: int
    unlike: float = 0.5
    alike: float = 0.1
    skew: float = 0.0
    years: int = 1
    year_sd: float = 0.0
    step: float = 0.0
    empty: float = 0.0

    def __str__(self) -> str:
        told = [f"{self.sites} sites", f"CV {self.unlike:g}", f"alike {self.alike:g}"]
        told += [f"skew {self.skew:g}"] * bool(self.skew) + [f"{self.years} years of SD {self.year_sd:g}"] * (
            self.years > 1
        )
        return ", ".join(
            told + [f"step {self.step:.2g}"] * bool(self.step) + [f"{self.empty:.0%} empty"] * bool(self.empty)
        )


_PLAIN = [Circumstances(sites, 0.5, alike) for sites in (8, 15) for alike in (0.05, 0.1)]
MODERATE = [
    *_PLAIN,
    *(replace(each, skew=0.5) for each in _PLAIN),
    *(replace(each, step=1 / 3) for each in _PLAIN[1::2]),
]
OVER_YEARS = [replace(each, years=years, year_sd=0.2) for each in _PLAIN[1::2] for years in (3, 5, 8)]
STRONG = [
    Circumstances(4, 1, 0.3), Circumstances(4, 1, 0.3, 1.0), Circumstances(8, 1, 0.3, 1.0), Circumstances(15, 1, 0.3, 1.0),
    Circumstances(15, 1, 0.3, step=1.0), Circumstances(20, 1, 0.3, 1.0, empty=0.9),
]  # fmt: skip
STRONG_YEARS = [Circumstances(8, 1, 0.3, years=years, year_sd=0.4) for years in (3, 5)]


@dataclass(frozen=True)
class Sample:
    """Values of standard deviation 1 about 0 (before what years add), with site and year of each."""

    values: np.ndarray
    site: np.ndarray
    year: np.ndarray


def _effects(rng: np.random.Generator, n: int, skew: float) -> np.ndarray:
    if not skew:
        return rng.normal(size=n)
    drawn, square = rng.lognormal(0, skew, n), math.exp(skew**2)
    return np.asarray((drawn - math.sqrt(square)) / math.sqrt(square * (square - 1)))


def sample(rng: np.random.Generator, of: Circumstances, each: float = 20.0) -> Sample:
    """Fish of one survey, about so many of a site in a year."""
    many = rng.gamma(1 / of.unlike**2, each * of.unlike**2, (of.sites, 1))
    n = np.maximum(rng.poisson(many, (of.sites, of.years)), 1)
    if of.empty:
        n[rng.permutation(of.sites)[: round(of.empty * of.sites)]] = 0
    site, year = (np.repeat(place.ravel(), n.ravel()) for place in np.indices(n.shape))
    values = math.sqrt(of.alike) * _effects(rng, of.sites, of.skew)[site] + rng.normal(0, of.year_sd, of.years)[year]
    values = values + math.sqrt(1 - of.alike) * rng.normal(size=site.size)
    return Sample(np.round(values / of.step) * of.step if of.step else values, site, year)


@cache
def _quantiles_of(of: Circumstances) -> np.ndarray:
    """The values of ever so many fish, sorted: what is true of half of them and of a share."""
    rng = np.random.default_rng(1)
    values = math.sqrt(of.alike) * _effects(rng, 400_000, of.skew) + math.sqrt(1 - of.alike) * rng.normal(size=400_000)
    return np.sort(values + rng.normal(0, of.year_sd, 400_000) if of.years > 1 else values)


def _ends(found: Estimate, truth: float) -> tuple[float, float, float] | None:
    return None if math.isnan(found.lower) else (found.lower, found.upper, truth)


def _mean(rng: np.random.Generator, of: Circumstances) -> tuple[float, float, float] | None:
    fish = sample(rng, of)
    return _ends(mean_by_site(fish.values, fish.site, 0.95, fish.year if of.years > 1 else None)[0], 0.0)


def _median(rng: np.random.Generator, of: Circumstances) -> tuple[float, float, float] | None:
    fish, truth = sample(rng, of), float(_quantiles_of(of)[200_000])
    found = median_by_site(fish.values, fish.site, 0.95, fish.year if of.years > 1 else None)[0]
    # the truth as the board would read it
    return _ends(found, round(truth / of.step) * of.step if of.step else truth)


def _share(rng: np.random.Generator, of: Circumstances) -> tuple[float, float, float] | None:
    fish, limit = sample(rng, of), float(_quantiles_of(of)[240_000])
    cell, cells, crossed = cells_of(fish.site, fish.year if of.years > 1 else None, fish.site.size)
    hits = np.bincount(cell, fish.values > limit, cells)
    return _ends(share_by_site(hits, np.bincount(cell, minlength=cells), crossed=crossed)[0], 0.4)


def _slope(rng: np.random.Generator, of: Circumstances) -> tuple[float, float, float] | None:
    fish = sample(rng, of)
    mm = rng.uniform(200, 600, fish.site.size)
    mass = 10 ** (-5.4 + 3.15 * np.log10(mm) + 0.05 * fish.values)
    return _ends(fit_length_mass(mm, mass, sites=fish.site, years=fish.year if of.years > 1 else None).b, 3.15)


def _shift(rng: np.random.Generator, of: Circumstances) -> tuple[float, float, float] | None:
    a, b = sample(rng, of), sample(rng, of)
    first, second = (
        (400 + 60 * each.values).round(6) for each in (a, b)
    )  # as a board has them: equal readings are equal
    found = compare_lengths(first, second, sites=(a.site, b.site + of.sites))
    return _ends(found.shift, 0.0)


def _lines(rng: np.random.Generator, of: Circumstances) -> tuple[float, float, float] | None:
    groups, sites = {}, {}
    for name in "ab":
        fish = sample(rng, of)
        mm = rng.uniform(200, 600, fish.site.size)
        groups[name], sites[name] = (
            (mm, 10 ** (-5.4 + 3.15 * np.log10(mm) + 0.05 * fish.values)),
            fish.site + 100 * (name == "b"),
        )
    (pair,) = compare_lines(groups, sites=sites).pairs
    return _ends(pair.differences[1], 0.0)


def _rates(rng: np.random.Generator, of: Circumstances, mean: float = 12.0) -> np.ndarray:
    """Mean catches, shape (sites, years)."""
    sites = rng.lognormal(-(of.skew**2) / 2, of.skew, (of.sites, 1))
    if of.empty:
        sites[rng.permutation(of.sites)[: round(of.empty * of.sites)]] = 0
        sites /= 1 - of.empty
    return np.asarray(mean * sites * rng.lognormal(0, of.year_sd, of.years))


def _cpue(rng: np.random.Generator, of: Circumstances) -> tuple[float, float, float] | None:
    hours = rng.uniform(0.3, 0.7, of.sites)
    counts = rng.poisson(2 * _rates(rng, of)[:, 0] * hours)
    return _ends(cpue(counts, hours), 24.0) if counts.any() else None


def _change(rng: np.random.Generator, of: Circumstances) -> tuple[float, float, float] | None:
    means = _rates(rng, of)[:, 0]
    first, second = (rng.negative_binomial(4, 4 / (4 + each)) for each in (means, 0.7 * means))
    if not first.any() or not second.any():
        return None
    return _ends(cpue_change((first, np.ones(of.sites)), (second, np.ones(of.sites))), -0.3)


def _trend(rng: np.random.Generator, of: Circumstances) -> tuple[float, float, float] | None:
    when = np.arange(of.years, dtype=float)
    means = _rates(rng, of) * 0.9**when
    value, _, low, high, _ = trend_many(rng.negative_binomial(4, 4 / (4 + means))[None], None, when, 0.95)
    return None if math.isnan(value[0]) else (float(low[0]), float(high[0]), -0.1)


def _removal(rng: np.random.Generator, fish: int, p: float, fall: float | None) -> tuple[float, float, float] | None:
    """Over its prior where no fall is given."""
    fell = float(rng.choice(list(FALLS), p=list(FALLS.values()))) if fall is None else fall
    caught = passes(rng, fish, p, 3, fell)
    found = removal_falling(caught).n if any(caught) else None
    return None if found is None else _ends(found, fish)


def _removal_over_sites(rng: np.random.Generator, of: Circumstances) -> tuple[float, float, float] | None:
    p = 1 / (1 + np.exp(-0.5 * rng.normal(size=of.sites)))
    fish = rng.poisson(_rates(rng, of)[:, 0])
    rows = [passes(rng, int(n), float(each), 3) for n, each in zip(fish, p, strict=True)]
    return _ends(removal_sites(rows, np.ones(of.sites)).density, 12.0)


#: Name, survey, and its cells in each grid.
_Cells = list[tuple[str, Survey]]


def _cells(survey: Survey, *grids: list[Circumstances]) -> _Cells:
    return [(str(each), partial(survey, of=each)) for grid in grids for each in grid]


def _of_removal(*cells: tuple[int, float, float | None]) -> _Cells:
    return [
        (f"{fish} fish, p {p:g}, {'over the prior' if fall is None else f'a fall of {fall:.0%}'}",
         partial(_removal, fish=fish, p=p, fall=fall))
        for fish, p, fall in cells
    ]  # fmt: skip


#: Of shares, lines and rates no reading step is tried.
_NO_STEP, _STRONG_NO_STEP = ([each for each in grid if not each.step] for grid in (MODERATE, STRONG))
#: Rates know no more of their sites than how much those differ.
_RATES, _STRONG_RATES = (
    [each for each in grid if each.skew and each.alike >= 0.1] for grid in (_NO_STEP, _STRONG_NO_STEP)
)
_TREND, _STRONG_TREND = (
    [replace(each, skew=skew) for each in grid] for grid, skew in ((OVER_YEARS, 0.5), (STRONG_YEARS, 1.0))
)
INTERVALS: dict[str, tuple[_Cells, _Cells]] = {
    "mean over sites": (_cells(_mean, MODERATE), _cells(_mean, STRONG)),
    "mean over sites and years": (_cells(_mean, OVER_YEARS), _cells(_mean, STRONG_YEARS)),
    "median over sites": (_cells(_median, MODERATE), _cells(_median, STRONG)),
    "share over sites (PSD)": (_cells(_share, _NO_STEP), _cells(_share, _STRONG_NO_STEP)),
    "share over sites and years": (_cells(_share, OVER_YEARS), _cells(_share, STRONG_YEARS)),
    "slope over sites": (_cells(_slope, _NO_STEP), _cells(_slope, _STRONG_NO_STEP)),
    "slope over sites and years": (_cells(_slope, OVER_YEARS), _cells(_slope, STRONG_YEARS)),
    "shift between groups over sites": (_cells(_shift, MODERATE[1::4]), _cells(_shift, STRONG[1:4])),
    "masses between groups over sites": (_cells(_lines, _NO_STEP), _cells(_lines, _STRONG_NO_STEP)),
    "catch per effort": (_cells(_cpue, _RATES), _cells(_cpue, _STRONG_RATES)),
    "change at the same sites": (_cells(_change, _RATES), _cells(_change, _STRONG_RATES)),
    "trend": (_cells(_trend, _TREND), _cells(_trend, _STRONG_TREND)),
    "removal, averaged over falls": (
        _of_removal((50, 0.5, None), (200, 0.4, None), (1000, 0.4, None)),
        _of_removal(*((fish, 0.5, fall) for fish in (30, 100, 300) for fall in FALLS)),
    ),
    "removal at many sites": (_cells(_removal_over_sites, _RATES), _cells(_removal_over_sites, _STRONG_RATES[:2])),
}  # fmt: skip


def _tried(at: tuple[str, int, int]) -> Coverage:
    name, grid, place = at
    told, survey = INTERVALS[name][grid][place]
    return coverage(survey, SURVEYS, np.random.default_rng(zlib.crc32(f"{name} {grid} {told}".encode())))


def measure(only: str = "") -> None:
    """Both grids, every cell a line.

    Args:
        only: part of the names of the intervals that are tried; empty: all.
    """
    with ProcessPoolExecutor() as processes:
        for name, grids in INTERVALS.items():
            if only not in name:
                continue
            asked = [(name, grid, place) for grid, cells in enumerate(grids) for place in range(len(cells))]
            for (_, grid, place), found in zip(asked, processes.map(_tried, asked), strict=True):
                show(
                    f"{name} | {('moderate', 'strong')[grid]} | {grids[grid][place][0]}",
                    f"{100 * found.share:.1f} %",
                    f"below {100 * found.below:.1f}, above {100 * found.above:.1f}, refused {100 * found.refused:.1f}, "
                    f"width {found.width:.3g}",
                )
