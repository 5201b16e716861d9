"""What is in stock, handed out, in fish: counted by batch, and found by number."""

from __future__ import annotations

from collections import defaultdict
from typing import Any
from uuid import UUID

from django.db.models import Count, Exists, F, Max, Min, OuterRef, Q, QuerySet

from nailwright.programmes.models import Programme
from nailwright.tags.models import Placement, Scan, Tag, TagBatch, TagIssue, TagState
from nailwright_core.tags.legends import part_pattern

#: A page of tags, and as many are found for a part of a number.
PAGE = 100


def batches_of(programme: Programme) -> list[dict[str, Any]]:
    """Every batch with its numbers counted by state; those received last first."""
    counts: dict[UUID | None, dict[str, int]] = defaultdict(dict)
    tags = Tag.objects.filter(programme=programme).order_by()
    for batch, state, n in tags.values_list("batch", "state").annotate(n=Count("pk")):
        counts[batch][state] = n
    rows = TagBatch.objects.filter(programme=programme).annotate(first=Min("tags__number"), last=Max("tags__number"))
    return [_told(row, counts[row.pk]) for row in rows.order_by(F("received").desc(nulls_last=True), "kind", "name")]


def told_batch(batch: TagBatch) -> dict[str, Any]:
    """One batch as ``batches_of`` tells it."""
    row = TagBatch.objects.annotate(first=Min("tags__number"), last=Max("tags__number")).get(pk=batch.pk)
    return _told(row, dict(batch.tags.order_by().values_list("state").annotate(Count("pk"))))


def _told(row: Any, counts: dict[str, int]) -> dict[str, Any]:
    names = (
        "id", "kind", "name", "colour", "size_mm", "mass_g", "battery_days", "note", "received", "supplier", "price_each", "meaning", "reward",
        "frequency_khz", "code_space",
    )  # fmt: skip
    told = {name: getattr(row, name) for name in names}
    return {**told, "first_number": row.first or "", "last_number": row.last or "", "counts": counts}


def tags_found(
    programme: Programme, number: str = "", batch: UUID | None = None, state: str = "", after: str = ""
) -> list[dict[str, Any]]:
    """Tags whose number holds these signs, in order of their numbers, from one on; a page at most. Of a worn legend "?" stands for one
    sign and "*" for any number of them.

    Below them stand those that were only read on fish and are in no stock, with the fish that carries them.
    """
    found: QuerySet[Tag] = Tag.objects.filter(programme=programme).select_related("batch")
    signs = "".join(each for each in number if each.isalnum() or each == "-").upper()
    worn = part_pattern(number)
    if worn:
        found = found.filter(number__regex=worn)
    elif signs:
        found = found.filter(number__contains=signs)
    if batch:
        found = found.filter(batch=batch)
    if state:
        found = found.filter(state=state)
    if after:
        kind, _, last = after.partition(" ")
        found = found.filter(Q(kind__gt=kind) | Q(kind=kind, number__gt=last))
    tags = list(found.order_by("kind", "number")[:PAGE])
    fish = dict(Placement.present.filter(living_tag__in=[tag.pk for tag in tags]).values_list("tag_id", "fish_id"))
    with_whom = TagIssue.objects.filter(
        tag__in=[tag for tag in tags if tag.state == TagState.ISSUED], returned_at=None
    ).select_related("person")
    holders = {
        each.tag_id: each.person.name if each.person else each.boat or "an outing"
        for each in with_whom.order_by("issued_at")
    }
    lookup = {"number__regex": worn} if worn else {"number__contains": signs}
    unknown = _read_only(programme, lookup, PAGE - len(tags)) if signs and not (batch or state or after) else []
    return [
        {
            "kind": tag.kind,
            "number": tag.number,
            "state": tag.state,
            "batch": tag.batch.name if tag.batch else "",
            "fish": fish.get(tag.pk),
            "holder": holders.get(tag.pk, ""),
        }
        for tag in tags
    ] + unknown


def _read_only(programme: Programme, lookup: dict[str, str], most: int) -> list[dict[str, Any]]:
    """Numbers like this that another programme gave out."""
    read = Scan.present.filter(programme=programme, result=Scan.Result.FOREIGN, **lookup).exclude(fish=None)
    own = Tag.objects.filter(programme=programme, kind=OuterRef("kind"), number=OuterRef("number"))
    rows = read.exclude(Exists(own)).order_by("kind", "number").values_list("kind", "number", "fish_id").distinct()
    return [
        {"kind": kind, "number": number, "state": TagState.ELSEWHERE, "batch": "", "fish": fish, "holder": ""}
        for kind, number, fish in rows[:most]
    ]
