"""Starting and stopping long work, and clearing up after a worker that went away."""

from __future__ import annotations

from datetime import timedelta
from typing import Any
from uuid import UUID

from django.db import transaction
from django.utils import timezone
from django_tasks import TaskResultStatus
from django_tasks_db.models import DBTaskResult

from nailwright.common.errors import body
from nailwright.jobs.models import Job
from nailwright.programmes.models import Person, Programme
from nailwright.programmes.policies import require
from nailwright_core.common.errors import CoreError

#: A worker gives a sign of life each second; one that was silent for so long is gone.
SILENT_S = 30


def start_job(person: Person, programme: Programme, permission: str, title: str, task: Any, *args: str) -> Job:
    """Put a job before the worker; the task gets the job's key and ``args``."""
    require(person, programme, permission)
    with transaction.atomic():
        job = Job.objects.create(programme=programme, person=person, permission=permission, title=title)
        job.task = UUID(str(task.enqueue(str(job.pk), *args).id))
        job.save(update_fields=["task"])
    return job


def stop_job(person: Person, job: Job) -> Job:
    """Ask a job to stop; one that has not begun stops at once."""
    require(person, job.programme, job.permission)
    if job.state not in Job.GOING:
        raise CoreError("job_over", f"This has already ended: {job.get_state_display().lower()}.", "state")
    Job.objects.filter(pk=job.pk).update(stop_asked=True)
    Job.objects.filter(pk=job.pk, state=Job.State.WAITING).update(state=Job.State.STOPPED, ended_at=timezone.now())
    job.refresh_from_db()
    return job


def reap_jobs() -> int:
    """Mark as failed what a worker was doing when it went away without a word. Returns how many."""
    now = timezone.now()
    silent = Job.objects.filter(state=Job.State.RUNNING, heartbeat__lt=now - timedelta(seconds=SILENT_S))
    lost = list(silent.values_list("pk", "task"))
    error = body("worker_lost", "The worker went away while it did this; nothing of it was stored. Start it again.")
    n = Job.objects.filter(pk__in=[pk for pk, _ in lost], state=Job.State.RUNNING).update(
        state=Job.State.FAILED, error=error, ended_at=now
    )
    DBTaskResult.objects.filter(pk__in=[task for _, task in lost], status=TaskResultStatus.RUNNING).update(
        status=TaskResultStatus.FAILED, finished_at=now
    )
    return n
