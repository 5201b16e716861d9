"""Putting a fish right: only what was sent as changed changes, whether it comes from a tablet, the desk or a file."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any
from uuid import UUID

from django.utils import timezone

from nailwright.common.fields import one_of, read_id, read_time, read_word
from nailwright.deck.calling.call import (
    MAX_NOTE,
    NOT_ASKED,
    Board,
    check_counted,
    check_named,
    read_answers,
    read_count,
    read_length,
    read_mass,
    read_sex,
    read_species,
    with_doubts,
)
from nailwright.deck.calling.recording import MARKS_DISAGREE
from nailwright.deck.encounters import renew_encounters
from nailwright.deck.handling.summary import renew_handling
from nailwright.deck.models import Capture, Event, Photo, Run
from nailwright.deck.queries import board_of
from nailwright.deck.rows import locked_capture
from nailwright.programmes.models import Programme
from nailwright.programmes.record.audit import Act, apply_change, changed_since
from nailwright.tags.actions import living_placements, unknown_fish
from nailwright.tags.models import Scan
from nailwright.tags.scans import Read, fish_by_number, read_scans, scan_rows, whose
from nailwright_core.common.errors import CoreError
from nailwright_core.common.species_values import LENGTH_TYPES

#: Fields that stand or fall together when two corrections meet.
GROUPS = (
    ("length_mm", "length_type", "length_basis", "length_text", "length_unit"),
    ("mass_g", "mass_basis", "mass_text", "mass_unit"),
    ("sex", "sex_evidence"),
    ("scanned", "fish_id", "scans"),
)
#: What the doubts are about; where none of it changes, their answers stay.
_DOUBTED = ("species", "length_mm", "mass_g")


def correct_capture(act: Act, programme: Programme, capture_id: UUID, row: Mapping[str, Any]) -> bool:
    """Correct a fish.

    Args:
        row: any fields of a call, each as text with its unit beside it; what is not in it stays as it is. A text that is
            the stored one in the stored unit is no change. At the desk also ``run`` (a key: which it was caught in, maybe of another
            outing) and ``caught_at``.

    Raises:
        CoreError: as ``read_call`` and ``read_scans``; ``outing_closed``, ``mark_not_of_fish``, ``mark_of_other_fish``,
            ``run_unknown``.
    """
    capture = locked_capture(programme, capture_id)
    capture.run.outing.must_be_open(act)
    board = board_of(capture.run.outing)
    values = _corrected(capture, row, board)
    also: tuple[dict[str, Any], dict[str, Any]] = ({}, {})
    if row.get("scanned"):
        scanned, also = _scanned_anew(act, programme, capture, row, values.get("species", capture.species))
        values |= scanned
    if act.desk:
        values |= _moved(programme, row)
    before = capture.run_id
    changed = apply_change(act, programme, capture, values, GROUPS, also)
    if capture.run_id != before:
        _take_along(capture)
    if changed:
        renew_encounters([capture.pk])
        renew_handling([capture.pk])
    return changed


def _moved(programme: Programme, row: Mapping[str, Any]) -> dict[str, Any]:
    values: dict[str, Any] = {}
    if row.get("run"):
        run = Run.present.filter(pk=read_id(row, "run"), outing__programme=programme).first()
        if run is None:
            raise CoreError("run_unknown", "There is no such run in this programme. Choose one of its outings.", "run")
        values["run_id"] = run.pk
    if row.get("caught_at"):
        values["device_time"] = read_time(row, "caught_at")
    return values


def _take_along(capture: Capture) -> None:
    """What was said of a fish and its photos are of its run and outing, wherever it is moved, there and back."""
    run = Run.objects.get(pk=capture.run_id)
    Event.objects.filter(capture=capture).update(run=run, outing=run.outing_id)
    Photo.objects.filter(capture=capture).update(outing=run.outing_id)


def _corrected(capture: Capture, row: Mapping[str, Any], board: Board) -> dict[str, Any]:
    values: dict[str, Any] = {}
    kind = read_species(row, board) if row.get("species") is not None else board.species[capture.species]
    if kind.code != capture.species:
        values["species"] = kind.code
    called_type = one_of(row, "length_type", ("", *LENGTH_TYPES))
    if "length" in row and _differs(row, "length", capture.length_text, capture.length_unit):
        kept = capture.length_type if kind.code == capture.species else ""
        values |= read_length(row, board, called_type or kept or kind.length_type)
    elif called_type and capture.length_mm is not None:
        values["length_type"] = called_type
    if "mass" in row and _differs(row, "mass", capture.mass_text, capture.mass_unit):
        values |= read_mass(row, board)
    if row.get("sex") is not None or row.get("sex_evidence") is not None:
        told = {"sex": capture.sex, "sex_evidence": capture.sex_evidence} | {
            name: row[name] for name in ("sex", "sex_evidence") if row.get(name) is not None
        }
        values |= read_sex(told)
    if row.get("count") is not None:
        values["count"] = read_count(row)
    if row.get("note") is not None:
        values["note"] = read_word(row, "note", MAX_NOTE)
    if "species" in values or "note" in values:
        check_named(kind, values.get("note", capture.note))
    now = {name: values.get(name, getattr(capture, name)) for name in ("count", "length_mm", "mass_g")}
    check_counted(now["count"], now["length_mm"], now["mass_g"])
    answers = read_answers(row)
    if any(name in values and values[name] != getattr(capture, name) for name in _DOUBTED):
        other = [each for each in capture.questions if each["code"] == MARKS_DISAGREE]
        values["questions"] = [*with_doubts(answers, kind, now["length_mm"], now["mass_g"], board), *other]
    elif answers:
        given = {each["code"]: each for each in answers}
        stay = [given.pop(each["code"], each) for each in capture.questions]
        values["questions"] = [*stay, *given.values()]
    return values


def _differs(row: Mapping[str, Any], what: str, text: str, unit: str) -> bool:
    """Whether a text was changed: other words, or the same in another unit."""
    unit_text = read_word(row, f"{what}_unit")
    return read_word(row, what) != text or bool(unit_text and unit_text != unit)


def _scanned_anew(
    act: Act, programme: Programme, capture: Capture, row: Mapping[str, Any], species: str
) -> tuple[dict[str, Any], tuple[dict[str, Any], dict[str, Any]]]:
    """What the reader says now replaces what it said before, and the scans' rows follow: values of the fish, and the numbers of
    before and of now, where they differ."""
    scanned, numbers = read_scans(row)
    placed_here = bool(living_placements([capture.pk]))
    known = fish_by_number(programme, [(each.kind, each.number) for each in numbers])
    if scanned == "none":
        # nothing found: it is no longer that fish, unless it was marked in this very hand
        values: dict[str, Any] = {"scanned": "none", "fish_id": capture.fish_id if placed_here else None}
        disagree = False
    else:
        result, fish, disagree = whose(numbers, known)
        ours = placed_here or capture.scanned == Capture.Scanned.KNOWN
        if capture.fish_id and ours and fish is None and not disagree:
            raise CoreError(
                "mark_not_of_fish",
                f"This fish is known by a mark, and nobody here carries {numbers[0].kind} {numbers[0].number}. Scan it "
                "again; if the number is right, call the fish anew and take this call out.",
                "scan",
            )
        if placed_here and fish != capture.fish_id:
            raise CoreError(
                "mark_of_other_fish",
                "This fish was given a tag here, and the number that was read belongs to another. Scan it again.",
                "scan",
            )
        if result == Scan.Result.FOREIGN:
            (fish,) = unknown_fish(programme, [(numbers, species)])
        values = {"scanned": result, "fish_id": fish}
    if {"scanned", "scans"} & changed_since(capture, act.device_time):
        return values, ({}, {})  # a later scan stands; apply_change keeps this one in the history
    was_in_doubt = any(each["code"] == MARKS_DISAGREE for each in capture.questions)
    if disagree != was_in_doubt:
        others = [each for each in capture.questions if each["code"] != MARKS_DISAGREE]
        values["questions"] = [*others, {"code": MARKS_DISAGREE, "answer": NOT_ASKED}] if disagree else others
    were = _read_anew(act, programme, capture, numbers, known, values["fish_id"])
    are = [f"{each.kind} {each.number}" for each in numbers]
    if set(were) == set(are):
        return values, ({}, {})
    return values, ({"scans": were}, {"scans": are})


def _read_anew(
    act: Act,
    programme: Programme,
    capture: Capture,
    numbers: Sequence[Read],
    known: Mapping[tuple[str, str], UUID],
    fish: UUID | None,
) -> list[str]:
    """Make the scans of a fish those of ``numbers`` (``fish`` carries those that nobody here placed); the numbers that they were.

    Of a number that was read before, who read it first, and when, stays; also where it was corrected to another and back."""
    rows = {
        (each.kind, each.number): each for each in Scan.objects.filter(source_id=capture.pk).order_by("device_time")
    }
    present = [key for key, row in rows.items() if row.deleted_at is None]
    wanted = {(each.kind, each.number): each for each in numbers}
    for key in set(present) ^ set(wanted):
        if row := rows.get(key):
            row.deleted_at = None if key in wanted else act.device_time
            row.fish_id, row.result = known.get(key, fish), Scan.Result.KNOWN if key in known else Scan.Result.FOREIGN
            row.save(update_fields=["deleted_at", "fish", "result"] if key in wanted else ["deleted_at"])
    new = [each for key, each in wanted.items() if key not in rows]
    now = {"recorder": act.person, "device_time": act.device_time, "server_time": timezone.now()}
    Scan.objects.bulk_create(scan_rows(programme, new, known, fish, source_id=capture.pk, **now))
    return [f"{kind} {number}" for kind, number in present]
