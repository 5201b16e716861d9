"""Entries that come before what they belong to, and entries of a device that had lost its time: they wait, and are not refused."""

from __future__ import annotations

from collections.abc import Callable
from datetime import timedelta
from typing import Any

import pytest
from django.utils import timezone
from rest_framework.test import APIClient

from nailwright.common.rows import new_id
from nailwright.deck.models import Capture, Event, Outing, Photo, Release, Run, WaterReading
from nailwright.programmes.models import Person, Programme
from nailwright.waters.models import Site, Water
from server.tests.conftest import BEGAN, operation

Send = Callable[..., Any]
Called = Callable[..., dict[str, Any]]
pytestmark = pytest.mark.django_db


def states(answer: Any) -> list[str]:
    return [each["state"] for each in answer.data["results"]]


def test_a_correction_that_comes_before_its_fish_waits_for_it(sync: Send, called: Called) -> None:
    fish = called()
    edit = operation("capture.edit", capture=fish["id"], length="512")
    first = sync(edit)
    assert first.status_code == 200 and states(first) == ["failed"]
    assert first.data["results"][0]["error"]["code"] == "capture_unknown"
    assert states(sync(fish)) == ["stored"]
    assert states(sync(edit)) == ["stored"]
    assert Capture.objects.get().length_mm == 512


def test_fish_that_come_before_their_run_wait_for_it(sync: Send, called: Called, outing: Outing, site: Site) -> None:
    start = operation("run.start", outing=str(outing.pk), site=str(site.pk), started_at=BEGAN.isoformat())
    fish = [called(run=start["id"], length=str(mm)) for mm in (410, 420)]
    gone = operation("release.set", captures=[each["id"] for each in fish], fate="released")
    assert states(sync(*fish, gone)) == ["failed", "failed", "failed"]
    assert not Capture.objects.exists()
    assert states(sync(start)) == ["stored"]
    assert states(sync(*fish, gone)) == ["stored", "stored", "stored"]
    assert Release.objects.count() == 2


def test_what_belongs_to_an_entry_that_cannot_be_read_waits_with_it(sync: Send, called: Called) -> None:
    fish = {**called(), "clock_offset_s": "late"}
    edit = operation("capture.edit", capture=fish["id"], length="512")
    assert states(sync(fish, edit)) == ["refused", "failed"]


@pytest.mark.parametrize("key", [None, "none", "wal", 5])
def test_an_entry_without_a_key_holds_up_no_other(sync: Send, called: Called, key: Any) -> None:
    """ "none" and "wal" stand in rows as words, too."""
    assert states(sync({**called(), "id": key}, called(scanned="none"))) == ["refused", "stored"]


@pytest.mark.parametrize("years", [-56, -11, 4, 30])
def test_a_device_that_lost_its_time_is_held_for_a_person_and_nothing_of_it_is_lost(
    sync: Send, called: Called, years: int
) -> None:
    lost = timedelta(days=365.25 * years)
    fish = called()
    fish["device_time"] = (timezone.now() + lost).isoformat()
    gone = operation("release.set", captures=[fish["id"]], fate="released")
    gone["device_time"] = (timezone.now() + lost + timedelta(minutes=2)).isoformat()
    answer = sync({**fish, "clock_offset_s": 0.0}, {**gone, "clock_offset_s": 0.0})
    assert answer.status_code == 422 and states(answer) == ["held", "held"]
    assert answer.data["code"] == "time_unlikely" and not Capture.objects.exists()
    # a person says when it was: the same entries, by the clock as it is known now
    offset = -lost.total_seconds() - 300
    assert states(sync({**fish, "clock_offset_s": offset}, {**gone, "clock_offset_s": offset})) == ["stored", "stored"]
    five_minutes_ago = timezone.now() - timedelta(minutes=5)
    assert abs((Capture.objects.get().device_time - five_minutes_ago).total_seconds()) < 60


