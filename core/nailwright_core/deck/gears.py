"""Gears, and the effort that each counts.

Effort: seconds of current for electrofishing, rod-hours for lines, net-nights for nets that stand overnight, hauls for a seine,
metres towed for a trawl (common practice, no source).
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any
from zoneinfo import ZoneInfo

from nailwright_core.common.errors import CoreError
from nailwright_core.common.field import number, whole


@dataclass(frozen=True)
class Gear:
    """One way of catching fish.

    Attributes:
        electric: whether current flows: settings, pedal clock and electrofishing checklist belong to it.
        effort: what it counts, a key of ``EFFORTS``.
        asks: figures of a run that this gear asks for, keys of ``FIGURES``.
    """

    code: str
    label: str
    electric: bool
    effort: str
    asks: tuple[str, ...] = ()


#: Settings and effort of electrofishing. The ends are what no control box reaches, not advice.
SETTINGS = {
    each.name: each
    for each in (
        number("volts", "Volts", "V", 0, 2000),
        number("amps", "Amps", "A", 0, 200),
        number("pulse_hz", "Pulses", "Hz", 0, 1000),
        number("pulse_width_ms", "Pulse width", "ms", 0, 1000),
        number("current_on_s", "Electrofishing time", "s", 0, 86_400),
    )
}
#: Figures that runs of some gears have. The ends are what nobody fishes, not advice.
FIGURES = {
    "distance_m": number("distance_m", "Distance fished", "m", 0, 100_000),
    "rods": whole("rods", "Rods", "", 1, 200),
    "nets": whole("nets", "Nets", "", 1, 500),
    "mesh_mm": number("mesh_mm", "Mesh, stretched", "mm", 1, 500),
    "hauls": whole("hauls", "Hauls", "", 1, 500),
}
#: What effort is counted in, by its key.
EFFORTS = {
    "current_on_s": "s current on",
    "rod_hours": "rod-hours",
    "net_nights": "net-nights",
    "hauls": "hauls",
    "metres": "m",
}
#: By what effort is divided for a rate, and what the rate is then of.
RATES: Mapping[str, tuple[float, str]] = {
    "current_on_s": (3600.0, "hour of current"),
    "rod_hours": (1.0, "rod-hour"),
    "net_nights": (1.0, "net-night"),
    "hauls": (1.0, "haul"),
    "metres": (1000.0, "km towed"),
}
GEARS = {
    each.code: each
    for each in (
        Gear("boat_electrofishing", "Boat electrofishing", True, "current_on_s", ("distance_m",)),
        Gear("backpack_electrofishing", "Backpack electrofishing", True, "current_on_s", ("distance_m",)),
        Gear("towbarge_electrofishing", "Tow-barge electrofishing", True, "current_on_s", ("distance_m",)),
        Gear("shore_electrofishing", "Shore electrofishing", True, "current_on_s", ("distance_m",)),
        Gear("angling", "Angling", False, "rod_hours", ("rods",)),
        Gear("ice_fishing", "Ice fishing", False, "rod_hours", ("rods",)),
        Gear("gill_net", "Gill net", False, "net_nights", ("nets", "mesh_mm")),
        Gear("trap_net", "Trap net", False, "net_nights", ("nets", "mesh_mm")),
        Gear("fyke_net", "Fyke net", False, "net_nights", ("nets", "mesh_mm")),
        Gear("seine", "Seine", False, "hauls", ("hauls", "distance_m", "mesh_mm")),
        Gear("trawl", "Trawl", False, "metres", ("distance_m", "hauls", "mesh_mm")),
    )
}


@dataclass(frozen=True)
class Effort:
    """How much was fished: ``value`` in ``unit`` (a key of ``EFFORTS``); None where what it takes was not written down."""

    value: float | None
    unit: str


def effort_of(
    gear: str,
    figures: Mapping[str, float | None],
    started_at: datetime,
    ended_at: datetime | None,
    time_zone: str = "UTC",
) -> Effort:
    """The effort of a run.

    Args:
        figures: ``current_on_s`` and those of ``FIGURES``.
        started_at, ended_at: aware; a run that is still going has no effort of hours or nights yet.
        time_zone: of the water; a night is one of its midnights.

    Raises:
        CoreError: ``gear_unknown``.
    """
    kind = GEARS.get(gear)
    if kind is None:
        raise CoreError("gear_unknown", f"Expected a gear of {', '.join(GEARS)}; got '{gear[:60]}'.", "gear")
    if kind.effort == "current_on_s":
        return Effort(figures.get("current_on_s"), kind.effort)
    if kind.effort == "hauls":
        return Effort(figures.get("hauls"), kind.effort)
    if kind.effort == "metres":
        return Effort(figures.get("distance_m"), kind.effort)
    many = figures.get("rods" if kind.effort == "rod_hours" else "nets")
    if many is None or ended_at is None:
        return Effort(None, kind.effort)
    if kind.effort == "rod_hours":
        return Effort(many * (ended_at - started_at).total_seconds() / 3600, kind.effort)
    return Effort(many * nights_between(started_at, ended_at, time_zone), kind.effort)


def asked_at_end(rows: Sequence[Mapping[str, Any]], gear: str, figures: Mapping[str, float | None]) -> tuple[str, ...]:
    """Figures that the protocol wants of a run as it ends and nobody has given, keys of ``FIGURES``.

    Args:
        rows: of the protocol, each with a figure and a gear (empty: any).
        gear: of the run.
        figures: of the run, by name; None where one was not given.
    """
    wanted = dict.fromkeys(str(row["figure"]) for row in rows if (row["gear"] or "") in ("", gear))
    return tuple(name for name in wanted if figures.get(name) is None)


def nights_between(started_at: datetime, ended_at: datetime, time_zone: str = "UTC") -> int:
    """Midnights of a place between two aware moments: what a net stood through, whatever the hour at which it was lifted.

    Args:
        started_at: aware moment.
        ended_at: aware moment.
        time_zone: IANA name of the place's time zone.
    """
    zone = ZoneInfo(time_zone)
    return (ended_at.astimezone(zone).date() - started_at.astimezone(zone).date()).days
