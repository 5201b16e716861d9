"""What two people put right differently, neither knowing of the other: the lead is shown both words, of whatever it was said."""

from __future__ import annotations

from collections.abc import Callable
from datetime import timedelta
from typing import Any

import pytest
from django.utils import timezone
from rest_framework.test import APIClient

from nailwright.common.rows import new_id
from nailwright.deck.models import Capture, Event, Outing, Release, Run, WaterReading
from nailwright.programmes.models import Change, Membership, Person
from server.tests.conftest import only_capture, operation

Send = Callable[..., Any]
Called = Callable[..., dict[str, Any]]


@pytest.fixture
def second(outing: Outing) -> APIClient:
    """Another of the crew, on a tablet of his own."""
    person = Person.objects.create(username="second", name="Bram Oxley")
    Membership.objects.create(programme=outing.programme, person=person, role="crew")
    client = APIClient()
    client.force_authenticate(person)
    return client


def send(client: APIClient, outing: Outing, made: timedelta, kind: str, **row: Any) -> str:
    """An entry that was made so long ago and arrives now."""
    entry = operation(kind, **row)
    entry["device_time"] = (timezone.now() - made).isoformat()
    answer = client.post(f"/api/v1/programmes/{outing.programme_id}/sync", {"operations": [entry]}, format="json")
    assert answer.data["results"][0]["state"] in ("stored", "already"), answer.data
    return str(entry["id"])


def crossed(lead: APIClient, outing: Outing) -> list[dict[str, Any]]:
    return list(lead.get(f"/api/v1/programmes/{outing.programme_id}/crossed").json())


def told(lead: APIClient, outing: Outing) -> int:
    waiting = lead.get(f"/api/v1/programmes/{outing.programme_id}/today").data["waiting"]
    return sum(each["n"] for each in waiting if each["code"] == "corrections_crossed")


def minutes(n: float) -> timedelta:
    return timedelta(minutes=n)


def rows(sync: Send, called: Called, outing: Outing, run: Run) -> dict[str, tuple[str, dict[str, Any], str, Any, Any]]:
    """Kinds of entries that put something right: their kind, whom they name, the field in the history, one word and another."""
    sync(called(length="440"))
    fish = str(only_capture().pk)
    details = operation("event.record", what="not_netted", details={"n": 3}, run=str(run.pk))
    water = operation("water.record", outing=str(outing.pk), temperature_c=9)
    left = operation("release.set", captures=[fish], fate="released", strength=1)
    for each in sync(details, water, left).data["results"]:
        assert each["state"] == "stored", each
    event, reading = str(Event.objects.get().pk), str(WaterReading.objects.get().pk)
    return {
        "fish": ("capture.edit", {"capture": fish}, "length_mm", {"length": "441"}, {"length": "442"}),
        "run": ("run.edit", {"run": str(run.pk)}, "current_on_s", {"current_on_s": 611}, {"current_on_s": 622}),
        "event": ("event.edit", {"event": event}, "details.n", {"details": {"n": 4}}, {"details": {"n": 5}}),
        "water": ("water.edit", {"reading": reading}, "temperature_c", {"temperature_c": 8}, {"temperature_c": 10}),
        "release": (
            "release.set", {"captures": [fish]}, "strength", {"fate": "released", "strength": 2}, {"fate": "released", "strength": 3},
        ),
    }  # fmt: skip


@pytest.mark.parametrize("of", ["fish", "run", "event", "water", "release"])
@pytest.mark.parametrize("late", [True, False], ids=["the-earlier-came-later", "each-in-its-order"])
def test_two_words_of_two_people(
    sync: Send,
    called: Called,
    outing: Outing,
    run: Run,
    crew: APIClient,
    second: APIClient,
    lead: APIClient,
    of: str,
    late: bool,
) -> None:
    kind, whom, field, one, other = rows(sync, called, outing, run)[of]
    an_hour_ago = timezone.now() - minutes(60)
    for model in (Capture, WaterReading, Event, Release, Run):
        model._default_manager.update(device_time=an_hour_ago, server_time=an_hour_ago)
    # made ten and five minutes ago, out of each other's sight
    entries = [(crew, minutes(10), one), (second, minutes(5), other)]
    for client, made, word in reversed(entries) if late else entries:
        send(client, outing, made, kind, **whom, **word)
    (found,) = [each for each in crossed(lead, outing) if each["field"] == field]
    assert (found["stands"]["person"], found["other"]["person"]) == ("Bram Oxley", "Crew")
    assert found["stands"]["value"] != found["other"]["value"] and found["outing"] == str(outing.pk)
    assert told(lead, outing) == 1


