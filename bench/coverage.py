"""How often intervals hold the truth: seeded simulation over a grid for each, nightly size (``bin/bench coverage``).

Each line tells the mean coverage of 95 % intervals over its grid, the least of them with the design where that was, and the
Monte Carlo error of one design. The tables of docs/methods come from here.
"""

from __future__ import annotations

import math
import zlib
from collections.abc import Callable, Iterable
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass
from itertools import product
from typing import Any

import numpy as np
from scipy.special import ndtri

from bench.size import size
from bench.timing import show
from nailwright_core.common.by_site import mean_by_site, median_by_site, share_by_site
from nailwright_core.common.errors import CoreError
from nailwright_core.common.estimate import Estimate
from nailwright_core.common.intervals import median_interval, wilson
from nailwright_core.deck.baths import induction_line
from nailwright_core.findings.abundance import (
    delury,
    leslie,
    petersen,
    petersen_strata,
    removal,
    removal_sites,
    schnabel,
)
from nailwright_core.findings.abundance.closed_models import closed_catches, closed_models
from nailwright_core.findings.catches.catch_per_effort import cpue, cpue_change, cpue_stratified, trend_many
from nailwright_core.findings.condition import fit_length_mass
from nailwright_core.findings.growth.increments import Increments, expected, growth_by_increments
from nailwright_core.findings.line_comparison import compare_lines
from nailwright_core.findings.shift import shift
from nailwright_core.findings.site_permutation import by_site
from nailwright_core.findings.size_structure import fit_cohorts
from nailwright_core.fitting.coverage import coverage
from nailwright_core.movements.kernel import laplace_kernel
from nailwright_core.movements.staying import staying

REPLICATES = size(1500, 4)
#: One survey of a design: the ends of its interval and the truth; None where it gave no answer.
Survey = Callable[..., tuple[float, float, float] | None]


@dataclass(frozen=True)
class Interval:
    """An interval, the grid of designs it is tried on, and how many surveys of each."""

    name: str
    survey: Survey
    grid: tuple[tuple[Any, ...], ...]
    replicates: int = REPLICATES


def _ends(found: Estimate, truth: float) -> tuple[float, float, float]:
    return found.lower, found.upper, truth


def _alike(rng: np.random.Generator, sites: int, icc: float, each: int = 20) -> tuple[np.ndarray, np.ndarray]:
    n = rng.negative_binomial(3, 3 / (3 + each), sites) + 1
    site = np.repeat(np.arange(sites), n)
    return rng.normal(0, math.sqrt(icc), sites)[site] + rng.normal(0, math.sqrt(1 - icc), site.size), site


def _site_mean(rng: np.random.Generator, sites: int, icc: float) -> tuple[float, float, float]:
    return _ends(mean_by_site(*_alike(rng, sites, icc))[0], 0)


def _site_median(rng: np.random.Generator, sites: int, icc: float) -> tuple[float, float, float]:
    values, site = _alike(rng, sites, icc)
    return _ends(median_by_site((60 * values).round(), site)[0], 0)


def _site_share(rng: np.random.Generator, sites: int, icc: float, share: float) -> tuple[float, float, float]:
    values, site = _alike(rng, sites, icc)
    hits = np.bincount(site, values < ndtri(share), sites)
    return _ends(share_by_site(hits, np.bincount(site, minlength=sites))[0], share)


def _wilson(rng: np.random.Generator, n: int, share: float) -> tuple[float, float, float]:
    return *wilson(int(rng.binomial(n, share)), n), share


def _median(rng: np.random.Generator, n: int) -> tuple[float, float, float]:
    return _ends(median_interval(rng.gamma(20, 20, n)), 20 * 19.6680)


def _shift(rng: np.random.Generator, n: int, m: int, step: float) -> tuple[float, float, float]:
    a, b = (rng.normal(400, 60, size) for size in (n, m))
    if step:
        a, b = (np.round(each / step) * step for each in (a, b))
    return _ends(shift(a, b)[0], 0)


