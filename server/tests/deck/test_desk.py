"""The record of a closed outing is put right at the desk with every kind of entry that the Deck has: by whom, when, and why."""

from __future__ import annotations

from collections.abc import Callable
from datetime import timedelta
from typing import Any

import pytest
from django.db.models import F
from rest_framework.test import APIClient

from nailwright.common.rows import new_id
from nailwright.deck.encounters import rebuild_encounters
from nailwright.deck.models import Capture, Event, Outing, Release, Run
from nailwright.programmes.models import Change, Programme
from nailwright.programmes.policies import PERMISSIONS
from nailwright.tags.models import Encounter, Placement, Tag
from nailwright.waters.models import Site
from server.tests.conftest import only_capture, operation

Send = Callable[..., Any]
WHY = "field sheet read again"


@pytest.fixture
def closed(sync: Send, called: Callable[..., dict[str, Any]], outing: Outing) -> Capture:
    """A fish that was scanned and found bare, of an outing that is closed."""
    sync(called(scanned="none"))
    Outing.objects.filter(pk=outing.pk).update(state=Outing.State.CLOSED)
    Capture.objects.update(device_time=F("device_time") - timedelta(hours=1))
    rebuild_encounters()
    return only_capture()


@pytest.fixture
def desk(client_as: Callable[[str], APIClient], programme: Programme) -> Send:
    lead = client_as("lead")

    def send(kind: str, /, client: APIClient = lead, why: str = WHY, **row: Any) -> Any:
        entry = {**operation(kind, **row), "desk": True, "reason": why}
        answer = client.post(f"/api/v1/programmes/{programme.pk}/sync", {"operations": [entry]}, format="json")
        (result,) = answer.data["results"]
        return result["state"] if result["error"] is None else result["error"]["code"]

    return send


def test_only_who_corrects_the_record_may_and_says_why(
    closed: Capture, desk: Send, crew: APIClient, sync: Send, client_as: Callable[[str], APIClient]
) -> None:
    row = {"capture": str(closed.pk), "length": "471"}
    assert sync(operation("capture.edit", **row)).data["code"] == "outing_closed"
    assert desk("capture.edit", client=crew, **row) == "role_may_not"
    assert desk("capture.edit", client=client_as("viewer"), **row) == "role_may_not"
    assert desk("capture.edit", why=" ", **row) == "reason_missing"
    assert only_capture().length_mm == 463
    assert desk("capture.edit", **row) == "stored" and only_capture().length_mm == 471
    change = Change.objects.get(row=closed.pk)
    assert (change.reason, change.before["length_mm"], change.after["length_mm"]) == (WHY, 463, 471)


@pytest.mark.parametrize(
    ("wrong", "code"),
    [
        ({"run": "K15"}, "key_unreadable"), ({"run": str(new_id())}, "run_unknown"), ({"run": {"a": 1}}, "key_unreadable"),
        ({"caught_at": "soon"}, "time_unreadable"), ({"caught_at": 5}, "time_unreadable"),
        ({"caught_at": "2026-10-12T22:00:00"}, "time_unreadable"),
    ],
)  # fmt: skip
def test_where_and_when_are_read_as_in_any_entry(closed: Capture, desk: Send, wrong: dict[str, Any], code: str) -> None:
    before = Capture.objects.values().get()
    assert desk("capture.edit", capture=str(closed.pk), **wrong) == code
    assert Capture.objects.values().get() == before
    at = (closed.device_time + timedelta(minutes=5)).isoformat()
    assert desk("capture.edit", capture=str(closed.pk), caught_at=at) == "stored"
    assert only_capture().device_time == closed.device_time + timedelta(minutes=5)


def test_what_a_kind_needs_is_needed_at_the_desk_too(
    closed: Capture, desk: Send, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setitem(PERMISSIONS, "work_deck", (frozenset({"crew"}), "record on the deck"))
    assert desk("capture.edit", capture=str(closed.pk), length="471") == "role_may_not"


def test_tags_are_given_moved_and_lost(closed: Capture, desk: Send, programme: Programme) -> None:
    for number in ("W7", "W8"):
        Tag.objects.create(programme=programme, kind="tbar", number=number)
    tag = {"capture": str(closed.pk), "kind": "tbar", "number": "W7"}
    assert desk("tag.place", **tag) == "stored"
    placement = Placement.objects.get()
    assert placement.device_time == closed.device_time  # it was put in then, not today
    assert Encounter.objects.get().at == closed.device_time and rebuild_encounters() == 0
    assert desk("tag.describe", **tag, body_site="dorsal") in ("stored", "already")
    assert desk("tag.shed", **tag) == "stored" and Tag.objects.get(number="W7").state == "shed"
    assert desk("tag.shed", **tag, shed=False) == "stored" and Tag.objects.get(number="W7").state == "placed"


def test_what_is_added_stands_at_the_fishs_own_time(closed: Capture, desk: Send) -> None:
    assert (
        desk("event.record", capture=str(closed.pk), what="found", details={"what": "scrape", "degree": "slight"})
        == "stored"
    )
    event = Event.objects.get()
    assert event.device_time == closed.device_time
    later = closed.device_time + timedelta(minutes=4)
    assert desk("event.edit", event=str(event.pk), at=later.isoformat()) == "stored"
    assert desk("release.set", captures=[str(closed.pk)], fate="released", strength=2) == "stored"
    release = Release.objects.get()
    assert release.device_time == later  # after all that is known of it
    assert desk("release.set", captures=[str(closed.pk)], fate="dead") == "stored"
    release.refresh_from_db()
    assert (release.fate, release.device_time) == ("dead", later)
    assert desk("event.edit", event=str(event.pk), deleted=True) == "stored"
    assert not Event.present.exists()


def test_a_run_was_at_another_site(closed: Capture, desk: Send, run: Run, outing: Outing) -> None:
    there = Site.objects.create(
        water=outing.water, name="K16", river_km=16, geometry={"type": "Point", "coordinates": [9.5, 51.2]}
    )
    elsewhere = str(new_id())
    assert desk("run.edit", run=str(run.pk), site=elsewhere) == "site_unknown"
    assert desk("run.edit", run=str(run.pk), site=str(there.pk)) == "stored"
    run.refresh_from_db()
    assert run.site_id == there.pk and rebuild_encounters() == 0
    change = Change.objects.get(row=run.pk)
    assert change.after == {"site_id": str(there.pk)} and change.reason == WHY


def test_a_fish_that_was_forgotten_is_added_and_taken_back(closed: Capture, desk: Send, run: Run) -> None:
    assert desk("capture.record", run=str(run.pk), species="yep", length="210") == "stored"
    added = Capture.objects.exclude(pk=closed.pk).get()
    assert desk("capture.delete", capture=str(added.pk)) == "stored" and Capture.present.count() == 1
    assert desk("capture.restore", capture=str(added.pk)) == "stored" and Capture.present.count() == 2


def test_the_desk_shows_what_the_deck_does(closed: Capture, desk: Send, client_as: Callable[[str], APIClient]) -> None:
    desk("event.record", capture=str(closed.pk), what="found", details={"what": "scrape", "degree": "slight"})
    told = client_as("viewer").get(f"/api/v1/captures/{closed.pk}").data
    assert [(each["kind"], each["details"]["degree"]) for each in told["events"]] == [("found", "slight")]
    assert [each["code"] for each in told["event_kinds"]] == ["found"] and told["photos"] == []
