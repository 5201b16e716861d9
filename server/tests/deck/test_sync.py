"""What a tablet sends: each operation once, in order, none held up by another."""

from __future__ import annotations

import json
import threading
from collections.abc import Callable
from typing import Any

import pytest
from django.db import connection
from rest_framework.test import APIClient

from nailwright.deck.models import Capture, Outing, Run, WaterReading
from nailwright.programmes.models import Change, Person, Programme, Receipt
from server.tests.conftest import BEGAN, only_capture, operation

Send = Callable[..., Any]
Called = Callable[..., dict[str, Any]]


def test_a_called_fish_is_read_by_core(sync: Send, called: Called) -> None:
    response = sync(called(length="18 1/4 in", mass="~2lb 7oz", sex="f", sex_evidence="pressure", note="scar"))
    assert response.status_code == 200 and response.data["results"][0]["state"] == "stored"
    fish = only_capture()
    assert (fish.length_mm, fish.length_basis, fish.length_type, fish.length_text) == (
        463.6,
        "measured",
        "TL",
        "18 1/4 in",
    )
    assert (fish.mass_g, fish.mass_basis) == (1105.63, "estimated")
    assert (fish.sex, fish.sex_evidence, fish.note, fish.recorder.name) == ("f", "pressure", "scar", "Crew")


def test_the_same_operation_twice_changes_nothing(sync: Send, called: Called) -> None:
    once = called()
    assert [each["state"] for each in sync(once, once).data["results"]] == ["stored", "already"]
    assert sync(once).data["results"][0]["state"] == "already"
    assert Capture.objects.count() == 1


def test_a_bad_operation_holds_up_no_other(sync: Send, called: Called) -> None:
    response = sync(called(), called(length="12 13"), called(species="yep", length="200", mass="95"))
    assert response.status_code == 422
    assert (response.data["code"], response.data["field"]) == ("length_unreadable", "length")
    assert [each["state"] for each in response.data["results"]] == ["stored", "refused", "stored"]
    assert "understood 12 and 13" in response.data["results"][1]["error"]["message"]
    assert Capture.objects.count() == 2


@pytest.mark.parametrize(
    ("row", "code", "field"),
    [
        ({"species": ""}, "species_not_in_programme", "species"),
        ({"species": "nop"}, "species_not_in_programme", "species"),
        ({"species": None}, "species_not_in_programme", "species"),
        ({"length": "long"}, "length_unreadable", "length"),
        ({"length": "-463"}, "length_not_positive", "length"),
        ({"length": "0"}, "length_not_positive", "length"),
        ({"length": "1e400"}, "length_unit", "length"),
        ({"length": "NaN"}, "length_unreadable", "length"),
        ({"length": "12 13"}, "length_unreadable", "length"),
        ({"length": 463}, "not_a_text", "length"),
        ({"length": "9000"}, "length_impossible", "length"),
        ({"length": "4" * 41}, "text_too_long", "length"),
        ({"mass": "18in"}, "mass_unit", "mass"),
        ({"mass": "0"}, "mass_not_positive", "mass"),
        ({"sex": "x"}, "not_a_choice", "sex"),
        ({"sex_evidence": "hunch"}, "not_a_choice", "sex_evidence"),
        ({"length_type": "ZL"}, "not_a_choice", "length_type"),
        ({"count": 0}, "count_out_of_range", "count"),
        ({"count": 2.5}, "count_out_of_range", "count"),
        ({"count": True}, "count_out_of_range", "count"),
        ({"count": 3}, "count_with_size", "count"),
        ({"note": "n" * 201}, "text_too_long", "note"),
        ({"note": "a\x00b"}, "text_unreadable", "note"),
        ({"questions": "all"}, "questions_unreadable", "questions"),
        ({"questions": [{"answer": "kept"}]}, "questions_unreadable", "questions"),
        ({"run": "none"}, "key_unreadable", "run"),
    ],
)
def test_bad_calls_are_refused_with_code_message_field(
    sync: Send, called: Called, row: dict[str, Any], code: str, field: str
) -> None:
    response = sync(called(**row))
    assert response.status_code == 422
    assert (response.data["code"], response.data["field"]) == (code, field)
    assert len(response.data["message"]) > 20
    assert Capture.objects.count() == 0


@pytest.mark.parametrize(
    ("operations", "code"),
    [
        ("all of them", "operations_unreadable"),
        (None, "operations_unreadable"),
        ([1, 2], "operations_unreadable"),
        ([{}] * 1001, "operations_too_many"),
    ],
)
def test_what_is_no_list_of_operations_is_refused(
    crew: APIClient, programme: Programme, operations: Any, code: str
) -> None:
    response = crew.post(f"/api/v1/programmes/{programme.pk}/sync", {"operations": operations}, format="json")
    assert (response.status_code, response.data["code"]) == (422, code)


