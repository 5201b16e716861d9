"""What earlier baths say: how long fish took to lie still, or were seen up, at what strength."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator
from dataclasses import asdict
from datetime import UTC, datetime
from typing import Any

from django.db.models import QuerySet

from nailwright.deck.models import Event
from nailwright.programmes.models import Programme
from nailwright.programmes.protocols import standing_protocol
from nailwright_core.common.errors import CoreError
from nailwright_core.deck.baths import BathStep, bath_after, induction_line, times_watched

#: The Deck's own line looks no further back, so that it is there at once.
_NEWEST = 20_000
_KINDS = ("lane", "stage", "bath_filled", "bath_dosed", "bath_exchanged", "bath_topped", "bath_read")


def inductions_of(programme: Programme, agent: str, purpose: str) -> dict[str, Any]:
    """Fish that were watched in a bath of an agent for a purpose, with the line through them.

    ``problem`` says why there is no line yet.
    """
    events = Event.present.filter(outing__programme=programme, capture__deleted_at=None)
    points = [
        point for point in inductions_in(events, _NEWEST) if (point["agent"], point["purpose"]) == (agent, purpose)
    ]
    row = next(
        (each for each in standing_protocol(programme).rows("baths") if (each["agent"], each["purpose"]) == (agent, purpose)),
        None,
    )  # fmt: skip
    goal = float(standing_protocol(programme).rows("hand_limits")[0]["induction_goal_s"] or 180)
    told: dict[str, Any] = {
        "points": points,
        "goal_s": goal,
        "low_mg_l": None,
        "high_mg_l": None,
        "line": None,
        "problem": "",
    }
    if row is None:
        return {**told, "problem": "The protocol has no range for this agent and purpose."}
    told["low_mg_l"], told["high_mg_l"] = low, high = float(row["low"] or 0), float(row["high"] or 0)
    try:
        line = induction_line(
            [each["mg_l"] for each in points],
            [each["seconds"] for each in points],
            [each["lay"] for each in points],
            numbered_baths(points),
            [float("nan") if each["temperature_c"] is None else each["temperature_c"] for each in points],
            goal, low, high,
        )  # fmt: skip
    except CoreError as refused:
        return {**told, "problem": refused.message}
    return {**told, "line": asdict(line)}


def numbered_baths(points: list[dict[str, Any]]) -> list[int]:
    """A number for the bath of each point."""
    numbers: dict[Any, int] = {}
    return [numbers.setdefault(each["bath"], len(numbers)) for each in points]


def inductions_in(events: QuerySet[Event], newest: int | None = None) -> list[dict[str, Any]]:
    """Each fish whose stage was looked at in a bath, by time: its capture, the bath and what was in it, how long it took to lie still or,
    where not ``lay``, was seen up; of the newest so many events, or of all.

    A fish's bath is the one that was filled last before it went in; its strength is core's account of what was poured.
    """
    of_kind = events.filter(kind__in=_KINDS).order_by("-device_time", "-id")
    rows = of_kind.values_list("outing_id", "pk", "kind", "details", "device_time", "capture_id", "capture__length_mm")
    by_outing: dict[Any, list[Any]] = defaultdict(list)
    for outing, *event in rows[:newest]:
        by_outing[outing].append(event)
    found = [point for outing, rows in by_outing.items() for point in _inductions_on(outing, rows[::-1])]
    return sorted(found, key=lambda each: each["at"])


def _inductions_on(outing: Any, events: list[Any]) -> Iterator[dict[str, Any]]:
    """Of one outing's events, by time."""
    baths: dict[str, list[BathStep]] = defaultdict(list)
    reads: list[tuple[float, str, float]] = []
    fish: dict[Any, list[tuple[float, int | None]]] = defaultdict(list)
    elsewhere: dict[Any, list[float]] = defaultdict(list)
    lengths: dict[Any, float | None] = {}
    for key, kind, details, moment, capture, length_mm in events:
        at = moment.timestamp()
        lengths[capture] = length_mm
        if kind.startswith("bath_"):
            name = str(details.get("bath"))
            baths[name].append(BathStep(str(key), at, kind, details))
            if kind == "bath_read" and details.get("temperature_c") is not None:
                reads.append((at, name, details["temperature_c"]))
        elif kind == "stage":
            fish[capture].append((at, int(details["stage"])))
        elif details.get("lane") == "bath":
            fish[capture].append((at, None))
        else:
            elsewhere[capture].append(at)
    for capture, marks in fish.items():
        for since, seconds, lay in times_watched(marks, elsewhere[capture]):
            standing = {name: bath_after(steps, since) for name, steps in baths.items()}
            filled = [(bath.filled_at_s or 0.0, name) for name, bath in standing.items() if bath.state]
            filled_at, name = max(filled) if filled else (0.0, "")
            bath = standing.get(name)
            if not bath or not bath.state or bath.state.mg_l <= 0:
                continue
            read = [value for when, of, value in reads if of == name and filled_at <= when <= since + seconds]
            yield {
                "capture": capture,
                "bath": (str(outing), name, filled_at),
                "agent": bath.agent,
                "purpose": bath.purpose,
                "mg_l": bath.state.mg_l,
                "seconds": seconds,
                "lay": lay,
                "length_mm": lengths[capture],
                "temperature_c": read[-1] if read else None,
                "at": datetime.fromtimestamp(since + seconds, UTC),
            }
