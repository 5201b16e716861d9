"""What the worker does with files."""

from __future__ import annotations

from django_tasks import task

from nailwright.jobs.working import Progress, do_job
from nailwright.records.importing import Bringing
from nailwright.records.mapping import look_into
from nailwright.records.models import Import
from nailwright.records.resolving import answers_from


@task()
def read_file(job_id: str, import_id: str) -> None:
    """Look into a large file: what columns it has, and how it may be read."""
    row = Import.objects.select_related("programme").get(pk=import_id)

    def work(progress: Progress) -> None:
        progress.tell(0, 1)
        look_into(row, row.content())
        row.state = Import.State.TAKEN
        row.save(update_fields=["preview", "answers", "state"])
        progress.tell(1, 1)

    do_job(job_id, work)


@task()
def go_through(job_id: str, import_id: str, store: str) -> None:
    """Try a file ("try"), or bring it in ("in")."""
    row = Import.objects.select_related("programme", "job__person").get(pk=import_id)
    assert row.job is not None
    person = row.job.person
    do_job(
        job_id,
        lambda progress: Bringing(row, answers_from(row.programme, row.answers), person, store == "in").run(progress),
    )
