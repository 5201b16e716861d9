"""Checklists of an outing: which are asked for, signed by name, or passed over with a reason."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from django.db import transaction

from nailwright.deck.checklists import CHECKLISTS, Checklist
from nailwright.deck.fields import read_id
from nailwright.deck.models import Outing, Signature
from nailwright.programmes.audit import Act, already_done, apply_change
from nailwright.programmes.models import Programme
from nailwright.programmes.policies import require
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
    require(act.person, programme, "sign")
    found = CHECKLISTS.get(str(row.get("checklist")))
    if found is None:
        raise CoreError("checklist_unknown", f"Expected one of {', '.join(CHECKLISTS)}.", "checklist")
    signed = row.get("signed", True) is True
    name, note = _text(row, "name", _MAX_NAME), _text(row, "note", _MAX_NOTE)
    if not name:
        raise CoreError("name_missing", "A checklist is signed by name: write whose.", "name")
    if not note and (found.note or not signed):
        wanted = found.note if signed else "why the outing goes on without it"
        raise CoreError("note_missing", f"Write down: {wanted}.", "note")
    with transaction.atomic():
        outing = Outing.objects.select_for_update().filter(pk=read_id(row, "outing"), programme=programme).first()
        if outing is None:
            raise CoreError("outing_unknown", "No such outing in this programme.", "outing")
        before = Signature.objects.filter(outing=outing, checklist=found.code).first()
        values: dict[str, Any] = {
            "signed": signed, "version": found.version, "lines": list(found.lines), "name": name, "note": note,
            "person": act.person, "at": act.device_time,
        }  # fmt: skip
        if before is None:
            Signature.objects.create(id=act.id, outing=outing, checklist=found.code, **values)
            return True
        if before.pk == act.id or before.signed or not signed or already_done(act):
            return False
        return apply_change(act, programme, before, values)


def checklists_of(outing: Outing) -> list[dict[str, Any]]:
    """The checklists that an outing asks for, each with its words and how it was signed, if it was."""
    there = {each.checklist: each for each in outing.signatures.all()}
    codes = dict.fromkeys((*outing.checklists, *there))
    return [_shown(CHECKLISTS[code], there.get(code)) for code in codes]


def _shown(now: Checklist, signature: Signature | None) -> dict[str, Any]:
    """What was signed is shown in the words and version that were signed, whatever the list says now."""
    version, lines = (signature.version, signature.lines) if signature else (now.version, now.lines)
    return {
        "code": now.code, "version": version, "title": now.title, "lines": lines, "note": now.note, "signature": signature,
    }  # fmt: skip


def unsigned_of(outing: Outing) -> list[str]:
    """Codes of checklists that are neither signed nor passed over."""
    answered = set(outing.signatures.values_list("checklist", flat=True))
    return [code for code in outing.checklists if code not in answered]


def _text(row: Mapping[str, Any], field: str, most: int) -> str:
    value = row.get(field) or ""
    if not isinstance(value, str) or len(value) > most:
        raise CoreError("text_too_long", f"Expected {field} as text of at most {most} characters.", field)
    return value.strip()
