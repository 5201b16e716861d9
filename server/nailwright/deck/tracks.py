"""Where runs went."""

from __future__ import annotations

from collections import defaultdict
from typing import Any
from uuid import UUID

from nailwright.deck.models import Outing, TrackPart
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
        found.append(
            {
                "run": run,
                "length_m": round(track.length_m, 1),
                "gaps": track.gaps,
                "left_out": track.left_out,
                "pieces": [[[fix.lat, fix.lon] for fix in piece] for piece in thinned(track)],
            }
        )
    return found
