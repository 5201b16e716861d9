"""Which tag and fish a reported number is of."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from nailwright.programmes.models import Programme
from nailwright.tags.models import Fish, Placement, Scan, Tag, TagState
from nailwright_core.common.errors import CoreError
from nailwright_core.tags.legends import near_pattern, readings

MOST_NEAR = 12


@dataclass(frozen=True)
class Match:
    """The tag with the number, and the fish that carries or carried it; None where there is none, or several."""

    tag: Tag | None = None
    fish: Fish | None = None


def match_number(programme: Programme, text: str) -> Match:
    """The one tag of the programme that the text may name: as written before what looks alike.

    A number that was only read on fish, and is another programme's, has a fish and no tag.
    """
    try:
        numbers = readings(text)
    except CoreError:
        return Match()
    meant = tags_meant(programme, numbers)
    read = list(
        Scan.present.filter(programme=programme, number__in=numbers, result=Scan.Result.FOREIGN)
        .exclude(fish=None)
        .select_related("fish")[:2]
    )
    if len(meant) > 1:
        return Match()
    if meant:
        return Match(meant[0], fish_of(meant[0]))
    carriers = {each.fish_id: each.fish for each in read}
    return Match(None, next(iter(carriers.values()))) if len(carriers) == 1 else Match()


def tags_meant(programme: Programme, numbers: Sequence[str], kind: str = "") -> list[Tag]:
    """The tags that a number may be, of one kind or any: as it was written, else whatever looks alike; ``numbers`` are core's ``readings``."""
    tags = Tag.objects.filter(programme=programme, number__in=numbers, **({"kind": kind} if kind else {}))
    return [tag for tag in tags if tag.number == numbers[0]] or list(tags)


def fish_of(tag: Tag) -> Fish | None:
    """The fish that carries a tag, or was the last that did."""
    placed = Placement.present.filter(tag=tag).select_related("fish").order_by("living_tag", "device_time").last()
    return placed.fish if placed else None


def near_numbers(programme: Programme, text: str) -> list[dict[str, Any]]:
    """Tags whose number differs by one sign from what was read, those in fish first; for people of the programme alone."""
    try:
        pattern = near_pattern(text)
    except CoreError:
        return []
    found = Tag.objects.filter(programme=programme, number__regex=pattern).order_by("number")[: 4 * MOST_NEAR]
    ranked = sorted(found, key=lambda tag: (tag.state != TagState.PLACED, tag.number))[:MOST_NEAR]
    return [{"kind": tag.kind, "number": tag.number, "state": tag.state} for tag in ranked]
