"""One block of replicates: the simulated population and the survey on it, vectorised inside the block."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray
from scipy import stats

from nailwright_core.findings.abundance import chapman, chapman_intervals, removal_many, repeated_catches
from nailwright_core.plan.rehearsal.designs import Design, MarksDesign, RemovalDesign, TrendDesign


@dataclass(frozen=True)
class Block:
    design: Design
    replicates: int
    seed: Any
    level: float


@dataclass(frozen=True)
class Answers:
    value: NDArray[np.float64]
    lower: NDArray[np.float64]
    upper: NDArray[np.float64]


def simulate_block(block: Block) -> Answers:
    """One block of replicates of a design."""
    rng = np.random.default_rng(block.seed)
    design = block.design
    if isinstance(design, MarksDesign):
        return _marks(rng, design, block.replicates, block.level)
    if isinstance(design, RemovalDesign):
        return _removal(rng, design, block.replicates, block.level)
    return _trend(rng, design, block.replicates, block.level)


def _marks(rng: np.random.Generator, design: MarksDesign, n: int, level: float) -> Answers:
    sizes = np.full(design.occasions, design.catch // design.occasions)
    sizes[: design.catch % design.occasions] += 1
    sizes = sizes[sizes > 0]
    if design.heterogeneity == 0:
        caught, recaptured = _alike(rng, design, sizes, n)
    else:
        drawn = [_unlike(rng, design, sizes) for _ in range(n)]
        caught, recaptured = np.array([each for each, _ in drawn]), np.array([each for _, each in drawn])
    value, lower, upper = np.full((3, n), np.nan)
    # what was caught enters the estimator, not what was planned: fewer fish may be left than that
    for catches, chosen in _by_catches(caught):
        if catches.size == 1:
            value[chosen] = chapman(design.marks, catches[0], recaptured[chosen])
            lower[chosen], upper[chosen] = chapman_intervals(design.marks, catches[0], recaptured[chosen], level)
        elif catches.size:  # a fish may be met on several occasions
            found = repeated_catches(design.marks, catches.tolist(), recaptured[chosen], level)
            value[chosen], lower[chosen], upper[chosen] = found
    return Answers(value, lower, upper)


def _by_catches(caught: NDArray[np.int64]) -> Iterator[tuple[NDArray[np.int64], NDArray[np.bool_]]]:
    """The different rows of catches, those that brought none left out, and which surveys had them."""
    different, place = np.unique(caught, axis=0, return_inverse=True)
    for row, catches in enumerate(different):
        yield catches[catches > 0], place.ravel() == row


def _alike(
    rng: np.random.Generator, design: MarksDesign, sizes: NDArray[Any], n: int
) -> tuple[NDArray[np.int64], NDArray[np.int64]]:
    """Catches and recaptures where every fish is as likely to be caught: no fish need be drawn, only counts."""
    marked = rng.binomial(design.marks, 1 - design.leaving, n)
    plain = rng.binomial(design.population - design.marks, 1 - design.leaving, n)
    carrying = rng.binomial(marked, 1 - design.tag_loss)
    without = plain + marked - carrying
    caught = np.minimum(sizes, (carrying + without)[:, None])
    again = sum(rng.hypergeometric(carrying, without, catch) for catch in caught.T)
    return caught, np.asarray(again, dtype=np.int64)


def _unlike(rng: np.random.Generator, design: MarksDesign, sizes: NDArray[Any]) -> tuple[NDArray[np.int64], int]:
    """Catches and recaptures where fish differ: a fish that is easily caught is marked sooner and met again sooner.

    Drawing without replacement in proportion to catchability is taking the smallest of exponential times.
    """
    catchability = np.exp(rng.normal(0, design.heterogeneity, design.population))
    times = rng.exponential(size=design.population) / catchability
    carries = np.zeros(design.population, dtype=bool)
    carries[np.argpartition(times, design.marks - 1)[: design.marks]] = True
    carries &= rng.random(design.population) >= design.tag_loss
    stays = np.flatnonzero(rng.random(design.population) >= design.leaving)
    caught, total = np.minimum(sizes, stays.size), 0
    for size in caught[caught > 0]:
        again = rng.exponential(size=stays.size) / catchability[stays]
        total += int(carries[stays[np.argpartition(again, size - 1)[:size]]].sum())
    return caught, total


def _removal(rng: np.random.Generator, design: RemovalDesign, n: int, level: float) -> Answers:
    left = np.full(n, design.population)
    catches = np.empty((n, design.passes), dtype=np.int64)
    for step in range(design.passes):
        catches[:, step] = rng.binomial(left, design.capture * (1 - design.falling) ** step)
        left = left - catches[:, step]
    return Answers(*removal_many(catches, level))


def _trend(rng: np.random.Generator, design: TrendDesign, n: int, level: float) -> Answers:
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
    return Answers(np.expm1(slope), np.expm1(slope - t * se), np.expm1(slope + t * se))
