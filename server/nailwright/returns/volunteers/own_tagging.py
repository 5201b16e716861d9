"""How one person's tags do: for themselves, before anybody compares."""

from __future__ import annotations

from collections import Counter, defaultdict
from typing import Any
from uuid import UUID

from django.db.models import Q

from nailwright.deck.handling.hands import captures_naming, taggers_named
from nailwright.programmes.models import Membership
from nailwright.returns.models import Card
from nailwright.tags.models import Placement
from nailwright.tags.retention_rows import sightings_of
from nailwright_core.common.intervals import exact_share

LEVEL = 0.95


def own_tagging(member: Membership) -> list[dict[str, Any]]:
    """By kind the tags that this person placed: how well by their own word, and of those met again and known by another mark how many
    were still there, with the exact binomial interval; most placed first."""
    placed = own_placements(member)
    by_kind: dict[str, list[Placement]] = defaultdict(list)
    for each in placed:
        by_kind[each.tag.kind].append(each)
    return [_of_kind(member, kind, rows) for kind, rows in sorted(by_kind.items(), key=lambda item: -len(item[1]))]


def own_placements(member: Membership) -> list[Placement]:
    """Placements by their hand: of their own cards, of fish of which it was recorded that they tagged them, and of fish that they
    recorded where nobody else was named."""
    cards = set(
        Card.objects.filter(programme=member.programme_id, tagger=member.person_id).values_list("pk", flat=True)
    )
    of_others = Card.objects.filter(programme=member.programme_id).exclude(tagger=member.person_id).values("pk")
    perhaps = cards | captures_naming(member.programme, member.person.name)
    rows = Placement.present.filter(tag__programme=member.programme_id).exclude(capture_id__in=of_others)
    rows = rows.filter(Q(recorder=member.person_id) | Q(capture_id__in=perhaps))
    placed = list(rows.select_related("tag", "fish").order_by("device_time"))
    named = taggers_named({each.capture_id for each in placed} - cards)

    def own(each: Placement) -> bool:
        name = named.get(each.capture_id)
        if each.capture_id in cards:
            return True
        return name.casefold() == member.person.name.casefold() if name else each.recorder_id == member.person_id

    return [each for each in placed if own(each)]


def _of_kind(member: Membership, kind: str, placed: list[Placement]) -> dict[str, Any]:
    by_species: dict[str, list[UUID]] = defaultdict(list)
    for each in placed:
        by_species[each.fish.species].append(each.pk)
    told = [
        sighted
        for species, keys in by_species.items()
        for sighted in sightings_of(member.programme, species, kind, keys).told
    ]
    kept = sum(not each.gone for each in told)
    share = exact_share(kept, len(told), "tags", LEVEL) if told else None
    quality = Counter(each.quality for each in placed)
    return {
        "kind": kind,
        "placed": len(placed),
        "good": quality[Placement.Quality.GOOD],
        "doubtful": quality[Placement.Quality.DOUBTFUL],
        "second": quality[Placement.Quality.SECOND_TRY],
        "seen": len(told),
        "kept": kept,
        "share": 100 * share.value if share else None,
        "lower": 100 * share.lower if share else None,
        "upper": 100 * share.upper if share else None,
    }
