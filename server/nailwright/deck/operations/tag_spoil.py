"""A tag was spoiled before it went into a fish."""

from __future__ import annotations

from nailwright.deck.rows import open_outing_of
from nailwright.programmes.models import Programme
from nailwright.programmes.record.audit import Act
from nailwright.programmes.record.operations import Kind, Row
from nailwright.tags.actions import spoil_tag


def spoil_tag_on_outing(act: Act, programme: Programme, row: Row) -> bool:
    """The tag of the row's ``kind`` and ``number`` is spoiled, or usable after all where ``spoiled`` is false."""
    open_outing_of(programme, row)
    return spoil_tag(act, programme, row, row.get("spoiled", True) is not False)


KIND = Kind("tag.spoil", "work_deck", spoil_tag_on_outing)
