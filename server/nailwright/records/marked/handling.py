"""What was done to one fish at each of its meetings, and the photos of it, for its page."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from nailwright.deck.handling.hands import hands_of
from nailwright.deck.models import Capture, Handling, Photo
from nailwright.deck.queries import photo_shown
from nailwright.programmes.models import Person
from nailwright.programmes.places import Places
from nailwright.programmes.policies import may
from nailwright.programmes.protocols import protocol_in
from nailwright.returns.models import Card, CardPhoto, ReturnPhoto
from nailwright.tags.models import Fish
from nailwright_core.deck.events import EVENTS
from nailwright_core.protocol import Protocol, word_for


def handling_of(person: Person, fish: Fish) -> list[dict[str, Any]]:
    """For each meeting (key of its capture or card) who handled the fish, and in short sentences how; nothing where nothing was recorded."""
    captures = Capture.present.filter(fish=fish, run__deleted_at=None).select_related(
        "recorder", "handling", "run__outing__protocol"
    )
    told = [
        {"meeting": each.pk, "people": list(_people(each)), "lines": list(_lines(each))}
        for each in captures.order_by("device_time")
    ]
    remarks = may(person, fish.programme, "read_returns")
    for card in Card.present.filter(fish=fish).select_related("tagger").order_by("device_time"):
        told.append(
            {"meeting": card.pk, "people": [f"tagger {card.tagger.name}"], "lines": list(_card_lines(card, remarks))}
        )
    return told


def photos_of_fish(person: Person, fish: Fish, places: Places) -> list[dict[str, Any]]:
    """Photos of a fish that this person may see, as they were taken: of the deck, of cards, and of verified or matched reports."""
    of_deck = Photo.present.filter(capture__fish=fish, capture__deleted_at=None).select_related("capture__run")
    told = [
        _photo(f"/api/v1/photos/{each.pk}.jpg", each.capture_id, each.get_shows_display(), each.device_time, True)
        for each in of_deck
        if photo_shown(each, places)
    ]
    if may(person, fish.programme, "read_returns"):
        for card in CardPhoto.present.filter(card__fish=fish, card__deleted_at=None).only("id", "card", "device_time"):
            told.append(
                _photo(
                    f"/api/v1/card-photos/{card.pk}.jpg", card.card_id, "Card of a volunteer", card.device_time, True
                )
            )
        for each in ReturnPhoto.objects.filter(report__fish=fish).select_related("report").defer("jpeg", "small"):
            at = f"/api/v1/returns/{each.report_id}/photo.jpg"
            told.append(_photo(at, each.report_id, "From its finder", each.report.received_at, False))
    return sorted(told, key=lambda each: each["at"])


def _photo(address: str, meeting: Any, shows: str, at: Any, has_small: bool) -> dict[str, Any]:
    small = f"{address}?small=true" if has_small else address
    return {"address": address, "small": small, "meeting": meeting, "shows": shows, "at": at}


def _people(capture: Capture) -> Iterator[str]:
    measured, tagged = hands_of(capture)
    if measured:
        yield f"measured by {measured}"
    if tagged:
        yield f"tagged by {tagged}"
    yield f"recorded by {capture.recorder.name}"


def _lines(capture: Capture) -> Iterator[str]:
    row: Handling | None = getattr(capture, "handling", None)
    if row is None:
        return
    protocol = protocol_in(capture.run.outing.protocol)
    yield from _times(row)
    if row.injuries:
        yield f"Injuries: {', '.join(_choice('found', 'what', code) for code in row.injuries)}."
    if row.hook_site:
        outcome = f", {_choice('hook', 'outcome', row.hook_outcome)}" if row.hook_outcome else ""
        yield f"Hooked in: {_choice('hook', 'site', row.hook_site)}{outcome}."
    yield from _depth(row, protocol)
    if row.reflexes_tried:
        impaired = ", ".join(word_for(protocol, "reflexes", code) for code in row.reflexes_impaired)
        yield f"Reflexes: {len(row.reflexes_impaired)} of {len(row.reflexes_tried)} impaired{f' ({impaired})' if impaired else ''}."
    if row.condition:
        yield f"Release condition {row.condition}: {word_for(protocol, 'strengths', str(row.condition))}."


def _times(row: Handling) -> Iterator[str]:
    if row.air_s:
        longest = f", {_duration(row.longest_air_s)} at one time" if row.longest_air_s else ""
        yield f"Air exposure {_duration(row.air_s)}{longest}."
    if row.induction_s:
        stage = f", stage {row.deepest_stage}" if row.deepest_stage else ""
        yield f"Induction {_duration(row.induction_s)}{stage}."
    if row.surgery_s:
        yield f"Surgery {_duration(row.surgery_s)}."
    if row.recovery_s:
        yield f"Recovery {_duration(row.recovery_s)}."
    if row.aboard_s:
        yield f"Aboard {_duration(row.aboard_s)}."


def _depth(row: Handling, protocol: Protocol) -> Iterator[str]:
    if row.signs:
        yield f"Signs of barotrauma: {', '.join(word_for(protocol, 'signs', code) for code in row.signs)}."
    done = [word for word, was in (("vented", row.vented), ("descended", row.descended)) if was]
    if done:
        outcome = f": {_choice('way_down', 'outcome', row.outcome)}" if row.outcome else ""
        yield f"{' and '.join(done).capitalize()}{outcome}."


def _choice(kind: str, field: str, code: str) -> str:
    """The word of a choice of an event; the code itself where an earlier release had another list."""
    declared = next((each.field for each in EVENTS[kind].fields if each.field.name == field), None)
    return dict(declared.choices).get(code, code) if declared else code


def _card_lines(card: Card, remarks: bool) -> Iterator[str]:
    if card.fight_s:
        yield f"Fight {_duration(card.fight_s)}."
    if card.air_s:
        yield f"Air exposure {_duration(card.air_s)}."
    if card.hook_site:
        yield f"Hooked in: {card.hook_site}{f' ({card.hook_kind} hook)' if card.hook_kind else ''}."
    for when, word in (("landing", card.bleeding_landed), ("release", card.bleeding_released)):
        if word and word != Card.Bleeding.NONE:
            yield f"Bleeding at {when}: {Card.Bleeding(word).label.lower()}."
    if card.condition:
        yield f"Release condition {card.condition}."
    if remarks and card.remarks:
        yield f"Remarks: {card.remarks}"


def _duration(seconds: float | None) -> str:
    """Such as "34 s", "3 min 20 s", "5 h 2 min"."""
    whole = round(seconds or 0)
    if whole < 120:
        return f"{whole} s"
    if whole < 7200:
        return f"{whole // 60} min" + (f" {whole % 60} s" if whole % 60 else "")
    return f"{whole // 3600} h {whole % 3600 // 60} min"
