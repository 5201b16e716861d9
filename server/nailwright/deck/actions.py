"""Every write of the deck: permission, check by core, change and audit together.

All of them may be called twice with the same key and then change nothing the second time.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from datetime import date, datetime
from typing import Any
from uuid import UUID

from django.db import IntegrityError, transaction
from django.utils import timezone

from nailwright.deck.call import Board, read_call
from nailwright.deck.checklists import needed_for
from nailwright.deck.fields import read_id, read_number, read_time
from nailwright.deck.models import Capture, Gear, Outing, Run, WaterReading
from nailwright.deck.queries import board_of
from nailwright.deck.releases import count_aboard
from nailwright.programmes.audit import Act, already_done, apply_change, must_say_why
from nailwright.programmes.models import Person, Programme, Site, Water
from nailwright.programmes.policies import require
from nailwright.tags.actions import place_tag, renew_placements, withdraw_placements
from nailwright.tags.queries import fish_by_number
from nailwright_core.common.errors import CoreError

#: Electrical settings and effort of a run: lowest, highest, unit. The ends are what no box reaches, not advice.
RUN_NUMBERS = {
    "volts": (0, 2000, "V"),
    "amps": (0, 200, "A"),
    "pulse_hz": (0, 1000, "Hz"),
    "pulse_width_ms": (0, 1000, "ms"),
    "current_on_s": (0, 86_400, "s"),
}
WATER_NUMBERS = {
    "temperature_c": (-2, 40, "C"),
    "ambient_us_cm": (1, 100_000, "uS/cm"),
    "specific_us_cm": (1, 100_000, "uS/cm"),
    "oxygen_mg_l": (0, 30, "mg/L"),
    "secchi_m": (0, 80, "m"),
}


def open_outing(
    person: Person,
    programme: Programme,
    *,
    outing_id: UUID,
    water: Water,
    day: date,
    gear: str,
    name: str = "",
    units: Mapping[str, str] | None = None,
) -> Outing:
    """Open an outing on one of the programme's waters; the checklists of its gear are asked for."""
    require(person, programme, "open_outing")
    if water.programme_id != programme.pk:
        raise CoreError("water_elsewhere", "This water belongs to another programme.", "water")
    existing = Outing.objects.filter(pk=outing_id).first()
    if existing:
        _same_programme(existing.programme_id, programme, "outing")
        return existing
    return Outing.objects.create(
        id=outing_id,
        programme=programme,
        water=water,
        date=day,
        gear=gear,
        name=name or f"{water.name}, {Gear(gear).label.lower()}",
        checklists=list(needed_for(gear)),
        **(units or {}),
    )


def close_outing(act: Act, outing: Outing) -> Outing:
    """Close an outing whose runs have all ended."""
    require(act.person, outing.programme, "close_outing")
    with transaction.atomic():
        locked = Outing.objects.select_for_update().get(pk=outing.pk)
        if already_done(act):
            return locked
        running = Run.present.filter(outing=locked, ended_at=None).order_by("number").first()
        if running:
            raise CoreError(
                "run_still_going", f"Run {running.number} has not ended. End it, then close the outing.", "state"
            )
        aboard = count_aboard(locked)
        if aboard:
            raise CoreError(
                "fish_aboard",
                f"{aboard} fish came aboard and have not left: say of each how it was released, then close the outing.",
                "state",
            )
        apply_change(act, locked.programme, locked, {"state": Outing.State.CLOSED})
    return locked


def reopen_outing(act: Act, outing: Outing) -> Outing:
    """Open a closed outing again."""
    require(act.person, outing.programme, "reopen_outing")
    with transaction.atomic():
        locked = Outing.objects.select_for_update().get(pk=outing.pk)
        if not already_done(act):
            apply_change(act, locked.programme, locked, {"state": Outing.State.OPEN})
    return locked


