"""Checklists of an outing: which are asked for, signed by name, or passed over with a reason."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from django.db import transaction

from nailwright.common.fields import read_id, read_word
from nailwright.deck.models import Outing, Signature
from nailwright.deck.outing.checklists import CHECKLISTS
from nailwright.deck.outing.signatures import lines_of
from nailwright.programmes.models import Programme
from nailwright.programmes.record.audit import Act, already_done, apply_change
from nailwright.programmes.record.operations import NotYet
from nailwright.programmes.record.receiving import key_taken
from nailwright_core.common.errors import CoreError

_MAX_NAME, _MAX_NOTE = 80, 300


def sign_checklist(act: Act, programme: Programme, row: Mapping[str, Any]) -> bool:
    """Sign a checklist for an outing by name, or say why the outing goes on without it (``signed`` false).

    A list that was passed over may be signed later; one that is signed stays as it is.

    Returns:
        False where nothing changed.

    Raises:
        CoreError: ``outing_unknown``, ``checklist_unknown``, ``name_missing``, ``note_missing``, ``text_too_long``.
    """
    found = CHECKLISTS.get(str(row.get("checklist")))
    if found is None:
        raise CoreError("checklist_unknown", f"Expected one of {', '.join(CHECKLISTS)}.", "checklist")
    signed = row.get("signed", True) is True
    name, note = read_word(row, "name", _MAX_NAME), read_word(row, "note", _MAX_NOTE)
    if not name:
        raise CoreError("name_missing", "A checklist is signed by name: write whose.", "name")
    if not note and (found.note or not signed):
        wanted = found.note if signed else "why the outing goes on without it"
        raise CoreError("note_missing", f"Write down: {wanted}.", "note")
    with transaction.atomic():
        outing = Outing.objects.select_for_update().filter(pk=read_id(row, "outing"), programme=programme).first()
        if outing is None:
            raise NotYet("outing_unknown", "The outing this belongs to has not arrived yet.", "outing")
        outing.must_be_theirs(act.person)
        before = Signature.objects.filter(outing=outing, checklist=found.code).first()
        values: dict[str, Any] = {
            "signed": signed, "version": found.version, "lines": lines_of(outing, found.code), "name": name, "note": note,
            "person": act.person, "at": act.device_time,
        }  # fmt: skip
        if before is None:
            if Signature.objects.filter(pk=act.id).exists():
                raise key_taken("signature")
            Signature.objects.create(id=act.id, outing=outing, checklist=found.code, **values)
            return True
        if before.pk == act.id or before.signed or not signed or already_done(act):
            return False
        return apply_change(act, programme, before, values)