@pytest.mark.parametrize("text", ["{", "", '{"operations": [NaN]}', "[1e999]"])
def test_a_body_that_is_no_json_is_refused(crew: APIClient, programme: Programme, text: str) -> None:
    response = crew.post(f"/api/v1/programmes/{programme.pk}/sync", text, content_type="application/json")
    assert response.status_code == 422 and response.data["code"]


@pytest.mark.parametrize(
    ("change", "code"),
    [
        ({"kind": "capture.fly"}, "kind_unknown"),
        ({"id": "7"}, "key_unreadable"),
        ({"device_time": "yesterday"}, "time_unreadable"),
        ({"device_time": "2026-06-01T21:30:00"}, "time_unreadable"),
        ({"device_time": "2026-99-99T21:30:00Z"}, "time_unreadable"),
        ({"row": [1]}, "row_missing"),
        ({"reason": "r" * 201}, "text_too_long"),
    ],
)
def test_bad_operations_are_refused(sync: Send, called: Called, change: dict[str, Any], code: str) -> None:
    response = sync({**called(), **change})
    assert (response.status_code, response.data["code"]) == (422, code)


def test_a_doubt_the_deck_did_not_ask_is_kept_as_not_asked(sync: Send, called: Called) -> None:
    sync(called(mass="0.95"))
    assert only_capture().questions == [{"code": "mass_far_off", "answer": "not asked"}]


def test_the_answer_to_a_doubt_is_kept(sync: Send, called: Called) -> None:
    answer = {"code": "mass_far_off", "answer": "kept as called"}
    sync(called(mass="0.95", questions=[answer]))
    assert only_capture().questions == [answer]


def test_a_fish_is_called_again_and_its_history_stays(sync: Send, called: Called, crew: APIClient) -> None:
    first = called()
    sync(first)
    again = operation("capture.edit", capture=first["id"], species="yep", length="200", mass="95")
    assert sync({**again, "reason": "misheard"}).data["results"][0]["state"] == "stored"
    fish = only_capture()
    assert (fish.species, fish.length_mm, fish.mass_g) == ("yep", 200, 95)
    history = crew.get(f"/api/v1/captures/{fish.pk}/history").data
    assert len(history) == 1
    assert (history[0]["before"]["species"], history[0]["after"]["species"]) == ("wal", "yep")
    assert (history[0]["reason"], history[0]["person"]) == ("misheard", "Crew")
    assert sync(again).data["results"][0]["state"] == "already"
    assert Change.objects.count() == 1


def test_a_delete_can_be_undone(sync: Send, called: Called) -> None:
    first = called()
    sync(first, operation("capture.delete", capture=first["id"]))
    assert Capture.objects.count() == 1 and Capture.present.count() == 0
    sync(operation("capture.restore", capture=first["id"]))
    assert Capture.present.count() == 1 and Change.objects.count() == 2


def test_a_run_from_start_to_end_with_its_fish_in_one_go(sync: Send, outing: Outing, site: Any) -> None:
    start = operation(
        "run.start", outing=str(outing.pk), site=str(site.pk), started_at=BEGAN.isoformat(), volts=180, pulse_hz=30
    )
    fish = operation("capture.record", run=start["id"], species="wal", length="463")
    end = operation("run.edit", run=start["id"], ended_at="2099-01-01T00:00:00Z", current_on_s=612.5)
    assert sync(start, fish, end).status_code == 200
    run = Run.objects.get()
    assert (run.number, run.volts, run.pulse_hz, run.current_on_s, run.gear) == (
        1,
        180,
        30,
        612.5,
        "boat_electrofishing",
    )
    assert run.captures.count() == 1
    assert Change.objects.get().before == {"ended_at": None, "current_on_s": 0}


def test_runs_are_numbered_in_the_order_they_arrive(sync: Send, outing: Outing, site: Any) -> None:
    for _ in range(3):
        sync(operation("run.start", outing=str(outing.pk), site=str(site.pk), started_at=BEGAN.isoformat()))
    assert list(Run.objects.values_list("number", flat=True)) == [1, 2, 3]


@pytest.mark.parametrize(
    ("values", "code", "field"),
    [
        ({"ended_at": "2001-01-01T00:00:00Z"}, "run_ends_before_start", "ended_at"),
        ({"ended_at": "soon"}, "time_unreadable", "ended_at"),
        ({"volts": -1}, "number_out_of_range", "volts"),
        ({"volts": "many"}, "number_out_of_range", "volts"),
        ({"amps": 1e9}, "number_out_of_range", "amps"),
        ({"current_on_s": 100_000}, "number_out_of_range", "current_on_s"),
    ],
)
def test_a_run_that_cannot_be_is_refused(sync: Send, run: Run, values: dict[str, Any], code: str, field: str) -> None:
    response = sync(operation("run.edit", run=str(run.pk), **values))
    assert (response.status_code, response.data["code"], response.data["field"]) == (422, code, field)
    run.refresh_from_db()
    assert run.ended_at is None and Change.objects.count() == 0


