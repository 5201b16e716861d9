"""One block of replicates: the simulated population and the survey on it, vectorised inside the block."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray
from scipy import stats

from nailwright_core.common.errors import CoreError
from nailwright_core.findings.abundance import chapman, chapman_intervals, removal
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
    if design.heterogeneity == 0:
        recaptured = _alike(rng, design, sizes, n)
    else:
        recaptured = np.array([_unlike(rng, design, sizes) for _ in range(n)])
    value = chapman(design.marks, design.catch, recaptured)
    lower, upper = chapman_intervals(design.marks, design.catch, recaptured, level)
    return Answers(value, lower, upper)


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


def _removal(rng: np.random.Generator, design: RemovalDesign, n: int, level: float) -> Answers:
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
    return Answers(value, lower, upper)


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
