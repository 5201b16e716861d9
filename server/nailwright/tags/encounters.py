"""Keeping encounters and occasions true: written in the same transaction as the row that says a fish was met or a site fished."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from typing import TypeVar
from uuid import UUID, uuid5

from nailwright.tags.models import Encounter, Occasion

_Row = TypeVar("_Row", Encounter, Occasion)


def replace_encounters(kind: str, sources: Iterable[UUID], now: Sequence[Encounter]) -> int:
    """Make the encounters of these source rows be exactly ``now``; what is true already is not touched.

    Returns:
        How many rows had to be written or taken out.
    """
    for each in now:  # the key follows from what it says, so that a rebuilt table is the same to the key
        each.pk = uuid5(each.source_id, f"{each.kind} {each.fish_id}")
    there = Encounter.objects.filter(kind=kind, source_id__in=list(sources))
    return _replace(Encounter, list(there), now)


def replace_occasions(kind: str, sources: Iterable[UUID], now: Sequence[Occasion]) -> int:
    """As ``replace_encounters``, of where was fished."""
    there = Occasion.objects.filter(kind=kind, pk__in=list(sources))
    return _replace(Occasion, list(there), now)


def _replace(model: type[_Row], there: list[_Row], now: Sequence[_Row]) -> int:
    wanted = {_told(each): each for each in now}
    known = {_told(each) for each in there}
    false = [each.pk for each in there if _told(each) not in wanted]
    fresh = [each for told, each in wanted.items() if told not in known]
    if false:
        model._default_manager.filter(pk__in=false).delete()
    model._default_manager.bulk_create(fresh, batch_size=1000)
    return len(false) + len(fresh)


def _told(row: Encounter | Occasion) -> tuple[object, ...]:
    """All that it says, its key among it."""
    return tuple(getattr(row, field.attname) for field in row._meta.concrete_fields)
