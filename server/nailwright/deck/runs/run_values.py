"""Reading the figures of a run."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import datetime
from typing import Any

from nailwright.common.fields import one_of, read_number
from nailwright.deck.models import Run
from nailwright_core.common.errors import CoreError
from nailwright_core.deck.gears import FIGURES, check_figure

#: Electrical settings and effort of a run: lowest, highest, unit. The ends are what no box reaches, not advice.
RUN_NUMBERS = {
    "volts": (0, 2000, "V"),
    "amps": (0, 200, "A"),
    "pulse_hz": (0, 1000, "Hz"),
    "pulse_width_ms": (0, 1000, "ms"),
    "current_on_s": (0, 86_400, "s"),
}


def run_numbers(row: Mapping[str, Any]) -> dict[str, Any]:
    """The figures that a row holds, and the direction."""
    numbers: dict[str, Any] = {
        name: read_number(row, name, *limits)
        for name, limits in RUN_NUMBERS.items()
        if name in row and row[name] is not None
    }
    # nothing is a figure, too: one that was typed by mistake can be taken away
    for name, figure in FIGURES.items():
        if name in row:
            read = read_number(row, name, figure.low, figure.high, figure.unit)
            numbers[name] = None if read is None else check_figure(name, read)
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
