"""One block of replicates: the simulated population and the survey on it, vectorised inside the block."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from nailwright_core.findings.abundance import chapman, chapman_intervals, removal_falling_many, repeated_catches
from nailwright_core.findings.catches.catch_per_effort import trend_many
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
    """One block of replicates of a design.

    Args:
        block: a design, replicates and the seed.
    """
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
    # single precision: seven digits are plenty to tell which time is smaller, and all of this is memory
    slowness = np.exp(-design.heterogeneity * rng.standard_normal(design.population, dtype=np.float32))
    times = rng.standard_exponential(design.population, dtype=np.float32) * slowness
    carries = np.zeros(design.population, dtype=bool)
    marked = np.argpartition(times, design.marks - 1)[: design.marks]
    carries[marked[rng.random(design.marks) >= design.tag_loss]] = True
    if design.leaving:
        stays = rng.random(design.population, dtype=np.float32) >= design.leaving
        slowness, carries = slowness[stays], carries[stays]
    caught, total = np.minimum(sizes, carries.size), 0
    for size in caught[caught > 0]:
        again = rng.standard_exponential(carries.size, dtype=np.float32) * slowness
        total += int(carries[np.argpartition(again, size - 1)[:size]].sum())
    return caught, total


def _removal(rng: np.random.Generator, design: RemovalDesign, n: int, level: float) -> Answers:
    left = np.full(n, design.population)
    catches = np.empty((n, design.passes), dtype=np.int64)
    for step in range(design.passes):
        catches[:, step] = rng.binomial(left, design.capture * (1 - design.falling) ** step)
        left = left - catches[:, step]
    return Answers(*removal_falling_many(catches, level=level))


def _trend(rng: np.random.Generator, design: TrendDesign, n: int, level: float) -> Answers:
    years = np.arange(design.years, dtype=np.float64)
    site = np.exp(rng.normal(0, design.site_sd, (n, design.sites, 1)) - design.site_sd**2 / 2)
    year = np.exp(rng.normal(0, design.year_sd, (n, 1, design.years)) - design.year_sd**2 / 2)
    mean = design.mean * (1 + design.change) ** years * site * year
    counts = rng.negative_binomial(design.k, design.k / (design.k + mean))
    value, _, lower, upper, _ = trend_many(counts, None, years, level)
    return Answers(value, lower, upper)
