"""The stock of tags: batches, their numbers, and what becomes of tags that are in no fish."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any
from uuid import UUID

from django.db import transaction

from nailwright.programmes.models import Programme
from nailwright.programmes.policies import require
from nailwright.programmes.record.audit import Act, apply_change, must_say_why
from nailwright.tags.handing_out import end_issues
from nailwright.tags.models import Tag, TagBatch, TagState
from nailwright.tags.numbers import read_numbers_of
from nailwright.tags.states import check_change
from nailwright_core.common.errors import CoreError

#: States into which a person may put tags by hand, with what is to be said of why.
BY_HAND = (TagState.STOCK, TagState.SPOILED, TagState.LOST, TagState.DESTROYED)
_AT_ONCE = 2000


@dataclass(frozen=True)
class Taken:
    """What became of numbers that were entered.

    Attributes:
        new: numbers that are in the stock now, or would be. known: that were in it before. elsewhere: that were read on fish before
            anybody entered them, and are known as of this batch now. twice: how many stood there again. unread: parts that are no number.
    """

    new: tuple[str, ...]
    known: tuple[str, ...]
    elsewhere: tuple[str, ...]
    twice: int
    unread: tuple[tuple[str, str], ...]


def enter_batch(act: Act, programme: Programme, values: Mapping[str, Any], numbers: str) -> tuple[TagBatch, Taken]:
    """Take a batch into the stock with its numbers; ``act.id`` becomes its key, and sending it twice changes nothing.

    Raises:
        CoreError: ``batch_there`` where another batch of the kind has its name; as ``read_numbers_of``.
    """
    require(act.person, programme, "keep_tags")
    with transaction.atomic():
        batch = TagBatch.objects.filter(pk=act.id, programme=programme).first()
        if batch is None:
            if TagBatch.objects.filter(programme=programme, kind=values["kind"], name__iexact=values["name"]).exists():
                raise CoreError(
                    "batch_there",
                    f"There is a batch '{values['name']}' of that kind already: add the numbers to it, or name this one otherwise.",
                    "name",
                )
            batch = TagBatch.objects.create(id=act.id, programme=programme, **values)
        taken = _take_in(batch, numbers) if numbers.strip() else Taken((), (), (), 0, ())
    return batch, taken


def add_numbers(act: Act, batch: TagBatch, numbers: str, only_try: bool = False) -> Taken:
    """Put more numbers into a batch, or only say what would become of them.

    Raises:
        CoreError: as ``read_numbers_of``.
    """
    require(act.person, batch.programme, "keep_tags")
    with transaction.atomic():
        return _take_in(batch, numbers, only_try)


def try_numbers(programme: Programme, kind: str, numbers: str) -> Taken:
    """What would become of numbers in a new batch.

    Raises:
        CoreError: as ``read_numbers_of``.
    """
    return _take_in(TagBatch(programme=programme, kind=kind), numbers, only_try=True)


def describe_batch(act: Act, batch: TagBatch, values: Mapping[str, Any]) -> TagBatch:
    """Change what is known of a batch; what it was is kept.

    Raises:
        CoreError: ``batch_there``.
    """
    require(act.person, batch.programme, "keep_tags")
    with transaction.atomic():
        locked = TagBatch.objects.select_for_update().get(pk=batch.pk)
        named = TagBatch.objects.filter(
            programme=locked.programme_id, kind=locked.kind, name__iexact=values.get("name", "")
        )
        if named.exclude(pk=locked.pk).exists():
            raise CoreError("batch_there", f"There is a batch '{values['name']}' of that kind already.", "name")
        apply_change(act, batch.programme, locked, values)
    return locked


def move_tags(
    act: Act, programme: Programme, kind: str, numbers: str, to: str
) -> tuple[int, tuple[tuple[str, str], ...]]:
    """Say that tags are lost, damaged, done away with, or in stock again; each with its history.

    Returns:
        How many changed, and those that may not, with why.

    Raises:
        CoreError: ``reason_missing``, ``tag_state_by_hand``, and as ``read_numbers_of``.
    """
    require(act.person, programme, "keep_tags")
    must_say_why(act, "lost on the way to the boat")
    if to not in BY_HAND:
        raise CoreError("tag_state_by_hand", f"Expected one of {', '.join(BY_HAND)}; got '{to[:20]}'.", "state")
    read = read_numbers_of(kind, numbers)
    with transaction.atomic():
        tags = {tag.number: tag for tag in _tags(programme, kind, read.numbers, lock=True)}
        refused, changed = list(read.unread), []
        for number in read.numbers:
            tag = tags.get(number)
            try:
                if tag is None:
                    raise CoreError("tag_not_in_stock", "not in this programme's stock", "number")
                if tag.state != to:
                    check_change(tag, to)
                    apply_change(act.part(tag.pk), programme, tag, {"state": to})
                    changed.append(tag)
            except CoreError as error:
                refused.append((number, error.message))
        if to == TagState.STOCK:
            end_issues(changed)
    return len(changed), tuple(refused)


def _take_in(batch: TagBatch, numbers: str, only_try: bool = False) -> Taken:
    read = read_numbers_of(batch.kind, numbers)
    there = {tag.number: tag for tag in _tags(batch.programme, batch.kind, read.numbers, lock=not only_try)}
    fresh = [number for number in read.numbers if number not in there]
    # seen on a fish before anybody entered it: it is of this batch, and stays where it is
    loose = [tag for tag in there.values() if tag.batch_id is None]
    if not only_try:
        Tag.objects.bulk_create(
            [Tag(programme=batch.programme, kind=batch.kind, number=number, batch=batch) for number in fresh],
            batch_size=_AT_ONCE,
        )
        Tag.objects.filter(pk__in=[tag.pk for tag in loose]).update(batch=batch)
    known = [number for number in read.numbers if number in there and there[number].batch_id is not None]
    return Taken(tuple(fresh), tuple(known), tuple(tag.number for tag in loose), read.twice, read.unread)


def _tags(programme: Programme, kind: str, numbers: Sequence[str], lock: bool) -> list[Tag]:
    rows = Tag.objects.select_for_update() if lock else Tag.objects.all()
    found: list[Tag] = []
    for start in range(0, len(numbers), _AT_ONCE):
        found += rows.filter(programme=programme, kind=kind, number__in=numbers[start : start + _AT_ONCE])
    return found


def batch_of(programme: Programme, key: UUID) -> TagBatch | None:
    """A batch of the programme by its key."""
    return TagBatch.objects.filter(pk=key, programme=programme).first()
