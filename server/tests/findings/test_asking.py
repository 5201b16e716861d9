"""A finding is computed once for the same question of the same rows, at once or as a job."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import Any
from uuid import UUID

import pytest
from django.core.management import call_command
from rest_framework.test import APIClient

from nailwright.deck.models import Capture, Run
from nailwright.findings import computing as asking
from nailwright.findings.models import FindingAnswer
from nailwright.findings.registry import finding_kinds
from nailwright.jobs.models import Job

ADDRESS = "/api/v1/programmes/{}/findings/size?species=wal"


@pytest.fixture
def viewer(client_as: Callable[[str], APIClient]) -> APIClient:
    return client_as("viewer")


@pytest.fixture
def address(run: Run) -> str:
    for mm in (300.0, 410.0, 437.0):
        Capture.objects.create(
            programme=run.outing.programme, run=run, species="wal", length_mm=mm, length_type="TL", length_basis="measured",
            recorder=run.recorder,
        )  # fmt: skip
    return ADDRESS.format(run.outing.programme_id)


@pytest.fixture
def counted(monkeypatch: pytest.MonkeyPatch) -> list[str]:
    """Notes each time the size finding is computed."""
    done: list[str] = []
    kinds = dict(finding_kinds())
    size = kinds["size"]

    def compute(*given: Any) -> dict[str, Any]:
        done.append("size")
        return size.compute(*given)

    kinds["size"] = replace(size, compute=compute)
    monkeypatch.setattr(asking, "finding_kinds", lambda: kinds)
    return done


def test_every_kind_says_what_it_is() -> None:
    assert set(finding_kinds()) == {
        "size",
        "condition",
        "size-compared",
        "condition-compared",
        "cohorts",
        "induction",
        "retention",
        "return-rate",
        "catch-rate",
        "abundance-marks",
        "abundance-removal",
        "movement",
        "where-met",
        "recapture-growth",
    }


def test_the_same_question_of_the_same_rows_is_computed_once(
    viewer: APIClient, address: str, counted: list[str], run: Run
) -> None:
    first, second = viewer.get(address), viewer.get(address)
    assert first.status_code == second.status_code == 200 and first.json() == second.json() and counted == ["size"]
    assert viewer.get(f"{address}&level=0.9").json() != first.json() and len(counted) == 2
    Capture.objects.filter(length_mm=437).update(length_mm=438)
    assert viewer.get(address).json()["median"] == first.json()["median"] and len(counted) == 3
    assert FindingAnswer.objects.filter(key=FindingAnswer.objects.latest("made_at").key).count() == 1


@pytest.mark.django_db(transaction=True)
def test_what_takes_long_is_a_job_and_then_there(
    viewer: APIClient, address: str, counted: list[str], monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(asking, "AT_ONCE_S", -1.0)
    first, second = viewer.get(address), viewer.get(address)
    assert first.status_code == second.status_code == 202 and counted == []
    assert first.json()["job"]["id"] == second.json()["job"]["id"] and Job.objects.count() == 1
    call_command("db_worker", batch=True, interval=0, startup_delay=False, verbosity=0, reload=False)
    answered = viewer.get(address)
    assert answered.status_code == 200 and answered.json()["n"] == 3 and counted == ["size"]


@pytest.mark.django_db(transaction=True)
def test_rows_that_change_while_a_job_waits_are_asked_anew_and_the_old_job_writes_nothing(
    viewer: APIClient, address: str, counted: list[str], monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(asking, "AT_ONCE_S", -1.0)
    first = viewer.get(address).json()["job"]["id"]
    Capture.objects.filter(length_mm=437).update(length_mm=438)
    second = viewer.get(address).json()["job"]["id"]
    assert second != first and FindingAnswer.objects.get().job_id == UUID(second)
    call_command("db_worker", batch=True, interval=0, startup_delay=False, verbosity=0, reload=False)
    assert counted == ["size"] and FindingAnswer.objects.get().result is not None
    assert viewer.get(address).status_code == 200


@pytest.mark.django_db(transaction=True)
def test_a_job_that_fails_says_so_and_the_next_who_asks_gets_it_anew(
    viewer: APIClient, address: str, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(asking, "AT_ONCE_S", -1.0)
    Capture.objects.all().delete()
    assert viewer.get(address).status_code == 202
    call_command("db_worker", batch=True, interval=0, startup_delay=False, verbosity=0, reload=False)
    refused = viewer.get(address)
    assert (refused.status_code, refused.json()["code"]) == (422, "no_lengths")
    assert viewer.get(address).status_code == 202


def test_answers_do_not_pile_up(viewer: APIClient, address: str, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(asking, "KEPT_ANSWERS", 3)
    for bins in range(10, 20):
        assert viewer.get(f"{address}&bin_mm={bins}").status_code == 200
    assert FindingAnswer.objects.count() == 3
