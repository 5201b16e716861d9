"""Reading one called fish: the texts go through core, so that tablet, import and API mean the same thing.

Written by hand and not as a serializer: this is the hot path of a syncing tablet (bin/bench shows it).
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from nailwright.common.fields import one_of, read_word
from nailwright.deck.models import Capture
from nailwright_core.common.errors import CoreError
from nailwright_core.common.quantities import G_PER, MM_PER, parse_length, parse_mass
from nailwright_core.common.species import OTHER, LengthMassLine, Species
from nailwright_core.common.species_values import LENGTH_TYPES
from nailwright_core.deck.plausibility import check_capture

SEX_EVIDENCE = ("", "pressure", "external", "ultrasound", "endoscope", "blood", "dissection")
MAX_COUNT = 100_000
MAX_NOTE = 200
#: The answer of a doubt that was put to nobody yet.
NOT_ASKED = "not asked"


@dataclass(frozen=True)
class Board:
    """What an outing settles for every call: units, the programme's species and its own length-mass lines."""

    length_unit: str
    mass_unit: str
    species: Mapping[str, Species]
    lines: Mapping[str, LengthMassLine]


def read_call(row: Mapping[str, Any], board: Board) -> dict[str, Any]:
    """The fields of a Capture from what was called; what a reader said is read apart (``tags.scans``).

    Args:
        row: ``species``, and any of ``length``, ``mass`` (texts), ``length_unit``, ``mass_unit`` (of bare numbers; without
            them the outing's), ``count``, ``sex``, ``sex_evidence``, ``length_type``, ``note``, ``questions``.
        board: the outing's settings.

    Raises:
        CoreError: what is wrong, and in which field.
    """
    kind = read_species(row, board)
    count = read_count(row)
    length = read_length(row, board, one_of(row, "length_type", ("", *LENGTH_TYPES)) or kind.length_type)
    mass = read_mass(row, board)
    check_counted(count, length["length_mm"], mass["mass_g"])
    note = read_word(row, "note", MAX_NOTE)
    check_named(kind, note)
    answers = read_answers(row)
    return {
        "species": kind.code,
        "count": count,
        **length,
        **mass,
        **read_sex(row),
        "note": note,
        "questions": with_doubts(answers, kind, length["length_mm"], mass["mass_g"], board),
    }


def read_species(row: Mapping[str, Any], board: Board) -> Species:
    """The species that was called, one of the programme's."""
    code = read_word(row, "species").lower()
    if code not in board.species:
        known = ", ".join(sorted(board.species))
        raise CoreError(
            "species_not_in_programme", f"'{code}' is not a species of this programme ({known}).", "species"
        )
    return board.species[code]


def check_named(kind: Species, note: str) -> None:
    """A species that is not on the list is called by its name, which stands first in the note.

    Raises:
        CoreError: ``other_without_name``.
    """
    if kind.code == OTHER.code and not name_of_other(note):
        raise CoreError("other_without_name", "Expected which species it is: other 231 ; black bullhead.", "note")


def name_of_other(note: str) -> str:
    """What a fish that was called as ``other`` is named: its note up to a comma."""
    return note.split(",")[0].strip().lower()


def read_count(row: Mapping[str, Any]) -> int:
    """How many fish were counted together; 1 where nothing is said."""
    count = row.get("count", 1)
    if not isinstance(count, int) or isinstance(count, bool) or not 1 <= count <= MAX_COUNT:
        raise CoreError(
            "count_out_of_range",
            f"Expected a whole number of fish from 1 to {MAX_COUNT:,}; got {count!r:.60}.",
            "count",
        )
    return count


def read_length(row: Mapping[str, Any], board: Board, length_type: str) -> dict[str, Any]:
    """The fields of a length; all empty where none was called."""
    text = read_word(row, "length")
    if not text:
        return {"length_mm": None, "length_type": "", "length_basis": "", "length_text": "", "length_unit": ""}
    read = parse_length(text, one_of(row, "length_unit", ("", *MM_PER)) or board.length_unit)
    return {
        "length_mm": round(read.mm, 1),
        "length_type": length_type,
        "length_basis": _basis(read.estimated),
        "length_text": text,
        "length_unit": read.unit,
    }


def read_mass(row: Mapping[str, Any], board: Board) -> dict[str, Any]:
    """The fields of a mass; all empty where none was called."""
    text = read_word(row, "mass")
    if not text:
        return {"mass_g": None, "mass_basis": "", "mass_text": "", "mass_unit": ""}
    read = parse_mass(text, one_of(row, "mass_unit", ("", *G_PER)) or board.mass_unit)
    return {"mass_g": round(read.g, 2), "mass_basis": _basis(read.estimated), "mass_text": text, "mass_unit": read.unit}


def read_sex(row: Mapping[str, Any]) -> dict[str, str]:
    """The sex and how it was told."""
    return {
        "sex": one_of(row, "sex", ("", *Capture.Sex.values)) or Capture.Sex.UNKNOWN,
        "sex_evidence": one_of(row, "sex_evidence", SEX_EVIDENCE),
    }


def check_counted(count: int, length_mm: float | None, mass_g: float | None, marks: int = 0) -> None:
    """A length, a mass or a mark belongs to one fish.

    Raises:
        CoreError: ``count_with_size``, ``count_with_mark``.
    """
    if count > 1 and (length_mm is not None or mass_g is not None):
        raise CoreError("count_with_size", "A length or mass belongs to one fish; count the others apart.", "count")
    if count > 1 and marks:
        raise CoreError("count_with_mark", "A mark belongs to one fish; count the others apart.", "count")


def read_answers(row: Mapping[str, Any]) -> list[dict[str, str]]:
    """Doubts that were put to a person, each with the answer."""
    given = row.get("questions") or []
    if not isinstance(given, list) or len(given) > 10:
        raise CoreError(
            "questions_unreadable", "Expected at most 10 questions, each with code and answer.", "questions"
        )
    answers = []
    for each in given:
        if not isinstance(each, Mapping) or not each.get("code"):
            raise CoreError("questions_unreadable", "Expected each question to have a code and an answer.", "questions")
        answers.append({key: read_word(each, key) for key in ("code", "answer", "called") if each.get(key)})
    return answers


def with_doubts(
    answers: Sequence[dict[str, str]], kind: Species, length_mm: float | None, mass_g: float | None, board: Board
) -> list[dict[str, str]]:
    """These answers, and every doubt core has of the figures that nobody was asked about.

    Raises:
        CoreError: where a figure is impossible.
    """
    told = list(answers)
    asked = {each["code"] for each in told}
    for question in check_capture(kind, length_mm, mass_g, line=board.lines.get(kind.code)):
        if question.weight == "refuse":
            raise CoreError(
                question.code, f"{question.message} Check the unit, or keep the fish without its length.", "length"
            )
        if question.code not in asked:
            told.append({"code": question.code, "answer": NOT_ASKED})
    return told


def _basis(estimated: bool) -> str:
    return Capture.Basis.ESTIMATED if estimated else Capture.Basis.MEASURED
