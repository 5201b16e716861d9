"""Long work: progress told over a second connection, a stop that is heard, every ending written down."""

from __future__ import annotations

import time
from collections.abc import Callable
from datetime import timedelta

import pytest
from django.db import connection, transaction
from django.utils import timezone
from rest_framework.test import APIClient

from nailwright.jobs import working
from nailwright.jobs.actions import reap_jobs, stop_job
from nailwright.jobs.models import Job
from nailwright.jobs.working import Progress, Stopped, do_job
from nailwright.programmes.models import Person, Programme
from nailwright_core.common.errors import CoreError

pytestmark = pytest.mark.django_db(transaction=True)


@pytest.fixture
def job(programme: Programme, person_as: Callable[[str], Person], monkeypatch: pytest.MonkeyPatch) -> Job:
    monkeypatch.setattr(working, "BEAT_S", 0.05)
    return Job.objects.create(programme=programme, person=person_as("lead"), permission="plan", title="Counting")


def now(job: Job) -> Job:
    return Job.objects.get(pk=job.pk)


def test_progress_is_seen_from_outside_the_transaction(job: Job) -> None:
    seen: list[tuple[int, int]] = []

    def work(progress: Progress) -> None:
        with transaction.atomic():
            progress.tell(3, 10)
            for _ in range(200):  # what others see: committed by the beat's own connection, when it comes to it
                with connection.cursor() as cursor:
                    cursor.execute("SELECT done, total FROM jobs_job")
                    seen[:] = cursor.fetchall()
                if seen == [(3, 10)]:
                    break
                time.sleep(0.05)
            progress.tell(10)

    do_job(job.pk, work)
    assert seen == [(3, 10)]
    done = now(job)
    assert (done.state, done.done, done.total, done.error) == (Job.State.DONE, 10, 10, None)
    assert done.ended_at is not None and done.heartbeat is not None


def test_a_stop_is_heard_and_rolls_back(job: Job, programme: Programme) -> None:
    def work(progress: Progress) -> None:
        with transaction.atomic():
            Programme.objects.update(name="half done")
            Job.objects.using("default").filter(pk=job.pk)
            for step in range(200):
                if step == 2:
                    progress.stop_asked.set()
                progress.tell(step)

    do_job(job.pk, work)
    programme.refresh_from_db()
    assert now(job).state == Job.State.STOPPED and programme.name == "Tarn study"


def test_a_wish_to_stop_reaches_the_worker_within_a_beat(job: Job) -> None:
    def work(progress: Progress) -> None:
        Job.objects.filter(pk=job.pk).update(stop_asked=True)
        for step in range(100):
            time.sleep(0.05)
            progress.tell(step)
        raise AssertionError("nobody stopped it")

    do_job(job.pk, work)
    assert now(job).state == Job.State.STOPPED and now(job).done < 60


@pytest.mark.parametrize(
    ("failure", "code"),
    [(CoreError("no_fish", "There are none.", "fish"), "no_fish"), (ZeroDivisionError(), "job_failed")],
)
def test_what_goes_wrong_is_said_in_words(job: Job, failure: Exception, code: str) -> None:
    def work(progress: Progress) -> None:
        raise failure

    do_job(job.pk, work)
    failed = now(job)
    assert failed.state == Job.State.FAILED and failed.error is not None
    assert failed.error["code"] == code and failed.error["message"].endswith(".")


def test_a_worker_that_is_ended_says_so(job: Job) -> None:
    def work(progress: Progress) -> None:
        raise SystemExit(1)

    with pytest.raises(SystemExit):
        do_job(job.pk, work)
    assert now(job).error is not None and now(job).error["code"] == "worker_ended"


def test_a_job_is_done_once(job: Job) -> None:
    calls: list[int] = []
    for _ in range(2):
        do_job(job.pk, lambda progress: calls.append(1))
    assert calls == [1]


def test_one_that_was_stopped_before_it_began_never_begins(job: Job) -> None:
    stop_job(job.person, job)
    do_job(job.pk, lambda progress: pytest.fail("it began"))
    assert now(job).state == Job.State.STOPPED
    with pytest.raises(CoreError) as refused:
        stop_job(job.person, now(job))
    assert refused.value.code == "job_over"


def test_only_the_silent_are_reaped(job: Job) -> None:
    Job.objects.update(state=Job.State.RUNNING, heartbeat=timezone.now() - timedelta(seconds=10))
    assert reap_jobs() == 0
    Job.objects.update(heartbeat=timezone.now() - timedelta(seconds=40))
    assert reap_jobs() == 1 and reap_jobs() == 0
    assert now(job).error is not None and now(job).error["code"] == "worker_lost"


def test_who_may_look(job: Job, client_as: Callable[[str], APIClient]) -> None:
    assert client_as("biologist").get(f"/api/v1/jobs/{job.pk}").data["title"] == "Counting"
    assert client_as("crew").get(f"/api/v1/jobs/{job.pk}").status_code == 403
    assert client_as("lead").get(f"/api/v1/jobs/{job.programme_id}").status_code == 404


def test_telling_is_cheap() -> None:
    progress = Progress()
    for step in range(1000):
        progress.tell(step, 1000)
    progress.stop_asked.set()
    with pytest.raises(Stopped):
        progress.tell(1)
