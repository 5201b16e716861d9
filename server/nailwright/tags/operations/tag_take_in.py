"""A tag that was never entered is one of the programme's: taken into the stock where it is read first."""

from __future__ import annotations

from django.db import transaction

from nailwright.common.fields import read_word
from nailwright.common.rows import new_id
from nailwright.programmes.models import Programme
from nailwright.programmes.record.audit import Act, apply_change
from nailwright.programmes.record.operations import Kind, Row
from nailwright.tags.handing_out import end_issues
from nailwright.tags.models import Tag, TagBatch, TagState
from nailwright.tags.numbers import read_number_of

#: Under this name stand tags that a crew took in by reading them, where none was said.
READ_ON_DECK = "Taken in on the Deck"


def take_tag_in(act: Act, programme: Programme, row: Row) -> bool:
    """Take the tag of the row's ``kind`` and ``number`` into the stock, under the batch it names; one that is there stays.

    Raises:
        CoreError: as ``read_number_of``.
    """
    kind = str(row.get("kind"))
    number = read_number_of(kind, read_word(row, "number"))
    name = read_word(row, "batch") or READ_ON_DECK
    with transaction.atomic():
        tag = Tag.objects.select_for_update().filter(programme=programme, kind=kind, number=number).first()
        if tag is not None and tag.state != TagState.LOST:
            return False
        if tag is not None:  # found again
            end_issues([tag])
            return apply_change(act, programme, tag, {"state": TagState.STOCK})
        batch, _ = TagBatch.objects.get_or_create(
            programme=programme, kind=kind, name=name, defaults={"id": new_id(), "received": act.device_time.date()}
        )
        Tag.objects.create(id=act.id, programme=programme, kind=kind, number=number, batch=batch)
    return True


KIND = Kind("tag.take_in", "keep_tags", take_tag_in)
