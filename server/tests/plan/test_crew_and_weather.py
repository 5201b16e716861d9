"""Who stands where and for whom, visits that weather shifts, what goes along, and a box's resistance as it is read on the water."""

from __future__ import annotations

from collections.abc import Callable
from datetime import timedelta
from io import BytesIO
from typing import Any

import pypdfium2
import pytest
from rest_framework.test import APIClient

from nailwright.deck.models import Outing
from nailwright.plan.models import Survey, Unit
from nailwright.programmes.models import Change, Programme
from server.tests.conftest import operation
from server.tests.plan.conftest import FIRST

Set = Callable[..., Any]


def visits(told: dict[str, Any]) -> list[tuple[str, str]]:
    return [(each["first"], each["words"]) for each in told["days"] if each["what"] == "visit"]


def day(after: int) -> str:
    return (FIRST + timedelta(days=after)).isoformat()


def test_weather_shifts_a_visit_and_those_after_it_and_the_plan_keeps_what_was_meant(
    lead: APIClient, change: Set
) -> None:
    shifts = [
        {"visit": 2, "days": 3, "reason": "high water"},
        {"visit": 3, "days": -1, "alone": "yes", "reason": "fog forecast"},
    ]
    told = change(parts={"shifts": shifts}).data
    assert [on for on, _ in visits(told)] == [day(0), day(10), day(16), day(24)]  # planned for days 0, 7, 14, 21
    words = [words for _, words in visits(told)]
    assert words[0] == "Visit 1 of 4" and "planned for 08 Jun: high water" in words[1]
    assert "high water, fog forecast" in words[2] and "after the planned period" in words[3]
    # taken back: the plan's own days are there again
    assert [on for on, _ in visits(change(parts={"shifts": shifts[1:]}).data)] == [day(0), day(7), day(13), day(21)]
    calendar = lead.get(f"/api/v1/surveys/{told['id']}/survey.ics").content.decode()
    assert "fog forecast" in calendar.replace("\r\n ", "")
    # the next year's survey has weather of its own
    again = lead.post(f"/api/v1/surveys/{told['id']}/again", {"first": "2028-06-01"}, format="json")
    assert again.data["parts"]["shifts"] == []


@pytest.mark.parametrize(
    ("shift", "code", "field"),
    [
        ({"visit": 1, "days": 0, "reason": "rain"}, "shift_empty", "parts.shifts.days"),
        ({"visit": 1, "days": 2, "reason": " "}, "reason_missing", "parts.shifts.reason"),
        ({"visit": 0, "days": 2, "reason": "rain"}, "out_of_range", "parts.shifts.visit"),
    ],
)
def test_a_shift_that_says_nothing_is_refused(change: Set, shift: dict[str, Any], code: str, field: str) -> None:
    refused = change(parts={"shifts": [shift]})
    assert refused.status_code == 422 and refused.data["field"] == field, refused.data
    assert code in refused.data["code"] or refused.data["code"].endswith(code), refused.data


def test_stations_partners_and_the_trial_reach_the_deck_and_the_sheet(
    lead: APIClient, ready: str, unit: Unit, change: Set
) -> None:
    stations = [{"person": "Ada", "station": "netter"}]
    told = change(parts={"stations": stations}).data
    assert any("dead-man switch" in each for each in told["against"])
    stations += [{"person": "Bo", "station": "pedal"}]
    partners = {"client": "River board", "partners": "Mill owners"}
    bath = {"agent": "clove-oil", "target_mg_l": 30, "trial_fish": 3}
    told = change(parts={"stations": stations, "partners": partners, "bath": bath}).data
    assert not any("dead-man switch" in each for each in told["against"])
    assert told["parts"]["partners"]["reference"] == ""  # one field was not asked to change
    lead.post(f"{ready}/outing", {"date": FIRST.isoformat()}, format="json")
    orders = lead.get(f"/api/v1/outings/{Outing.objects.get().pk}/deck").data["orders"]
    assert "Stations: dead-man switch Bo; dip net Ada." in orders["lines"]
    assert orders["stations"] == stations and orders["bath"]["trial_fish"] == 3
    document = pypdfium2.PdfDocument(BytesIO(lead.get(f"{ready}/sheet.pdf").content))
    words = " ".join(document[0].get_textpage().get_text_range().split())
    for word in ("Client: River board", "Mill owners", "dead-man switch Bo", "Trial: 3 fish"):
        assert word in words, word
    refused = change(parts={"stations": [{"person": " ", "station": "pedal"}]})
    assert refused.data["code"] == "person_missing" and refused.data["field"] == "parts.stations.person"


