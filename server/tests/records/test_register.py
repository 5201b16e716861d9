"""The register, taking out and restoring, and rows to take home."""

from __future__ import annotations

import csv
import io
import json
import zipfile
from collections.abc import Callable
from datetime import timedelta
from typing import Any

import pytest
from rest_framework.test import APIClient

from nailwright.common.rows import new_id
from nailwright.deck.models import Capture, Outing, Release, Run
from nailwright.programmes.models import Change
from nailwright.records import register
from nailwright.records.columns import WRITTEN

Ask = Callable[..., Any]


@pytest.fixture
def rows(run: Run) -> list[Capture]:
    """Twelve captures a minute apart: lengths with ties, some without a length, one perch."""
    lengths = [300.0, 310.0, 310.0, 310.0, None, 290.0, 400.0, None, 305.0, 310.0, 280.0, 330.0]
    return [
        Capture.objects.create(programme=run.outing.programme, run=run, species="yep" if place == 3 else "wal", length_mm=mm,
                               length_type="TL", length_basis="measured" if mm else "", recorder=run.recorder,
                               device_time=run.started_at + timedelta(minutes=place))
        for place, mm in enumerate(lengths)
    ]  # fmt: skip


@pytest.fixture
def ask(client_as: Callable[[str], APIClient], run: Run) -> Ask:
    client = client_as("biologist")
    return lambda path, **query: client.get(f"/api/v1/programmes/{run.outing.programme_id}/{path}", query)


@pytest.mark.parametrize("sort", ["time", "-time", "length", "-length", "mass", "-mass"])
@pytest.mark.parametrize("limit", [1, 5, 100])
def test_pages_join_to_the_whole_whatever_their_size(ask: Ask, rows: list[Capture], sort: str, limit: int) -> None:
    whole = [row["id"] for row in ask("register", sort=sort, limit=200).data["rows"]]
    pieces = [
        row["id"] for at in range(0, 12, limit) for row in ask("register", sort=sort, row=at, limit=limit).data["rows"]
    ]
    assert pieces == whole and len(set(whole)) == 12


@pytest.mark.parametrize("sort", ["time", "-time", "length", "-length", "mass", "-mass"])
@pytest.mark.parametrize("limit", [1, 5])
@pytest.mark.parametrize("deleted", [False, True])
def test_pages_by_milestones_are_those_by_walking(
    ask: Ask, rows: list[Capture], monkeypatch: pytest.MonkeyPatch, sort: str, limit: int, deleted: bool
) -> None:
    Capture.objects.filter(pk__in=[row.pk for row in rows[::5]]).update(deleted_at=rows[0].device_time, mass_g=120.4)
    Capture.objects.filter(pk=rows[3].pk).update(device_time=rows[3].device_time - timedelta(days=3), mass_g=120.6)
    walked = [row["id"] for row in ask("register", sort=sort, limit=200, deleted=deleted).data["rows"]]
    monkeypatch.setattr(register, "_NEAR", 0)

    def pages() -> list[str]:
        return [
            row["id"]
            for at in range(0, len(walked), limit)
            for row in ask("register", sort=sort, row=at, limit=limit, deleted=deleted).data["rows"]
        ]

    assert pages() == walked and len(walked) == (12 if deleted else 9)
    Capture.objects.filter(pk=rows[6].pk).delete()  # what was counted before holds no longer
    walked.remove(str(rows[6].pk))
    assert pages() == walked


