"""What was done to the fish of an outing between net and release, in sentences for whoever asks."""

from __future__ import annotations

from collections import Counter, defaultdict
from datetime import timedelta
from statistics import median
from typing import Any

from nailwright.deck.models import Event, Handling, Outing
from nailwright_core.deck.events import EVENTS
from nailwright_core.deck.surgery import STEPS


def handled_lines(outing: Outing) -> list[str]:
    """How long fish were out of water, how they were sent down, operated on, dosed; nothing where nothing was said of it."""
    events = list(
        Event.present.filter(outing=outing, capture__deleted_at=None).order_by("device_time")
    )  # fmt: skip
    by_fish: dict[Any, list[Event]] = defaultdict(list)
    for event in events:
        if event.capture_id:
            by_fish[event.capture_id].append(event)
    fish = list(
        Handling.objects.filter(capture__run__outing=outing, capture__deleted_at=None)
        .select_related("capture")
        .order_by("pk")
    )
    return [
        line
        for line in (_air(fish), _usual(outing, fish), _depth(fish), _surgery(by_fish), _baths(events), _reflexes(fish))
        if line
    ]


def _air(fish: list[Handling]) -> str:
    timed = [
        (each.longest_air_s, f"{each.capture.species} {each.capture.length_text}".strip())
        for each in fish
        if each.longest_air_s
    ]
    if not timed:
        return ""
    longest, whose = max(timed)
    return (
        f"Out of water at one time: median {median(each for each, _ in timed):.0f} s, longest {longest:.0f} s ({whose}), of "
        f"{len(timed)} fish that were timed."
    )


def _usual(outing: Outing, fish: list[Handling]) -> str:
    """Tonight's medians beside those of the programme's other outings of the last two years."""
    since = outing.date - timedelta(days=730)
    others = Handling.objects.filter(
        capture__programme=outing.programme_id, capture__deleted_at=None, capture__run__outing__date__gte=since
    ).exclude(capture__run__outing=outing)
    parts = []
    for name, word in (("longest_air_s", "air exposure"), ("recovery_s", "recovery")):
        here = [value for each in fish if (value := getattr(each, name))]
        usual = list(others.filter(**{f"{name}__gt": 0}).values_list(name, flat=True))
        if here and usual:
            parts.append(
                f"{word} {median(here):.0f} s against {median(usual):.0f} s (n = {len(here)} and {len(usual)})"
            )
    return f"Against the usual, medians: {'; '.join(parts)}." if parts else ""


def _depth(fish: list[Handling]) -> str:
    vented = sum(each.vented for each in fish)
    down = [each for each in fish if each.descended]
    if not vented and not down:
        return ""
    outcomes = Counter(each.outcome for each in down)
    words = dict(EVENTS["way_down"].fields[0].field.choices)
    seen = ", ".join(f"{n} {words.get(code, 'of nothing is said after that')}" for code, n in outcomes.most_common())
    parts = [
        f"{len(down)} fish were sent down: {seen}" if down else "",
        f"{vented} had gas let out by needle" if vented else "",
    ]
    return "From depth: " + "; ".join(filter(None, parts)) + "."


def _surgery(by_fish: dict[Any, list[Event]]) -> str:
    done = [recorded for recorded in by_fish.values() if any(each.kind == "surgery" for each in recorded)]
    if not done:
        return ""
    surgeons = Counter(
        str(next(each for each in recorded if each.kind == "surgery").details["surgeon"]) for recorded in done
    )
    whole = sum(
        len({each.details["step"] for each in recorded if each.kind == "step"}) >= len(STEPS) for recorded in done
    )
    skipped = sum(each.kind == "step" and each.details["done"] == "skipped" for recorded in done for each in recorded)
    who = ", ".join(f"{name} {n}" for name, n in surgeons.most_common())
    return f"Surgeries: {len(done)} ({who}); {whole} with every step said, {skipped} steps skipped."


def _baths(events: list[Event]) -> str:
    filled = [each for each in events if each.kind == "bath_filled"]
    if not filled:
        return ""
    dosed = sum(float(each.details["ml"]) for each in events if each.kind == "bath_dosed")
    agents = sorted({str(each.details["agent"]) for each in filled})
    return f"Baths: {len(filled)} filled ({', '.join(agents)}), {dosed:.0f} mL of stock in all."


def _reflexes(fish: list[Handling]) -> str:
    scores = [each.reflex_score for each in fish if each.reflex_score is not None]
    if not scores:
        return ""
    return f"Reflexes tried in {len(scores)} fish: mean score {sum(scores) / len(scores):.2f} (0: all present, 1: all impaired)."
