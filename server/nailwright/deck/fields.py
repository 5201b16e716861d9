"""Reading single values of a row that came from outside; each refuses with what was expected and got."""

from __future__ import annotations

import math
from collections.abc import Mapping
from datetime import datetime
from typing import Any
from uuid import UUID

from django.utils.dateparse import parse_datetime

from nailwright_core.common.errors import CoreError


def read_id(row: Mapping[str, Any], field: str) -> UUID:
    """A key."""
    try:
        return UUID(str(row[field]))
    except (KeyError, ValueError) as error:
        raise CoreError("key_unreadable", f"Expected {field} as a UUID; got {row.get(field)!r}.", field) from error


def read_time(row: Mapping[str, Any], field: str) -> datetime:
    """A moment with its offset from UTC."""
    value = row.get(field)
    try:
        moment = parse_datetime(value) if isinstance(value, str) else None
    except ValueError:
        moment = None
    if moment is None or moment.tzinfo is None:
        raise CoreError(
            "time_unreadable",
            f"Expected {field} as date and time with zone, like 2026-06-01T21:30:00Z; got {value!r}.",
            field,
        )
    return moment


def read_number(row: Mapping[str, Any], field: str, low: float, high: float, unit: str) -> float | None:
    """A finite number from ``low`` to ``high``; None where it is absent."""
    value = row.get(field)
    if value is None:
        return None
    if (
        not isinstance(value, int | float)
        or isinstance(value, bool)
        or not math.isfinite(value)
        or not low <= value <= high
    ):
        raise CoreError(
            "number_out_of_range", f"Expected {field} from {low:g} to {high:g} {unit}; got {value!r}.", field
        )
    return float(value)
