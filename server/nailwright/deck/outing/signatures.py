"""Which checklists an outing asks for, and how they were signed."""

from __future__ import annotations

from typing import Any

from nailwright.deck.models import Outing, Signature
from nailwright.deck.outing.checklists import CHECKLISTS, Checklist
from nailwright.programmes.protocols import protocol_in


def checklists_of(outing: Outing) -> list[dict[str, Any]]:
    """The checklists that an outing asks for, each with its words and how it was signed, if it was."""
    there = {each.checklist: each for each in outing.signatures.all()}
    codes = dict.fromkeys((*outing.checklists, *there))
    return [_shown(CHECKLISTS[code], lines_of(outing, code), there.get(code)) for code in codes]


def lines_of(outing: Outing, code: str) -> list[str]:
    """The lines of a checklist for an outing: ours, then those its protocol added."""
    own = [str(row["line"]) for row in protocol_in(outing.protocol).rows("checklist_lines") if row["checklist"] == code]
    return [*CHECKLISTS[code].lines, *own]


def _shown(now: Checklist, asked: list[str], signature: Signature | None) -> dict[str, Any]:
    """What was signed is shown in the words and version that were signed, whatever the list says now."""
    version, lines = (signature.version, signature.lines) if signature else (now.version, asked)
    return {
        "code": now.code, "version": version, "title": now.title, "lines": lines, "note": now.note, "signature": signature,
    }  # fmt: skip


def unsigned_of(outing: Outing) -> list[str]:
    """Codes of checklists that are neither signed nor passed over."""
    answered = {each.checklist for each in outing.signatures.all()}
    return [code for code in outing.checklists if code not in answered]
