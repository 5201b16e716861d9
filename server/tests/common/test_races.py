"""Two at the same moment: the same touch twice, the same fish from two tablets in opposite orders. Never a failure."""

from __future__ import annotations

from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from threading import Barrier
from typing import Any

import pytest
from django.db import connections
from rest_framework.test import APIClient

from nailwright.common.rows import new_id
from nailwright.deck.models import Capture, Outing, Run, WaterReading
from nailwright.findings.models import FindingAnswer, SavedFinding
from nailwright.programmes.models import Person, Programme, Receipt
from server.tests.conftest import operation

pytestmark = pytest.mark.django_db(transaction=True)
AT_ONCE = 6


def at_once(person: Person, bodies: list[tuple[str, Any]]) -> list[Any]:
    """Posts all of them at the same moment, each from a client and a connection of its own."""
    start = Barrier(len(bodies))

    def post(address: str, body: Any) -> Any:
        client = APIClient(raise_request_exception=False)
        client.force_authenticate(person)
        start.wait(20)
        try:
            return client.post(address, body, format="json")
        finally:
            connections.close_all()

    with ThreadPoolExecutor(len(bodies)) as pool:
        return list(pool.map(lambda each: post(*each), bodies))


@pytest.fixture
def lead(person_as: Callable[[str], Person]) -> Person:
    return person_as("lead")


def test_one_touch_many_times(lead: Person, programme: Programme, outing: Outing) -> None:
    opened = {"id": str(new_id()), "water": str(outing.water_id), "date": "2026-10-13", "gear": "angling"}
    answers = at_once(lead, [(f"/api/v1/programmes/{programme.pk}/outings", opened)] * AT_ONCE)
    assert [each.status_code for each in answers] == [201] * AT_ONCE
    assert Outing.objects.count() == 2


def test_one_reading_many_times(lead: Person, programme: Programme, outing: Outing) -> None:
    address = f"/api/v1/programmes/{programme.pk}/sync"
    reading = {"operations": [operation("water.record", outing=str(outing.pk), temperature_c=9)]}
    answers = at_once(lead, [(address, reading)] * AT_ONCE)
    assert {each.status_code for each in answers} == {200}
    told = sorted(each.data["results"][0]["state"] for each in answers)
    assert told == ["already"] * (AT_ONCE - 1) + ["stored"]
    assert WaterReading.objects.count() == Receipt.objects.count() == 1


def test_one_finding_kept_many_times(lead: Person, programme: Programme, run: Run) -> None:
    for mm in (310, 410, 480):
        Capture.objects.create(
            programme=programme, run=run, species="wal", length_mm=mm, length_type="TL", length_basis="measured",
            recorder=run.recorder,
        )  # fmt: skip
    keep = {"id": str(new_id()), "kind": "size", "query": {"species": "wal"}}
    answers = at_once(lead, [(f"/api/v1/programmes/{programme.pk}/saved-findings", keep)] * AT_ONCE)
    assert [each.status_code for each in answers] == [201] * AT_ONCE
    assert SavedFinding.objects.count() == 1 and FindingAnswer.objects.count() == 1


def test_the_same_fish_in_opposite_orders(lead: Person, programme: Programme, called: Callable[..., Any]) -> None:
    """Two tablets with the same outbox, one of them from its end: deadlocks are settled, each fish is in once."""
    address = f"/api/v1/programmes/{programme.pk}/sync"
    for _ in range(4):
        fish = [called(length=str(400 + place)) for place in range(60)]
        before = Capture.objects.count()
        orders = [fish, fish[::-1]] * (AT_ONCE // 2)
        answers = at_once(lead, [(address, {"operations": each}) for each in orders])
        assert {each.status_code for each in answers} == {200}
        told = [result["state"] for each in answers for result in each.data["results"]]
        assert set(told) == {"stored", "already"} and told.count("stored") == len(fish)
        assert Capture.objects.count() == before + len(fish)
