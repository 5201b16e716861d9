"""Searching whole numbers, many at once."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray

from nailwright_core.common.arrays import Floats


def first_not(holds: Callable[[Floats], NDArray[np.bool_]], start: Floats) -> Floats:
    """For each, the first whole number from ``start`` on at which ``holds`` is no longer so; it holds up to there.

    Args:
        holds: a condition on an array, true up to some number and false from there on.
        start: first numbers to be looked at, shape (n,).
    """
    low, step = start.astype(float), np.ones_like(start, dtype=float)
    open_ = holds(low)
    first = np.where(open_, np.nan, low)
    high = low + step
    while (grows := np.isnan(first) & holds(high)).any():
        low = np.where(grows, high, low)
        step = np.where(grows, 2 * step, step)
        high = np.where(grows, low + step, high)
    while (wide := np.isnan(first) & (high - low > 1)).any():
        middle = np.floor((low + high) / 2)
        still = holds(middle)
        low = np.where(wide & still, middle, low)
        high = np.where(wide & ~still, middle, high)
    return np.where(np.isnan(first), high, first)