def _site_shift(rng: np.random.Generator, sites: int, shared: bool, icc: float) -> tuple[float, float, float]:
    of_site = rng.normal(0, math.sqrt(icc), 2 * sites)
    sides = []
    for side in (0, 1):
        site = np.repeat(
            np.arange(sites) + (0 if shared else side * sites), rng.negative_binomial(3, 3 / 23, sites) + 1
        )
        sides.append(((60 * (of_site[site] + rng.normal(0, math.sqrt(1 - icc), site.size))).round(), site))
    (a, at_a), (b, at_b) = sides
    return _ends(by_site(a, b, at_a, at_b, rng).shift(0.95)[0], 0)


def _weighed(rng: np.random.Generator, n: int, sd: float, of_fish: Any = 0.0) -> tuple[np.ndarray, np.ndarray]:
    mm = rng.uniform(200, 600, n)
    return mm, 10 ** (-5.4 + 3.15 * np.log10(mm) + of_fish + rng.normal(0, sd, n))


def _mean_mass(rng: np.random.Generator, n: int, sd: float) -> tuple[float, float, float]:
    at = fit_length_mass(*_weighed(rng, n, sd)).predict(420.0)
    truth = 10 ** (-5.4 + 3.15 * math.log10(420) + sd * sd * math.log(10) / 2)
    return float(at.mean_lower_g), float(at.mean_upper_g), truth


def _line_at_sites(rng: np.random.Generator, sites: int, of_site: float) -> tuple[float, float, float]:
    site = np.repeat(np.arange(sites), rng.negative_binomial(3, 3 / 23, sites) + 2)
    tilt = rng.normal(0, of_site, sites)
    mm, g = _weighed(rng, site.size, 0.04)
    return _ends(fit_length_mass(mm, g * (mm / 350) ** (10 * tilt[site]), sites=site).b, 3.15)


def _lines(rng: np.random.Generator, n: int, m: int, first: float, second: float) -> tuple[float, float, float]:
    (pair,) = compare_lines({"a": _weighed(rng, n, first), "b": _weighed(rng, m, second)}).pairs
    return _ends(pair.differences[int(rng.integers(3))], 0)


def _lines_at_sites(rng: np.random.Generator, sites: int, shared: bool) -> tuple[float, float, float]:
    of_site = rng.normal(0, 0.02, 2 * sites)
    number = [
        np.repeat(np.arange(sites) + (0 if shared else side * sites), rng.integers(4, 30, sites)) for side in (0, 1)
    ]
    groups = {name: _weighed(rng, at.size, 0.05, of_site[at]) for name, at in zip("ab", number, strict=True)}
    (pair,) = compare_lines(groups, sites=dict(zip("ab", number, strict=True))).pairs
    return _ends(pair.differences[int(rng.integers(3))], 0)


def _counts(rng: np.random.Generator, mean: Any, k: float, size: Any = None) -> Any:
    return rng.negative_binomial(k, k / (k + np.asarray(mean)), size)


def _cpue(rng: np.random.Generator, sites: int, mean: float, k: float) -> tuple[float, float, float]:
    hours = rng.uniform(0.3, 0.7, sites)
    return _ends(cpue(_counts(rng, mean * hours, k), hours), mean)


def _strata(rng: np.random.Generator, sites: int, k: float) -> tuple[float, float, float]:
    means, names = np.repeat([4.0, 15.0, 30.0], sites), np.repeat(["a", "b", "c"], sites)
    found = cpue_stratified(_counts(rng, means, k), np.ones(3 * sites), names, {"a": 1, "b": 3, "c": 2})
    return _ends(found, (4 + 45 + 60) / 6)


def _change(rng: np.random.Generator, sites: int, mean: float, k: float) -> tuple[float, float, float] | None:
    site = np.exp(rng.normal(0, 0.8, sites))
    first, second = _counts(rng, mean * site, k), _counts(rng, 0.7 * mean * site, k)
    if not first.any() and not second.any():
        return None
    return _ends(cpue_change((first, np.ones(sites)), (second, np.ones(sites))), -0.3)


