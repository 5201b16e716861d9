"""Keeping called fish, many at once."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any
from uuid import UUID

from django.db import transaction
from django.utils import timezone

from nailwright.common.below_orm import insert_rows
from nailwright.common.fields import read_id
from nailwright.deck.calling.call import Board, check_counted, read_call
from nailwright.deck.encounters import renew_encounters
from nailwright.deck.models import Capture, Run
from nailwright.deck.queries import board_of
from nailwright.deck.tasks import tell_leads, tell_of_special
from nailwright.programmes.models import Programme
from nailwright.programmes.record.audit import Act
from nailwright.programmes.record.operations import NotYet
from nailwright.programmes.record.receiving import key_taken
from nailwright.programmes.species.known import species_of
from nailwright.tags.actions import unknown_fish
from nailwright.tags.models import Scan
from nailwright.tags.scans import Read, fish_by_number, read_scans, scan_rows, whose
from nailwright_core.common.errors import CoreError

#: Kept beyond what a permit allows.
PERMIT_OVER = "permit_over"
#: Numbers read on one fish that belong to two.
MARKS_DISAGREE = "marks_disagree"

Calls = Sequence[tuple[Act, Mapping[str, Any]]]


def record_captures(programme: Programme, calls: Calls, new: bool = False) -> list[bool | CoreError]:
    """Keep called fish: one insert for all that can be read, an error for each that cannot.

    Args:
        new: whether none of them should be there; then it is the insert that says so.

    Returns:
        For each call True where it is now stored, False where it had been before, or the CoreError that refused it.

    Raises:
        IntegrityError: one is there, in spite of ``new``, or came at the same moment.
    """
    runs = _runs_by_key(programme, calls)
    boards: dict[UUID, Board] = {}
    with transaction.atomic():
        keys = [] if new else [act.id for act, _ in calls]
        there = dict(Capture.objects.filter(pk__in=keys).values_list("pk", "programme_id"))
        outcomes: list[bool | CoreError] = []
        fresh: dict[UUID, dict[str, Any]] = {}
        read: dict[UUID, tuple[Read, ...]] = {}
        now = timezone.now()
        for act, row in calls:
            if act.id in there or act.id in fresh:
                foreign = there.get(act.id, programme.pk) != programme.pk
                outcomes.append(key_taken("fish") if foreign else False)
                continue
            try:
                run = _run_for(act, row, runs)
                if run.outing_id not in boards:
                    boards[run.outing_id] = board_of(run.outing)
                values = read_call(row, boards[run.outing_id])
                scanned, numbers = read_scans(row)
                check_counted(values["count"], None, None, len(numbers))
                fresh[act.id] = {
                    "id": act.id,
                    "programme_id": programme.pk,
                    "run_id": run.pk,
                    "recorder_id": act.person.pk,
                    "device_time": act.device_time,
                    "server_time": now,
                    "scanned": scanned if scanned != "number" else Capture.Scanned.FOREIGN,
                    **values,
                }
                if numbers:
                    read[act.id] = numbers
                outcomes.append(True)
            except CoreError as refused:
                outcomes.append(refused)
        scans = _recognise(programme, fresh, read)
        insert_rows(Capture, list(fresh.values()))
        if scans:
            Scan.objects.bulk_create(scans)
        if met := [key for key, cells in fresh.items() if cells.get("fish_id")]:
            renew_encounters(met)
        if beyond := [str(key) for key, cells in fresh.items() if _is_beyond(cells)]:
            tell_leads.enqueue(beyond)
        special = {code for code, kind in species_of(programme).items() if kind.special_interest}
        if rare := [str(key) for key, cells in fresh.items() if cells["species"] in special]:
            tell_of_special.enqueue(rare)
    return outcomes


def _is_beyond(cells: Mapping[str, Any]) -> bool:
    """Whether it was kept beyond a permit, with a reason that the lead is to hear at once."""
    return any(each.get("code") == PERMIT_OVER for each in cells["questions"])


def _recognise(
    programme: Programme, fresh: Mapping[UUID, dict[str, Any]], read: Mapping[UUID, tuple[Read, ...]]
) -> list[Scan]:
    """Give each scanned capture the fish that carries its numbers, where one does; and the scans' own rows."""
    known = fish_by_number(programme, {(each.kind, each.number) for reads in read.values() for each in reads})
    scans: list[Scan] = []
    owners = {key: whose(reads, known) for key, reads in read.items()}
    unknown = [key for key, (result, _, _) in owners.items() if result == Scan.Result.FOREIGN]
    met = unknown_fish(programme, [(read[key], fresh[key]["species"]) for key in unknown])
    of_others = dict(zip(unknown, met, strict=True))
    for key, reads in read.items():
        cells = fresh[key]
        cells["scanned"], fish, disagree = owners[key]
        cells["fish_id"] = of_others.get(key, fish)
        if disagree:
            cells["questions"] = [*cells["questions"], {"code": MARKS_DISAGREE, "answer": "not asked"}]
        scans.extend(
            scan_rows(
                programme, reads, known, cells["fish_id"], source_id=key, recorder_id=cells["recorder_id"],
                device_time=cells["device_time"], server_time=cells["server_time"],
            )
        )  # fmt: skip
    return scans


def _runs_by_key(programme: Programme, calls: Calls) -> dict[str, Run]:
    keys = {str(row.get("run")) for _, row in calls}
    valid = [key for key in keys if _is_uuid(key)]
    found = Run.objects.filter(pk__in=valid, outing__programme=programme).select_related("outing__water")
    return {str(run.pk): run for run in found}


def _run_for(act: Act, row: Mapping[str, Any], runs: Mapping[str, Run]) -> Run:
    run = runs.get(str(row.get("run")).lower())
    if run is None:
        read_id(row, "run")  # what is no key never arrives
        raise NotYet("run_unknown", "The run this fish was caught in has not arrived yet.", "run")
    run.outing.must_be_open(act)
    return run


def _is_uuid(text: str) -> bool:
    try:
        UUID(text)
    except ValueError:
        return False
    return True
