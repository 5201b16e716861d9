"""Rehearsing a survey: a simulated population, the planned survey on it, many times, with the estimators of the findings.

A design is simulated in blocks of replicates; each block has its own seed, spawned from the rehearsal's, so that the answer
is the same on one process, many, or a cluster.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from concurrent.futures import Executor
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from nailwright_core.common.intervals import wilson
from nailwright_core.common.parallel import spread
from nailwright_core.plan.rehearsal.designs import Design, TrendDesign, between
from nailwright_core.plan.rehearsal.simulating import Answers, Block, simulate_block

BLOCK = 100


MAX_REPLICATES = 20_000


GOOD_WITHIN, GOOD_USELESS = 0.8, 0.2


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

    Args:
        designs: one for each step of the sweep.
        replicates: runs of the simulation.
        seed: of the random draws; the same seed gives the same answer.
        level: of the interval, between 0 and 1.
        executor: that the work is spread over; None: this process.
    """
    for design in designs:
        design.check()
    between("replicates", replicates, 100, MAX_REPLICATES)
    seeds = np.random.SeedSequence(seed).spawn(len(designs))
    pieces: list[Block] = []
    owner: list[int] = []
    for place, design in enumerate(designs):
        sizes = _sizes(replicates)
        for size, own in zip(sizes, seeds[place].spawn(len(sizes)), strict=True):
            pieces.append(Block(design, size, own, level))
            owner.append(place)
    found: dict[int, dict[int, Answers]] = {place: {} for place in range(len(designs))}
    for done, (piece, answers) in enumerate(spread(simulate_block, pieces, executor), 1):
        place = owner[piece]
        found[place][piece] = answers
        complete = len(found[place]) == len(_sizes(replicates))
        ordered = [found[place][key] for key in sorted(found[place])]
        yield done, _summary(designs[place], ordered, level, seed) if complete else None


def n_blocks(n_designs: int, replicates: int) -> int:
    """How many blocks a sweep has, for its progress.

    Args:
        n_designs: designs of the sweep.
        replicates: runs of the simulation.
    """
    return n_designs * len(_sizes(replicates))


def _summary(design: Design, blocks: Sequence[Answers], level: float, seed: int) -> Rehearsal:
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
