"""Every write about files: taking one, saying how it is to be read, bringing it in, taking it back."""

from __future__ import annotations

import gzip
import hashlib
from typing import Any
from uuid import UUID

from django.db import transaction
from django.utils import timezone

from nailwright.common.sources import takes_long
from nailwright.jobs.actions import reap_jobs, start_job
from nailwright.jobs.models import Job
from nailwright.programmes.models import Change, Person, Programme
from nailwright.programmes.policies import require
from nailwright.programmes.record.audit import Act, already_done
from nailwright.programmes.record.receiving import key_taken
from nailwright.records.answers import Answers
from nailwright.records.importing import take_back
from nailwright.records.mapping import NOT_READ, look_into
from nailwright.records.models import Import, Mapping
from nailwright.records.resolving import answers_from
from nailwright.records.tasks import go_through, read_file
from nailwright_core.common.errors import CoreError

#: One row of the database must hold the packed file (its packet may have 64 MB, and packing doubles some bytes on the way).
MAX_PACKED = 24 * 1024 * 1024


def take_file(person: Person, programme: Programme, file_name: str, content: bytes) -> Import:
    """Keep a file and propose how it is to be read. Nothing reaches the record yet.

    Raises:
        Refused: for whoever may not. CoreError: what is wrong with the file, field ``file``.
    """
    require(person, programme, "import_rows")
    packed = gzip.compress(content, 6)
    if len(packed) > MAX_PACKED:
        raise CoreError(
            "file_too_large",
            f"Packed, the file still has {len(packed) / 1e6:.0f} MB; at most {MAX_PACKED / 1e6:.0f} MB are kept. "
            "Bring it in as several files.",
            "file",
        )
    row = Import(
        programme=programme,
        person=person,
        file_name=file_name[-200:],
        sha256=hashlib.sha256(content).hexdigest(),
        bytes=len(content),
        packed=packed,
        preview=NOT_READ,
        answers=Answers(columns=()).kept(),
    )
    if not takes_long(content):
        look_into(row, content)
        row.save(force_insert=True)
        return row
    row.state = Import.State.READING
    with transaction.atomic():
        row.save(force_insert=True)
        row.job = start_job(person, programme, "import_rows", f"Reading {row.file_name}"[:120], read_file, str(row.pk))
        row.save(update_fields=["job"])
    return row


def try_file(person: Person, row: Import, given: dict[str, Any]) -> Import:
    """Keep a person's answers and go through the file without storing a fish."""
    return _go(person, row, given, "try")


def bring_in(person: Person, row: Import) -> Import:
    """Bring in every good line of a file that was tried, under the answers it was tried with."""
    if row.state == Import.State.TAKEN:
        raise CoreError("not_tried", "Try the file first; then it is seen what would come in.", "state")
    if row.result and row.result["asks"]:
        raise CoreError("dates_mixed", row.result["asks"][0]["message"], "date_order")
    return _go(person, row, None, "in")


def take_import_back(act: Act, row: Import) -> Import:
    """Take out of the record whatever a file brought. Bringing the file in again restores it."""
    require(act.person, row.programme, "import_rows")
    with transaction.atomic():
        locked = Import.objects.select_for_update().get(pk=row.pk)
        if already_done(act):
            return locked
        if locked.state != Import.State.IN:
            raise CoreError("not_in", "This file is not in the record.", "state")
        n = take_back(locked, timezone.now())
        Change.objects.create(
            id=act.id, programme=locked.programme, table="import", row=locked.pk, person=act.person,
            device_time=act.device_time, reason=act.reason, before={"state": Import.State.IN, "fish": n},
            after={"state": Import.State.BACK, "fish": 0},
        )  # fmt: skip
    return locked


def forget_file(person: Person, row: Import) -> None:
    """Throw away a file of which nothing is in the record."""
    require(person, row.programme, "import_rows")
    _must_be_idle(row)
    if row.state in (Import.State.IN, Import.State.BACK):
        raise CoreError("file_in_use", "Fish of this file are in the record; take them back instead.", "state")
    row.delete()


def _go(person: Person, row: Import, given: dict[str, Any] | None, what: str) -> Import:
    require(person, row.programme, "import_rows")
    with transaction.atomic():
        locked = Import.objects.select_for_update().select_related("programme").get(pk=row.pk)
        _must_be_idle(locked)
        if locked.state == Import.State.READING:
            raise CoreError("file_not_read", "This file could not be read; throw it away and send it again.", "state")
        if locked.state == Import.State.IN:
            raise CoreError(
                "file_in", "This file is in the record. Take it back first to read it in another way.", "state"
            )
        answers = answers_from(locked.programme, locked.answers if given is None else given)
        answers.check()
        _check_dates(locked, answers)
        locked.answers = answers.kept()
        locked.job = start_job(
            person,
            locked.programme,
            "import_rows",
            f"{'Bringing in' if what == 'in' else 'Trying'} {locked.file_name}"[:120],
            go_through,
            str(locked.pk),
            what,
        )
        locked.save(update_fields=["answers", "job"])
    return locked


def _must_be_idle(row: Import) -> None:
    reap_jobs()
    if row.job_id and Job.objects.filter(pk=row.job_id, state__in=Job.GOING).exists():
        raise CoreError("job_going", "The file is being gone through. Wait, or stop it first.", "state")


def _check_dates(row: Import, answers: Answers) -> None:
    place = next((place for place, each in enumerate(answers.columns) if each.key == "date"), None)
    if place is None or place >= len(row.preview["columns"]) or answers.date_order:
        return
    shown = row.preview["columns"][place]["slashed"]
    if shown:
        raise CoreError(
            "date_order_unknown", f"Dates such as {shown} may be day first or month first. Say which.", "date_order"
        )


def save_mapping(person: Person, programme: Programme, key: UUID, name: str, answers: dict[str, Any]) -> Mapping:
    """Save how a file is read under a name; one of that name is replaced.

    Raises:
        CoreError: as ``answers_from``; ``key_taken``.
    """
    require(person, programme, "import_rows")
    kept = answers_from(programme, answers).kept()
    if Mapping.objects.filter(pk=key).exclude(programme=programme, name=name).exists():
        raise key_taken("mapping")
    values = {"answers": kept, "person": person, "saved_at": timezone.now()}
    mapping, _ = Mapping.objects.update_or_create(
        programme=programme, name=name, defaults=values, create_defaults={**values, "id": key}
    )
    return mapping


def delete_mapping(person: Person, mapping: Mapping) -> None:
    """Forget how files of one kind are read; the files that were read so stay."""
    require(person, mapping.programme, "import_rows")
    mapping.delete()
