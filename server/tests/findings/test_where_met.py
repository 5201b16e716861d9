"""Where marked fish were met: the map's answer, and the files for other maps."""

from __future__ import annotations

import io
from collections.abc import Callable
from datetime import UTC, datetime
from typing import Any

import defusedxml.ElementTree as SafeTree
import gpxpy
import pytest
from rest_framework.test import APIClient

from nailwright.deck.models import Capture
from nailwright.programmes.models import Programme, ProgrammeSpecies
from nailwright.tags.models import Encounter, Fish
from nailwright.waters.models import Site
from nailwright_core.common import species
from nailwright_core.common.species_values import species_values
from server.tests.findings.basin import FIRST_LAT, KM_PER_DEGREE, LON, Basin

Ask = Callable[..., Any]
KML = "{http://www.opengis.net/kml/2.2}"


@pytest.fixture
def ask(client_as: Callable[[str], APIClient], programme: Programme) -> Ask:
    def get(what: str = "findings/where-met", role: str = "biologist") -> Any:
        return client_as(role).get(f"/api/v1/programmes/{programme.pk}/{what}", {"species": "wal"})

    return get


@pytest.fixture
def met(basin: Basin) -> list[Fish]:
    """Three fish tagged at T10; one is met at T25, then at T10; one is measured again where its site has no place."""
    tagging = basin.run("T10", "2025-05-01")
    fish = [basin.tagged(tagging, 350 + 5 * place) for place in range(3)]
    basin.met(basin.run("T25", "2025-09-01"), fish[0], 380)
    basin.met(basin.run("T10", "2025-10-01"), fish[0], 390)
    basin.sites["Somewhere"] = Site.objects.create(water=basin.river, name="Somewhere")
    basin.met(basin.run("Somewhere", "2025-10-02"), fish[1], 385)
    basin.done()
    return fish


def test_encounters_stand_where_and_when_they_were(ask: Ask, met: list[Fish]) -> None:
    told = ask().data
    points = told["points"]
    assert told["sentence"] == "3 walleye were met 5 times from 2025-05-01 to 2025-10-01, at 2 sites on Tarnbeck."
    assert told["n"] == 5 and {len(column) for column in points.values()} == {5}
    assert told["left_out"] == [{"reason": "at places that nobody told", "n": 1}]
    of_first = [n for n, fish in enumerate(points["fish"]) if told["fish"][fish] == str(met[0].pk)]
    assert [points["lat"][n] for n in of_first] == [
        pytest.approx(FIRST_LAT + km / KM_PER_DEGREE, abs=1e-6) for km in (10, 25, 10)
    ]
    assert [points["lon"][n] for n in of_first] == [LON] * 3
    assert [datetime.fromtimestamp(points["at"][n], UTC).date().isoformat() for n in of_first] == [
        "2025-05-01",
        "2025-09-01",
        "2025-10-01",
    ]
    assert points["at"] == sorted(points["at"])
    assert {told["kinds"][kind] for kind in points["kind"]} == {"by a crew"}
    assert [(each["name"], each["encounters"], each["fish"]) for each in told["places"]] == [
        ("T10", 4, 3),
        ("T25", 1, 1),
    ]
    assert [told["places"][place]["name"] for place in (points["place"][n] for n in of_first)] == ["T10", "T25", "T10"]
    # from T10 to T25 and back; who was next met at a place that nobody told went nowhere that is known
    assert told["legs"]["end"] == of_first[1:]
    assert told["legs"]["lat"] == [pytest.approx(FIRST_LAT + km / KM_PER_DEGREE, abs=1e-6) for km in (10, 25)]
    assert "2 of the programme's 5 sites" in told["assumptions"][0]["detail"]


