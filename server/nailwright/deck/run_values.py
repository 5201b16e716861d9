"""Reading the figures of a run."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import datetime
from typing import Any

from nailwright.common.fields import read_number
from nailwright_core.common.errors import CoreError

#: Electrical settings and effort of a run: lowest, highest, unit. The ends are what no box reaches, not advice.
RUN_NUMBERS = {
    "volts": (0, 2000, "V"),
    "amps": (0, 200, "A"),
    "pulse_hz": (0, 1000, "Hz"),
    "pulse_width_ms": (0, 1000, "ms"),
    "current_on_s": (0, 86_400, "s"),
}


def run_numbers(row: Mapping[str, Any]) -> dict[str, Any]:
    """The figures that a row holds."""
    return {
        name: read_number(row, name, *limits)
        for name, limits in RUN_NUMBERS.items()
        if name in row and row[name] is not None
    }


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
