"""Asking for a finding: from what was computed before of the very same rows, at once, or as a job where it takes long."""

from __future__ import annotations

import hashlib
import json
from dataclasses import asdict, dataclass
from typing import Any
from uuid import UUID

from django.db import IntegrityError
from django.http import QueryDict
from django.utils import timezone
from django_tasks import task

from nailwright.common.database_retries import settled
from nailwright.findings.code_fingerprint import code_fingerprint
from nailwright.findings.long_selections import spelled_out
from nailwright.findings.models import FindingAnswer
from nailwright.findings.registry import FindingKind, finding_kinds
from nailwright.findings.request_query import read_query
from nailwright.findings.selections import Selection
from nailwright.jobs.actions import reap_jobs, start_job
from nailwright.jobs.models import Job
from nailwright.jobs.working import Progress, do_job
from nailwright.programmes.models import Person, Programme
from nailwright.programmes.places import Places, places_of
from nailwright.programmes.protocols import standing_protocol
from nailwright_core.common.errors import CoreError
from nailwright_core.protocol import benchmark_for, bin_for

#: What takes longer than this is not computed while a request waits.
AT_ONCE_S = 2.0
#: So many answers of a programme are kept; they can be computed anew.
KEPT_ANSWERS = 400


@dataclass(frozen=True)
class Asked:
    """What was asked of which rows."""

    kind: FindingKind
    selection: Selection
    question: Any
    fingerprint: str
    species_revision: int

    @property
    def key(self) -> str:
        """A digest of the kind, the selection, the question, the species as they are described and the code that answers."""
        content = [
            self.kind.name,
            asdict(self.selection),
            asdict(self.question),
            self.species_revision,
            code_fingerprint(),
        ]
        return hashlib.sha256(json.dumps(content, sort_keys=True, default=str).encode()).hexdigest()


def read_asked(programme: Programme, kind: str, params: Any) -> Asked:
    """The question as an address holds it, with a fingerprint of the rows as they are now; what it leaves open the programme's
    protocol settles.

    Raises:
        CoreError: ``kind_unknown``, and what the address holds wrong.
    """
    found = finding_kinds().get(kind)
    if found is None:
        raise CoreError("kind_unknown", f"Expected a finding of {', '.join(finding_kinds())}; got '{kind}'.", "kind")
    read = read_query(found.query, spelled_out(programme, params))
    selection = read.selection()
    protocol = standing_protocol(programme)
    decided = {"bin_mm": bin_for(protocol, selection.species), "benchmark": benchmark_for(protocol, selection.species)}
    return Asked(
        found,
        selection,
        found.question({**decided, **read.validated_data}),
        found.subject.touched(programme, selection),
        programme.species_revision,
    )


def answer_now(programme: Programme, asked: Asked) -> dict[str, Any]:
    """The answer, computed now where it is not there."""
    before = _kept(programme, asked)
    if before and before.result is not None:
        result: dict[str, Any] = before.result
        return result
    return _compute(programme, asked, asked.kind.rows(programme, asked.selection, asked.question))


def ask(person: Person, programme: Programme, kind: str, params: QueryDict) -> dict[str, Any] | Job:
    """The answer, or the job that is working it out.

    Raises:
        CoreError: as ``read_asked`` and the finding's own; what the job failed with. Refused: ``places_hidden``.
    """
    asked = read_asked(programme, kind, params)
    check_places(places_of(person, programme), asked)
    before = _kept(programme, asked)
    if before and before.result is not None:
        result: dict[str, Any] = before.result
        return result
    if before and before.job:
        reap_jobs()
        before.job.refresh_from_db()
        if before.job.state in Job.GOING:
            return before.job
        before.delete()  # it failed or was stopped: whoever asks again gets it anew
        if before.job.error:
            raise CoreError(before.job.error["code"], before.job.error["message"], before.job.error["field"])
    rows = asked.kind.rows(programme, asked.selection, asked.question)
    if asked.kind.seconds(rows) <= AT_ONCE_S:
        return _compute(programme, asked, rows)
    return _start(person, programme, asked, params)


def check_places(places: Places, asked: Asked) -> None:
    """Refuse what would tell where protected fish are.

    Raises:
        Refused: ``places_hidden``.
    """
    by_site = asked.kind.tells_places or getattr(asked.question, "by", "") == "site"
    places.check_question(asked.selection.species, asked.selection.site, by_site)


def _compute(programme: Programme, asked: Asked, rows: Any) -> dict[str, Any]:
    result: dict[str, Any] = asked.kind.shown(asked.kind.compute(asked.selection, rows, asked.question)).data
    _keep(programme, asked, result)
    return result


def _kept(programme: Programme, asked: Asked) -> FindingAnswer | None:
    return (
        FindingAnswer.objects.filter(programme=programme, key=asked.key, fingerprint=asked.fingerprint)
        .select_related("job")
        .first()
    )


def _keep(programme: Programme, asked: Asked, result: dict[str, Any]) -> None:
    """Keep an answer in place of the one of rows that have changed since; the oldest of too many go."""
    answers = FindingAnswer.objects.filter(programme=programme, key=asked.key)
    told = {
        "kind": asked.kind.name,
        "fingerprint": asked.fingerprint,
        "result": result,
        "job": None,
        "made_at": timezone.now(),
    }

    def keep() -> bool:
        if answers.update(**told):
            return True
        FindingAnswer.objects.create(programme=programme, key=asked.key, **told)
        return False

    if settled(keep, also=(IntegrityError,)):  # the same may be asked twice at one moment
        return  # it took the place of another: there are no more than before
    old = FindingAnswer.objects.filter(programme=programme).order_by("-made_at").values_list("pk", flat=True)
    FindingAnswer.objects.filter(pk__in=list(old[KEPT_ANSWERS : KEPT_ANSWERS + 50])).delete()


def _start(person: Person, programme: Programme, asked: Asked, params: QueryDict) -> Job:
    def start() -> Job:
        row = FindingAnswer.objects.select_for_update().filter(programme=programme, key=asked.key).first()
        if row and row.job and row.fingerprint == asked.fingerprint:
            return row.job  # somebody else asked a moment ago
        row = row or FindingAnswer(programme=programme, kind=asked.kind.name, key=asked.key)
        row.fingerprint, row.result, row.address = asked.fingerprint, None, params.urlencode()
        title = f"Computing {asked.kind.name.replace('-', ' ')}"
        row.job = start_job(person, programme, "read_findings", title, compute_finding, str(row.pk))
        row.save()
        return row.job

    return settled(start, also=(IntegrityError,))


@task()
def compute_finding(job_id: str, answer_id: str) -> None:
    """Work out a finding that takes long."""
    answer = FindingAnswer.objects.filter(pk=UUID(answer_id), job=UUID(job_id))
    row = answer.select_related("programme").first()

    def work(progress: Progress) -> None:
        if row is None:
            return  # its rows have changed since, and it was asked anew
        progress.tell(0, 1)
        asked = read_asked(row.programme, row.kind, QueryDict(row.address))
        rows = asked.kind.rows(row.programme, asked.selection, asked.question)
        result = asked.kind.shown(asked.kind.compute(asked.selection, rows, asked.question)).data
        answer.update(result=result, fingerprint=asked.fingerprint)
        progress.tell(1, 1)

    do_job(job_id, work)
