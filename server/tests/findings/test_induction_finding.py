"""Induction time by temperature, as a finding on handling: a changed event changes its answer at once."""

from __future__ import annotations

from collections.abc import Callable
from datetime import timedelta
from typing import Any

import pytest
from django.utils import timezone
from rest_framework.test import APIClient

from nailwright.common.rows import new_id
from nailwright.deck.models import Event, Run
from nailwright.findings.models import FindingAnswer
from nailwright.programmes.models import Programme
from server.tests.deck.test_events import details, edited, states

Called = Callable[..., dict[str, Any]]
#: Degrees and seconds of four baths: ten degrees more take half as long.
BATHS = ((4.0, 200), (8.0, 152), (12.0, 115), (16.0, 87))


@pytest.fixture
def address(programme: Programme) -> str:
    return f"/api/v1/programmes/{programme.pk}/findings/induction?species=wal"


@pytest.fixture
def bathed(sync: Any, called: Called, run: Run) -> None:
    """Two fish in each of four baths."""
    Run.objects.filter(pk=run.pk).update(started_at=timezone.now() - timedelta(hours=3))
    about = {"outing": str(run.outing_id)}
    minute = 115.0
    for degrees, seconds in BATHS:
        entries = [
            details("bath_filled", about, minute, bath="Bath", agent="tricaine", purpose="surgery", litres=50),
            details("bath_dosed", about, minute - 0.2, bath="Bath", ml=50),
            details("bath_read", about, minute - 0.3, bath="Bath", temperature_c=degrees),
        ]
        for more in (0, 6):
            fish = called()
            of, minute = {"capture": fish["id"]}, minute - 6
            entries += [
                fish,
                details("lane", of, minute, lane="bath"),
                details("stage", of, minute - (seconds + more) / 60, stage="4"),
            ]
        assert states(sync(*entries)) == ["stored"] * 9
        minute -= 6


def test_what_four_baths_say(crew: APIClient, bathed: None, address: str) -> None:
    told = crew.get(address).data
    assert [(each["n"], each["temperature_c"], each["mg_l"]) for each in told["baths"]] == [
        (2, degrees, 100.0) for degrees, _ in BATHS
    ]
    assert [each["median_s"] for each in told["baths"]] == pytest.approx([seconds + 3 for _, seconds in BATHS], abs=0.1)
    ratio = told["per_10c"]
    assert (
        ratio["value"] == pytest.approx(0.5, abs=0.02)
        and ratio["lower"] < ratio["value"] < ratio["upper"]
        and ratio["n"] == 4
    )
    assert told["n"] == 8 and "8 fish in 4 baths" in told["sentence"]
    assert told["others"] == [{"agent": "tricaine", "purpose": "surgery", "n": 8}]


def test_a_reading_of_the_water_before_the_bath_was_filled_anew_is_not_of_it(
    crew: APIClient, bathed: None, address: str
) -> None:
    Event.objects.get(kind="bath_read", details__temperature_c=16.0).delete()
    answer = crew.get(address)
    assert (answer.status_code, answer.data["code"]) == (422, "too_few_baths")  # three with a temperature, not four


def test_of_another_species_it_says_which_lay_in_baths(crew: APIClient, bathed: None, address: str) -> None:
    details = crew.get(address.replace("wal", "bur")).data
    assert (
        details["code"] == "no_baths"
        and "for burbot of this selection" in details["message"]
        and "; it is for walleye." in details["message"]
    )


def test_a_changed_event_changes_its_answer_at_once(crew: APIClient, sync: Any, bathed: None, address: str) -> None:
    before = crew.get(address).data
    assert crew.get(address).data == before and FindingAnswer.objects.count() == 1
    warm = Event.objects.get(kind="bath_read", details__temperature_c=16.0)
    assert states(sync(edited({"id": str(warm.pk)}, details={"temperature_c": 20.0}))) == ["stored"]
    after = crew.get(address).data
    assert after["baths"][-1]["temperature_c"] == 20.0 and after["per_10c"] != before["per_10c"]
    assert FindingAnswer.objects.count() == 1


def test_a_kept_one_says_that_an_event_has_changed(
    client_as: Any, sync: Any, bathed: None, programme: Programme
) -> None:
    desk, kept = client_as("biologist"), f"/api/v1/programmes/{programme.pk}/saved-findings"
    query = {"species": "wal", "agent": "tricaine", "purpose": "surgery"}
    keep = {"id": str(new_id()), "kind": "induction", "query": query, "title": ""}
    assert desk.post(kept, keep, format="json").status_code == 201
    assert [each["changed"] for each in desk.get(kept).data] == [False]
    stage = Event.objects.filter(kind="stage").latest("device_time")
    assert states(sync(edited({"id": str(stage.pk)}, details={"stage": "3"}))) == ["stored"]
    assert [each["changed"] for each in desk.get(kept).data] == [True]


@pytest.mark.parametrize(
    ("change", "code"), [("", "no_baths"), ("&agent=honey", "invalid"), ("&sex=f&purpose=surgery", "no_baths")]
)
def test_what_it_refuses(crew: APIClient, programme: Programme, address: str, change: str, code: str) -> None:
    answer = crew.get(address + change)
    assert (answer.status_code, answer.data["code"]) == (422, code)