def test_a_page_of_rows_that_have_gone(ask: Ask, rows: list[Capture], monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(register, "_NEAR", 0)
    Capture.objects.all().delete()
    assert ask("register", row=5, limit=2, total=12).data["rows"] == []


def test_the_count_is_the_true_one(ask: Ask, rows: list[Capture], run: Run) -> None:
    def counted(**query: Any) -> int:
        return int(ask("register", **query).data["total"])

    Capture.objects.filter(pk__in=[rows[0].pk, rows[3].pk]).update(sex="f")
    assert (counted(), counted(species="wal"), counted(sex="f"), counted(species="wal", sex="f")) == (12, 11, 2, 1)
    Capture.objects.filter(pk=rows[0].pk).update(deleted_at=rows[0].device_time)
    assert (counted(), counted(deleted=True), counted(sex="f"), counted(sex="f", deleted=True)) == (11, 12, 1, 2)
    assert (counted(gear=run.gear), counted(gear="angling")) == (11, 0)


def test_orders(ask: Ask, rows: list[Capture]) -> None:
    found = ask("register", sort="-length").data
    place = [each["key"] for each in found["columns"]].index("length")
    lengths = [row["cells"][place] or None for row in found["rows"]]
    assert found["total"] == 12 and lengths[:2] == [400, 330] and lengths[-2:] == [None, None]
    assert [row["id"] for row in ask("register", sort="time").data["rows"]] == [str(row.pk) for row in rows]
    assert ask("register", row=500).data["rows"] == []


def test_filters(ask: Ask, rows: list[Capture]) -> None:
    assert ask("register", species="yep").data["total"] == 1
    assert ask("register", species="wal", sex="f").data["total"] == 0


@pytest.mark.parametrize(
    ("query", "field"),
    [({"sort": "colour"}, "sort"), ({"row": "-1"}, "row"), ({"limit": "5000"}, "limit"), ({"first": "soon"}, "first")],
)
def test_questions_that_cannot_be_answered(ask: Ask, rows: list[Capture], query: dict[str, str], field: str) -> None:
    response = ask("register", **query)
    assert (response.status_code, response.data["field"]) == (422, field)


def test_taking_out_and_restoring_from_the_desk(
    ask: Ask, rows: list[Capture], client_as: Callable[[str], APIClient]
) -> None:
    Outing.objects.update(state=Outing.State.CLOSED)
    lead, address = client_as("lead"), f"/api/v1/captures/{rows[0].pk}/deleted"
    assert (
        lead.post(address, {"id": str(new_id()), "deleted": True, "reason": ""}, format="json").data["code"]
        == "reason_missing"
    )
    out = {"id": str(new_id()), "deleted": True, "reason": "called twice"}
    assert lead.post(address, out, format="json").status_code == 200
    assert lead.post(address, out, format="json").status_code == 200
    assert ask("register").data["total"] == 11 and ask("register", deleted="true").data["total"] == 12
    lead.post(address, {"id": str(new_id()), "deleted": False, "reason": "it was another"}, format="json")
    assert ask("register").data["total"] == 12 and Change.objects.count() == 2


def test_a_data_package_describes_what_it_holds(ask: Ask, rows: list[Capture]) -> None:
    """Against Frictionless' Table Schema: every column described, every value of its type, the key unique."""
    Release.objects.create(capture=rows[0], fate="released", recorder=rows[0].recorder)
    content = b"".join(ask("captures.zip").streaming_content)
    with zipfile.ZipFile(io.BytesIO(content)) as package:
        assert package.testzip() is None
        description = json.loads(package.read("datapackage.json"))
        table = list(csv.DictReader(io.StringIO(package.read("captures.csv").decode())))
    resource = description["resources"][0]
    fields = {field["name"]: field for field in resource["schema"]["fields"]}
    assert list(table[0]) == list(fields) == [column.term for column in WRITTEN]
    assert len(table) == 12 and len({row["capture_id"] for row in table}) == 12
    for row in table:
        for name, value in row.items():
            if value and fields[name]["type"] in ("number", "integer"):
                assert float(value) == (float(value) if fields[name]["type"] == "number" else int(value))
    assert "(mm)" in fields["length_mm"]["description"] and "(g)" in fields["mass_g"]["description"]
    assert next(row for row in table if row["capture_id"] == str(rows[0].pk))["left_as"] == "released"


def test_a_release_taken_back_is_not_told(ask: Ask, rows: list[Capture]) -> None:
    Release.objects.create(capture=rows[0], fate="dead", recorder=rows[0].recorder, deleted_at=rows[0].device_time)
    Release.objects.create(capture=rows[1], fate="kept", recorder=rows[0].recorder)
    text = b"".join(ask("captures.csv").streaming_content).decode()
    left = {row["capture_id"]: row["left_as"] for row in csv.DictReader(io.StringIO(text))}
    assert [left[str(row.pk)] for row in rows[:3]] == ["", "kept", ""]


def test_csv_of_every_species(ask: Ask, rows: list[Capture]) -> None:
    text = b"".join(ask("captures.csv").streaming_content).decode()
    assert {row["species"] for row in csv.DictReader(io.StringIO(text))} == {"walleye", "yellow perch"}
