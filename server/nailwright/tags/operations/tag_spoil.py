"""A tag was damaged before it went into a fish."""

from __future__ import annotations

from nailwright.programmes.models import Programme
from nailwright.programmes.record.audit import Act
from nailwright.programmes.record.operations import Kind, Row
from nailwright.tags.actions import spoil_tag


def spoil_tag_by_number(act: Act, programme: Programme, row: Row) -> bool:
    """The tag of the row's ``kind`` and ``number`` is damaged, or usable after all where ``spoiled`` is false."""
    return spoil_tag(act, programme, row, row.get("spoiled", True) is not False)


KIND = Kind("tag.spoil", "keep_tags", spoil_tag_by_number)