def test_a_tablet_that_lay_in_a_drawer_over_winter_is_taken(sync: Send, called: Called) -> None:
    fish = called()
    fish["device_time"] = (timezone.now() - timedelta(days=300)).isoformat()
    assert states(sync(fish)) == ["stored"]


@pytest.fixture
def elsewhere(person_as: Callable[[str], Person]) -> dict[str, str]:
    """Keys of another programme's rows, by the field that would name them."""
    programme = Programme.objects.create(name="Other study")
    person = person_as("stranger")
    water = Water.objects.create(programme=programme, name="Beck", kind="river")
    outing = Outing.objects.create(programme=programme, water=water, name="Theirs", date=BEGAN.date(), gear="angling")
    site = Site.objects.create(water=water, name="B1")
    run = Run.objects.create(outing=outing, site=site, number=1, gear="angling", started_at=BEGAN, recorder=person)
    of_them = {"recorder": person, "device_time": BEGAN}
    fish = Capture.objects.create(programme=programme, run=run, species="yep", length_mm=210, **of_them)
    event = Event.objects.create(outing=outing, run=run, kind="batch", details={"n": 3}, **of_them)
    reading = WaterReading.objects.create(outing=outing, temperature_c=9, **of_them)
    photo = Photo.objects.create(outing=outing, shows="site", width=1, height=1, **of_them)
    rows = {
        "outing": outing,
        "site": site,
        "run": run,
        "capture": fish,
        "event": event,
        "reading": reading,
        "photo": photo,
    }
    return {name: str(row.pk) for name, row in rows.items()}


#: Every kind of entry that names a row of another entry, with the field that does.
NAMING = [
    ("capture.record", "run", {"species": "wal", "length": "410"}),
    ("capture.edit", "capture", {"length": "410"}),
    ("capture.delete", "capture", {}),
    ("capture.restore", "capture", {}),
    ("run.start", "outing", {"started_at": BEGAN.isoformat()}),
    ("run.edit", "run", {"volts": 200}),
    ("release.set", "captures", {"fate": "released"}),
    ("event.record", "capture", {"what": "lane", "details": {"lane": "bath"}}),
    ("event.record", "run", {"what": "batch", "details": {"n": 2}}),
    ("event.edit", "event", {"details": {"n": 2}}),
    ("tag.place", "capture", {"kind": "pit", "number": "999000000000101"}),
    ("tag.describe", "capture", {"kind": "pit", "number": "999000000000101"}),
    ("track.add", "run", {"fixes": [[1_700_000_000, 1.0, 1.0]]}),
    ("water.record", "outing", {"temperature_c": 9}),
    ("water.edit", "reading", {"temperature_c": 9}),
    ("photo.add", "outing", {"shows": "site", "jpeg": ""}),
    ("photo.edit", "photo", {"note": "x"}),
    ("checklist.sign", "outing", {"checklist": "boat", "name": "Ada"}),
]


@pytest.mark.parametrize(("kind", "field", "more"), NAMING)
def test_what_is_unknown_and_what_is_another_programmes_are_told_alike(
    sync: Send, run: Run, elsewhere: dict[str, str], kind: str, field: str, more: dict[str, Any]
) -> None:
    told = []
    for key in (elsewhere[field.removesuffix("s") if field == "captures" else field], str(new_id())):
        named: Any = [key] if field == "captures" else key
        entry = operation(kind, **{**more, "site": elsewhere["site"], field: named})
        (result,) = sync(entry).data["results"]
        told.append({**result, "id": ""})
    assert told[0] == told[1]
    assert told[0]["state"] in ("failed", "refused")


def test_only_what_a_person_can_do_something_about_needs_one(crew: APIClient, programme: Programme, run: Run) -> None:
    """What waits is answered with 200: nothing is to be decided."""
    entry = operation("capture.edit", capture=str(new_id()), length="400")
    answer = crew.post(f"/api/v1/programmes/{programme.pk}/sync", {"operations": [entry]}, format="json")
    assert answer.status_code == 200 and "code" not in answer.data
