"""Events of an outing as the Deck reads them, and what may be said there."""

from __future__ import annotations

import json
from typing import Any

from django.db.models import Q, QuerySet

from nailwright.common.below_orm import Moment, read_rows
from nailwright.common.field_shapes import choices_of, told
from nailwright.deck.models import Capture, Event, Outing
from nailwright.programmes.models import Programme
from nailwright.programmes.protocols import protocol_in
from nailwright.programmes.species.known import species_of
from nailwright_core.deck.events import EVENTS, SPECIES, EventField, EventKind
from nailwright_core.protocol import Protocol


def events_of(outing: Outing) -> list[dict[str, Any]]:
    """Everything said in an outing, in the order in which it happened; of fish and runs that were taken out nothing."""
    stands = (Q(capture=None) | Q(capture__deleted_at=None)) & (Q(run=None) | Q(run__deleted_at=None))
    return _told(Event.present.filter(stands, outing=outing))


def events_of_fish(capture: Capture) -> list[dict[str, Any]]:
    """Everything said of one fish, in the order in which it happened."""
    return _told(Event.present.filter(capture=capture))


def _told(events: QuerySet[Event]) -> list[dict[str, Any]]:
    rows = events.order_by("device_time", "id")
    names = ("id", "run", "capture", "kind", "details", "device_time")
    found = []
    for cells in read_rows(rows.values_list("id", "run_id", "capture_id", "kind", "details", Moment("device_time"))):
        told = dict(zip(names, cells, strict=True))
        found.append({**told, "details": json.loads(told["details"])})
    return found


def habitats_of(outing: Outing) -> dict[str, dict[str, Any]]:
    """Bottom and bank of each site of the water as another outing recorded them last, by the site's key."""
    told = Event.present.filter(kind="habitat", run__site__water=outing.water_id, run__deleted_at=None)
    rows = told.exclude(outing=outing).order_by("device_time").values_list("run__site", "details")
    return {str(site): details for site, details in rows}


def notes_of_fish(programme: Programme) -> dict[str, list[str]]:
    """What was said of known fish that the crew is to know when one is met again, by the fish's key."""
    told = Event.present.filter(
        capture__programme=programme, capture__deleted_at=None, kind__in=("private", "vented", "sent_down")
    ).exclude(capture__fish=None)
    found: dict[str, list[str]] = {}
    for fish, kind, details, at in told.order_by("device_time").values_list(
        "capture__fish", "kind", "details", "device_time"
    ):
        day = f"{at:%Y-%m-%d}"
        words = {
            "private": str(details.get("name", "")),
            "vented": f"gas let out on {day}",
            "sent_down": f"sent down on {day}",
        }[kind]
        found.setdefault(str(fish), []).append(words)
    return found


def event_kinds(outing: Outing) -> list[dict[str, Any]]:
    """What may be recorded, each kind with its fields; choices of the protocol and the programme's species filled in."""
    protocol, kinds = protocol_in(outing.protocol), species_of(outing.programme)
    listed = outing.programme.species.order_by("code").values_list("code", flat=True)
    species = [{"value": code, "label": kinds[code].common_name} for code in listed]
    return [_kind(each, protocol, species) for each in EVENTS.values()]


def _kind(kind: EventKind, protocol: Protocol, species: list[dict[str, str]]) -> dict[str, Any]:
    return {
        "code": kind.code,
        "title": kind.title,
        "about": kind.about,
        "group": kind.group,
        "once": kind.once,
        "bare": kind.bare or not kind.fields,
        "fields": [_field(each, protocol, species) for each in kind.fields],
    }


def _field(field: EventField, protocol: Protocol, species: list[dict[str, str]]) -> dict[str, Any]:
    if field.section == SPECIES:
        choices = species
    elif field.section:
        choices = [{"value": str(row["code"]), "label": str(row["word"])} for row in protocol.rows(field.section)]
    else:
        choices = choices_of(field.field)
    return {**told(field.field), "choices": choices, "many": field.many, "of_protocol": bool(field.section)}
