"""Who called a fish and who tagged it: by what was said of its run, and of the fish itself, at the time of the call."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Sequence
from datetime import datetime
from typing import Any, NamedTuple
from uuid import UUID

from django.db.models import Q

from nailwright.deck.models import Capture, Event
from nailwright.programmes.models import Programme


class Hands(NamedTuple):
    """Names as they were said; empty where nobody said any."""

    measured: str
    tagged: str


def hands_of(capture: Capture) -> Hands:
    """Of several words on a run the one ``_in_force`` counts."""
    rows = Event.present.filter(Q(capture=capture, kind="hands") | Q(run=capture.run_id, kind="hands_on", capture=None))
    events = list(rows.order_by("device_time", "id"))
    of_run = [(each.device_time, each.details) for each in events if each.kind == "hands_on"]
    in_run = _in_force(of_run, capture.device_time)
    own: dict[str, str] = {}
    for each in events:
        if each.kind == "hands":
            own |= each.details
    return Hands(own.get("measured") or in_run.get("measurer", ""), own.get("tagged") or in_run.get("surgeon", ""))


def taggers_named(captures: Iterable[UUID]) -> dict[UUID, str]:
    """Who tagged each of these captures, of those of which it was recorded; as ``hands_of``, for many at once."""
    keys = list(captures)
    fish = Capture.objects.filter(pk__in=keys).values_list("pk", "run_id", "device_time")
    at = {key: (run, moment) for key, run, moment in fish}
    own = Event.present.filter(capture__in=keys, kind="hands").order_by("device_time", "id")
    named = {
        key: str(details["tagged"])
        for key, details in own.values_list("capture_id", "details")
        if details.get("tagged")
    }
    of_run: dict[UUID | None, list[tuple[datetime, dict[str, Any]]]] = defaultdict(list)
    rows = Event.present.filter(run__in={run for run, _ in at.values()}, kind="hands_on", capture=None)
    for run, moment, details in rows.order_by("device_time", "id").values_list("run_id", "device_time", "details"):
        of_run[run].append((moment, details))
    for key, (run, called) in at.items():
        if surgeon := _in_force(of_run[run], called).get("surgeon"):
            named.setdefault(key, str(surgeon))
    return named


def _in_force(of_run: Sequence[tuple[datetime, dict[str, Any]]], called: datetime) -> dict[str, Any]:
    """Of what was recorded of a run, in order of time, the last before the call; where all came after it, the first."""
    before = [details for moment, details in of_run if moment <= called]
    return next(iter(before[-1:] or [details for _, details in of_run[:1]]), {})


def captures_naming(programme: Programme, name: str) -> set[UUID]:
    """Captures of marked fish of which, or of whose run, this person was ever named as who tags."""
    wanted = name.casefold()
    events = Event.present.filter(outing__programme=programme)
    fish = events.filter(kind="hands").exclude(capture=None).values_list("capture_id", "details")
    found = {key for key, details in fish if key and str(details.get("tagged", "")).casefold() == wanted}
    runs = events.filter(kind="hands_on").values_list("run_id", "details")
    theirs = {run for run, details in runs if str(details.get("surgeon", "")).casefold() == wanted}
    return found | set(Capture.present.filter(run__in=theirs).exclude(fish=None).values_list("pk", flat=True))
