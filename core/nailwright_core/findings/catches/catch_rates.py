"""Catch per unit of effort of groups of runs, with the change between the last two ends of an order."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray

from nailwright_core.common.arrays import Floats
from nailwright_core.common.checks import check_level, numbers
from nailwright_core.common.errors import CoreError
from nailwright_core.common.estimate import Assumption, Estimate
from nailwright_core.findings.catches.catch_per_effort import CatchTrend, cpue, cpue_change, cpue_trend

#: Whether each hour of effort counts alike, or each site.
MEANS = ("effort", "site")
#: Fewer years have no trend.
YEARS_FOR_TREND = 3


@dataclass(frozen=True)
class Rate:
    """Catch per effort of one group of runs.

    Attributes:
        rate: fish per unit of effort; ``rate.n`` sites.
        fish, effort, runs: in all. empty: runs with none.
    """

    name: str
    rate: Estimate
    fish: int
    effort: float
    runs: int
    empty: int


@dataclass(frozen=True)
class CatchRates:
    """Attributes:
    all: every run. groups: in the order in which they were given.
    change: the last group's rate over the first's at sites fished in both, less one; None where too few sites were.
    shared: how many sites that is over.
    trend: over years, where groups are years; None where they are too few.
    """

    all: Rate
    groups: tuple[Rate, ...]
    change: Estimate | None
    shared: int
    trend: CatchTrend | None
    assumptions: tuple[Assumption, ...]


def catch_rates(
    counts: ArrayLike,
    effort: ArrayLike,
    sites: ArrayLike,
    groups: Sequence[str],
    visits: Sequence[str] | None = None,
    mean: str = "effort",
    years: bool = False,
    level: float = 0.95,
) -> CatchRates:
    """Rates of all runs and of each group, with intervals over sites.

    Args:
        counts: fish of each run, none among them, shape (n,). effort: of each run in one unit, shape (n,).
        sites: label of each run's site, shape (n,). groups: label of its group, in the order in which groups are to stand.
        visits: label of each run's visit where groups are sites: of one site, its visits are what the interval is over.
        mean: one of ``MEANS``: the ratio of sums, or the mean of sites that count alike.
        years: whether the groups are years, so that their trend is told.

    Raises:
        CoreError: ``no_data``, ``lengths_differ``, ``count_out_of_range``, ``choice_unknown``, ``level_out_of_range``.

    Source: ``catch_per_effort`` of each group's sums over sites.
    """
    check_level(level)
    if mean not in MEANS:
        raise CoreError("choice_unknown", f"Expected a mean by {' or '.join(MEANS)}; got '{mean}'.", "mean")
    k, f = numbers(counts, "counts"), numbers(effort, "effort")
    at, of = np.asarray(sites), np.asarray(groups)
    if not k.size:
        raise CoreError("no_data", "Expected runs with effort; got none.", "counts")
    if not k.size == f.size == at.size == of.size:
        raise CoreError("lengths_differ", "Expected of each run its fish, effort, site and group.", "counts")
    if (k < 0).any() or not (f > 0).all():
        raise CoreError("count_out_of_range", "Expected 0 fish or more and effort above 0 of every run.", "effort")
    _, site = np.unique(at, return_inverse=True)
    names = list(dict.fromkeys(map(str, of.tolist())))
    place = {name: g for g, name in enumerate(names)}
    group = np.array([place[name] for name in map(str, of.tolist())])
    drawn = site if visits is None else np.unique(np.asarray(visits), return_inverse=True)[1]
    told = tuple(
        _rate(name, k[group == g], f[group == g], drawn[group == g], mean, level) for g, name in enumerate(names)
    )
    fish, spent = _tables(k, f, site, group)
    change, shared = _change(fish, spent, level)
    trend = _trend(fish, spent, np.array(names, dtype=float), level) if years else None
    return CatchRates(
        _rate("all", k, f, site, mean, level), told, change, shared, trend, _assumptions(trend, len(names))
    )


def _rate(name: str, k: Floats, f: Floats, site: NDArray[np.int64], mean: str, level: float) -> Rate:
    fish, effort = np.bincount(site, k), np.bincount(site, f)
    fished = effort > 0
    weights = np.ones(int(fished.sum())) if mean == "site" else None
    rate = cpue(fish[fished], effort[fished], weights, level)
    return Rate(name, rate, int(k.sum()), float(f.sum()), int(k.size), int((k == 0).sum()))


def _tables(k: Floats, f: Floats, site: NDArray[np.int64], group: NDArray[np.int64]) -> tuple[Floats, Floats]:
    """Fish and effort, each of shape (sites, groups)."""
    shape = (int(site.max()) + 1, int(group.max()) + 1)
    cell = site * shape[1] + group
    size = shape[0] * shape[1]
    fish, effort = (np.asarray(np.bincount(cell, each, size), dtype=np.float64) for each in (k, f))
    return fish.reshape(shape), effort.reshape(shape)


def _change(fish: Floats, effort: Floats, level: float) -> tuple[Estimate | None, int]:
    both = (effort[:, 0] > 0) & (effort[:, -1] > 0)
    shared = int(both.sum())
    if fish.shape[1] < 2 or shared < 2 or not fish[both][:, [0, -1]].any():
        return None, shared
    first, last = ((fish[both, g], effort[both, g]) for g in (0, -1))
    return cpue_change(first, last, level), shared


def _trend(fish: Floats, effort: Floats, years: Floats, level: float) -> CatchTrend | None:
    again = (effort > 0).sum(axis=1) > 1  # a site of one year says nothing of a change
    if years.size < YEARS_FOR_TREND or again.sum() < 2 or not fish[again].any():
        return None
    found = cpue_trend(fish[again], effort[again], years, level)
    return found if math.isfinite(found.change.value) else None


def _assumptions(trend: CatchTrend | None, groups: int) -> tuple[Assumption, ...]:
    return (
        Assumption(
            "A fish was as easy to catch in every run",
            "not checked",
            "A rate is abundance times catchability: flow, temperature, clearness, settings and crew change the second. "
            + (
                "Compare groups of like season and like water."
                if groups > 1
                else "Compare only with runs of like season and like water."
            ),
        ),
        Assumption(
            "Every run looked for this species",
            "not checked",
            "A run in which none was recorded counts as none caught.",
        ),
        *(trend.assumptions if trend else ()),
    )


def rate_sentence(found: CatchRates, species: str, unit: str) -> str:
    """What was found, how sure, from how many sites."""
    rate = found.all.rate
    told = f"{_start(species)} were caught at {_interval(rate)} {unit}, over {rate.n} sites ({found.all.fish:,} fish, {found.all.runs:,} runs"
    told += f", {found.all.empty} of them without any)." if found.all.empty else ")."
    if found.trend:
        change = found.trend.change
        return f"{told} {_start(_direction(change, 'a year'))}, over {len(found.groups)} years."
    if found.change and len(found.groups) > 1:
        first, last = found.groups[0].name, found.groups[-1].name
        return f"{told} From {first} to {last}, at the {found.shared} sites fished in both: {_direction(found.change, '')}."
    return told


def _start(species: str) -> str:
    return species[:1].upper() + species[1:]


def _direction(change: Estimate, per: str) -> str:
    """A change in per cent with its interval: said to be one only where the interval is all on one side."""
    low, high = 100 * change.lower, 100 * change.upper
    ends = f"({low:+.0f} to {high:+.0f} %)" if math.isfinite(high) else f"({low:+.0f} % and more)"
    if not math.isfinite(low):
        return (
            f"the rate changed by {100 * change.value:+.0f} %{' ' + per if per else ''}; how sure, one site cannot say"
        )
    value = f"{100 * change.value:+.0f} %" if math.isfinite(change.value) else "from none to some"
    each = f"{per} " if per else ""
    if low > 0 or high < 0:
        return f"the rate {'rose' if low > 0 else 'fell'}, {value} {each}{ends}"
    return f"neither a rise nor a fall is shown, {value} {each}{ends}"


def _interval(rate: Estimate) -> str:
    figures = 0 if rate.value >= 100 else 1 if rate.value >= 10 else 2
    if not math.isfinite(rate.lower):
        return f"{rate.value:.{figures}f} (one site, no interval)"
    return f"{rate.value:.{figures}f} ({rate.lower:.{figures}f} to {rate.upper:.{figures}f})"