def start_run(act: Act, programme: Programme, row: Mapping[str, Any]) -> bool:
    """Start a run; ``act.id`` becomes its key. False where it was there already."""
    require(act.person, programme, "work_deck")
    outing = _open_outing(programme, read_id(row, "outing"))
    site = Site.objects.filter(pk=read_id(row, "site"), water=outing.water_id).first()
    if site is None:
        raise CoreError("site_unknown", f"No such site on {outing.water.name}.", "site")
    gear = row.get("gear") or outing.gear
    if gear not in Gear.values:
        raise CoreError("gear_unknown", f"Expected a gear of {', '.join(Gear.values)}; got {gear!r}.", "gear")
    with transaction.atomic():
        Outing.objects.select_for_update().get(pk=outing.pk)  # run numbers are given one at a time
        existing = Run.objects.filter(pk=act.id).first()
        if existing:
            _same_programme(existing.outing.programme_id, programme, "run")
            return False
        last = Run.objects.filter(outing=outing).order_by("-number").first()
        run = Run(
            id=act.id,
            outing=outing,
            site=site,
            number=last.number + 1 if last else 1,
            gear=gear,
            started_at=read_time(row, "started_at"),
            recorder=act.person,
            device_time=act.device_time,
            **_run_numbers(row),
        )
        run.ended_at = read_time(row, "ended_at") if row.get("ended_at") else None
        _check_run_times(run.started_at, run.ended_at)
        run.save(force_insert=True)
    return True


def edit_run(act: Act, programme: Programme, run_id: UUID, row: Mapping[str, Any]) -> bool:
    """Change a run's settings, effort or times."""
    require(act.person, programme, "work_deck")
    with transaction.atomic():
        run = Run.objects.select_for_update().select_related("outing").filter(pk=run_id).first()
        if run is None:
            raise CoreError("run_unknown", "The run this belongs to has not arrived yet.", "run")
        _same_programme(run.outing.programme_id, programme, "run")
        if already_done(act):
            return False
        run.outing.must_be_open()
        values: dict[str, Any] = _run_numbers(row)
        for field in ("started_at", "ended_at"):
            if row.get(field):
                values[field] = read_time(row, field)
        if "ended_at" in row and row["ended_at"] is None:
            values["ended_at"] = None  # the run goes on: it was ended by mistake
        _check_run_times(values.get("started_at", run.started_at), values.get("ended_at", run.ended_at))
        return apply_change(act, programme, run, values)


def record_water(act: Act, programme: Programme, row: Mapping[str, Any]) -> bool:
    """Keep a water reading; ``act.id`` becomes its key."""
    require(act.person, programme, "work_deck")
    outing = _open_outing(programme, read_id(row, "outing"))
    run = Run.objects.filter(pk=read_id(row, "run"), outing=outing).first() if row.get("run") else None
    numbers = {name: read_number(row, name, *limits) for name, limits in WATER_NUMBERS.items()}
    if all(value is None for value in numbers.values()):
        raise CoreError(
            "reading_empty", "Expected at least one figure, such as the temperature; got none.", "temperature_c"
        )
    existing = WaterReading.objects.filter(pk=act.id).first()
    if existing:
        _same_programme(existing.outing.programme_id, programme, "water reading")
        return False
    WaterReading.objects.create(
        id=act.id, outing=outing, run=run, recorder=act.person, device_time=act.device_time, **numbers
    )
    return True


#: What became of one called fish: stored, already there, or the error that refused it.
Outcome = bool | CoreError


def record_captures(
    person: Person, programme: Programme, calls: Sequence[tuple[Act, Mapping[str, Any]]]
) -> list[Outcome]:
    """Keep called fish, many at once: one insert for all that can be read, an error for each that cannot.

    Returns:
        For each call True where it is now stored, False where it had been before, or the CoreError that refused it.
    """
    require(person, programme, "work_deck")
    runs = _runs_by_key(programme, calls)
    boards: dict[UUID, Board] = {}
    with transaction.atomic():
        there = dict(Capture.objects.filter(pk__in=[act.id for act, _ in calls]).values_list("pk", "programme_id"))
        outcomes: list[Outcome] = []
        fresh: dict[UUID, Capture] = {}
        now = timezone.now()
        for act, row in calls:
            if act.id in there or act.id in fresh:
                foreign = there.get(act.id, programme.pk) != programme.pk
                outcomes.append(_key_taken("fish") if foreign else False)
                continue
            try:
                run = _run_for(row, runs)
                if run.outing_id not in boards:
                    boards[run.outing_id] = board_of(run.outing)
                fresh[act.id] = Capture(
                    id=act.id,
                    programme=programme,
                    run=run,
                    recorder=act.person,
                    device_time=act.device_time,
                    server_time=now,
                    **read_call(row, boards[run.outing_id]),
                )
                outcomes.append(True)
            except CoreError as refused:
                outcomes.append(refused)
        _recognise(programme, fresh.values())
        _insert_once(fresh)
    return outcomes


