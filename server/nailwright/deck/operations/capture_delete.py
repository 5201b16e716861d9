"""A fish is taken out; ``meant`` says what is to become of a mark that the call gave it."""

from __future__ import annotations

from nailwright.common.fields import read_id
from nailwright.deck.calling.removal import take_out
from nailwright.programmes.models import Programme
from nailwright.programmes.record.audit import Act
from nailwright.programmes.record.operations import Kind, Row


def delete_capture(act: Act, programme: Programme, row: Row) -> bool:
    """Take the row's ``capture`` out."""
    return take_out(act, programme, read_id(row, "capture"), row)


KIND = Kind("capture.delete", "work_deck", delete_capture)
