"""Handing tags out to a person, a boat or an outing, and taking them back, many at once."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from uuid import UUID

from django.db import transaction
from django.utils import timezone

from nailwright.programmes.models import Person, Programme
from nailwright.programmes.policies import require
from nailwright.programmes.record.audit import Act
from nailwright.tags.models import Tag, TagBatch, TagIssue, TagState
from nailwright.tags.numbers import read_numbers_of
from nailwright.tags.states import check_change
from nailwright_core.common.errors import CoreError

MOST_AT_ONCE = 20_000


@dataclass(frozen=True)
class To:
    """Who has the tags: one of the three."""

    person: Person | None = None
    boat: str = ""
    outing_id: UUID | None = None


def tags_named(
    programme: Programme, kind: str, numbers: str, batch: TagBatch | None, how_many: int | None
) -> list[Tag]:
    """Tags by their numbers, or the next so many of a batch that are in stock; locked.

    Raises:
        CoreError: ``tag_not_in_stock`` with the first that is not there, ``tags_too_few`` where a batch has fewer, and as
            ``read_numbers_of``.
    """
    rows = Tag.objects.select_for_update().filter(programme=programme)
    if batch is not None:
        there = list(rows.filter(batch=batch, state=TagState.STOCK).order_by("number")[: how_many or MOST_AT_ONCE])
        if not there or (how_many and len(there) < how_many):
            raise CoreError(
                "tags_too_few",
                f"Of {batch.name} {len(there)} are in stock; expected {how_many or 'at least 1'}.",
                "how_many",
            )
        return there
    read = read_numbers_of(kind, numbers)
    if read.unread:
        raise CoreError("tag_number_unreadable", f"'{read.unread[0][0]}': {read.unread[0][1]}", "numbers")
    if len(read.numbers) > MOST_AT_ONCE:
        raise CoreError("tag_numbers_too_many", f"Hand out {MOST_AT_ONCE:,} tags at once at most.", "numbers")
    found = {tag.number: tag for tag in rows.filter(kind=kind, number__in=read.numbers)}
    missing = next((number for number in read.numbers if number not in found), None)
    if missing is not None:
        raise CoreError("tag_not_in_stock", f"{missing} is not in this programme's stock. Enter it first.", "numbers")
    return [found[number] for number in read.numbers]


def handed_out_by(act: Act, programme: Programme) -> list[Tag]:
    """Tags that this very doing has handed out already: sent twice, it is done once."""
    issues = TagIssue.objects.filter(doing_id=act.id, tag__programme=programme).select_related("tag")
    return [each.tag for each in issues.order_by("tag__number")]


def hand_out(act: Act, programme: Programme, tags: list[Tag], to: To) -> int:
    """Hand tags from stock out.

    Returns:
        How many were.

    Raises:
        CoreError: ``issue_to_nobody``, ``tag_state`` with the first that may not be.
    """
    require(act.person, programme, "keep_tags")
    if to.person is None and not to.boat and to.outing_id is None:
        raise CoreError("issue_to_nobody", "Say who takes the tags along: a person, a boat or an outing.", "person")
    issues = []
    with transaction.atomic():
        for tag in tags:
            check_change(tag, TagState.ISSUED)
            issues.append(
                TagIssue(
                    id=act.part(tag.pk).id, doing_id=act.id, tag=tag, person=to.person, boat=to.boat, outing_id=to.outing_id, issuer=act.person,
                    issued_at=act.device_time,
                )
            )  # fmt: skip
        TagIssue.objects.bulk_create(issues, batch_size=2000)
        Tag.objects.filter(pk__in=[each.tag_id for each in issues]).update(state=TagState.ISSUED)
    return len(issues)


def end_issues(tags: Iterable[Tag]) -> None:
    """Tags that are in stock again are with nobody: else they would be counted as out, and kept from the tablets of another outing."""
    TagIssue.objects.filter(tag__in=list(tags), returned_at=None).update(returned_at=timezone.now())


def hand_back(act: Act, programme: Programme, tags: list[Tag]) -> int:
    """Tags that were handed out come back into stock; those that are there already stay.

    Raises:
        CoreError: ``tag_state`` with the first that is neither.
    """
    require(act.person, programme, "keep_tags")
    back = [tag for tag in tags if tag.state != TagState.STOCK]
    for tag in back:
        check_change(tag, TagState.STOCK)
    with transaction.atomic():
        Tag.objects.filter(pk__in=[tag.pk for tag in back]).update(state=TagState.STOCK)
        end_issues(back)
    return len(back)
