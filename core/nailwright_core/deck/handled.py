"""What was done to one fish between net and release, summed up from its events: times, stage, injuries, reflexes, way down."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from nailwright_core.deck.baths import times_to_lie
from nailwright_core.deck.handling import reflex_score
from nailwright_core.deck.lanes import Lane, Moment, stand_of

RECOVERY = "recovery"


@dataclass(frozen=True)
class FishEvent:
    """One event of a fish: its kind in ``deck.events``, its fields by name, and when, s."""

    at_s: float
    kind: str
    details: Mapping[str, Any]


@dataclass(frozen=True)
class Handled:
    """The sum of a fish's events; None and empty where nothing of it was recorded.

    Attributes:
        aboard_s: from when it came aboard until it left, s; None while it is aboard.
        air_s, longest_air_s: out of water all together, and at one time, s; None where no lane and no air was recorded.
        deepest_stage: of anaesthesia, 0 to 6. induction_s: from its last bath to loss of equilibrium.
        surgery_s: from the beginning of surgery to its last step. recovery_s: in the recovery lane until it left that.
        injuries: codes of what was found on it. hook_site, hook_outcome: codes.
        signs: codes of barotrauma. vented: gas was let out. descended: it was sent down; outcome: what was seen of that.
        reflexes_tried, reflexes_impaired: codes; reflex_score: share impaired (Davis 2010, from memory).
        cause: code of the most likely cause of death.
    """

    aboard_s: float | None = None
    air_s: float | None = None
    longest_air_s: float | None = None
    deepest_stage: int | None = None
    induction_s: float | None = None
    surgery_s: float | None = None
    recovery_s: float | None = None
    injuries: tuple[str, ...] = ()
    hook_site: str = ""
    hook_outcome: str = ""
    signs: tuple[str, ...] = ()
    vented: bool = False
    descended: bool = False
    outcome: str = ""
    reflexes_tried: tuple[str, ...] = ()
    reflexes_impaired: tuple[str, ...] = ()
    reflex_score: float | None = None
    cause: str = ""


def moment_of(event: FishEvent) -> Moment | None:
    """An event as ``lanes.stand_of`` reads it; None for one that moves no fish.

    Args:
        event: of the fish.
    """
    if event.kind == "lane":
        return Moment(event.at_s, "lane", str(event.details["lane"]), float(event.details.get("held_min") or 0) * 60)
    if event.kind == "air":
        return Moment(event.at_s, "out" if event.details["where"] == "out" else "in")
    return None


def handled(came_s: float, events: Sequence[FishEvent], left_s: float | None, lanes: Sequence[Lane]) -> Handled:
    """Sum up the events of one fish.

    Args:
        came_s: when it came aboard, s. left_s: when it left; None while it is aboard.
        events: of this fish, in any order. lanes: of the programme.
    """
    events = sorted(events, key=lambda each: each.at_s)
    last = {each.kind: each.details for each in events}
    tried, impaired = _codes(last, "reflexes", "tried"), _codes(last, "reflexes", "impaired")
    air_s, longest_air_s = _air(came_s, events, left_s, lanes)
    stages = [int(each.details["stage"]) for each in events if each.kind == "stage"]
    hook, way_down = last.get("hook", {}), last.get("way_down", {})
    return Handled(
        aboard_s=None if left_s is None else max(0.0, left_s - came_s),
        air_s=air_s,
        longest_air_s=longest_air_s,
        deepest_stage=max(stages, default=None),
        induction_s=_induction(events),
        surgery_s=_surgery(events),
        recovery_s=_recovery(events, left_s),
        injuries=tuple(dict.fromkeys(str(each.details["what"]) for each in events if each.kind == "found")),
        hook_site=str(hook.get("site", "")),
        hook_outcome=str(hook.get("outcome", "")),
        signs=_codes(last, "signs", "signs"),
        vented="vented" in last,
        descended="sent_down" in last,
        outcome=str(way_down.get("outcome", "")),
        reflexes_tried=tried,
        reflexes_impaired=impaired,
        reflex_score=reflex_score(tried, impaired) if tried else None,
        cause=str(last.get("cause", {}).get("cause", "")),
    )


def _codes(last: Mapping[str, Mapping[str, Any]], kind: str, name: str) -> tuple[str, ...]:
    return tuple(last.get(kind, {}).get(name, ()))


def _air(
    came_s: float, events: Sequence[FishEvent], left_s: float | None, lanes: Sequence[Lane]
) -> tuple[float | None, float | None]:
    moments = [moment for each in events if (moment := moment_of(each))]
    if not moments:
        return None, None
    if left_s is not None:
        moments.append(Moment(left_s, "gone"))
    stand = stand_of(came_s, moments, max(each.at_s for each in moments), lanes)
    return stand.air_s, stand.longest_air_s


def _induction(events: Sequence[FishEvent]) -> float | None:
    marks = [
        (each.at_s, int(each.details["stage"]) if each.kind == "stage" else None)
        for each in events
        if each.kind == "stage" or (each.kind == "lane" and each.details["lane"] == "bath")
    ]
    return next((seconds for _, seconds in reversed(times_to_lie(marks)) if seconds), None)


def _surgery(events: Sequence[FishEvent]) -> float | None:
    began = next((each.at_s for each in events if each.kind == "surgery"), None)
    steps = [each.at_s for each in events if each.kind == "step"]
    return max(0.0, steps[-1] - began) if began is not None and steps else None


def _recovery(events: Sequence[FishEvent], left_s: float | None) -> float | None:
    """All times in the recovery lane; None where it was never there, or is there still."""
    moved = [(each.at_s, str(each.details["lane"])) for each in events if each.kind == "lane"]
    ends = [*(at for at, _ in moved[1:]), left_s]
    stays = [(at, end) for (at, lane), end in zip(moved, ends, strict=True) if lane == RECOVERY] if moved else []
    if not stays or any(end is None for _, end in stays):
        return None
    return sum(max(0.0, float(end or 0) - at) for at, end in stays)
