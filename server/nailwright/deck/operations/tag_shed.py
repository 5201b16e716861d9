"""A known fish was met without one of its tags."""

from __future__ import annotations

from nailwright.common.fields import read_id
from nailwright.deck.rows import locked_capture
from nailwright.programmes.models import Programme
from nailwright.programmes.record.audit import Act
from nailwright.programmes.record.operations import Kind, Row
from nailwright.tags.actions import shed_tag


def shed_tag_of_capture(act: Act, programme: Programme, row: Row) -> bool:
    """The tag of the row's ``kind`` and ``number`` is not on the fish of its ``capture`` any more, or is where ``shed`` is false."""
    capture = locked_capture(programme, read_id(row, "capture"))
    capture.run.outing.must_be_open(act)
    return shed_tag(act, programme, capture.fish_id, row, row.get("shed", True) is not False)


KIND = Kind("tag.shed", "work_deck", shed_tag_of_capture)
