"""A volunteer's kit: what their phone holds to work with no signal, and what became of their fish."""

from __future__ import annotations

from collections import defaultdict
from typing import Any
from uuid import UUID
from zoneinfo import ZoneInfo

import numpy as np
from django.db.models import Count, Max, Prefetch, QuerySet

from nailwright.programmes.models import Membership, Programme
from nailwright.programmes.protocols import standing_protocol
from nailwright.programmes.species.known import species_of
from nailwright.returns.models import Card, CardPhoto, CardRequest, Return
from nailwright.returns.volunteers.cards import TOLD_TWICE
from nailwright.returns.volunteers.own_tagging import own_tagging
from nailwright.tags.models import Encounter, TagIssue, TagState
from nailwright.tags.queries import columns_of
from nailwright_core.movements.journeys import journeys
from nailwright_core.tags.cards import end_digits, missing_fields, missing_of

MOST_CARDS = 300
_CARD = (
    "id", "channel", "tagger_number", "tag_kind", "number_text", "fish", "problem", "species", "caught_on", "block", "lat", "lon",
    "error_m", "place_text", "length_text", "length_mm", "length_type", "length_basis", "condition", "fight_s", "air_s",
    "hook_kind", "hook_site", "line_kg", "bleeding_landed", "bleeding_released", "remarks", "device_time", "met_again",
)  # fmt: skip


def kit_of(member: Membership) -> dict[str, Any]:
    """The document of a kit: tags that are with its person, species as they are measured, their cards."""
    programme = member.programme
    table = species_of(programme)
    kinds = [table[each.code] for each in programme.listed_species if each.code in table]
    issued = TagIssue.objects.filter(person=member.person, returned_at=None, tag__programme=programme)
    tags = issued.filter(tag__state=TagState.ISSUED).select_related("tag").order_by("tag__kind", "tag__number")
    protocol = standing_protocol(programme)
    return {
        "id": member.pk,
        "programme": programme.pk,
        "programme_name": programme.name,
        "person_name": member.person.name,
        "tagger_number": member.number,
        "length_unit": member.person.length_unit or programme.length_unit,
        "species": [
            {
                "code": each.code,
                "name": each.common_name,
                "length_type": each.length_type,
                "length_range_mm": list(each.length_range_mm),
                "length_bounds_mm": list(each.length_bounds_mm),
            }
            for each in kinds
        ],
        "conditions": [
            {"code": int(str(row["code"])), "words": str(row["word"])} for row in protocol.rows("strengths")
        ],
        "tags": [{"kind": each.tag.kind, "number": each.tag.number} for each in tags],
        "cards": cards_of(member),
    }


def cards_of(member: Membership) -> list[dict[str, Any]]:
    """Cards of a person, the newest first."""
    rows = Card.present.filter(programme=member.programme_id, tagger=member.person_id)
    return [told_card(each) for each in with_photos(rows)[:MOST_CARDS]]


def with_photos(cards: QuerySet[Card]) -> QuerySet[Card]:
    """Cards with the keys of their photos, and not the pictures themselves."""
    return cards.prefetch_related(Prefetch("photos", CardPhoto.objects.only("id", "card", "deleted_at")))


def told_card(card: Card) -> dict[str, Any]:
    """A card as it is told, with what is missing."""
    told = {name: getattr(card, name) for name in _CARD}
    return {
        **told,
        "fish": card.fish_id,
        "told_twice": card.problem.endswith(TOLD_TWICE),
        "missing": missing_words(card),
        "photos": [each.pk for each in card.photos.all() if not each.deleted_at],
    }


def missing_in(card: Card) -> tuple[str, ...]:
    """Names of what a card does not say, out of core's ``NEEDED``."""
    return missing_fields(*_values_of(card))


def missing_words(card: Card) -> list[str]:
    return list(missing_of(*_values_of(card)))


def _values_of(card: Card) -> tuple[dict[str, Any], bool]:
    told = {name: getattr(card, name) for name in _CARD}
    return {**told, "caught_on": str(card.caught_on or "")}, bool(card.number_text)


def kits_in(programme: Programme) -> list[dict[str, Any]]:
    """Everybody who has tags with them or has written cards, and what of these waits for a person."""
    out = dict(
        TagIssue.objects.filter(tag__programme=programme, tag__state=TagState.ISSUED, returned_at=None)
        .exclude(person=None)
        .order_by()
        .values_list("person")
        .annotate(n=Count("pk"))
    )
    cards: dict[UUID, list[Card]] = defaultdict(list)
    for card in Card.present.filter(programme=programme):
        cards[card.tagger_id].append(card)
    asked = dict(
        CardRequest.objects.filter(programme=programme).order_by().values_list("tagger").annotate(last=Max("sent_at"))
    )
    members = Membership.objects.filter(programme=programme, person__in={*out, *cards}).select_related("person")
    return [
        {
            "id": member.pk,
            "name": member.person.name,
            "number": member.number,
            "tags": out.get(member.person_id, 0),
            "cards": len(cards[member.person_id]),
            "incomplete": sum(bool(missing_in(each)) for each in cards[member.person_id]),
            "problems": sum(bool(each.problem) for each in cards[member.person_id]),
            "last": max((each.device_time for each in cards[member.person_id]), default=None),
            "asked_at": asked.get(member.person_id),
        }
        for member in sorted(members, key=lambda each: each.person.name)
    ]


def summary_of(member: Membership) -> dict[str, Any]:
    """What became of a volunteer's fish, and how they read a board: for themselves first."""
    cards = Card.present.filter(programme=member.programme_id, tagger=member.person_id)
    fish = set(cards.exclude(fish=None).values_list("fish_id", flat=True))
    returned = Return.objects.filter(fish__in=fish, state=Return.State.VERIFIED)
    met = list(Encounter.objects.filter(fish__in=fish).select_related("site").order_by("at", "id"))
    made = journeys(columns_of(met)) if met else None
    moved = made.distance_m[made.moved == "moved"] if made else np.array([])
    measured = cards.filter(length_basis=Card.Basis.MEASURED).exclude(length_mm=None).order_by()
    lengths = [each for each in measured.values_list("length_mm", flat=True) if each is not None]
    digits = end_digits(lengths) if lengths else None
    zone = ZoneInfo(member.programme.time_zone)
    return {
        "cards": cards.count(),
        "fish": len(fish),
        "returns": returned.count(),
        "furthest_m": round(float(moved.max()), -2) if moved.size else None,
        "since": min((each.at.astimezone(zone).date() for each in met), default=None),
        "tagging": own_tagging(member),
        "measured": len(lengths),
        "digits": None
        if digits is None
        else {
            "counts": list(digits.counts),
            "share_0_5": digits.share_0_5,
            "p": digits.p,
            "preferred": digits.preferred,
        },
    }
