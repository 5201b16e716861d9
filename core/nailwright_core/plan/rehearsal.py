"""Rehearsing a survey: a simulated population, the planned survey on it, many times, with the estimators of the findings.

A design is simulated in blocks of replicates, vectorised inside a block; each block has its own seed, spawned from the
rehearsal's, so that the answer is the same on one process, many, or a cluster.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from concurrent.futures import Executor
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from numpy.typing import NDArray
from scipy import stats

from nailwright_core.common.errors import CoreError
from nailwright_core.common.intervals import wilson
from nailwright_core.common.parallel import spread
from nailwright_core.findings.abundance import chapman, chapman_intervals, removal

BLOCK = 100
MAX_REPLICATES = 20_000
GOOD_WITHIN, GOOD_USELESS = 0.8, 0.2
#: Spread of log catchability among fish at which the most catchable tenth is about three times as likely as the median.
MAX_HETEROGENEITY = 2.0


@dataclass(frozen=True)
class MarksDesign:
    """Closed marks: ``marks`` go out, then ``occasions`` catches of ``catch`` fish in all look for them.

    Attributes:
        population: fish in the water at marking.
        marks: fish marked.
        catch: fish looked at, over all occasions together; none is looked at twice on one occasion.
        occasions: into how many the catch is split.
        heterogeneity: SD of log catchability among fish; 0 where every fish is as likely to be caught.
        tag_loss: share of marks lost before the catch.
        leaving: share of all fish, marked or not, that leave before the catch; the truth is then what stays.
        cost_mark, cost_catch: of one fish, in any one currency.
    """

    population: int
    marks: int
    catch: int
    occasions: int = 1
    heterogeneity: float = 0.0
    tag_loss: float = 0.0
    leaving: float = 0.0
    cost_mark: float = 0.0
    cost_catch: float = 0.0

    @property
    def truth(self) -> float:
        """What the estimate is held against: fish in the water at marking. Fish that leave change both counts alike."""
        return float(self.population)

    @property
    def cost(self) -> float:
        """Of the whole survey."""
        return self.marks * self.cost_mark + self.catch * self.cost_catch

    def check(self) -> None:
        """Raises CoreError ``design_out_of_range``."""
        _between("population", self.population, 10, 2_000_000)
        _between("marks", self.marks, 1, self.population)
        _between("catch", self.catch, 1, self.population * self.occasions)
        _between("occasions", self.occasions, 1, 50)
        _between("heterogeneity", self.heterogeneity, 0, MAX_HETEROGENEITY)
        _between("tag_loss", self.tag_loss, 0, 0.95)
        _between("leaving", self.leaving, 0, 0.95)


@dataclass(frozen=True)
class RemovalDesign:
    """Removal: ``passes`` over a closed stretch.

    Attributes:
        population: fish in the stretch.
        capture: chance of capture in the first pass.
        falling: share by which that chance falls from pass to pass.
        cost_pass: of one pass.
    """

    population: int
    capture: float
    passes: int = 3
    falling: float = 0.0
    cost_pass: float = 0.0

    @property
    def truth(self) -> float:
        """Fish in the stretch."""
        return float(self.population)

    @property
    def cost(self) -> float:
        """Of the whole survey."""
        return self.passes * self.cost_pass

    def check(self) -> None:
        """Raises CoreError ``design_out_of_range``."""
        _between("population", self.population, 1, 200_000)
        _between("capture", self.capture, 0.01, 0.99)
        _between("passes", self.passes, 2, 10)
        _between("falling", self.falling, 0, 0.9)


@dataclass(frozen=True)
class TrendDesign:
    """Catch per effort over years: the yearly change, as the slope of log(mean + 0.5).

    Attributes:
        sites: visited each year.
        years: visits in line.
        mean: fish a site in the first year.
        k: aggregation of catches among sites (negative binomial); small is patchy.
        change: yearly, -0.1 for a tenth fewer each year.
        site_sd: SD of log mean among sites that stays from year to year.
        cost_site: of one visit to one site.
    """

    sites: int
    years: int
    mean: float
    k: float
    change: float
    site_sd: float = 0.0
    cost_site: float = 0.0

    @property
    def truth(self) -> float:
        """The yearly change."""
        return self.change

    @property
    def cost(self) -> float:
        """Of the whole survey."""
        return self.sites * self.years * self.cost_site

    def check(self) -> None:
        """Raises CoreError ``design_out_of_range``."""
        _between("sites", self.sites, 2, 2000)
        _between("years", self.years, 3, 40)
        _between("mean", self.mean, 0.01, 1e5)
        _between("k", self.k, 0.05, 1000)
        _between("change", self.change, -0.9, 2)
        _between("site_sd", self.site_sd, 0, 3)


Design = MarksDesign | RemovalDesign | TrendDesign


@dataclass(frozen=True)
class Rehearsal:
    """What came of many rehearsals of one design.

    Attributes:
        truth: what every answer is held against.
        answers: shape (replicates,); nan where the survey gave none.
        bias: mean answer over truth, less one (for a trend: mean answer less truth).
        spread: the middle ``level`` of the answers.
        coverage: share of intervals that hold the truth, with its own interval.
        useless: share of surveys whose answer is useless: none, or an interval wider than the answer itself (for a
            trend: one that does not tell the direction).
        within: share of answers within a quarter of the truth (for a trend: that tell the true direction).
        cost: of one survey.
        seed: with which it can be repeated.
    """

    design: Design
    truth: float
    answers: NDArray[np.float64]
    bias: float
    spread: tuple[float, float]
    median: float
    coverage: float
    coverage_interval: tuple[float, float]
    useless: float
    within: float
    cost: float
    replicates: int
    level: float
    seed: int

    @property
    def good_enough(self) -> bool:
        """More than 80 of 100 surveys near enough and fewer than 20 useless (ours, no source)."""
        return self.within > GOOD_WITHIN and self.useless < GOOD_USELESS


@dataclass(frozen=True)
class _Block:
    design: Design
    replicates: int
    seed: Any
    level: float


@dataclass(frozen=True)
class _Answers:
    value: NDArray[np.float64]
    lower: NDArray[np.float64]
    upper: NDArray[np.float64]


def rehearse(
    design: Design, replicates: int = 1000, seed: int = 0, level: float = 0.95, executor: Executor | None = None
) -> Rehearsal:
    """Rehearse one design.

    Args:
        replicates: simulated surveys, 100 to 20,000.
        executor: where blocks are simulated; here without one.

    Raises:
        CoreError: ``design_out_of_range``.
    """
    *_, (_, last) = rehearse_sweep([design], replicates, seed, level, executor)
    assert last is not None
    return last


def rehearse_sweep(
    designs: Sequence[Design],
    replicates: int = 1000,
    seed: int = 0,
    level: float = 0.95,
    executor: Executor | None = None,
) -> Iterator[tuple[int, Rehearsal | None]]:
    """Rehearse several designs; yields (blocks done, a rehearsal that is complete or None), so that progress can be told.

    Rehearsals come in the order in which they are done; each names its design.
    """
    for design in designs:
        design.check()
    _between("replicates", replicates, 100, MAX_REPLICATES)
    seeds = np.random.SeedSequence(seed).spawn(len(designs))
    pieces: list[_Block] = []
    owner: list[int] = []
    for place, design in enumerate(designs):
        sizes = _sizes(replicates)
        for size, own in zip(sizes, seeds[place].spawn(len(sizes)), strict=True):
            pieces.append(_Block(design, size, own, level))
            owner.append(place)
    found: dict[int, dict[int, _Answers]] = {place: {} for place in range(len(designs))}
    for done, (piece, answers) in enumerate(spread(simulate_block, pieces, executor), 1):
        place = owner[piece]
        found[place][piece] = answers
        complete = len(found[place]) == len(_sizes(replicates))
        ordered = [found[place][key] for key in sorted(found[place])]
        yield done, _summary(designs[place], ordered, level, seed) if complete else None


def n_blocks(n_designs: int, replicates: int) -> int:
    """How many blocks a sweep has, for its progress."""
    return n_designs * len(_sizes(replicates))


def vary(design: Design, choice: str, values: Sequence[float]) -> list[Design]:
    """The design with one choice set to each value.

    Raises:
        CoreError: ``choice_unknown``.
    """
    if choice not in design.__dataclass_fields__:
        raise CoreError(
            "choice_unknown", f"Expected one of {', '.join(design.__dataclass_fields__)}; got '{choice}'.", "choice"
        )
    whole = isinstance(getattr(design, choice), int)
    return [replace(design, **{choice: round(value) if whole else value}) for value in values]  # type: ignore[arg-type]


def simulate_block(block: _Block) -> _Answers:
    """One block of replicates of a design."""
    rng = np.random.default_rng(block.seed)
    design = block.design
    if isinstance(design, MarksDesign):
        return _marks(rng, design, block.replicates, block.level)
    if isinstance(design, RemovalDesign):
        return _removal(rng, design, block.replicates, block.level)
    return _trend(rng, design, block.replicates, block.level)


def _marks(rng: np.random.Generator, design: MarksDesign, n: int, level: float) -> _Answers:
    sizes = np.full(design.occasions, design.catch // design.occasions)
    sizes[: design.catch % design.occasions] += 1
    if design.heterogeneity == 0:
        recaptured = _alike(rng, design, sizes, n)
    else:
        recaptured = np.array([_unlike(rng, design, sizes) for _ in range(n)])
    value = chapman(design.marks, design.catch, recaptured)
    lower, upper = chapman_intervals(design.marks, design.catch, recaptured, level)
    return _Answers(value, lower, upper)


def _alike(rng: np.random.Generator, design: MarksDesign, sizes: NDArray[Any], n: int) -> NDArray[np.int64]:
    """Recaptures where every fish is as likely to be caught: no fish need be drawn, only counts."""
    marked = rng.binomial(design.marks, 1 - design.leaving, n)
    plain = rng.binomial(design.population - design.marks, 1 - design.leaving, n)
    carrying = rng.binomial(marked, 1 - design.tag_loss)
    without = plain + marked - carrying
    total = np.zeros(n, dtype=np.int64)
    for size in sizes:
        total += rng.hypergeometric(carrying, without, np.minimum(size, carrying + without))
    return total


def _unlike(rng: np.random.Generator, design: MarksDesign, sizes: NDArray[Any]) -> int:
    """Recaptures where fish differ: a fish that is easily caught is marked sooner and met again sooner.

    Drawing without replacement in proportion to catchability is taking the smallest of exponential times.
    """
    catchability = np.exp(rng.normal(0, design.heterogeneity, design.population))
    times = rng.exponential(size=design.population) / catchability
    carries = np.zeros(design.population, dtype=bool)
    carries[np.argpartition(times, design.marks - 1)[: design.marks]] = True
    carries &= rng.random(design.population) >= design.tag_loss
    stays = np.flatnonzero(rng.random(design.population) >= design.leaving)
    total = 0
    for size in sizes:
        size = min(int(size), stays.size)
        if size == 0:
            continue
        again = rng.exponential(size=stays.size) / catchability[stays]
        total += int(carries[stays[np.argpartition(again, size - 1)[:size]]].sum())
    return total


def _removal(rng: np.random.Generator, design: RemovalDesign, n: int, level: float) -> _Answers:
    left = np.full(n, design.population)
    catches = np.empty((n, design.passes), dtype=np.int64)
    for step in range(design.passes):
        catches[:, step] = rng.binomial(left, design.capture * (1 - design.falling) ** step)
        left = left - catches[:, step]
    value, lower, upper = np.full((3, n), np.nan)
    known: dict[bytes, tuple[float, float, float]] = {}
    for place, row in enumerate(catches):
        key = row.tobytes()
        if key not in known:
            try:
                found = removal(row.tolist(), level=level).n
                known[key] = found.value, found.lower, found.upper
            except CoreError:
                known[key] = math.nan, math.nan, math.nan
        value[place], lower[place], upper[place] = known[key]
    return _Answers(value, lower, upper)


def _trend(rng: np.random.Generator, design: TrendDesign, n: int, level: float) -> _Answers:
    years = np.arange(design.years)
    site = np.exp(rng.normal(0, design.site_sd, (n, design.sites, 1)) - design.site_sd**2 / 2)
    mean = design.mean * (1 + design.change) ** years * site
    counts = rng.negative_binomial(design.k, design.k / (design.k + mean)).mean(axis=1)
    logs = np.log(counts + 0.5)
    time = years - years.mean()
    ss = float((time**2).sum())
    slope = logs @ time / ss
    residual = logs - logs.mean(axis=1, keepdims=True) - slope[:, None] * time
    se = np.sqrt((residual**2).sum(axis=1) / (design.years - 2) / ss)
    t = float(stats.t.ppf(0.5 + level / 2, design.years - 2))
    return _Answers(np.expm1(slope), np.expm1(slope - t * se), np.expm1(slope + t * se))


def _summary(design: Design, blocks: Sequence[_Answers], level: float, seed: int) -> Rehearsal:
    value = np.concatenate([each.value for each in blocks])
    lower = np.concatenate([each.lower for each in blocks])
    upper = np.concatenate([each.upper for each in blocks])
    truth = design.truth
    known = np.isfinite(value)
    n = int(value.size)
    with np.errstate(invalid="ignore"):
        holds = known & (lower <= truth) & (truth <= upper)
        if isinstance(design, TrendDesign):
            tells = (lower > 0) | (upper < 0)
            useless = ~known | ~tells
            within = known & tells & (np.sign(value) == np.sign(truth))
            bias = float(value[known].mean() - truth) if known.any() else math.nan
        else:
            useless = ~known | ~np.isfinite(upper) | (upper - lower > value)
            within = known & (np.abs(value / truth - 1) <= 0.25)
            bias = float(value[known].mean() / truth - 1) if known.any() else math.nan
    ends = np.quantile(value[known], [(1 - level) / 2, 0.5, (1 + level) / 2]) if known.any() else (math.nan,) * 3
    return Rehearsal(
        design=design,
        truth=truth,
        answers=value,
        bias=bias,
        spread=(float(ends[0]), float(ends[2])),
        median=float(ends[1]),
        coverage=float(holds.sum() / n),
        coverage_interval=wilson(int(holds.sum()), n),
        useless=float(useless.sum() / n),
        within=float(within.sum() / n),
        cost=design.cost,
        replicates=n,
        level=level,
        seed=seed,
    )


def _sizes(replicates: int) -> list[int]:
    whole, rest = divmod(replicates, BLOCK)
    return [BLOCK] * whole + ([rest] if rest else [])


def _between(name: str, value: float, low: float, high: float) -> None:
    if not low <= value <= high:
        raise CoreError(
            "design_out_of_range",
            f"Expected {name.replace('_', ' ')} from {low:,g} to {high:,g}; got {value:,g}.",
            name,
        )
