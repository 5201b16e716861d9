"""A fish that was taken out is put back."""

from __future__ import annotations

from nailwright.common.fields import read_id
from nailwright.deck.calling.removal import put_back
from nailwright.programmes.models import Programme
from nailwright.programmes.record.audit import Act
from nailwright.programmes.record.operations import Kind, Row


def restore_capture(act: Act, programme: Programme, row: Row) -> bool:
    """Put the row's ``capture`` back while its outing is open."""
    return put_back(act, programme, read_id(row, "capture"))


KIND = Kind("capture.restore", "work_deck", restore_capture)