@pytest.mark.parametrize("late", [True, False], ids=["the-earlier-came-later", "each-in-its-order"])
def test_two_say_first_how_a_fish_left(
    sync: Send,
    called: Called,
    outing: Outing,
    run: Run,
    crew: APIClient,
    second: APIClient,
    lead: APIClient,
    late: bool,
) -> None:
    """Neither word is a correction: each tablet let the fish go for the first time."""
    sync(called(length="440"))
    fish = [str(only_capture().pk)]
    Capture.objects.update(device_time=timezone.now() - minutes(60))
    entries = [(crew, minutes(10), "released"), (second, minutes(5), "dead")]
    for client, made, fate in reversed(entries) if late else entries:
        send(client, outing, made, "release.set", captures=fish, fate=fate)
    (found,) = [each for each in crossed(lead, outing) if each["field"] == "fate"]
    assert (found["stands"]["value"], found["stands"]["person"]) == ("dead", "Bram Oxley")
    assert (found["other"]["value"], found["other"]["person"]) == ("released", "Crew")
    answer = lead.post(f"/api/v1/programmes/{outing.programme_id}/crossed", {"change": found["change"]}, format="json")
    assert answer.json() == [] and only_capture().release.fate == "dead"


def test_who_knew_of_the_other_crossed_nothing(
    sync: Send, called: Called, outing: Outing, run: Run, crew: APIClient, second: APIClient, lead: APIClient
) -> None:
    sync(called(length="440"))
    fish = str(only_capture().pk)
    Capture.objects.update(device_time=timezone.now() - minutes(60), server_time=timezone.now() - minutes(60))
    send(crew, outing, minutes(0), "capture.edit", capture=fish, length="441")
    Change.objects.update(device_time=timezone.now() - minutes(30), server_time=timezone.now() - minutes(30))
    send(second, outing, minutes(0), "capture.edit", capture=fish, length="442")  # half an hour after it was there
    assert crossed(lead, outing) == []
    send(crew, outing, minutes(20), "capture.edit", capture=fish, sex="f")  # late, of another field
    assert crossed(lead, outing) == []
    send(crew, outing, minutes(20), "capture.edit", capture=fish, length="442")  # late, and the same word
    assert crossed(lead, outing) == []


def test_it_is_looked_at_by_a_later_word_or_by_saying_so(
    sync: Send, called: Called, outing: Outing, run: Run, crew: APIClient, second: APIClient, lead: APIClient
) -> None:
    sync(called(length="440", mass="900"))
    fish = str(only_capture().pk)
    address = f"/api/v1/programmes/{outing.programme_id}/crossed"
    send(crew, outing, minutes(10), "capture.edit", capture=fish, length="441", mass="910")
    send(second, outing, minutes(5), "capture.edit", capture=fish, length="442", mass="920")
    assert {each["field"] for each in crossed(lead, outing)} == {"length_mm", "mass_g"}
    before = Capture.objects.values().get()
    send(lead, outing, minutes(0), "capture.edit", capture=fish, length="443")
    (left,) = crossed(lead, outing)
    assert left["field"] == "mass_g" and told(lead, outing) == 1
    answer = lead.post(address, {"change": left["change"]}, format="json")
    assert answer.status_code == 200 and answer.json() == [] and told(lead, outing) == 0
    after = Capture.objects.values().get()
    assert {name for name in before if before[name] != after[name]} == {"length_mm", "length_text"}
    history = lead.get(f"/api/v1/captures/{fish}/history").json()
    assert any(each["reason"] == "two words were compared: it stands" and not each["after"] for each in history)
    again = lead.post(address, {"change": left["change"]}, format="json")
    assert (again.status_code, again.json()["code"]) == (422, "crossed_unknown")
    assert lead.post(address, {"change": str(new_id())}, format="json").status_code == 422
    # a fish that was taken out meanwhile needs no deciding
    send(crew, outing, minutes(3), "capture.edit", capture=fish, note="scar")
    send(second, outing, minutes(2), "capture.edit", capture=fish, note="no scar")
    assert len(crossed(lead, outing)) == 1
    send(second, outing, minutes(0), "capture.delete", capture=fish)
    assert crossed(lead, outing) == []