def _trend(
    rng: np.random.Generator, sites: int, years: int, mean: float, year_sd: float
) -> tuple[float, float, float] | None:
    when = np.arange(years, dtype=float)
    means = mean * 0.9**when * np.exp(rng.normal(0, 0.4, (sites, 1)) + rng.normal(0, year_sd, years))
    value, _, low, high, _ = trend_many(_counts(rng, means, 1.0)[None], None, when, 0.95)
    return None if math.isnan(value[0]) else (float(low[0]), float(high[0]), -0.1)


def passes(rng: np.random.Generator, fish: int, p: float, times: int, fall: float = 0.0) -> list[int]:
    """Catches of so many passes, of which each has the chance of the one before less a share ``fall``."""
    caught = []
    for at in range(times):
        caught.append(int(rng.binomial(fish, p * (1 - fall) ** at)))
        fish -= caught[-1]
    return caught


def _removal(rng: np.random.Generator, fish: int, p: float, times: int) -> tuple[float, float, float]:
    return _ends(removal(passes(rng, fish, p, times)).n, fish)


def _removal_sites(rng: np.random.Generator, sites: int, times: int, mean: float) -> tuple[float, float, float]:
    p = 1 / (1 + np.exp(-0.5 * rng.normal(size=sites)))
    fish = _counts(rng, mean, 2.0, sites)
    rows = [passes(rng, int(n), float(each), times) for n, each in zip(fish, p, strict=True)]
    return _ends(removal_sites(rows, np.ones(sites)).density, mean)


def _depletion(rng: np.random.Generator, method: Any, fish: int, q: float, times: int) -> tuple[float, float, float]:
    return _ends(method(passes(rng, fish, 1 - math.exp(-q), times), [1.0] * times).n, fish)


def _petersen(rng: np.random.Generator, fish: int, marks: int, catch: int) -> tuple[float, float, float]:
    return _ends(petersen(marks, catch, int(rng.hypergeometric(marks, fish - marks, catch))).n, fish)


def _petersen_strata(rng: np.random.Generator, strata: int, fish: int) -> tuple[float, float, float]:
    told = {}
    for place in range(strata):
        marks, catch = fish // (6 + 4 * place), fish // 8
        told[str(place)] = marks, catch, int(rng.hypergeometric(marks, fish - marks, catch))
    return _ends(petersen_strata(told).n, strata * fish)


def _schnabel(rng: np.random.Generator, fish: int, catch: int, times: int) -> tuple[float, float, float] | None:
    at_large, caught, again, marked = 0, [], [], []
    for _ in range(times):
        met = int(rng.hypergeometric(at_large, fish - at_large, catch))
        caught.append(catch)
        again.append(met)
        marked.append(at_large)
        at_large += catch - met
    return _ends(schnabel(caught, again, marked).n, fish) if sum(again) else None


def _cohorts(rng: np.random.Generator, fish: int, apart: float, step: float) -> tuple[float, float, float] | None:
    lengths = np.concatenate([rng.normal(200, 20, fish), rng.normal(200 + 20 * apart, 20, fish)])
    found = fit_cohorts((lengths / step).round() * step, k=2, step_mm=step).mean_estimates[0]
    return None if math.isnan(found.lower) or math.isnan(found.upper) else _ends(found, 200)


def _cohort_share(rng: np.random.Generator, sites: int, spread: float) -> tuple[float, float, float]:
    lengths, of = [], []
    for site, young in enumerate(1 / (1 + np.exp(-rng.normal(0, spread, sites)))):
        n = int(rng.negative_binomial(3, 3 / 33)) + 3
        lengths.append(np.where(rng.random(n) < young, rng.normal(180, 16, n), rng.normal(280, 22, n)).round())
        of.append(np.full(n, site))
    found = fit_cohorts(np.concatenate(lengths), start_means_mm=[180, 280], sites=np.concatenate(of))
    return _ends(found.share_estimates[0], 0.5)


