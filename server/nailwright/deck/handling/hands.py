"""Who called a fish and who tagged it: by what was said of its run, and of the fish itself, at the time of the call."""

from __future__ import annotations

from typing import NamedTuple

from django.db.models import Q

from nailwright.deck.models import Capture, Event


class Hands(NamedTuple):
    """Names as they were said; empty where nobody said any."""

    measured: str
    tagged: str


def hands_of(capture: Capture) -> Hands:
    """Of several words on a run the last one before the call counts; where all came after it, the first of them."""
    rows = Event.present.filter(Q(capture=capture, kind="hands") | Q(run=capture.run_id, kind="hands_on", capture=None))
    events = list(rows.order_by("device_time", "id"))
    of_run = [each for each in events if each.kind == "hands_on"]
    before = [each for each in of_run if each.device_time <= capture.device_time]
    run = next(iter(before[-1:] or of_run[:1]), None)
    own: dict[str, str] = {}
    for each in events:
        if each.kind == "hands":
            own |= each.details
    in_run = run.details if run else {}
    return Hands(own.get("measured") or in_run.get("measurer", ""), own.get("tagged") or in_run.get("surgeon", ""))
