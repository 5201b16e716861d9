"""A fish is called; the entry's key becomes the capture's."""

from __future__ import annotations

from nailwright.deck.calling.recording import record_captures
from nailwright.programmes.models import Programme
from nailwright.programmes.record.audit import Act
from nailwright.programmes.record.operations import Kind, Row
from nailwright_core.common.errors import CoreError


def record_capture(act: Act, programme: Programme, row: Row) -> bool:
    """Keep one called fish of the row's ``run``, as ``deck.call.read_call`` and ``tags.scans.read_scans`` read it."""
    (outcome,) = record_captures(programme, [(act, row)])
    if isinstance(outcome, CoreError):
        raise outcome
    return outcome


KIND = Kind("capture.record", "work_deck", record_capture, record_captures)