def test_the_kit_is_that_of_what_the_survey_does(change: Set) -> None:
    def kinds(**parts: Any) -> set[str]:
        return {each["when"] for each in change(parts=parts).data["kit"]}

    assert kinds(tags={"kind": ""}) == set()
    assert kinds(tags={"kind": "visible"}) == {"tags"}
    assert kinds(tags={"kind": "acoustic"}, bath={"agent": "tricaine"}) == {"tags", "surgery", "bath"}
    assert {each["when"] for each in change(gear="angling").data["kit"]} == {"tags", "surgery", "bath", "angling"}


def test_drag_by_the_weakest_part(lead: APIClient, ready: str, change: Set) -> None:
    change(gear="angling", parts={"angling": {"line_kg": 12, "leader_kg": 6}})
    lead.post(f"{ready}/outing", {"date": FIRST.isoformat(), "override": "a trial day"}, format="json")
    lines = Outing.objects.get().orders["lines"]
    assert any("1.5 to 2.0 kg" in line for line in lines), lines
    change(parts={"angling": {"leader_kg": 15}})
    assert any(
        "3.0 to 4.0 kg" in line and "trails the main line" in line for line in Outing.objects.get().orders["lines"]
    )


def test_a_boxs_resistance_is_set_from_the_water_and_taken_back(
    client_as: Callable[[str], APIClient], programme: Programme, ready: str, unit: Unit, lead: APIClient
) -> None:
    lead.post(f"{ready}/outing", {"date": FIRST.isoformat()}, format="json")
    outing, crew = Outing.objects.get(), client_as("crew")
    to = f"/api/v1/programmes/{programme.pk}/sync"

    def send(by: APIClient, entry: dict[str, Any]) -> dict[str, Any]:
        return by.post(to, {"operations": [entry], "device_now": "2027-06-01T20:00:00Z"}, format="json").data[
            "results"
        ][0]

    def volts() -> float:
        outing.refresh_from_db()
        return float(outing.orders["electro"]["goals"][50]["volts"])

    assert outing.orders["electro"]["unit"]["r100_ohm"] == 60
    before = volts()
    entry = operation("unit.resistance", unit=str(unit.pk), r100_ohm=41.5)
    assert send(crew, entry)["state"] == "stored" and send(crew, entry)["state"] == "already"
    unit.refresh_from_db()
    assert unit.r100_ohm == 41.5 and unit.max_volts == 500
    assert volts() < before and outing.orders["electro"]["unit"]["r100_ohm"] == 41.5
    noted = Change.objects.get(pk=entry["id"])
    assert (noted.before, noted.after) == ({"r100_ohm": 60}, {"r100_ohm": 41.5})
    # sent after the outing closed: the box is what it is of
    Outing.objects.update(state="closed")
    assert send(crew, operation("unit.resistance", unit=str(unit.pk), r100_ohm=60))["state"] == "stored"
    for wrong in ({"r100_ohm": 0}, {"r100_ohm": None}, {"r100_ohm": "41"}, {"r100_ohm": float(10**6)}):
        assert send(crew, operation("unit.resistance", unit=str(unit.pk), **wrong))["state"] == "refused", wrong
    stranger = operation("unit.resistance", unit=str(Survey.objects.get().pk), r100_ohm=50)
    assert send(crew, stranger)["error"]["code"] == "unit_unknown"
    assert (
        send(client_as("volunteer"), operation("unit.resistance", unit=str(unit.pk), r100_ohm=50))["state"] == "refused"
    )
