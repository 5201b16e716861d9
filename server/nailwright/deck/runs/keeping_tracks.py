"""Positions of a receiver during a run."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from nailwright.common.fields import read_id
from nailwright.deck.models import Run, TrackPart
from nailwright.deck.rows import there
from nailwright.programmes.models import Programme
from nailwright.programmes.record.audit import Act
from nailwright_core.common.errors import CoreError

MOST_FIXES = 1000
_LATEST_S = 4e9


def add_track(act: Act, programme: Programme, row: Mapping[str, Any]) -> bool:
    """Keep positions of a ``run``; their times are put right as the entry's own is.

    Args:
        row: ``run`` and ``fixes``, each a list of time (s since 1970 by the device's clock), latitude and longitude.

    Raises:
        CoreError: ``run_unknown``, ``outing_closed``, ``fixes_unreadable``.
    """
    run = there(Run, Run.objects.select_related("outing__programme").filter(pk=read_id(row, "run")).first(), programme)
    run.outing.must_be_open(act)
    fixes = _read(row.get("fixes"))
    if TrackPart.objects.filter(pk=act.id).exists():
        return False
    right = [[round(at + act.clock_offset_s, 3), lat, lon] for at, lat, lon in fixes]
    TrackPart.objects.create(id=act.id, run=run, fixes=right, recorder=act.person, device_time=act.device_time)
    return True


def _read(given: Any) -> list[tuple[float, float, float]]:
    words = f"Expected 1 to {MOST_FIXES} positions as lists of time in s, latitude and longitude in degrees"
    if not isinstance(given, list) or not 0 < len(given) <= MOST_FIXES:
        raise CoreError("fixes_unreadable", f"{words}; got {str(given)[:40]}.", "fixes")
    found = []
    for each in given:
        if not isinstance(each, list) or len(each) != 3 or not all(_is_number(part) for part in each):
            raise CoreError("fixes_unreadable", f"{words}; got {str(each)[:60]}.", "fixes")
        at, lat, lon = map(float, each)
        if not (0 < at < _LATEST_S and abs(lat) <= 90 and abs(lon) <= 180):
            raise CoreError("fixes_unreadable", f"{words}; got {str(each)[:60]}.", "fixes")
        found.append((at, lat, lon))
    return found


def _is_number(value: Any) -> bool:
    return isinstance(value, int | float) and not isinstance(value, bool)
