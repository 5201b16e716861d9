"""Where runs went."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import asdict
from typing import Any
from uuid import UUID

from nailwright.deck.models import Event, Outing, TrackPart
from nailwright_core.waters.on_water import far_off, near
from nailwright_core.waters.track import Fix, read_track, thinned


def tracks_of(outing: Outing) -> list[dict[str, Any]]:
    """The line of each run that has one. Where several tablets told one run, the one with most positions counts."""
    parts = TrackPart.present.filter(run__outing=outing, run__deleted_at=None).select_related("run")
    told: dict[tuple[UUID, UUID], list[Fix]] = defaultdict(list)
    for part in parts:
        told[part.run_id, part.recorder_id].extend(Fix(*each) for each in part.fixes)
    best: dict[UUID, list[Fix]] = {}
    for (run, _), fixes in told.items():
        if len(fixes) > len(best.get(run, ())):
            best[run] = fixes
    found = []
    for run, fixes in best.items():
        track = read_track(fixes)
        counted = [fix for piece in track.pieces for fix in piece]
        places = [fix.lat for fix in counted], [fix.lon for fix in counted]
        off = far_off(outing.water.geometry, *places)
        found.append(
            {
                "run": run,
                "length_m": round(track.length_m, 1),
                "gaps": track.gaps,
                "left_out": track.left_out,
                "water": asdict(near(outing.water.geometry, *places)),
                "off_water": len(off),
                "off_water_m": round(float(off.max()), 1) if len(off) else 0.0,
                "pieces": [[[fix.lat, fix.lon] for fix in piece] for piece in thinned(track)],
            }
        )
    return found


def let_go_off_water(outing: Outing) -> int:
    """How many fish were let go, by their positions, where the water is not: on land, or on another water."""
    told = Event.present.filter(outing=outing, kind="let_go", capture__deleted_at=None).order_by("device_time", "id")
    last = dict(told.values_list("capture", "details"))  # of a fish the word said last counts
    places = [(details["lat"], details["lon"]) for details in last.values() if "lat" in details and "lon" in details]
    return len(far_off(outing.water.geometry, *zip(*places, strict=True))) if places else 0
