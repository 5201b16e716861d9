"""Doing a job inside a worker: progress told, a wish to stop heard, every way of ending written down."""

from __future__ import annotations

import logging
import threading
from collections.abc import Callable
from uuid import UUID

from django.db import connection
from django.utils import timezone

from nailwright.common.errors import body
from nailwright.jobs.models import Job
from nailwright_core.common.errors import CoreError

BEAT_S = 1.0
log = logging.getLogger(__name__)


class Stopped(Exception):
    """Somebody asked to stop."""


class Progress:
    """How far a job is. ``tell`` is cheap: it may be called for every row."""

    def __init__(self) -> None:
        self.done = 0
        self.total = 0
        self.stop_asked = threading.Event()

    def tell(self, done: int, total: int | None = None) -> None:
        """Say how far it is.

        Raises:
            Stopped: where somebody asked to stop; open transactions roll back.
        """
        self.done = done
        if total is not None:
            self.total = total
        if self.stop_asked.is_set():
            raise Stopped


def do_job(job_id: UUID | str, work: Callable[[Progress], None]) -> None:
    """Run ``work`` as the job's body; what goes wrong is written on the job in words."""
    claimed = Job.objects.filter(pk=job_id, state=Job.State.WAITING, stop_asked=False)
    if not claimed.update(state=Job.State.RUNNING, heartbeat=timezone.now()):
        Job.objects.filter(pk=job_id, state=Job.State.WAITING).update(state=Job.State.STOPPED, ended_at=timezone.now())
        return
    progress = Progress()
    over = threading.Event()
    beat = threading.Thread(target=_beat, args=(job_id, progress, over), daemon=True)
    beat.start()
    state, error = Job.State.FAILED, None
    try:
        work(progress)
        state = Job.State.DONE
    except Stopped:
        state = Job.State.STOPPED
    except CoreError as refused:
        error = body(refused.code, refused.message, refused.field)
    except (SystemExit, KeyboardInterrupt):
        error = body(
            "worker_ended", "The worker was ended while it did this; nothing of it was stored. Start it again."
        )
        raise
    except Exception:
        error = body("job_failed", "Something went wrong that was not foreseen; nothing was stored. It is in the log.")
        log.exception("job %s failed", job_id)
    finally:
        over.set()
        beat.join()
        Job.objects.filter(pk=job_id).update(
            state=state, error=error, done=progress.done, total=progress.total, ended_at=timezone.now()
        )


def _beat(job_id: UUID | str, progress: Progress, over: threading.Event) -> None:
    """Write progress and a sign of life each second, over a connection of its own that no transaction holds back."""
    try:
        while not over.wait(BEAT_S):
            row = Job.objects.filter(pk=job_id)
            row.update(done=progress.done, total=progress.total, heartbeat=timezone.now())
            if row.filter(stop_asked=True).exists():
                progress.stop_asked.set()
    finally:
        connection.close()
