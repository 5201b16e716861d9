"""What is said of fish, baths and runs between net and release."""

from __future__ import annotations

import uuid
from collections.abc import Mapping
from typing import Any

from django.db import IntegrityError, transaction

from nailwright.common.fields import read_id, read_time
from nailwright.deck.encounters import HOW_IT_ENDED, renew_encounters
from nailwright.deck.handling.releases import keys_of_captures, known_codes
from nailwright.deck.handling.summary import renew_handling
from nailwright.deck.models import Capture, Event, Outing, Run
from nailwright.deck.rows import open_outing_of, same_programme, there, time_of
from nailwright.programmes.models import Programme
from nailwright.programmes.record.audit import Act, already_done, apply_change
from nailwright.programmes.record.operations import Waits
from nailwright_core.common.errors import CoreError
from nailwright_core.deck.events import EventKind, kind_of, read_event


def record_event(act: Act, programme: Programme, row: Mapping[str, Any]) -> bool | Waits:
    """Keep what is said of a fish (``capture``), of several (``captures``), of a ``run``, or of a bath of the ``outing``.

    The key of an event of one thing is the act's; of several fish each follows from the act's and the capture's, so that fish
    that have not arrived yet hold up none of the others.

    Args:
        row: ``what`` (a kind), ``details`` (its fields by name), and whom it is about.

    Raises:
        CoreError: ``capture_unknown``, ``run_unknown``, ``outing_unknown``, ``outing_closed``, ``captures_unreadable``, and as
            core's ``kind_of`` and ``read_event``.
    """
    kind = kind_of(row.get("what"))
    if kind.about == "fish":
        return _record_on_fish(act, programme, kind, row)
    if kind.about == "run":
        run = there(
            Run, Run.objects.select_related("outing__programme").filter(pk=read_id(row, "run")).first(), programme
        )
        run.outing.must_be_open(act)
        return _keep(act, act.id, programme, run.outing, kind, _details(programme, run.outing, kind, row), run=run)
    outing = open_outing_of(act, programme, row)
    return _keep(act, act.id, programme, outing, kind, _details(programme, outing, kind, row))


def edit_event(act: Act, programme: Programme, row: Mapping[str, Any]) -> bool:
    """Change what an ``event`` says, field by field; ``at`` puts its time right, ``deleted`` takes it out or puts it back.

    Args:
        row: ``details`` holds only the fields that change; a field of nothing is taken away.

    Raises:
        CoreError: ``event_unknown``, ``outing_closed``, and as core's ``read_event``.
    """
    event = there(Event, Event.objects.select_for_update().filter(pk=read_id(row, "event")).first(), programme)
    event.outing.must_be_open(act)
    if already_done(act):
        return False
    kind = kind_of(event.kind)
    changed = _fields(row)
    merged = {name: value for name, value in {**event.details, **changed}.items() if value not in (None, "", [])}
    details = read_event(kind, merged, known_codes(programme, [event.outing]))
    values: dict[str, Any] = {f"details.{name}": details.get(name) for name in changed}
    if row.get("at"):
        values["device_time"] = act.put_right(read_time(row, "at"))
    if isinstance(row.get("deleted"), bool) and row["deleted"] != bool(event.deleted_at):
        values["deleted_at"] = act.device_time if row["deleted"] else None
    changes = apply_change(act, programme, event, values)
    if None in event.details.values():  # a field that was taken away is not there, as if it had never been said
        event.details = {name: value for name, value in event.details.items() if value is not None}
        event.save(update_fields=["details"])
    if event.capture_id:
        renew_handling([event.capture_id])
    if event.kind in HOW_IT_ENDED and event.capture_id:
        renew_encounters([event.capture_id])
    return changes


def _record_on_fish(act: Act, programme: Programme, kind: EventKind, row: Mapping[str, Any]) -> bool | Waits:
    keys = keys_of_captures(row) if "captures" in row else {read_id(row, "capture")}
    captures = list(
        Capture.objects.filter(pk__in=keys, programme=programme).select_related(
            "run__outing__programme", "run__outing__protocol"
        )
    )
    for each in captures:
        each.run.outing.must_be_open(act)
    if not captures and "captures" not in row:
        there(Capture, None, programme)
    if not captures:
        read_event(kind, _fields(row), known_codes(programme))  # what is wrong is said now, not when the fish come
    kept = False
    for each in captures:
        outing = each.run.outing
        key = uuid.uuid5(act.id, str(each.pk)) if "captures" in row else act.id
        kept |= _keep(act, key, programme, outing, kind, _details(programme, outing, kind, row), capture=each)
    if kept:
        renew_handling(keys)
    if kept and kind.code in HOW_IT_ENDED:
        renew_encounters(keys)
    if missing := len(keys) - len(captures):
        return Waits(
            f"{missing} of the {len(keys)} fish of this entry have not arrived yet; it is kept for the others."
        )
    return kept


def _details(programme: Programme, outing: Outing, kind: EventKind, row: Mapping[str, Any]) -> dict[str, Any]:
    return read_event(kind, _fields(row), known_codes(programme, [outing]))


def _fields(row: Mapping[str, Any]) -> dict[str, Any]:
    given = row.get("details") or {}
    if not isinstance(given, dict):
        raise CoreError("details_unreadable", "Expected the details of the event by name.", "details")
    return given


def _keep(
    act: Act,
    key: uuid.UUID,
    programme: Programme,
    outing: Outing,
    kind: EventKind,
    details: dict[str, Any],
    run: Run | None = None,
    capture: Capture | None = None,
) -> bool:
    there = Event.objects.select_related("outing").filter(pk=key).first()
    if there is None:
        try:
            with transaction.atomic():
                Event.objects.create(
                    id=key, outing=outing, run=run or (capture.run if capture else None), capture=capture, kind=kind.code,
                    details=details, recorder=act.person, device_time=time_of(act, capture) if capture else act.device_time,
                )  # fmt: skip
            return True
        except IntegrityError:  # the same entry came by another way at this very moment
            there = Event.objects.select_related("outing").get(pk=key)
    same_programme(there.outing.programme_id, programme, "entry")
    return False
