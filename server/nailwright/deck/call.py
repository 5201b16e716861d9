"""Reading one called fish: the texts go through core, so that tablet, import and API mean the same thing.

Written by hand and not as a serializer: this is the hot path of a syncing tablet (bin/bench shows it).
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from nailwright.deck.models import Capture
from nailwright.tags.models import Tag
from nailwright.tags.numbers import read_number_of
from nailwright_core.common import species as species_table
from nailwright_core.common.errors import CoreError
from nailwright_core.common.quantities import parse_length, parse_mass
from nailwright_core.common.species import LengthMassLine
from nailwright_core.deck.plausibility import check_capture

SEX_EVIDENCE = ("", "pressure", "external", "ultrasound", "endoscope", "blood", "dissection")
SCANNED = ("", "none", "number")
LENGTH_TYPES = ("TL", "TLn", "FL", "SL", "LJFL", "EFL", "DW")
MAX_COUNT = 100_000


@dataclass(frozen=True)
class Board:
    """What an outing settles for every call: units, the programme's species and its own length-mass lines."""

    length_unit: str
    mass_unit: str
    species: frozenset[str]
    lines: Mapping[str, LengthMassLine]


def read_call(row: Mapping[str, Any], board: Board) -> dict[str, Any]:
    """The fields of a Capture from what was called.

    Args:
        row: ``species``, and any of ``length``, ``mass`` (texts), ``count``, ``sex``, ``sex_evidence``,
            ``length_type``, ``note``, ``questions``, ``scanned`` ("none" for scanned and nothing found, "number"),
            and with it ``scan_kind`` and ``scan``, the mark's number.
        board: the outing's settings.

    Raises:
        CoreError: what is wrong, and in which field.
    """
    code = _word(row, "species").lower()
    if code not in board.species:
        known = ", ".join(sorted(board.species))
        raise CoreError(
            "species_not_in_programme", f"'{code}' is not a species of this programme ({known}).", "species"
        )
    kind = species_table.get(code)
    length_text, mass_text = _word(row, "length"), _word(row, "mass")
    length = parse_length(length_text, board.length_unit) if length_text else None
    mass = parse_mass(mass_text, board.mass_unit) if mass_text else None
    count = row.get("count", 1)
    if not isinstance(count, int) or isinstance(count, bool) or not 1 <= count <= MAX_COUNT:
        raise CoreError(
            "count_out_of_range", f"Expected a whole number of fish from 1 to {MAX_COUNT:,}; got {count!r}.", "count"
        )
    if count > 1 and (length or mass):
        raise CoreError("count_with_size", "A length or mass belongs to one fish; count the others apart.", "count")
    length_mm = round(length.mm, 1) if length else None
    mass_g = round(mass.g, 2) if mass else None
    return {
        "species": code,
        "count": count,
        "length_mm": length_mm,
        "length_type": _one_of(row, "length_type", ("", *LENGTH_TYPES)) or kind.length_type if length else "",
        "length_basis": _basis(length.estimated) if length else "",
        "length_text": length_text,
        "mass_g": mass_g,
        "mass_basis": _basis(mass.estimated) if mass else "",
        "mass_text": mass_text,
        "sex": _one_of(row, "sex", ("", *Capture.Sex.values)) or Capture.Sex.UNKNOWN,
        "sex_evidence": _one_of(row, "sex_evidence", SEX_EVIDENCE),
        **_scan(row, count),
        "note": _word(row, "note", 200),
        "questions": _questions(row, kind, length_mm, mass_g, board.lines.get(code)),
    }


def _scan(row: Mapping[str, Any], count: int) -> dict[str, str]:
    """What the reader said. Whose number it is, the action finds out."""
    scanned = _one_of(row, "scanned", SCANNED)
    if scanned != "number":
        return {"scanned": scanned, "scan_text": ""}
    if count > 1:
        raise CoreError("count_with_mark", "A mark belongs to one fish; count the others apart.", "count")
    kind = _word(row, "scan_kind") or Tag.Kind.PIT
    return {"scanned": Capture.Scanned.FOREIGN, "scan_text": f"{kind} {read_number_of(kind, _word(row, 'scan'))}"}


def _questions(
    row: Mapping[str, Any],
    kind: species_table.Species,
    length_mm: float | None,
    mass_g: float | None,
    line: LengthMassLine | None,
) -> list[dict[str, str]]:
    """The answers the deck sent, and every doubt core has now that the deck did not put to anybody."""
    given = row.get("questions") or []
    if not isinstance(given, list) or len(given) > 10:
        raise CoreError(
            "questions_unreadable", "Expected at most 10 questions, each with code and answer.", "questions"
        )
    answers = []
    for each in given:
        if not isinstance(each, Mapping) or not each.get("code"):
            raise CoreError("questions_unreadable", "Expected each question to have a code and an answer.", "questions")
        answers.append({key: _word(each, key, 40) for key in ("code", "answer", "called") if each.get(key)})
    asked = {each["code"] for each in answers}
    for question in check_capture(kind, length_mm, mass_g, line=line):
        if question.weight == "refuse":
            raise CoreError(
                question.code, f"{question.message} Check the unit, or keep the fish without its length.", "length"
            )
        if question.code not in asked:
            answers.append({"code": question.code, "answer": "not asked"})
    return answers


def _basis(estimated: bool) -> str:
    return Capture.Basis.ESTIMATED if estimated else Capture.Basis.MEASURED


def _word(row: Mapping[str, Any], field: str, longest: int = 40) -> str:
    value = row.get(field)
    if value is None:
        return ""
    if not isinstance(value, str):
        raise CoreError("not_a_text", f"Expected {field} as a text; got {type(value).__name__}.", field)
    if len(value) > longest:
        raise CoreError("text_too_long", f"Expected {field} in at most {longest} characters; got {len(value)}.", field)
    if "\x00" in value:
        raise CoreError("text_unreadable", f"The text of {field} holds a null character.", field)
    return value.strip()


def _one_of(row: Mapping[str, Any], field: str, allowed: tuple[str, ...]) -> str:
    value = _word(row, field)
    if value not in allowed:
        raise CoreError(
            "not_a_choice", f"Expected {field} to be one of {', '.join(filter(None, allowed))}; got '{value}'.", field
        )
    return value