def test_a_fish_let_go_elsewhere_goes_on_from_there(ask: Ask, met: list[Fish]) -> None:
    first = Encounter.objects.filter(fish=met[0]).order_by("at").first()
    assert first
    Encounter.objects.filter(pk=first.pk).update(let_go_lat=50.2, let_go_lon=LON)
    assert ask().data["legs"]["lat"][0] == 50.2


def test_a_line_is_a_journey(ask: Ask, basin: Basin, met: list[Fish]) -> None:
    """None within the errors of both places, and none from a known loss: as movement has it."""
    first, second, _ = Encounter.objects.filter(fish=met[0]).order_by("at")
    Encounter.objects.filter(pk=second.pk).update(error_m=20_000)
    assert ask().data["legs"]["end"] == []
    Encounter.objects.filter(pk=second.pk).update(error_m=500)
    assert len(ask().data["legs"]["end"]) == 2
    Encounter.objects.filter(pk=first.pk).update(disposition="lost")
    assert len(ask().data["legs"]["end"]) == 1


def test_a_fish_taken_out_is_off_the_map_at_once_and_back_with_it(ask: Ask, basin: Basin, met: list[Fish]) -> None:
    assert ask().data["n"] == 5
    gone = Capture.objects.get(fish=met[0], length_mm=390)
    Capture.objects.filter(pk=gone.pk).update(deleted_at=gone.device_time)
    basin.done()
    assert ask().data["n"] == 4
    Capture.objects.filter(pk=gone.pk).update(deleted_at=None)
    basin.done()
    assert ask().data["n"] == 5


def test_nobody_met_and_nobody_tagged(ask: Ask, basin: Basin) -> None:
    refused = ask()
    assert (refused.status_code, refused.data["code"]) == (422, "nobody_met")
    assert "Tag a fish" in refused.data["message"]


def test_where_protected_fish_were_is_on_no_map(ask: Ask, programme: Programme, met: list[Fish]) -> None:
    hidden = {**species_values(species.get("wal")), "places_hidden": True}
    ProgrammeSpecies.objects.filter(programme=programme, code="wal").update(own=hidden)
    assert ask().status_code == 200
    refused = ask(role="viewer")
    assert (refused.status_code, refused.data["code"]) == (403, "places_hidden")
    assert ask("encounters.kml", "viewer").status_code == 403


def test_the_same_as_gpx_and_kml(ask: Ask, programme: Programme, met: list[Fish]) -> None:
    """Read back by gpxpy and as XML; names that XML would stumble over come through."""
    Programme.objects.filter(pk=programme.pk).update(name="Beck & <Tarn>")
    gpx = gpxpy.parse(b"".join(ask("encounters.gpx").streaming_content).decode())
    assert gpx.name == "Beck & <Tarn>" and len(gpx.waypoints) == 5
    first = min(gpx.waypoints, key=lambda each: each.time)
    assert (first.longitude, first.latitude) == (pytest.approx(LON), pytest.approx(FIRST_LAT + 10 / KM_PER_DEGREE))
    assert first.time.date().isoformat() == "2025-05-01" and first.name.startswith("walleye pit")
    assert any(str(met[0].pk) in each.description for each in gpx.waypoints)

    root = SafeTree.parse(io.BytesIO(b"".join(ask("encounters.kml").streaming_content))).getroot()
    assert root.find(f"{KML}Document/{KML}name").text == "Beck & <Tarn>"
    marks = root.findall(f"{KML}Document/{KML}Placemark")
    assert len(marks) == 5
    lon, lat = marks[0].find(f"{KML}Point/{KML}coordinates").text.split(",")
    assert (float(lon), float(lat)) == (pytest.approx(LON), pytest.approx(FIRST_LAT + 10 / KM_PER_DEGREE))
    assert marks[0].find(f"{KML}TimeStamp/{KML}when").text.startswith("2025-05-01T")
    data = {each.get("name"): each.find(f"{KML}value").text for each in marks[0].iter(f"{KML}Data")}
    assert data["scientificName"] == "Sander vitreus" and data["locality"] == "T10"
