"""What was seen of each tag when its fish was met again by a crew and known by another mark."""

from __future__ import annotations

from bisect import bisect_right
from collections import defaultdict
from collections.abc import Collection
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any
from uuid import UUID

from nailwright.programmes.models import Change, Programme
from nailwright.tags.models import Encounter, Placement, Scan, Tag, TagKind, TagState

#: A loss is written down while the fish is in hand, or soon after.
_WRITTEN_WITHIN = timedelta(hours=12)
_A_DAY_S = 86_400.0


@dataclass(frozen=True)
class Sighted:
    """One tag of one fish that told something. ``days`` from tagging to the last sighting with it, or to the first without it; ``seen_with``
    to the last with it of one that is gone. ``lasting``: the fish was known by a PIT. ``about``: what it is grouped by."""

    days: float
    gone: bool
    seen_with: float
    lasting: bool
    about: dict[str, str]


@dataclass(frozen=True)
class Sightings:
    """Attributes:
    told: of each tag that told something. not_met: fish not met since. by_itself: met, but known by this very tag alone.
    unsaid: met by another mark, while nobody said whether this one was there.
    there, read: captures at which a tag must have been there since it was read later, and those of them at which it was read.
    """

    told: list[Sighted]
    not_met: int
    by_itself: int
    unsaid: int
    there: int
    read: int


@dataclass(frozen=True)
class _Met:
    """One later meeting: how long after tagging, whether the tag was read, whether another mark told the fish, and whether that was a PIT."""

    at: datetime
    read: bool
    other: bool
    lasting: bool


def sightings_of(programme: Programme, species: str, kind: str, only: Collection[UUID] | None = None) -> Sightings:
    """Tags of a kind in fish of a species, as crews met them again. Finders' reports are not in it: they see the tag or nothing.

    Args:
        only: keys of the placements that are asked about; None: all.
    """
    rows = Placement.present.filter(tag__programme=programme, tag__kind=kind, fish__species=species)
    placed = list((rows if only is None else rows.filter(pk__in=only)).select_related("tag__batch"))
    met = _meetings(programme, species)
    reads = _reads(programme, species)
    sheds = _shed_at([each.tag for each in placed])
    told: list[Sighted] = []
    counts = {"not_met": 0, "by_itself": 0, "unsaid": 0, "there": 0, "read": 0}
    for each in placed:
        own = (kind, each.tag.number)
        later = [
            _Met(at, own in reads[source], bool(reads[source] - {own}), any(k == TagKind.PIT for k, _ in reads[source] - {own}))
            for at, source in met[each.fish_id]
            if at > each.device_time and source != each.capture_id
        ]  # fmt: skip
        last_read = max((place for place, meeting in enumerate(later) if meeting.read), default=-1)
        counts["there"] += max(last_read, 0)
        counts["read"] += sum(meeting.read for meeting in later[:last_read]) if last_read > 0 else 0
        found = _told(each, later, sheds.get(each.tag_id))
        if found:
            told.append(found)
        else:
            counts["not_met" if not later else "unsaid" if any(m.other for m in later) else "by_itself"] += 1
    return Sightings(told, **counts)


def _told(placement: Placement, later: list[_Met], shed_at: datetime | None) -> Sighted | None:
    """What the meetings say of one tag; None where they say nothing."""
    lost_at = _meeting_of(later, shed_at) if shed_at else None
    with_it = [each for each in later if each.read and (lost_at is None or each.at < lost_at)]
    by_other = [each for each in with_it if each.other]
    # one that is gone, and nobody knows at which meeting that was seen, was not kept either
    if lost_at is None and (shed_at or not by_other):
        return None
    told_at = lost_at or by_other[-1].at
    lasting = any(each.lasting for each in later if each.at == told_at)
    seen_with = with_it[-1].at if lost_at and with_it else placement.device_time
    return Sighted(
        _days(placement.device_time, told_at),
        lost_at is not None,
        _days(placement.device_time, seen_with) if lost_at else 0.0,
        lasting,
        about_placement(placement),
    )


def _meeting_of(later: list[_Met], shed_at: datetime) -> datetime | None:
    """The meeting at which a loss was seen: the last one before it was written down, since the tag was read last, at which another mark told
    the fish."""
    place = bisect_right([each.at for each in later], shed_at + _WRITTEN_WITHIN)
    for each in reversed(later[:place]):
        if each.read:
            return None
        if each.other:
            return each.at
    return None


def about_placement(placement: Placement) -> dict[str, str]:
    """What a placed tag is grouped by, in words."""
    batch = placement.tag.batch
    return {
        "batch": batch.name if batch else "not of a batch",
        "colour": (batch.colour if batch else "") or "colour not said",
        "site": placement.body_site or "not said",
        "quality": placement.get_quality_display() if placement.quality else "not said",
        "year": str(placement.device_time.year),
    }


def _meetings(programme: Programme, species: str) -> dict[UUID, list[tuple[datetime, UUID]]]:
    """Captures of each fish by crews, in order of time."""
    found: dict[UUID, list[tuple[datetime, UUID]]] = defaultdict(list)
    rows = Encounter.objects.filter(fish__programme=programme, fish__species=species, kind=Encounter.Kind.CAPTURE)
    for fish, at, source in rows.order_by("at", "id").values_list("fish_id", "at", "source_id"):
        found[fish].append((at, source))
    return found


def _reads(programme: Programme, species: str) -> dict[UUID, set[tuple[str, str]]]:
    """Numbers that were read at each capture."""
    found: dict[UUID, set[tuple[str, str]]] = defaultdict(set)
    caught = Encounter.objects.filter(
        fish__programme=programme, fish__species=species, kind=Encounter.Kind.CAPTURE
    ).values("source_id")
    rows = Scan.present.filter(programme=programme, source_id__in=caught).order_by()
    for source, kind, number in rows.values_list("source_id", "kind", "number"):
        found[source].add((kind, number))
    return found


def _shed_at(tags: list[Tag]) -> dict[Any, datetime]:
    """When each shed tag was said to be gone."""
    gone = [tag.pk for tag in tags if tag.state == TagState.SHED]
    changes = Change.objects.filter(table="tag", row__in=gone, after__state=TagState.SHED).order_by("server_time")
    return dict(changes.values_list("row", "device_time"))


def _days(first: datetime, last: datetime) -> float:
    return (last - first).total_seconds() / _A_DAY_S
