"""What was done to the fish of an outing between net and release, in sentences for whoever asks."""

from __future__ import annotations

from collections import Counter, defaultdict
from statistics import median
from typing import Any

from nailwright.deck.models import Event, Outing
from nailwright.programmes.protocols import protocol_in
from nailwright_core.deck.events import EVENTS
from nailwright_core.deck.handling import reflex_score
from nailwright_core.deck.lanes import Moment, stand_of
from nailwright_core.deck.surgery import STEPS
from nailwright_core.protocol import lanes_of


def handled_lines(outing: Outing) -> list[str]:
    """How long fish were out of water, how they were sent down, operated on, dosed; nothing where nothing was said of it."""
    events = list(
        Event.present.filter(outing=outing, capture__deleted_at=None).select_related("capture__release").order_by("device_time")
    )  # fmt: skip
    by_fish: dict[Any, list[Event]] = defaultdict(list)
    for event in events:
        if event.capture_id:
            by_fish[event.capture_id].append(event)
    return [
        line
        for line in (_air(outing, by_fish), _depth(by_fish), _surgery(by_fish), _baths(events), _reflexes(by_fish))
        if line
    ]


def _air(outing: Outing, by_fish: dict[Any, list[Event]]) -> str:
    lanes = lanes_of(protocol_in(outing.protocol))
    timed = []
    for said in by_fish.values():
        moments = [moment for event in said if (moment := _moment(event))]
        if not moments:
            continue
        capture = said[0].capture
        assert capture is not None
        release = getattr(capture, "release", None)
        if release and release.deleted_at is None:
            moments.append(Moment(release.device_time.timestamp(), "gone"))
        end = max(each.at_s for each in moments)
        stand = stand_of(capture.device_time.timestamp(), moments, end, lanes)
        if stand.longest_air_s > 0:
            timed.append((stand.longest_air_s, f"{capture.species} {capture.length_text}".strip()))
    if not timed:
        return ""
    longest, whose = max(timed)
    return (
        f"Out of water at one time: median {median(each for each, _ in timed):.0f} s, longest {longest:.0f} s ({whose}), of "
        f"{len(timed)} fish that were timed."
    )


def _moment(event: Event) -> Moment | None:
    at = event.device_time.timestamp()
    if event.kind == "lane":
        return Moment(at, "lane", str(event.said["lane"]), float(event.said.get("held_min") or 0) * 60)
    if event.kind == "air":
        return Moment(at, "out" if event.said["where"] == "out" else "in")
    return None


def _depth(by_fish: dict[Any, list[Event]]) -> str:
    vented = sum(any(each.kind == "vented" for each in said) for said in by_fish.values())
    down = [said for said in by_fish.values() if any(each.kind == "sent_down" for each in said)]
    if not vented and not down:
        return ""
    outcomes = Counter(
        next((str(each.said["outcome"]) for each in reversed(said) if each.kind == "way_down"), "") for said in down
    )
    words = dict(EVENTS["way_down"].fields[0].column.choices)
    seen = ", ".join(f"{n} {words.get(code, 'of nothing is said after that')}" for code, n in outcomes.most_common())
    parts = [
        f"{len(down)} fish were sent down: {seen}" if down else "",
        f"{vented} had gas let out by needle" if vented else "",
    ]
    return "From depth: " + "; ".join(filter(None, parts)) + "."


def _surgery(by_fish: dict[Any, list[Event]]) -> str:
    done = [said for said in by_fish.values() if any(each.kind == "surgery" for each in said)]
    if not done:
        return ""
    surgeons = Counter(str(next(each for each in said if each.kind == "surgery").said["surgeon"]) for said in done)
    whole = sum(len({each.said["step"] for each in said if each.kind == "step"}) >= len(STEPS) for said in done)
    skipped = sum(each.kind == "step" and each.said["done"] == "skipped" for said in done for each in said)
    who = ", ".join(f"{name} {n}" for name, n in surgeons.most_common())
    return f"Surgeries: {len(done)} ({who}); {whole} with every step said, {skipped} steps skipped."


def _baths(events: list[Event]) -> str:
    filled = [each for each in events if each.kind == "bath_filled"]
    if not filled:
        return ""
    dosed = sum(float(each.said["ml"]) for each in events if each.kind == "bath_dosed")
    agents = sorted({str(each.said["agent"]) for each in filled})
    return f"Baths: {len(filled)} filled ({', '.join(agents)}), {dosed:.0f} mL of stock in all."


def _reflexes(by_fish: dict[Any, list[Event]]) -> str:
    tried = [each for said in by_fish.values() for each in said if each.kind == "reflexes"]
    if not tried:
        return ""
    scores = [reflex_score(each.said["tried"], each.said.get("impaired", [])) for each in tried]
    return f"Reflexes tried in {len(tried)} fish: mean score {sum(scores) / len(scores):.2f} (0: all present, 1: all impaired)."