def _induction(rng: np.random.Generator, baths: int, watched_s: float) -> tuple[float, float, float]:
    strength = rng.permutation(np.resize([50.0, 65.0, 80.0, 100.0], baths))
    bath = np.repeat(np.arange(baths), rng.integers(2, 15, baths))
    log = (4.4 - 1.2 * np.log10(strength) + rng.normal(0, 0.04, baths))[bath] + rng.normal(0, 0.08, bath.size)
    until = math.log10(watched_s) + rng.normal(0, 0.05, bath.size)
    seconds, unread = 10 ** np.minimum(log, until), np.full(bath.size, math.nan)
    return _ends(induction_line(strength[bath], seconds, log <= until, bath, unread, 180, 40, 150).slope, -1.2)


def _stay(rng: np.random.Generator, fish: int, journeys: int) -> tuple[float, float, float]:
    """Fish that differ in whether they stay (beta 6, 3), with one to so many journeys each."""
    whose = np.repeat(np.arange(fish), rng.integers(1, journeys + 1, fish))
    stays = rng.random(whose.size) < rng.beta(6, 3, fish)[whose]
    told = staying(np.where(stays, 0.0, 9000.0), np.zeros(whose.size), whose, ["x"] * whose.size, 2000)
    return _ends(told.all.share, 2 / 3)


def _kernel(rng: np.random.Generator, found: int, scale: float) -> tuple[float, float, float] | None:
    """Along 80 km in cells of 2 km, effort that differs tenfold."""
    effort = rng.uniform(0.3, 3.0, 40)
    released = rng.uniform(10, 70, 20 * found)
    cell = np.floor((released + rng.laplace(0, scale, 20 * found)) / 2).astype(int)
    inside = (cell >= 0) & (cell < 40)
    seen = inside & (rng.random(cell.size) < np.where(inside, effort[np.clip(cell, 0, 39)] / 3 * 0.3, 0))
    try:
        told = laplace_kernel(released[seen][:found], cell[seen][:found], np.arange(0.0, 82.0, 2.0), effort)
    except CoreError:
        return None
    return _ends(told.scale, scale)


def _closed(rng: np.random.Generator, model: str, fish: int, catches: int) -> tuple[float, float, float] | None:
    chances = np.full(catches, 0.2) if model == "M0" else rng.uniform(0.1, 0.3, catches)
    x = (rng.random((fish, catches)) < chances).astype(int)
    x = x[x.any(axis=1)]
    try:
        told = closed_models(closed_catches(x))
    except CoreError:
        return None
    return _ends(next(each for each in told if each.name == model).n, fish)


def _grown(rng: np.random.Generator, fish: int, skewed: bool) -> tuple[float, float, float]:
    """Growth in a year at 400 mm; fish differ by 30 % of their mean."""
    length, years = rng.uniform(250, 500, fish), rng.choice([0.5, 1, 1, 2, 3], fish) * rng.uniform(0.9, 1.1, fish)
    own = rng.gamma(1 / 0.09, 0.09, fish) if skewed else 1 + 0.3 * rng.standard_normal(fish)
    grown = np.round(expected(80, 25, 280, 460, length, years) * own + rng.normal(0, 2.5, fish))
    return _ends(growth_by_increments(Increments(length, grown, years), [400]).at[0][1], 80 - 120 * 55 / 180)