def _recognise(programme: Programme, captures: Iterable[Capture]) -> None:
    """Give each scanned capture the fish that carries its number, where one does."""
    scanned: dict[str, list[tuple[str, Capture]]] = {}
    for capture in captures:
        if capture.scan_text:
            kind, number = capture.scan_text.split(" ", 1)
            scanned.setdefault(kind, []).append((number, capture))
    for kind, pairs in scanned.items():
        known = fish_by_number(programme, kind, [number for number, _ in pairs])
        for number, capture in pairs:
            if number in known:
                capture.fish_id, capture.scanned = known[number], Capture.Scanned.KNOWN


def _insert_once(fresh: Mapping[UUID, Capture]) -> None:
    """Insert, where two requests may bring the same fish at the same moment: the key decides, one row remains.

    Not INSERT IGNORE, which would also swallow rows that do not fit.
    """
    try:
        with transaction.atomic():
            Capture.objects.bulk_create(fresh.values())
    except IntegrityError:
        there = set(Capture.objects.filter(pk__in=fresh).values_list("pk", flat=True))
        Capture.objects.bulk_create(capture for key, capture in fresh.items() if key not in there)


def edit_capture(act: Act, programme: Programme, capture_id: UUID, row: Mapping[str, Any]) -> bool:
    """Call a fish again: the whole call replaces what was read before."""
    require(act.person, programme, "work_deck")
    with transaction.atomic():
        capture = _locked_capture(programme, capture_id)
        if already_done(act):
            return False
        capture.run.outing.must_be_open()
        values = read_call(row, board_of(capture.run.outing))
        if "scanned" not in row:  # called again without a scan: what the reader said still holds
            values = {name: value for name, value in values.items() if name not in ("scanned", "scan_text")}
        elif values["scan_text"]:
            recalled = Capture(scan_text=values["scan_text"], scanned=values["scanned"])
            _recognise(programme, [recalled])
            if capture.fish_id and recalled.fish_id is None:
                raise CoreError(
                    "mark_not_of_fish",
                    f"This fish is known by a mark, and nobody here carries {values['scan_text']}. Scan it again; if the "
                    "number is right, call the fish anew and take this call out.",
                    "scan",
                )
            values |= {"scanned": recalled.scanned, "fish_id": recalled.fish_id}
        return apply_change(act, programme, capture, values)


def correct_capture(act: Act, capture_id: UUID, row: Mapping[str, Any]) -> Capture:
    """Put a fish right from the desk, also after its outing is closed; a reason is asked for and kept.

    Args:
        row: any of ``species``, ``length``, ``mass``, ``sex``, ``note``; what is left out stays as it was called.

    Raises:
        Refused: for whoever may not. CoreError: ``reason_missing``, and as ``read_call``.
    """
    with transaction.atomic():
        capture = Capture.objects.select_for_update().select_related("run__outing", "programme").get(pk=capture_id)
        require(act.person, capture.programme, "correct_record")
        if already_done(act):
            return capture
        must_say_why(act, "digits swapped on the sheet")
        as_called = {
            "species": capture.species,
            "length": capture.length_text,
            "length_type": capture.length_type,
            "mass": capture.mass_text,
            "sex": capture.sex,
            "sex_evidence": capture.sex_evidence,
            "note": capture.note,
            "count": capture.count,
        }
        values = read_call({**as_called, **row}, board_of(capture.run.outing))
        kept = {name: value for name, value in values.items() if name not in ("scanned", "scan_text")}
        apply_change(act, capture.programme, capture, kept)
        return capture


def mark_capture_from_desk(act: Act, capture_id: UUID, deleted: bool) -> Capture:
    """Take a fish out of the record or restore it, also after its outing is closed; a reason is asked for and kept."""
    with transaction.atomic():
        capture = Capture.objects.select_for_update().select_related("programme").get(pk=capture_id)
        require(act.person, capture.programme, "correct_record")
        if already_done(act) or bool(capture.deleted_at) == deleted:
            return capture
        must_say_why(act, "digits swapped on the sheet")
        _set_deleted(act, capture, act.device_time if deleted else None)
        return capture