@pytest.mark.parametrize(
    ("change", "code"),
    [
        ({"site": "00000000-0000-7000-8000-000000000000"}, "site_unknown"),
        ({"gear": "dynamite"}, "gear_unknown"),
        ({"outing": "x"}, "key_unreadable"),
    ],
)
def test_a_run_at_no_place_or_by_no_gear_is_refused(
    sync: Send, outing: Outing, site: Any, change: dict[str, Any], code: str
) -> None:
    row = {"outing": str(outing.pk), "site": str(site.pk), "started_at": BEGAN.isoformat(), **change}
    assert sync(operation("run.start", **row)).data["code"] == code


def test_a_water_reading_is_kept_once(sync: Send, outing: Outing) -> None:
    reading = operation("water.record", outing=str(outing.pk), temperature_c=12.5, ambient_us_cm=180)
    sync(reading)
    assert sync(reading).data["results"][0]["state"] == "already"
    assert WaterReading.objects.get().temperature_c == 12.5


@pytest.mark.parametrize(
    ("values", "code"),
    [
        ({}, "reading_empty"),
        ({"temperature_c": 200}, "number_out_of_range"),
        ({"ambient_us_cm": 0}, "number_out_of_range"),
    ],
)
def test_a_water_reading_that_cannot_be_is_refused(
    sync: Send, outing: Outing, values: dict[str, Any], code: str
) -> None:
    assert sync(operation("water.record", outing=str(outing.pk), **values)).data["code"] == code


def test_a_closed_outing_takes_nothing_until_it_is_opened_again(
    sync: Send, called: Called, run: Run, outing: Outing
) -> None:
    before = called()
    sync(before)
    Outing.objects.update(state=Outing.State.CLOSED)
    late = called()
    operations = (
        late,
        operation("capture.edit", capture=before["id"], species="yep"),
        operation("capture.delete", capture=before["id"]),
    )
    for each in operations:
        response = sync(each)
        assert (response.status_code, response.data["code"], response.data["field"]) == (422, "outing_closed", "outing")
    Outing.objects.update(state=Outing.State.OPEN)
    assert sync(late).data["results"][0]["state"] == "stored"


def test_a_key_of_another_programme_is_refused_and_shows_nothing(sync: Send, called: Called) -> None:
    mine = called()
    sync(mine)
    other = Programme.objects.create(name="Other")
    Capture.objects.update(programme=other)
    Receipt.objects.update(programme=other, person=Person.objects.create(username="far", name="Far"))
    assert sync(mine).data["code"] == "key_taken"
    (result,) = sync(operation("capture.delete", capture=mine["id"])).data["results"]
    assert result["error"]["code"] == "capture_unknown"  # as if there were no such fish


@pytest.mark.django_db(transaction=True)
def test_the_same_fish_sent_by_two_connections_at_once_is_one_fish(
    called: Called, run: Run, client_as: Callable[[str], APIClient]
) -> None:
    """Two real connections to MariaDB, as when a tablet sends again what it believes lost."""
    batch = [called() for _ in range(150)]
    address = f"/api/v1/programmes/{run.outing.programme_id}/sync"
    clients = [client_as("crew") for _ in range(2)]
    barrier, answers = threading.Barrier(2), []

    def send(client: APIClient) -> None:
        try:
            barrier.wait(10)
            answers.append(client.post(address, json.dumps({"operations": batch}), content_type="application/json"))
        finally:
            connection.close()

    threads = [threading.Thread(target=send, args=(client,)) for client in clients]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join(30)
    assert [answer.status_code for answer in answers] == [200, 200]
    assert Capture.objects.count() == 150


def test_the_deck_tells_a_fish_as_the_desk_does(
    sync: Callable[..., Any], called: Callable[..., Any], crew: APIClient, outing: Outing
) -> None:
    """Written below the ORM for speed, in the very shape that the schema has."""
    fish = called(scanned="number", scans=[{"kind": "pit", "number": "999000000000777"}], note="scar; \u00b5")
    other = called(length="510", sex="f", questions=[{"code": "mass_far", "answer": "yes"}])
    assert sync(fish, other, operation("release.set", captures=[other["id"]], code="alive")).status_code == 200
    assert sync(operation("tag.place", capture=other["id"], kind="tbar", number="W1001")).status_code in (200, 422)
    told = {each["id"]: each for each in crew.get(f"/api/v1/outings/{outing.pk}/deck").json()["captures"]}
    assert set(told) == {fish["id"], other["id"]}
    for key, row in told.items():
        assert row == crew.get(f"/api/v1/captures/{key}").json()["capture"]
