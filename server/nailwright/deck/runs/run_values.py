"""Reading the figures of a run."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import datetime
from typing import Any

from nailwright.common.fields import one_of
from nailwright.deck.models import Run
from nailwright_core.common.errors import CoreError
from nailwright_core.common.field import read_value
from nailwright_core.deck.gears import FIGURES, SETTINGS


def run_numbers(row: Mapping[str, Any]) -> dict[str, Any]:
    """The figures that a row holds, and the direction."""
    numbers: dict[str, Any] = {
        name: read_value(field, row[name]) for name, field in SETTINGS.items() if row.get(name) is not None
    }
    # nothing is a figure, too: one that was typed by mistake can be taken away
    numbers |= {name: read_value(field, row[name]) for name, field in FIGURES.items() if name in row}
    if "direction" in row:
        numbers["direction"] = one_of(row, "direction", ("", *Run.Direction.values))
    return numbers


def check_run_times(started_at: datetime, ended_at: datetime | None) -> None:
    """Refuse a run that would end before its start.

    Raises:
        CoreError: ``run_ends_before_start``.
    """
    if ended_at is not None and ended_at < started_at:
        raise CoreError(
            "run_ends_before_start",
            f"The run would end at {ended_at:%Y-%m-%d %H:%M:%S}, before its start at {started_at:%Y-%m-%d %H:%M:%S} (UTC). "
            "Check the tablet's clock.",
            "ended_at",
        )
