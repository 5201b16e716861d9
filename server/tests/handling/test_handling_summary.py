"""The row that sums up what was done to a fish is true after every way in which its events, its fish or its release change."""

from __future__ import annotations

import threading
from collections.abc import Callable
from datetime import timedelta
from typing import Any

import pytest
from django.db import connection, transaction
from rest_framework.test import APIClient

from nailwright.common.rows import new_id
from nailwright.deck.handling.summary import rebuild_handling
from nailwright.deck.models import Capture, Event, Handling, Outing, Run
from nailwright.programmes.models import Person, Programme
from server.tests.conftest import BEGAN, only_capture, operation

Send = Callable[..., Any]
Called = Callable[..., dict[str, Any]]


def say(fish: dict[str, Any], kind: str, minute: float, **details: Any) -> dict[str, Any]:
    entry = operation("event.record", what=kind, capture=fish["id"], details=details)
    return {**entry, "device_time": (BEGAN + timedelta(minutes=minute)).isoformat()}


@pytest.fixture
def fish(called: Called) -> dict[str, Any]:
    return {**called(), "device_time": (BEGAN + timedelta(minutes=1)).isoformat()}


def row() -> Handling:
    return Handling.objects.get()


def test_it_follows_events_release_and_their_corrections(sync: Send, fish: dict[str, Any]) -> None:
    out, back = say(fish, "air", 5, where="out"), say(fish, "lane", 6, lane="recovery")
    assert sync(fish).status_code == 200 and not Handling.objects.exists()
    assert sync(out, back, say(fish, "found", 5, what="scrape"), say(fish, "stage", 4, stage="2")).status_code == 200
    assert (row().longest_air_s, row().injuries, row().deepest_stage, row().disposition) == (60, ["scrape"], 2, "")
    release = {**operation("release.set", captures=[fish["id"]], fate="released", strength=2), "device_time": (BEGAN + timedelta(minutes=20)).isoformat()}  # fmt: skip
    sync(release)
    assert (row().disposition, row().condition, row().recovery_s, row().aboard_s) == ("released", 2, 840, 1140)
    # the time of one event is put right, another is deleted, and that is undone
    sync(operation("event.edit", event=back["id"], at=(BEGAN + timedelta(minutes=7)).isoformat()))
    assert row().longest_air_s == 120
    sync(operation("event.edit", event=out["id"], deleted=True))
    assert row().longest_air_s == 0
    sync(operation("event.edit", event=out["id"], deleted=False))
    assert row().longest_air_s == 120
    sync(operation("release.set", captures=[fish["id"]], fate=None))
    assert (row().disposition, row().recovery_s) == ("", None)
    assert rebuild_handling() == 0


def test_a_fish_that_is_deleted_has_none_until_it_is_restored(sync: Send, fish: dict[str, Any]) -> None:
    sync(fish, say(fish, "reflexes", 9, tried=["bite"], impaired=["bite"]))
    assert row().reflex_score == 1
    sync(operation("capture.delete", capture=fish["id"]))
    assert not Handling.objects.exists() and Event.objects.count() == 1
    sync(operation("capture.restore", capture=fish["id"]))
    assert row().reflexes_impaired == ["bite"]
    assert rebuild_handling() == 0


def test_the_desk_corrects_when_it_was_caught(
    sync: Send, fish: dict[str, Any], client_as: Callable[[str], APIClient], outing: Outing
) -> None:
    sync(fish, say(fish, "air", 5, where="out"), say(fish, "air", 6, where="in"))
    sync(
        {
            **operation("release.set", captures=[fish["id"]], fate="released"),
            "device_time": (BEGAN + timedelta(minutes=11)).isoformat(),
        }
    )
    assert row().aboard_s == 600
    told = client_as("biologist").post(
        f"/api/v1/captures/{only_capture().pk}",
        {"id": str(new_id()), "caught_at": (BEGAN + timedelta(minutes=6)).isoformat(), "reason": "the clock was slow"}, format="json",
    )  # fmt: skip
    assert told.status_code == 200, told.data
    assert row().aboard_s == 300
    assert rebuild_handling() == 0


def test_a_row_that_is_not_true_is_made_true(sync: Send, fish: dict[str, Any], run: Run) -> None:
    sync(fish, say(fish, "sent_down", 5, device="cage"))
    Handling.objects.update(descended=False)
    other = Capture.objects.create(programme=run.outing.programme, run=run, species="wal", recorder=run.recorder)
    Handling.objects.create(capture=other)
    assert rebuild_handling() == 2 and row().descended
    assert rebuild_handling(run.outing.programme) == 0


def test_it_follows_the_protocol_that_the_outing_goes_by(
    sync: Send, fish: dict[str, Any], client_as: Callable[[str], APIClient], outing: Outing
) -> None:
    """As it ships, a table has water over the gills and gives no air; from the next version on it lies in air."""
    lead = client_as("lead")
    sync(fish, say(fish, "lane", 5, lane="table"), say(fish, "lane", 6, lane="recovery"))
    assert row().longest_air_s == 0
    address = f"/api/v1/programmes/{outing.programme_id}/protocol"
    told = lead.get(address).data
    lanes = [{**each, "water": "air" if each["code"] == "table" else "water"} for each in told["values"]["lanes"]]
    body = {
        "id": str(new_id()),
        "based_on": told["number"],
        "why": "no pump any more",
        "sections": {"lanes": lanes},
    }
    assert lead.post(address, body, format="json").status_code == 201
    assert row().longest_air_s == 0
    assert lead.post(f"/api/v1/outings/{outing.pk}/protocol").status_code == 200
    assert row().longest_air_s == 60 and rebuild_handling() == 0


@pytest.mark.django_db(transaction=True)
def test_two_tablets_say_something_of_one_fish_at_once(
    sync: Send, fish: dict[str, Any], person_as: Callable[[str], Person], programme: Programme
) -> None:
    assert sync(fish).status_code == 200
    people = [person_as("crew") for _ in range(2)]

    def tell(place: int) -> None:
        client = APIClient()
        client.force_authenticate(people[place])
        try:
            for minute in range(8):
                entry = say(fish, "found", 2 + minute, what=("scrape", "scar")[place])
                assert sync(entry, client=client).data["results"][0]["state"] == "stored"
        finally:
            connection.close()

    tablets = [threading.Thread(target=tell, args=(place,)) for place in range(2)]
    for each in tablets:
        each.start()
    for each in tablets:
        each.join()
    assert Event.objects.count() == 16 and set(row().injuries) == {"scrape", "scar"}
    with transaction.atomic():
        assert rebuild_handling() == 0
