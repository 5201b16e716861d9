"""Gears with their figures, several of them in one outing; what is read at a site, corrected figure by figure."""

from __future__ import annotations

from collections.abc import Callable
from datetime import date, timedelta
from typing import Any

import pytest
from django.utils import timezone
from rest_framework.test import APIClient

from nailwright.common.rows import new_id
from nailwright.deck.models import Gear, Outing, Run, WaterReading
from nailwright.deck.runs.sky import sky_over
from nailwright.programmes.models import Change, Programme
from nailwright.waters.models import Site, Water
from nailwright_core.deck.gears import GEARS
from server.tests.conftest import operation

Send = Callable[..., Any]


def test_server_and_core_know_the_same_gears() -> None:
    assert [(each.value, each.label) for each in Gear] == [(each.code, each.label) for each in GEARS.values()]


def test_an_outing_with_two_gears_asks_for_the_checklists_of_both(
    crew: APIClient, programme: Programme, outing: Outing
) -> None:
    body = {
        "id": str(new_id()), "water": str(outing.water_id), "date": "2026-10-13", "gear": "gill_net",
        "more_gears": ["backpack_electrofishing", "gill_net"],
    }  # fmt: skip
    told = crew.post(f"/api/v1/programmes/{programme.pk}/outings", body, format="json").data
    assert told["gears"] == ["gill_net", "backpack_electrofishing"]
    assert Outing.objects.get(pk=body["id"]).checklists == ["boat", "electrofishing"]


def test_nets_stand_a_night_and_their_effort_is_told(sync: Send, crew: APIClient, outing: Outing, site: Site) -> None:
    set_at = timezone.now().replace(hour=17, minute=0) - timedelta(days=2)
    start = operation(
        "run.start", outing=str(outing.pk), site=str(site.pk), gear="fyke_net", nets=3, mesh_mm=25, started_at=set_at.isoformat()
    )  # fmt: skip
    assert sync(start).status_code == 200
    # a gear that nobody thought of when the outing was made: it asks for its checklists from now on
    outing.refresh_from_db()
    assert outing.gears == ["boat_electrofishing", "fyke_net"] and "boat" in outing.checklists
    lift = operation("run.edit", run=start["id"], ended_at=(set_at + timedelta(hours=16)).isoformat())
    sync(lift)
    (run,) = crew.get(f"/api/v1/outings/{outing.pk}/deck").data["runs"]
    assert run["effort"] == {"value": 3.0, "unit": "net_nights"}


def test_a_figure_is_changed_alone_and_taken_away(sync: Send, run: Run) -> None:
    sync(operation("run.edit", run=str(run.pk), distance_m=420.5, direction="down"))
    sync(operation("run.edit", run=str(run.pk), distance_m=None))
    run.refresh_from_db()
    assert (run.distance_m, run.direction, run.volts) == (None, "down", None)
    assert [list(each.after) for each in Change.objects.order_by("device_time")] == [
        ["distance_m", "direction"],
        ["distance_m"],
    ]


@pytest.mark.parametrize(
    ("row", "code", "field"),
    [
        ({"rods": 1.5}, "number_out_of_range", "rods"),
        ({"nets": 0}, "number_out_of_range", "nets"),
        ({"distance_m": "far"}, "number_out_of_range", "distance_m"),
        ({"direction": "north"}, "not_a_choice", "direction"),
    ],
)
def test_what_no_run_has_is_refused(sync: Send, run: Run, row: dict[str, Any], code: str, field: str) -> None:
    refused = sync(operation("run.edit", run=str(run.pk), **row)).data
    assert (refused["code"], refused["field"]) == (code, field)


