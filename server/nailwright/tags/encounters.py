"""Keeping the table of encounters true: written in the same transaction as the row that says a fish was met."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from uuid import UUID, uuid5

from nailwright.tags.models import Encounter

#: What an encounter holds besides its own key.
_TOLD = ("fish_id", "kind", "source_id", "outing_id", "at", "at_error_s", "site_id", "lat", "lon", "error_m",
         "length_mm", "mass_g")  # fmt: skip


def replace_encounters(kind: str, sources: Iterable[UUID], now: Sequence[Encounter]) -> int:
    """Make the encounters of these source rows be exactly ``now``; what is true already is not touched.

    Returns:
        How many rows had to be written or taken out.
    """
    there = list(Encounter.objects.filter(kind=kind, source_id__in=list(sources)))
    wanted = {_told(each): each for each in now}
    false = [each.pk for each in there if _told(each) not in wanted]
    known = {_told(each) for each in there}
    fresh = [each for told, each in wanted.items() if told not in known]
    if false:
        Encounter.objects.filter(pk__in=false).delete()
    for each in fresh:  # the key follows from what it says, so that a rebuilt table is the same to the key
        each.pk = uuid5(each.source_id, f"{each.kind} {each.fish_id}")
    Encounter.objects.bulk_create(fresh, batch_size=1000)
    return len(false) + len(fresh)


def _told(row: Encounter) -> tuple[object, ...]:
    return tuple(getattr(row, name) for name in _TOLD)
