"""The rows that an entry names, locked where it changes them; each refuses with what was expected."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any
from uuid import UUID

from nailwright.common.fields import read_id
from nailwright.deck.models import Capture, Outing
from nailwright.programmes.models import Programme
from nailwright.programmes.receiving import key_taken
from nailwright_core.common.errors import CoreError


def open_outing_of(programme: Programme, row: Mapping[str, Any]) -> Outing:
    """The outing that a row names; it must be open."""
    outing = Outing.objects.select_related("water").filter(pk=read_id(row, "outing"), programme=programme).first()
    if outing is None:
        raise CoreError("outing_unknown", "No such outing in this programme.", "outing")
    outing.must_be_open()
    return outing


def locked_capture(programme: Programme, key: UUID) -> Capture:
    """A fish of the programme, locked."""
    capture = Capture.objects.select_for_update().filter(pk=key).first()
    if capture is None:
        raise CoreError("capture_unknown", "The fish this belongs to has not arrived yet.", "capture")
    same_programme(capture.programme_id, programme, "fish")
    return Capture.objects.select_related("run__outing__water", "programme").get(pk=key)


def same_programme(programme_id: UUID, programme: Programme, what: str) -> None:
    """Refuse a key that belongs to another programme's row."""
    if programme_id != programme.pk:
        raise key_taken(what)
