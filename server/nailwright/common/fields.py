"""Reading single values of a row that came from outside; each refuses with what was expected and got."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from datetime import datetime
from typing import Any
from uuid import UUID

from django.utils.dateparse import parse_datetime

from nailwright_core.common.errors import CoreError

#: Years between which a device's clock may stand; what lies outside cannot be kept in every zone.
_FIRST_YEAR, _LAST_YEAR = 1900, 2200


def read_word(row: Mapping[str, Any], field: str, longest: int = 40) -> str:
    """A text without blanks round it; empty where it is absent.

    Raises:
        CoreError: ``not_a_text``, ``text_too_long``, ``text_unreadable`` for a null character.
    """
    value = row.get(field)
    if value is None:
        return ""
    if not isinstance(value, str):
        raise CoreError("not_a_text", f"Expected {field} as a text; got {type(value).__name__}.", field)
    if len(value) > longest:
        raise CoreError("text_too_long", f"Expected {field} in at most {longest} characters; got {len(value)}.", field)
    if "\x00" in value:
        raise CoreError("text_unreadable", f"The text of {field} holds a null character.", field)
    return value.strip()


def one_of(row: Mapping[str, Any], field: str, allowed: Sequence[str]) -> str:
    """A word of a short list; empty where it is absent and the list holds "".

    Raises:
        CoreError: ``not_a_choice``, and as ``read_word``.
    """
    value = read_word(row, field)
    if value not in allowed:
        raise CoreError(
            "not_a_choice", f"Expected {field} to be one of {', '.join(filter(None, allowed))}; got '{value}'.", field
        )
    return value


def read_id(row: Mapping[str, Any], field: str) -> UUID:
    """A key.

    Raises:
        CoreError: ``key_unreadable``.
    """
    try:
        key = UUID(str(row[field]))
        check_key(key)
        return key
    except (KeyError, ValueError) as error:
        raise CoreError("key_unreadable", f"Expected {field} as a UUID; got {row.get(field)!r:.60}.", field) from error


def check_key(key: UUID) -> None:
    """Refuse what MariaDB can not hold as a UUID: version 8 or later with the variant of 1980s networks (found by trial).

    Raises:
        ValueError: it is such a one.
    """
    if key.bytes[6] >= 0x80 and key.bytes[8] < 0x80:
        raise ValueError(f"{key} is no UUID as RFC 9562 has them")


def read_time(row: Mapping[str, Any], field: str) -> datetime:
    """A moment with its offset from UTC."""
    value = row.get(field)
    try:
        moment = parse_datetime(value) if isinstance(value, str) else None
    except ValueError:
        moment = None
    if moment is None or moment.tzinfo is None or not _FIRST_YEAR < moment.year < _LAST_YEAR:
        raise CoreError(
            "time_unreadable",
            f"Expected {field} as date and time with zone, like 2026-06-01T21:30:00Z; got {value!r:.60}.",
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


def read_position(row: Mapping[str, Any]) -> tuple[float | None, float | None]:
    """Latitude and longitude in degrees, both or neither.

    Raises:
        CoreError: ``position_half``, and as ``read_number``.
    """
    lat, lon = read_number(row, "lat", -90, 90, "degrees"), read_number(row, "lon", -180, 180, "degrees")
    if (lat is None) != (lon is None):
        raise CoreError("position_half", "Expected latitude and longitude together.", "lat" if lat is None else "lon")
    return lat, lon
