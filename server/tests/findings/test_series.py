"""Series from elsewhere: brought in, added to, put right, refused by line, and beside findings."""

from __future__ import annotations

from collections.abc import Callable
from datetime import date
from typing import Any

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from rest_framework.test import APIClient

from nailwright.deck.models import Capture, Outing, Run
from nailwright.programmes.models import Change, Programme
from nailwright.waters.models import Series, SeriesPoint, Water

FLOW = "day,flow\n2026-10-11,12.5\n2026-10-12,13\n2026-10-13,\n"


@pytest.fixture
def desk(client_as: Callable[[str], APIClient]) -> APIClient:
    return client_as("biologist")


def bring(client: APIClient, water: Water, text: str | bytes, **told: str) -> Any:
    content = text if isinstance(text, bytes) else text.encode()
    body = {
        "name": "Flow",
        "unit": "m3/s",
        "source": "gauge 7",
        **told,
        "file": SimpleUploadedFile("flow.csv", content),
    }
    return client.post(f"/api/v1/waters/{water.pk}/series", body, format="multipart")


def test_a_file_comes_in_and_twice_is_once(desk: APIClient, outing: Outing) -> None:
    first = bring(desk, outing.water, FLOW).data
    assert {name: first[name] for name in ("new", "changed", "same", "empty")} == {
        "new": 2,
        "changed": 0,
        "same": 0,
        "empty": 1,
    }
    again = bring(desk, outing.water, FLOW).data
    assert (again["new"], again["same"]) == (0, 2) and Series.objects.count() == 1
    # a later file of the same gauge: what is new is added, what was put right there is put right here
    more = bring(desk, outing.water, "2026-10-12;13,4\n2026-10-14;15\n", name="flow").data
    assert (more["new"], more["changed"]) == (1, 1)
    assert sorted(SeriesPoint.objects.values_list("value", flat=True)) == [12.5, 13.4, 15.0]
    assert Change.objects.filter(table="series").count() == 3


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("\n\n", "no reading"),
        ("day,flow\n", "no reading"),
        ("2026-10-11,12\nyesterday,13\n", "Line 2"),
        ("2026-10-11,12\n2026-10-12,high\n", "Line 2"),
        ("2026-10-11,12\n2026-10-11,13\n", "before with another figure"),
        ("2026-10-11\n", "Line 1"),
        ("1492-10-12,3\n1492-10-13,3\n", "Line 2"),
        (b"\xff\xfe\x00", "UTF-8"),
        ("2026-10-11,1e400\n", "Line 1"),
    ],
)  # fmt: skip
def test_what_cannot_be_read_is_refused_by_line(desk: APIClient, outing: Outing, text: Any, words: str) -> None:
    refused = bring(desk, outing.water, text)
    assert (refused.status_code, refused.data["code"]) == (422, "series_unreadable") and words in refused.data[
        "message"
    ]
    assert not Series.objects.exists()


def test_another_unit_under_the_same_name_is_asked_about(desk: APIClient, outing: Outing) -> None:
    bring(desk, outing.water, FLOW)
    assert bring(desk, outing.water, FLOW, unit="cfs").data["code"] == "unit_differs"


def test_times_without_a_zone_are_the_waters(desk: APIClient, outing: Outing) -> None:
    Water.objects.update(time_zone="Etc/GMT+2")
    outing.water.refresh_from_db()
    bring(desk, outing.water, "2026-10-12T23:30,1\n2026-10-12T23:30:00Z,2\n")
    assert sorted(SeriesPoint.objects.values_list("at__hour", "at__day")) == [(1, 13), (23, 12)]


def test_it_stands_beside_a_finding(desk: APIClient, outing: Outing, run: Run, programme: Programme) -> None:
    key = bring(desk, outing.water, "2026-10-12T06:00,10\n2026-10-12T18:00,14\n2026-10-20,3\n2027-01-01,9\n").data[
        "series"
    ][0]["id"]
    for n in (3, 4):
        Capture.objects.create(programme=programme, run=run, species="wal", count=n, recorder=run.recorder)
    told = desk.get(f"/api/v1/series/{key}/overlay?species=wal").data
    assert [(each["day"], each["mean"], each["n"]) for each in told["days"]] == [
        ("2026-10-12", 12.0, 2),
        ("2026-10-20", 3.0, 1),
    ]
    assert [(each["date"], each["fish"], each["mean"]) for each in told["outings"]] == [("2026-10-12", 7, 12.0)]
    Outing.objects.update(date=date(2026, 11, 1))
    assert desk.get(f"/api/v1/series/{key}/overlay?species=wal").data["outings"][0]["mean"] is None
    assert desk.get(f"/api/v1/series/{key}/overlay?species=yep").data["code"] == "nothing_selected"
    assert desk.post(f"/api/v1/series/{key}/deleted", {"deleted": True}, format="json").data == []
    assert desk.get(f"/api/v1/series/{key}/overlay?species=wal").status_code == 404
    assert len(desk.post(f"/api/v1/series/{key}/deleted", {"deleted": False}, format="json").data) == 1
