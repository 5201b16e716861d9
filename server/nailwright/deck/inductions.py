"""What earlier baths say: how long fish took to lose balance, at what strength."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import asdict
from datetime import UTC, datetime
from typing import Any

from nailwright.deck.models import Event
from nailwright.programmes.models import Programme
from nailwright.programmes.protocols import standing_protocol
from nailwright_core.common.errors import CoreError
from nailwright_core.deck.baths import BathStep, bath_after, induction_line, times_to_lie

_NEWEST = 20_000


def inductions_of(programme: Programme, agent: str, purpose: str) -> dict[str, Any]:
    """Fish that were put into a bath of an agent for a purpose and lost balance, with the line through them.

    A fish's bath is the one that was filled last before it went in. ``problem`` says why there is no line yet.
    """
    kinds = ("lane", "stage", "bath_filled", "bath_dosed", "bath_exchanged", "bath_topped", "bath_read")
    events = Event.present.filter(outing__programme=programme, kind__in=kinds, capture__deleted_at=None)
    by_outing: dict[Any, list[Event]] = defaultdict(list)
    for event in events.select_related("capture").order_by("-device_time", "-id")[:_NEWEST]:
        by_outing[event.outing_id].append(event)
    points = [point for said in by_outing.values() for point in _points(said[::-1], agent, purpose)]
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
            [float("nan") if each["temperature_c"] is None else each["temperature_c"] for each in points],
            goal, low, high,
        )  # fmt: skip
    except CoreError as refused:
        return {**told, "problem": refused.message}
    return {**told, "line": asdict(line)}


def _points(said: list[Event], agent: str, purpose: str) -> list[dict[str, Any]]:
    """Of one outing's events, by time: each fish that lay still in a bath of this agent and purpose."""
    baths: dict[str, list[BathStep]] = defaultdict(list)
    reads: list[tuple[float, str, float]] = []
    fish: dict[Any, list[tuple[float, int | None]]] = defaultdict(list)
    lengths = {event.capture_id: event.capture.length_mm for event in said if event.capture}
    for event in said:
        at = event.device_time.timestamp()
        if event.kind.startswith("bath_"):
            name = str(event.said.get("bath"))
            baths[name].append(BathStep(str(event.pk), at, event.kind, event.said))
            if event.kind == "bath_read" and event.said.get("temperature_c") is not None:
                reads.append((at, name, event.said["temperature_c"]))
        elif event.kind == "stage":
            fish[event.capture_id].append((at, int(event.said["stage"])))
        elif event.said.get("lane") == "bath":
            fish[event.capture_id].append((at, None))
    found = []
    for capture, marks in fish.items():
        for since, seconds in times_to_lie(marks):
            if not seconds:
                continue
            standing = {name: bath_after(steps, since) for name, steps in baths.items()}
            filled = [(bath.filled_at_s or 0.0, name) for name, bath in standing.items() if bath.state]
            name = max(filled)[1] if filled else ""
            bath = standing.get(name)
            if not bath or not bath.state or bath.state.mg_l <= 0 or (bath.agent, bath.purpose) != (agent, purpose):
                continue
            read = [value for when, of, value in reads if of == name and when <= since + seconds]
            found.append(
                {
                    "mg_l": bath.state.mg_l,
                    "seconds": seconds,
                    "length_mm": lengths.get(capture),
                    "temperature_c": read[-1] if read else None,
                    "at": datetime.fromtimestamp(since + seconds, UTC),
                }
            )
    return sorted(found, key=lambda each: each["at"])