def test_a_reading_is_corrected_in_one_figure_taken_out_and_put_back(
    sync: Send, crew: APIClient, outing: Outing, run: Run
) -> None:
    read = operation(
        "water.record", outing=str(outing.pk), run=str(run.pk), temperature_c=9.5, sky="overcast", depth_m=2.5
    )
    sync(read)
    row = WaterReading.objects.get()
    assert (row.temperature_c, row.more, row.run_id) == (9.5, {"sky": "overcast", "depth_m": 2.5}, run.pk)
    sync(operation("water.edit", reading=read["id"], depth_m=3.5))
    sync(operation("water.edit", reading=read["id"], temperature_c=None))
    row.refresh_from_db()
    assert (row.temperature_c, row.more) == (None, {"sky": "overcast", "depth_m": 3.5})
    assert [list(each.after) for each in Change.objects.order_by("device_time")] == [
        ["more.depth_m"],
        ["temperature_c"],
    ]
    out = operation("water.edit", reading=read["id"], deleted=True)
    assert [sync(out).data["results"][0]["state"] for _ in range(2)] == ["stored", "already"]
    assert crew.get(f"/api/v1/outings/{outing.pk}/deck").data["water_readings"] == []
    sync(operation("water.edit", reading=read["id"], deleted=False))
    assert crew.get(f"/api/v1/outings/{outing.pk}/deck").data["water_readings"][0]["more"]["depth_m"] == 3.5


def test_two_tablets_correct_two_figures_in_the_wrong_order(sync: Send, outing: Outing) -> None:
    read = operation("water.record", outing=str(outing.pk), depth_m=2.5, width_m=30)
    sync(read)
    early, late = (operation("water.edit", reading=read["id"], **row) for row in ({"depth_m": 3}, {"width_m": 31}))
    early["device_time"] = (timezone.now() - timedelta(seconds=30)).isoformat()
    sync(late)
    sync(early)
    assert WaterReading.objects.get().more == {"depth_m": 3.0, "width_m": 31.0}


@pytest.mark.parametrize(
    ("row", "code", "field"),
    [
        ({}, "reading_empty", "temperature_c"),
        ({"sky": "green"}, "not_a_choice", "sky"),
        ({"temperature_c": 80}, "number_out_of_range", "temperature_c"),
        ({"colour": "red"}, "reading_unknown", "colour"),
    ],
)
def test_what_no_water_has_is_refused(sync: Send, outing: Outing, row: Any, code: str, field: str) -> None:
    refused = sync(operation("water.record", outing=str(outing.pk), **row)).data
    assert (refused["code"], refused["field"]) == (code, field) and not WaterReading.objects.exists()


def test_a_closed_outing_keeps_its_readings(sync: Send, outing: Outing) -> None:
    read = operation("water.record", outing=str(outing.pk), temperature_c=9)
    sync(read)
    Outing.objects.update(state="closed")
    assert sync(operation("water.edit", reading=read["id"], temperature_c=10)).data["code"] == "outing_closed"
    assert sync(read).data["results"][0]["state"] == "already"


def water_at(lat: float, lon: float, zone: str = "UTC") -> Water:
    return Water(name="Tarn", kind="lake", time_zone=zone, geometry={"type": "Point", "coordinates": [lon, lat]})


def test_sun_and_moon_over_a_water() -> None:
    # full moon 28 August 2026, new moon (and an eclipse of the sun) 12 August 2026: almanac, from memory
    assert sky_over(water_at(45, 0), date(2026, 8, 28))["moon_share"] > 0.95  # type: ignore[index]
    new = sky_over(water_at(45, 0), date(2026, 8, 12))
    assert new is not None and new["moon_share"] < 0.05
    # at an equinox the day has about 12 hours everywhere; by definition a little more, for the air bends the light
    equinox = sky_over(water_at(10, 0), date(2026, 3, 20))
    assert equinox is not None and 12 * 3600 < (equinox["sunset"] - equinox["sunrise"]).total_seconds() < 12.3 * 3600
    # midsummer beyond the polar circle: the sun does not set
    summer = sky_over(water_at(78, 15), date(2026, 6, 21))
    assert summer is not None and summer["sunset"] is None
    assert sky_over(Water(name="Nowhere", kind="lake"), date(2026, 6, 21)) is None
