"""Where a tag sits in a fish, and how well."""

from __future__ import annotations

from nailwright.common.fields import read_id
from nailwright.deck.rows import locked_capture
from nailwright.programmes.models import Programme
from nailwright.programmes.record.audit import Act
from nailwright.programmes.record.operations import Kind, Row
from nailwright.tags.actions import describe_placement


def describe_tag(act: Act, programme: Programme, row: Row) -> bool:
    """Change ``body_site`` or ``quality`` of the tag of the row's ``kind`` and ``number`` in the fish of its ``capture``."""
    capture = locked_capture(programme, read_id(row, "capture"))
    capture.run.outing.must_be_open(act)
    return describe_placement(act, programme, capture.pk, row)


KIND = Kind("tag.describe", "work_deck", describe_tag)
