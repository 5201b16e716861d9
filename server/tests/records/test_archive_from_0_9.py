"""An archive made by version 0.9 comes in whole; what it named by text is pointed at.

``data/programme_0_9.zip`` was made by that version from the installation of ``data/record_0_9.sql.gz``.
"""

from __future__ import annotations

import csv
import io
import random
import zipfile
from collections.abc import Callable
from pathlib import Path
from uuid import UUID

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from rest_framework.test import APIClient

from nailwright.deck.models import Capture, Target
from nailwright.findings.models import SavedFinding
from nailwright.permits.models import Allowance, Permit
from nailwright.plan.models import PlannedSite
from nailwright.programmes.models import Programme
from nailwright.programmes.record.removal import delete_programme
from nailwright.waters.models import Site, Zone

ARCHIVE = Path(__file__).parents[1] / "data" / "programme_0_9.zip"
PROGRAMME = UUID("017e4337-3a80-77ff-84aa-263f43f4adb0")


def rows(name: str) -> list[dict[str, str]]:
    with zipfile.ZipFile(ARCHIVE) as package:
        return list(csv.DictReader(io.StringIO(package.read(f"{name}.csv").decode(), newline="")))


def send(client: APIClient, content: bytes) -> object:
    body = {"file": SimpleUploadedFile("programme.zip", content)}
    return client.post("/api/v1/programmes/bring-in", body, format="multipart")


@pytest.mark.django_db
def test_it_comes_in_whole_and_twice_is_once(client_as: Callable[[str], APIClient]) -> None:
    lead = client_as("lead")
    told = send(lead, ARCHIVE.read_bytes())
    assert told.status_code == 201, told.data
    assert Capture.objects.filter(programme=PROGRAMME).count() == len(rows("captures")) > 400
    # allowances point at a permit that only they named, with the days that they span
    allowances = Allowance.objects.filter(permit__programme=PROGRAMME)
    assert {str(each.pk): (each.permit.name, each.most) for each in allowances} == {
        row["id"]: (row["permit"], int(row["most"])) for row in rows("allowances")
    }
    assert {(each.name, each.holder, each.number) for each in Permit.objects.filter(programme=PROGRAMME)} == {
        (row["name"], row["holder"], row["number"]) for row in rows("papers")
    } | {("Collecting permit 17", "", "")}
    # every site has the zone that it named, of its own water; the river's are those that were drawn
    sites = Site.objects.filter(water__programme=PROGRAMME).select_related("zone")
    assert {str(each.pk): each.zone_name for each in sites} == {row["id"]: row["reach"] for row in rows("sites")}
    assert all(each.zone is None or each.zone.water_id == each.water_id for each in sites)
    drawn = set(Zone.objects.exclude(start_m=None).values_list("pk", flat=True))
    assert {str(key) for key in drawn} == {row["id"] for row in rows("zones")}
    assert {each.zone_name for each in PlannedSite.objects.all()} == {row["zone"] for row in rows("planned_sites")}
    assert {each.zone_name for each in Target.objects.all()} == {row["reach"] for row in rows("targets")}
    kept = SavedFinding.objects.filter(programme=PROGRAMME)
    assert any("zone" in each.query for each in kept) and not any("reach" in each.query for each in kept)
    assert Programme.objects.get(pk=PROGRAMME).changes.filter(table="paper").count() == 0
    again = send(lead, ARCHIVE.read_bytes())
    assert again.status_code == 201 and again.data["new"] == 0, again.data


@pytest.mark.django_db
@pytest.mark.parametrize("table", ["papers", "sites", "targets", "planned_sites"])
def test_what_was_altered_in_it_is_refused_in_words(client_as: Callable[[str], APIClient], table: str) -> None:
    """Each cell and heading of tables that are rewritten, by turns: an answer in words, never a failure."""
    lead = client_as("lead")
    random_ = random.Random(table)
    with zipfile.ZipFile(ARCHIVE) as package:
        pieces = {name: package.read(name) for name in package.namelist()}
    for many in (
        "series_points",
        "captures",
        "encounters",
        "releases",
        "placements",
        "events",
        "scans",
        "tags",
    ):  # of no matter here
        pieces[f"{many}.csv"] = pieces[f"{many}.csv"].split(b"\n", 1)[0] + b"\n"
    whole = list(csv.reader(io.StringIO(pieces[f"{table}.csv"].decode(), newline="")))
    for wrong in ("", "01a22b3d", "9" * 400):
        lines = [list(line) for line in whole]
        line = random_.randrange(min(3, len(lines)))
        lines[line][random_.randrange(len(lines[line]))] = wrong
        text = io.StringIO(newline="")
        csv.writer(text).writerows(lines)
        sink = io.BytesIO()
        with zipfile.ZipFile(sink, "w") as package:
            for name, content in {**pieces, f"{table}.csv": text.getvalue().encode()}.items():
                package.writestr(name, content)
        told = send(lead, sink.getvalue())
        assert told.status_code in (201, 422), (table, wrong, told.status_code)
        if told.status_code == 422:
            assert told.data["message"] and told.data["field"] == "file"
        for brought in Programme.objects.filter(pk=PROGRAMME):
            delete_programme(brought)
