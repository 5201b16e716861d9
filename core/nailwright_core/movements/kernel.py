"""How far fish move along a water, from where they were let go and where they were met, corrected for where people looked."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike

from nailwright_core.common.arrays import Floats
from nailwright_core.common.checks import check_level, numbers
from nailwright_core.common.errors import CoreError
from nailwright_core.common.estimate import Assumption, Estimate
from nailwright_core.fitting.profile import ends_of_one

#: Fewer fish found say nothing of a scale (ours, no source).
LEAST = 10


@dataclass(frozen=True)
class Kernel:
    """A Laplace kernel of places after a journey.

    Attributes:
        scale: mean distance from the place of release, in the unit of the places; ``scale.n`` journeys.
        unadjusted: what it would be were effort alike everywhere.
        unseen: share of the kernel, averaged over journeys, that lies where nobody fished or beyond the water's ends.
    """

    scale: Estimate
    unadjusted: float
    unseen: float
    assumptions: tuple[Assumption, ...]


def laplace_kernel(
    released: ArrayLike, found: ArrayLike, edges: ArrayLike, effort: ArrayLike, level: float = 0.95
) -> Kernel:
    """Scale of a Laplace kernel by likelihood: P(c) = E_c K_c / sum E K, K_c the kernel's share of cell c.

    Given that a fish was met at all, so that how many are met does not matter; nor is p of a fish in the cells told.

    Args:
        released: place of release along the water, shape (n,), any unit. found: cell in which the fish was met, shape (n,).
        edges: of the cells along the water, rising, shape (c + 1,). effort: spent in each, shape (c,).

    Raises:
        CoreError: ``too_few_journeys`` with fewer than ten, ``zone_unknown``, ``effort_missing`` where a fish was met in a cell without any,
            ``number_out_of_range``, ``no_scale`` where the data have none: all met in the cell of their release, or as far away as can be.

    Source: kernel and likelihood as in Rodriguez (2002), Ecology 83, 1-13, with effort (ours); from memory.
    """
    check_level(level)
    x, border, spent = numbers(released, "released"), numbers(edges, "edges"), numbers(effort, "effort")
    cell = np.asarray(found, dtype=np.int64)
    _check(x, cell, border, spent)
    starts, times = np.unique(np.column_stack([x, cell]), axis=0, return_counts=True)
    at, where = starts[:, 0], starts[:, 1].astype(int)

    def of(weights: Floats) -> Callable[[float], float]:
        def log_likelihood(log_scale: float) -> float:
            shares = _shares(at, border, math.exp(log_scale))
            seen = shares @ weights
            own = shares[np.arange(at.size), where] * weights[where]
            with np.errstate(divide="ignore", invalid="ignore"):
                return float(np.where(own > 0, np.log(own) - np.log(seen), -1e6) @ times)

        return log_likelihood

    span = float(border[-1] - border[0])
    low, high = math.log(span * 1e-4), math.log(span * 10)
    best, lower, upper = ends_of_one(of(spent), low, high, level)
    if of(spent)(low) > of(spent)(best) - 1e-6:
        raise CoreError(
            "no_scale",
            "All were met in the cell of their release: how far they move is less than a cell, and not told.",
            "found",
        )
    plain = ends_of_one(of((spent > 0).astype(float)), low, high, level)[0]
    scale = math.exp(best)
    seen = _shares(at, border, scale)[:, spent > 0].sum(axis=1)
    return Kernel(
        Estimate(
            scale, math.nan, 0.0 if lower is None else math.exp(lower), math.inf if upper is None else math.exp(upper), level,
            "profile likelihood, Laplace", int(x.size),
        ),
        math.exp(plain),
        float(1 - (seen @ times) / times.sum()),
        _assumptions(),
    )  # fmt: skip


def _check(x: Floats, cell: np.ndarray, border: Floats, spent: Floats) -> None:
    if x.size < LEAST:
        raise CoreError(
            "too_few_journeys", f"Expected {LEAST} journeys or more along the water; got {x.size}.", "released"
        )
    if x.shape != cell.shape or border.size != spent.size + 1 or (np.diff(border) <= 0).any() or (spent < 0).any():
        raise CoreError(
            "number_out_of_range",
            "Expected a cell of each fish, rising edges, and effort of 0 or more in each cell.",
            "edges",
        )
    if cell.min() < 0 or cell.max() >= spent.size:
        raise CoreError("zone_unknown", f"Expected numbers of cells from 0 to {spent.size - 1}.", "found")
    if not spent[cell].all():
        raise CoreError("effort_missing", "Fish were met in a cell in which no effort is written down.", "effort")


def _shares(at: Floats, border: Floats, scale: float) -> Floats:
    """The kernel's share of each cell, shape (n, cells)."""
    off = (border[None, :] - at[:, None]) / scale
    below = np.where(off < 0, 0.5 * np.exp(np.minimum(off, 0)), 1 - 0.5 * np.exp(-np.maximum(off, 0)))
    return np.diff(below, axis=1)


def _assumptions() -> tuple[Assumption, ...]:
    return (
        Assumption(
            "One scale for all fish",
            "not checked",
            "A stock of some that stay and some that roam has two; the scale then lies between.",
        ),
        Assumption(
            "A fish is as easy to catch in every cell",
            "not checked",
            "Effort is counted as it was spent; where fish are easier to catch they seem to go.",
        ),
        Assumption(
            "Fish move independently",
            "not checked",
            "Journeys of one fish, or of fish that move together, make the interval too narrow.",
        ),
    )
