"""What an entry says was read at a site."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from nailwright_core.deck.readings import READINGS, USUAL, read_readings

#: Names in an entry that are no readings.
_NOT_READ = frozenset({"outing", "run", "reading", "deleted"})


def reading_values(row: Mapping[str, Any]) -> dict[str, Any]:
    """The fields of a new reading: those that have a column, and ``more`` with all others.

    Raises:
        CoreError: as core's ``read_readings``.
    """
    read = read_readings({name: value for name, value in row.items() if name not in _NOT_READ})
    columns = {name: read.pop(name, None) for name in USUAL}
    return {**columns, "more": read}


def changed_values(row: Mapping[str, Any]) -> dict[str, Any]:
    """What a correction changes, by field or place in ``more``; a figure of nothing is taken away.

    Raises:
        CoreError: as core's ``read_readings``.
    """
    given = {name: value for name, value in row.items() if name not in _NOT_READ}
    read = read_readings(given)
    return {name if name in USUAL else f"more.{name}": read.get(name) for name in given if name in READINGS}
