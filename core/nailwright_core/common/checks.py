"""What public functions of core ask of their numbers, and the one way in which they refuse."""

from __future__ import annotations

import math
from typing import SupportsFloat

import numpy as np
from numpy.typing import ArrayLike, NDArray

from nailwright_core.common.errors import CoreError


def check_level(level: float) -> None:
    """Refuse what is no level of an interval.

    Args:
        level: what is to be one.

    Raises:
        CoreError: ``level_out_of_range`` unless 0 < level < 1.
    """
    if not 0 < level < 1:
        raise CoreError("level_out_of_range", f"Expected a level between 0 and 1, such as 0.95; got {level}.", "level")


def finite(value: float, field: str, low: float = -math.inf, high: float = math.inf, above: bool = False) -> float:
    """A finite number from ``low`` to ``high`` (``above``: more than ``low``).

    Args:
        value: what is to be one.
        field: its name in the refusal.
        low: least that is taken.
        high: greatest that is taken.
        above: ``low`` itself is not taken.

    Raises:
        CoreError: ``number_out_of_range``.
    """
    if isinstance(value, SupportsFloat) and not isinstance(value, bool):
        read = float(value)
        if math.isfinite(read) and (low < read if above else low <= read) and read <= high:
            return read
    span = f"{'above' if above else 'from'} {low:g}" if low > -math.inf else ""
    span += f" {'and at most' if above else 'to'} {high:g}" if high < math.inf else "" if above or not span else " on"
    raise CoreError("number_out_of_range", f"Expected a finite number{' ' + span if span else ''}; got {value}.", field)


def whole_counts(values: ArrayLike, field: str, dimensions: int = 1) -> NDArray[np.float64]:
    """Whole numbers of fish, 0 or more, as an array of so many dimensions.

    Args:
        values: what are to be counts.
        field: their name in the refusal.
        dimensions: of the array that is expected.

    Raises:
        CoreError: ``count_out_of_range``.
    """
    counts = numbers(values, field, dimensions)
    if (counts < 0).any() or (counts != np.round(counts)).any():
        worst = counts[(counts < 0) | (counts != np.round(counts))].flat[0]
        raise CoreError("count_out_of_range", f"Expected whole numbers of fish, 0 or more; got {worst:g}.", field)
    return counts


def numbers(values: ArrayLike, field: str, dimensions: int = 1) -> NDArray[np.float64]:
    """Finite numbers as an array of so many dimensions.

    Args:
        values: what are to be numbers.
        field: their name in the refusal.
        dimensions: of the array that is expected.

    Raises:
        CoreError: ``number_out_of_range``.
    """
    try:
        found = np.asarray(values, dtype=np.float64)
    except (TypeError, ValueError) as error:
        raise CoreError("number_out_of_range", "Expected numbers in rows of one length.", field) from error
    if found.ndim != dimensions:
        raise CoreError("number_out_of_range", f"Expected numbers in {dimensions} dimensions; got {found.ndim}.", field)
    if not np.isfinite(found).all():
        raise CoreError("number_out_of_range", "Expected finite numbers; got nan or an infinite one.", field)
    return found
