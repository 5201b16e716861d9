"""A fish is called again: only what the row holds changes."""

from __future__ import annotations

from nailwright.common.fields import read_id
from nailwright.deck.calling.corrections import correct_capture
from nailwright.programmes.models import Programme
from nailwright.programmes.record.audit import Act
from nailwright.programmes.record.operations import Kind, Row


def edit_capture(act: Act, programme: Programme, row: Row) -> bool:
    """Correct the row's ``capture``."""
    return correct_capture(act, programme, read_id(row, "capture"), row)


KIND = Kind("capture.edit", "work_deck", edit_capture)
