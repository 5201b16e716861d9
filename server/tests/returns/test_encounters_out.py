"""Encounters as open files: what a spreadsheet and a map program read."""

from __future__ import annotations

import csv
import io
import json
from collections.abc import Callable
from typing import Any

import shapely
from django.utils import timezone
from rest_framework.test import APIClient

from nailwright.common.rows import new_id
from nailwright.deck.models import Capture
from nailwright.programmes.models import Programme
from nailwright.programmes.record.audit import Act
from nailwright.returns.deciding import decide
from nailwright.returns.models import Return
from server.tests.returns.conftest import later

Send = Callable[..., Any]


def body(response: Any) -> bytes:
    return b"".join(response.streaming_content)


def test_csv_and_geojson_say_the_same(
    send: Send, crew: APIClient, tagged: Capture, programme: Programme, person_as: Callable[[str], Any]
) -> None:
    send(lat=44.99, lon=-31.6, length="47.1 cm", fish_fate="released", found_on=str(later(1)))
    decide(Act(new_id(), person_as("biologist"), timezone.now()), Return.objects.get(), "verified")
    Programme.objects.update(licence="CC-BY-4.0", citation="=1+1")
    address = f"/api/v1/programmes/{programme.pk}/encounters"
    rows = list(csv.DictReader(io.StringIO(body(crew.get(f"{address}.csv")).decode())))
    assert [each["encounter"] for each in rows] == ["capture", "return"]
    assert (
        rows[0]["tags"] == "tbar W1207"
        and rows[0]["scientificName"] == "Sander vitreus"
        and rows[0]["locality"] == "K15"
    )
    assert (rows[1]["length_mm"], rows[1]["decimalLatitude"], rows[1]["disposition"]) == ("471.0", "44.99", "released")
    assert rows[0]["licence"] == "CC-BY-4.0" and rows[0]["citation"] == "'=1+1"  # no spreadsheet runs it
    shown = json.loads(body(crew.get(f"{address}.geojson")))
    points = [shapely.from_geojson(json.dumps(each["geometry"])) for each in shown["features"]]
    assert [(round(each.x, 2), round(each.y, 2)) for each in points] == [(-31.6, 44.9), (-31.6, 44.99)]
    assert [each["properties"]["encounter"] for each in shown["features"]] == ["capture", "return"]
    assert json.loads(body(crew.get(f"{address}.geojson", {"species": "bur"})))["features"] == []
    assert crew.get(f"{address}.csv", {"species": "cat"}).data["code"] == "species_unknown"