def _set_deleted(act: Act, capture: Capture, deleted_at: datetime | None) -> bool:
    """Mark a fish as taken out, or restore it; the tags it was given go along."""
    if deleted_at:
        withdraw_placements(capture.pk, act)
    elif capture.deleted_at:
        renew_placements(capture.pk)
    return apply_change(act, capture.programme, capture, {"deleted_at": deleted_at})


def place_tag_in_capture(act: Act, programme: Programme, capture_id: UUID, row: Mapping[str, Any]) -> bool:
    """Record that a tag from stock went into the fish of a capture; ``act.id`` becomes the placement's key."""
    require(act.person, programme, "work_deck")
    with transaction.atomic():
        capture = _locked_capture(programme, capture_id)
        capture.run.outing.must_be_open()
        return place_tag(act, programme, capture, str(row.get("kind")), str(row.get("number")))


def delete_capture(act: Act, programme: Programme, capture_id: UUID) -> bool:
    """Mark a fish as deleted; ``restore_capture`` undoes it."""
    return _mark_capture(act, programme, capture_id, act.device_time)


def restore_capture(act: Act, programme: Programme, capture_id: UUID) -> bool:
    """Take back a delete."""
    return _mark_capture(act, programme, capture_id, None)


def _mark_capture(act: Act, programme: Programme, capture_id: UUID, deleted_at: datetime | None) -> bool:
    require(act.person, programme, "work_deck")
    with transaction.atomic():
        capture = _locked_capture(programme, capture_id)
        if already_done(act):
            return False
        capture.run.outing.must_be_open()
        return _set_deleted(act, capture, deleted_at)


def _locked_capture(programme: Programme, capture_id: UUID) -> Capture:
    capture = (
        Capture.objects.select_for_update().select_related("run__outing__water", "fish").filter(pk=capture_id).first()
    )
    if capture is None:
        raise CoreError("capture_unknown", "The fish this belongs to has not arrived yet.", "capture")
    _same_programme(capture.programme_id, programme, "fish")
    return capture


def _runs_by_key(programme: Programme, calls: Sequence[tuple[Act, Mapping[str, Any]]]) -> dict[str, Run]:
    keys = {str(row.get("run")) for _, row in calls}
    valid = [key for key in keys if _is_uuid(key)]
    found = Run.objects.filter(pk__in=valid, outing__programme=programme).select_related("outing__water")
    return {str(run.pk): run for run in found}


def _run_for(row: Mapping[str, Any], runs: Mapping[str, Run]) -> Run:
    run = runs.get(str(row.get("run")).lower())
    if run is None:
        raise CoreError(
            "run_unknown", "The run this fish was caught in has not arrived yet, or is not of this programme.", "run"
        )
    run.outing.must_be_open()
    return run


def _open_outing(programme: Programme, outing_id: UUID) -> Outing:
    outing = Outing.objects.select_related("water").filter(pk=outing_id, programme=programme).first()
    if outing is None:
        raise CoreError("outing_unknown", "No such outing in this programme.", "outing")
    outing.must_be_open()
    return outing


def _same_programme(programme_id: UUID, programme: Programme, what: str) -> None:
    if programme_id != programme.pk:
        raise _key_taken(what)


def _key_taken(what: str) -> CoreError:
    return CoreError("key_taken", f"This key already belongs to another {what}; make a new UUIDv7.", "id")


def _run_numbers(row: Mapping[str, Any]) -> dict[str, Any]:
    return {
        name: read_number(row, name, *limits)
        for name, limits in RUN_NUMBERS.items()
        if name in row and row[name] is not None
    }


def _check_run_times(started_at: datetime, ended_at: datetime | None) -> None:
    if ended_at is not None and ended_at < started_at:
        raise CoreError(
            "run_ends_before_start",
            f"The run would end at {ended_at:%Y-%m-%d %H:%M:%S}, before its start at {started_at:%Y-%m-%d %H:%M:%S} (UTC). "
            "Check the tablet's clock.",
            "ended_at",
        )


def _is_uuid(text: str) -> bool:
    try:
        UUID(text)
    except ValueError:
        return False
    return True