_SITES, _ICC = (3, 5, 12, 40), (0.0, 0.1, 0.3)
INTERVALS = (
    Interval("mean over sites", _site_mean, tuple(product(_SITES, _ICC))),
    Interval("median over sites", _site_median, tuple(product(_SITES, _ICC))),
    Interval("share over sites (PSD)", _site_share, tuple(product(_SITES, _ICC, (0.05, 0.3, 0.5, 0.8)))),
    Interval("share over fish, Wilson", _wilson, tuple(product((10, 50, 400), (0.05, 0.2, 0.5)))),
    Interval("median over fish (at least)", _median, ((8,), (40,), (400,))),
    Interval("shift over fish", _shift, ((6, 8, 0), (20, 30, 0), (20, 30, 10), (200, 100, 1))),
    Interval("shift over sites (at least)", _site_shift, tuple(product((5, 8, 12), (False, True), (0.1, 0.3))), 400),
    Interval("mean mass at a length", _mean_mass, tuple(product((8, 40, 300), (0.04, 0.11)))),
    Interval("slope over sites", _line_at_sites, tuple(product((4, 8, 20), (0.0, 0.01)))),
    Interval("difference of lines over fish", _lines, ((8, 8, 0.05, 0.05), (20, 100, 0.1, 0.03), (20, 100, 0.03, 0.1),
                                                       (300, 300, 0.05, 0.05))),
    Interval("difference of lines over sites", _lines_at_sites, tuple(product((3, 6, 12), (False, True)))),
    Interval("catch per effort", _cpue, tuple(product((3, 5, 10, 30), (10.0, 40.0), (1.0, 4.0)))),
    Interval("catch per effort, strata", _strata, tuple(product((3, 6, 12), (1.0, 4.0)))),
    Interval("change at the same sites", _change, tuple(product((5, 12, 30), (5.0, 20.0), (1.0, 6.0)))),
    Interval("trend", _trend, tuple(product((10, 30), (5, 8), (2.0, 10.0), (0.0, 0.3)))),
    Interval("removal", _removal, tuple(product((50, 200), (0.4, 0.6), (3, 4))), 600),
    Interval("removal at many sites", _removal_sites, tuple(product((5, 12), (2, 3), (12.0,))), 250),
    Interval("Leslie", _depletion, ((leslie, 500, 0.1, 6), (leslie, 2000, 0.05, 8), (leslie, 300, 0.3, 4))),
    Interval("DeLury", _depletion, ((delury, 500, 0.1, 6), (delury, 2000, 0.05, 8), (delury, 300, 0.3, 4))),
    Interval("Petersen (at least)", _petersen, ((300, 50, 60), (1000, 100, 150), (5000, 200, 300))),
    Interval("Petersen, strata (at least)", _petersen_strata, tuple(product((2, 4), (200, 1500)))),
    Interval("Schnabel", _schnabel, ((200, 20, 5), (500, 30, 8), (3000, 100, 10)), 600),
    Interval("fish by M0 and Mt", _closed, tuple(product(("M0", "Mt"), (100, 400), (4, 8))), 600),
    Interval("share that stays, over fish", _stay, tuple(product((20, 60, 200), (1, 6)))),
    Interval("scale of movement", _kernel, tuple(product((20, 60), (3.0, 8.0))), 600),
    Interval("growth of marked fish", _grown, tuple(product((15, 40, 100), (False, True))), 250),
    Interval("induction time by strength", _induction, tuple(product((5, 8, 15), (1e6, 200.0, 150.0))), 600),
    Interval("share of a cohort over sites", _cohort_share, tuple(product((5, 8, 15), (0.5, 1.0))), 250),
    Interval("mean of a cohort", _cohorts, tuple(product((150, 600), (3.0, 5.0), (1.0, 10.0))), 250),
)  # fmt: skip


def _share_held(at: tuple[int, int]) -> float:
    """Coverage of one design."""
    interval = INTERVALS[at[0]]
    design = interval.grid[at[1]]
    rng = np.random.default_rng([zlib.crc32(interval.name.encode()), at[1]])
    return coverage(lambda made: interval.survey(made, *design), interval.replicates, rng).share


def _told(design: Iterable[Any]) -> str:
    return ", ".join(
        each.__name__ if callable(each) else str(each) if isinstance(each, str) else f"{each:g}" for each in design
    )


def measure() -> None:
    with ProcessPoolExecutor() as processes:
        for place, interval in enumerate(INTERVALS):
            found = list(processes.map(_share_held, [(place, cell) for cell in range(len(interval.grid))]))
            least = int(np.nanargmin(found))
            error = 100 * math.sqrt(0.05 * 0.95 / interval.replicates)
            show(
                f"{interval.name}: {len(found)} designs",
                f"{100 * np.nanmean(found):.1f} %",
                f"least {100 * found[least]:.1f} at ({_told(interval.grid[least])}), most {100 * np.nanmax(found):.1f}; one +- {error:.1f}",
            )
