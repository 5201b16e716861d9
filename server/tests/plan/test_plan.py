"""A survey from the reach to the outing: lines, sites, settings, rehearsal, papers, sheet."""

from __future__ import annotations

import json
from collections.abc import Callable
from datetime import date, timedelta
from importlib import import_module
from io import BytesIO
from typing import Any

import gpxpy
import pypdfium2
import pytest
import vobject
from django.apps import apps
from django.core.files.uploadedfile import SimpleUploadedFile
from django.core.management import call_command
from django.utils import timezone
from rest_framework.test import APIClient

from nailwright.common.rows import new_id
from nailwright.deck.models import Capture, Outing, Run, Target
from nailwright.permits.models import Permit
from nailwright.plan.models import Season, Survey, Unit
from nailwright.plan.outings.field_sheet import sheet_html
from nailwright.programmes.models import Change, Programme
from nailwright.tags.models import Fish, Placement, Tag
from nailwright.waters.models import Site, Water
from nailwright.waters.reaches import reach_of
from server.tests.plan.conftest import FIRST, LINE


def upload_line(lead: APIClient, water: Water, content: bytes | str, **more: str) -> Any:
    content = content.encode() if isinstance(content, str) else content
    body = {"file": SimpleUploadedFile("line", content), **more}
    return lead.post(f"/api/v1/waters/{water.pk}/line", body, format="multipart")


def gpx_text(points: list[list[float]]) -> str:
    inner = "".join(f'<trkpt lat="{lat}" lon="{lon}"/>' for lon, lat in points)
    return f'<gpx version="1.1" xmlns="http://www.topografix.com/GPX/1/1"><trk><trkseg>{inner}</trkseg></trk></gpx>'


def kml_text(points: list[list[float]]) -> str:
    inner = " ".join(f"{lon},{lat},0" for lon, lat in points)
    return f'<kml xmlns="http://www.opengis.net/kml/2.2"><Placemark><LineString><coordinates>{inner}</coordinates></LineString></Placemark></kml>'


def csv_text(points: list[list[float]]) -> str:
    return "name,lat,lon\n" + "\n".join(f"p,{lat},{lon}" for lon, lat in points)


def geojson_text(points: list[list[float]]) -> str:
    feature = {"type": "Feature", "properties": {}, "geometry": {"type": "LineString", "coordinates": points}}
    return json.dumps({"type": "FeatureCollection", "features": [feature]})


@pytest.mark.parametrize("text", [gpx_text, kml_text, csv_text, geojson_text])
def test_a_line_comes_from_any_open_format(lead: APIClient, river: Water, text: Callable[[Any], str]) -> None:
    answered = upload_line(lead, river, text(LINE[:30]))
    assert answered.status_code == 200, answered.data
    assert answered.data["line"] == [[round(x, 6), round(y, 6)] for x, y in LINE[:30]]
    turned = upload_line(lead, river, text(LINE[:30]), turn="true")
    assert turned.data["line"][0] == [round(each, 6) for each in LINE[29]]
    assert turned.data["length_m"] == pytest.approx(answered.data["length_m"])


def test_the_ground_of_the_map_is_every_water_with_a_line(lead: APIClient, programme: Programme, river: Water) -> None:
    def layers() -> dict[str, Any]:
        return {each["name"]: each for each in lead.get(f"/api/v1/programmes/{programme.pk}/layers").data}

    ring = [[0, 0], [1, 0], [1, 1], [0, 0]]
    programme.waters.create(name="Tarn", kind="lake", geometry={"type": "Polygon", "coordinates": [ring]})
    programme.waters.create(name="Unknown pond", kind="lake")
    programme.waters.create(name="Spring", kind="river", geometry={"type": "Point", "coordinates": [2, 2]})
    assert set(layers()) == {river.name, "Tarn"} and layers()["Tarn"]["line"] == ring
    long = [[step / 1000, 0.0, 12.0] for step in range(1001)]
    Water.objects.filter(pk=river.pk).update(geometry={"type": "LineString", "coordinates": long})
    thin = layers()[river.name]["line"]
    assert len(thin) < 400 and thin[0] == [0, 0] and thin[-1] == [1, 0]  # heights are left out, the end is not


@pytest.mark.parametrize(
    ("content", "code"),
    [
        ("", "line_unreadable"),
        ("a,b\n1,2\n", "line_unreadable"),
        ("lat,lon\n44.9,x\n", "line_unreadable"),
        ("<kml><Document/></kml>", "line_unreadable"),
        ("<html>no</html>", "line_unreadable"),
        ("<gpx", "line_unreadable"),
        ('<!DOCTYPE k [<!ENTITY a "b">]><kml>&a;</kml>', "xml_unsafe"),
        ('{"type": "LineString"}', "line_unreadable"),
        ("{", "line_unreadable"),
        (b"\xff\xfe\x00\x01", "line_unreadable"),
        ('{"type": "LineString", "coordinates": [[1' + "0" * 400 + ", 1], [2, 2]]}", "line_unreadable"),
        ('{"type": "LineString", "coordinates": ' + "[" * 100_000, "line_unreadable"),
        ("lon,lat\n" + "9" * 200_000 + ",44\n", "line_unreadable"),
        ("lon,lat\n1e999,44\n1e999,45\n", "line_unreadable"),
        (csv_text([[-31.6, 44.9]]), "line_too_short"),
        (csv_text([[0, 0], [1, 1], [1, 0], [0, 1]]), "line_crosses_itself"),
        (csv_text([[-31.6, 144.9], [-31.6, 144.8]]), "coordinates_swapped"),
    ],
)
def test_lines_that_cannot_be(lead: APIClient, river: Water, content: str | bytes, code: str) -> None:
    before = river.geometry
    refused = upload_line(lead, river, content)
    assert (refused.status_code, refused.data["code"]) == (422, code)
    river.refresh_from_db()
    assert river.geometry == before


def test_swapped_coordinates_are_told_by_the_other_waters(lead: APIClient, river: Water, programme: Programme) -> None:
    fresh = Water.objects.create(programme=programme, name="Beck", kind="river")
    swapped = upload_line(lead, fresh, csv_text([[lat, lon] for lon, lat in LINE[:5]]))
    assert swapped.data["code"] == "coordinates_swapped"
    assert upload_line(lead, fresh, csv_text(LINE[:5])).status_code == 200


def test_many_points(lead: APIClient, river: Water) -> None:
    many = [[-31.6 + step * 1e-6, 44.9 + (step % 7) * 1e-8] for step in range(25_000)]
    answered = upload_line(lead, river, gpx_text(many))
    assert answered.status_code == 200 and len(answered.data["line"]) <= 1600


def test_sites_are_laid_out_clear_of_the_dam_and_can_be_moved(
    lead: APIClient, survey: dict[str, Any], change: Callable[..., Any], river: Water
) -> None:
    address = f"/api/v1/surveys/{survey['id']}"
    zones = [
        {"kind": "zone", "name": "Lower", "start_m": 0, "end_m": 20_000, "note": ""},
        {"kind": "dam", "name": "Weir", "start_m": 20_000, "end_m": 21_000, "note": "telephone"},
        {"kind": "zone", "name": "Upper", "start_m": 21_000, "end_m": 40_000, "note": ""},
    ]
    shown = lead.post(f"/api/v1/waters/{river.pk}/zones", {"zones": zones}, format="json")
    assert shown.status_code == 200, shown.data
    change(parts={"layout": {"layout": "regular", "site_length_m": 1000, "gap_m": 1500}})
    laid = lead.post(f"{address}/sites").data
    assert [site["start_m"] for site in laid["sites"]][:3] == [0, 2500, 5000]
    assert not any(site["start_m"] < 21_000 and site["end_m"] > 20_000 for site in laid["sites"])
    assert {site["zone"] for site in laid["sites"]} == {"Lower", "Upper", ""}
    assert "dam" in [each["code"] for each in laid["checklists"]]
    change(parts={"layout": {"layout": "random", "n": 6, "site_length_m": 1000, "gap_m": 200, "seed": 3}})
    once, twice = (lead.post(f"{address}/sites").data["sites"] for _ in range(2))
    assert once == twice and len(once) == 6

    def move(start_m: float, reason: str = "no access from the road") -> Any:
        body = {"number": 1, "start_m": start_m, "reason": reason}
        return lead.post(f"{address}/sites/move", body, format="json")

    assert move(100, "").data["code"] == "reason_missing"
    assert move(20_500).data["code"] == "site_closed"
    assert move(10_000_000).data["code"] == "beyond_reach"
    moved = move(300).data["sites"][0]
    assert (moved["start_m"], moved["end_m"], moved["moved"]) == (300, 1300, "no access from the road")
    assert Change.objects.filter(table="plannedsite").count() == 1
    too_long = change(parts={"layout": {"to_km": 900}})
    assert too_long.status_code == 200
    assert lead.post(f"{address}/sites").data["field"] == "to_km"
    gpx = gpxpy.parse(lead.get(f"{address}/sites.gpx").content.decode())
    assert len(gpx.tracks) == 6 and len(gpx.waypoints) == 12
    assert gpx.tracks[0].length_2d() == pytest.approx(1000, rel=0.01)


def test_a_shorter_line_names_the_sites_that_it_leaves_behind(lead: APIClient, ready: str, river: Water) -> None:
    assert upload_line(lead, river, csv_text(LINE[:20])).status_code == 200
    shown = lead.get(ready)
    assert shown.status_code == 200 and any("beyond the end of the line" in each for each in shown.data["against"])
    inside = [site["lon"] is not None for site in shown.data["sites"]]
    assert inside[0] and not inside[-1]
    assert lead.get(f"{ready}/sites.gpx").data["code"] == "beyond_reach"
    lead.post(f"{ready}/sites")
    assert all(site["lon"] is not None for site in lead.get(ready).data["sites"])
    assert lead.get(f"{ready}/sites.gpx").status_code == 200


def test_settings_for_todays_water(
    lead: APIClient, survey: dict[str, Any], change: Callable[..., Any], unit: Unit
) -> None:
    address = f"/api/v1/surveys/{survey['id']}/settings"
    change(parts={"electro": {"conductivity": 200, "read_as": "specific", "temperature_c": 10, "goal_w": 3000}})
    shown = lead.get(address).data
    assert shown["ambient_us_cm"] == pytest.approx(148.6, abs=0.05) and shown["specific_us_cm"] == 200
    goal = shown["goal"]
    assert goal["volts"] * goal["amps"] == pytest.approx(goal["watts"]) and goal["problems"] == []
    assert sum(row["today"] for row in shown["table"]) == 1 and "licensed leader" in shown["caution"]
    Unit.objects.update(max_volts=200)
    refused = lead.get(address).data["goal"]["problems"]
    assert len(refused) == 1 and "above 200 V" in refused[0]
    for electro, field in (
        ({"conductivity": 0, "read_as": "ambient"}, "ambient_us_cm"), ({"conductivity": 200_000}, "ambient_us_cm"),
        ({"conductivity": 100, "pulse_hz": 500, "pulse_width_ms": 4}, "pulse_width_ms"),
        ({"conductivity": 100, "read_as": "specific", "temperature_c": 99, "pulse_hz": 30}, "temperature_c"),
    ):  # fmt: skip
        change(parts={"electro": electro})
        answered = lead.get(address)
        assert (answered.status_code, answered.data["field"]) == (422, field)
    limited = {
        "conductivity": 350,
        "read_as": "ambient",
        "goal_w": 9000,
        "limits": "salmonid-backpack",
        "temperature_c": 19,
    }
    change(parts={"electro": limited})
    assert any("Do not fish today" in each for each in lead.get(address).data["goal"]["problems"])
    Unit.objects.all().delete()
    assert lead.get(address).data["code"] == "unit_missing"


def test_baths_and_tags(lead: APIClient, survey: dict[str, Any], change: Callable[..., Any]) -> None:
    address = f"/api/v1/surveys/{survey['id']}/kit"
    box = {"agent": "clove-oil", "target_mg_l": 40, "shape": "box", "a_cm": 50, "b_cm": 40, "fill_cm": 30, "cap_ml": 5}
    change(parts={"bath": box})
    bath = lead.get(address).data["bath"]
    assert bath["litres"] == 60 and bath["stock_ml"] == pytest.approx(60 * 40 / 105)
    assert bath["caps"] == pytest.approx(bath["stock_ml"] / 5)
    change(parts={"bath": {**box, "target_mg_l": 200}})
    assert "20 to 60 mg/L" in lead.get(address).data["bath_refused"]
    change(parts={"bath": {**box, "fill_cm": 0}})
    assert "above 0" in lead.get(address).data["bath_refused"]
    change(parts={"tags": {"kind": "acoustic", "n": 40, "mass_g": 9, "double": 0.25, "question": "home range"}})
    tags = lead.get(address).data["tags"]
    assert tags["smallest_low"] < tags["smallest_mm"] < tags["smallest_high"] and len(tags["double"]) == 10
    acoustic = next(each for each in tags["kinds"] if each["code"] == "acoustic")
    assert not acoustic["fits"] and "the smallest here is 300 mm" in acoustic["against"][0]  # 9 g is 2 % of 450 g
    change(
        parts={
            "tags": {"kind": "acoustic", "n": 40, "mass_g": 9, "fish_mm": 450, "double": 0.25, "question": "home range"}
        }
    )
    tags = lead.get(address).data["tags"]
    assert next(each for each in tags["kinds"] if each["code"] == "acoustic")["fits"]
    assert len(lead.get(address).data["deep"]["rows"]) == 18


def test_how_much_is_enough(lead: APIClient, programme: Programme) -> None:
    address = f"/api/v1/programmes/{programme.pk}/enough"
    shown = lead.get(address, {"catch_mean": 10, "catch_variance": 40, "cv": 0.1, "psd": 50, "psd_half": 10}).data
    assert (shown["sites"], shown["fish_psd"]) == (40, 97)
    assert len(shown["curves"]) == 3 and len(shown["curves"][0]["catch"]) == len(shown["marks"])
    refused = lead.get(address, {"cv": 0})
    assert (refused.status_code, refused.data["field"]) == (422, "cv")


@pytest.mark.django_db(transaction=True)
def test_a_rehearsal_runs_in_the_worker(lead: APIClient, survey: dict[str, Any]) -> None:
    address = f"/api/v1/surveys/{survey['id']}/rehearsals"
    design = {"population": 2000, "marks": 200, "catch": 250}
    body = {"kind": "marks", "design": design, "choice": "marks", "values": [50, 200], "replicates": 300, "seed": 9}
    started = lead.post(address, body, format="json")
    assert started.status_code == 201 and started.data["job"]["state"] == "waiting", started.data
    call_command("db_worker", batch=True, interval=0, startup_delay=False, verbosity=0, reload=False)
    row = lead.get(address).data[0]
    assert row["job"]["state"] == "done"
    few, many = row["result"]["designs"]
    assert few["design"]["marks"] == 50 and few["within"] < many["within"] and sum(many["counts"]) > 290
    for wrong, code in (
        ({"kind": "marks", "design": {"population": 5, "marks": 1, "catch": 1}}, "design_out_of_range"),
        ({"kind": "marks", "design": {"fish": 5}}, "design_unreadable"),
        ({"kind": "marks", "design": {"population": 500}}, "design_unreadable"),
        ({"kind": "marks", "design": design, "choice": "colour", "values": [1]}, "choice_unknown"),
        ({"kind": "marks", "design": design, "choice": "marks", "values": list(range(10, 60))}, "too_many_designs"),
    ):
        assert lead.post(address, wrong, format="json").data["code"] == code


@pytest.mark.django_db(transaction=True)
def test_a_rehearsal_of_hours_asks_first(
    lead: APIClient, survey: dict[str, Any], monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr("nailwright.plan.rehearsal.running.estimated_seconds", lambda *_: [9000.0])
    body: dict[str, Any] = {"kind": "removal", "design": {"population": 90, "capture": 0.4}}
    address = f"/api/v1/surveys/{survey['id']}/rehearsals"

    def rehearsed(**more: object) -> dict[str, Any]:
        """Begun at once; how long it would take is tried by the worker."""
        assert lead.post(address, {**body, **more}, format="json").status_code == 201
        call_command("db_worker", batch=True, interval=0, startup_delay=False, verbosity=0, reload=False)
        newest: dict[str, Any] = lead.get(address).data[0]
        return newest

    asked = rehearsed()
    assert asked["job"]["error"]["code"] == "takes_long" and "2.5 hours" in asked["job"]["error"]["message"]
    assert asked["estimate"] == [9000.0] and asked["result"] is None
    monkeypatch.undo()
    assert rehearsed(confirmed=True)["result"]["designs"]
    sweep = rehearsed(choice="population", values=[50, 90])
    assert len(sweep["estimate"]) == len(sweep["result"]["designs"]) == 2
    for each in sweep["result"]["designs"]:
        width = round(each["edges"][1] - each["edges"][0], 9)
        assert all(edge == pytest.approx(round(edge / width) * width, abs=1e-6) for edge in each["edges"])


def test_a_plan_without_laid_sites_goes_out_on_the_waters_own(lead: APIClient, programme: Programme) -> None:
    """A tarn that is a point with three named sites: no line, nothing laid out."""
    tarn = Water.objects.create(
        programme=programme, name="Tarn", kind="lake", geometry={"type": "Point", "coordinates": [-31.4, 44.9]}
    )
    for name in ("Inlet", "Outlet"):
        Site.objects.create(water=tarn, name=name, geometry={"type": "Point", "coordinates": [-31.4, 44.91]})
    body = {"water": str(tarn.pk), "name": "By rod", "question": "size", "species": ["wal"], "gear": "angling", "visits": 2,
            "first": FIRST.isoformat(), "last": (FIRST + timedelta(days=9)).isoformat()}  # fmt: skip
    survey = lead.post(f"/api/v1/programmes/{programme.pk}/plan", body, format="json").data
    address = f"/api/v1/surveys/{survey['id']}"
    lead.post(address, {"parts": {"crew": ["Ada", "Bo"]}}, format="json")
    made = lead.post(f"{address}/outing", {"date": FIRST.isoformat()}, format="json")
    assert made.status_code == 200, made.data
    outing = Outing.objects.get(water=tarn)
    assert {each["name"] for each in lead.get(f"/api/v1/outings/{outing.pk}/deck").data["sites"]} == {"Inlet", "Outlet"}
    assert lead.get(f"{address}/sites.gpx").content.count(b"<wpt ") == 2
    assert "Outlet" in sheet_html(Survey.objects.get(pk=survey["id"]), "a4")


def test_a_plan_becomes_an_outing(lead: APIClient, ready: str, programme: Programme) -> None:
    made = lead.post(f"{ready}/outing", {"date": FIRST.isoformat()}, format="json")
    assert made.status_code == 200, made.data
    outing = Outing.objects.get(name__startswith="Marks, spring")
    survey = Survey.objects.get()
    assert Site.objects.filter(water=survey.water).count() == len(made.data["sites"]) > 3
    assert Target.objects.get(outing=outing).wanted == 103  # 410 over four visits
    deck = lead.get(f"/api/v1/outings/{outing.pk}/deck").data
    assert len(deck["sites"]) == len(made.data["sites"]) and deck["targets"][0]["species"] == "wal"
    # a second outing uses the same sites
    lead.post(f"{ready}/outing", {"date": (FIRST + timedelta(days=7)).isoformat()}, format="json")
    assert Site.objects.filter(water=survey.water).count() == len(made.data["sites"])
    # planned against done
    site = Site.objects.filter(water=survey.water).first()
    assert site is not None
    run = Run.objects.create(
        outing=outing,
        site=site,
        number=1,
        gear=survey.gear,
        current_on_s=600,
        started_at=outing.server_time,
        recorder=survey.person,
    )
    for mm in (260, 240):
        Capture.objects.create(
            programme=programme, run=run, species="wal", length_mm=mm, length_basis="measured", recorder=survey.person
        )
    fish = Capture.objects.get(length_mm=260)
    for number in ("A1", "A2"):  # a fish with two tags is measured once and is one marked fish
        tag = Tag.objects.create(programme=programme, kind="tbar", number=number, state="placed")
        individual = Fish.objects.create(programme=programme, species="wal")
        Placement.objects.create(
            tag=tag, fish=individual, capture_id=fish.pk, living_tag=tag.pk, recorder=survey.person
        )
    progress = lead.get(ready).data["progress"]
    assert (progress["sites_done"], progress["effort_done_s"]) == (1, 600)
    # where no current flows, what counts is how long was fished; a run with current is then none of it
    Survey.objects.filter(pk=survey.pk).update(gear="angling")
    assert lead.get(ready).data["progress"]["effort_done_s"] == 0
    Run.objects.filter(pk=run.pk).update(gear="angling", ended_at=run.started_at + timedelta(minutes=45))
    told = lead.get(ready).data["progress"]
    assert (told["effort_done_s"], told["weeks"][0]["effort_s"]) == (2700, 2700)
    Survey.objects.filter(pk=survey.pk).update(gear=survey.gear)
    assert progress["weeks"][0]["fish"] == 2 and progress["weeks"][0]["marks"] == 1
    assert progress["targets"][0]["done"] == 1


def test_what_stands_against_going_out_needs_a_reason(
    lead: APIClient, ready: str, programme: Programme, change: Callable[..., Any], river: Water
) -> None:
    def go(day: date = FIRST, override: str = "") -> Any:
        return lead.post(f"{ready}/outing", {"date": day.isoformat(), "override": override}, format="json")

    for alone in (["Ada"], [], ["Ada", " ada "]):
        change(parts={"crew": alone})
        assert go().data["code"] == go(override="only a short trip").data["code"] == "too_few_people"
    change(parts={"crew": ["Bo", "Cy"]})
    assert "Nobody of the crew has a valid certificate" in go().data["message"]
    change(parts={"crew": ["Ada", "Bo"]})
    Permit.objects.create(
        programme=programme, kind="permit", name="Collecting", first=date(2026, 1, 1), last=FIRST - timedelta(days=1)
    )
    assert "Collecting" in go().data["message"]
    Permit.objects.filter(kind="permit").update(last=FIRST + timedelta(days=90))
    Season.objects.create(
        programme=programme, water=river, kind="closed", name="Ice-out", first_day="05-20", last_day="06-10"
    )
    refused = go()
    assert (refused.status_code, refused.data["code"], refused.data["field"]) == (422, "plan_incomplete", "override")
    assert Outing.objects.filter(water=river).count() == 0
    assert go(override="operator agreed by telephone").status_code == 200
    kept = Change.objects.get(table="outing")
    assert kept.reason == "operator agreed by telephone" and "Ice-out" in kept.before["against"][0]


def test_seasons_are_days_of_the_year(lead: APIClient, programme: Programme, river: Water) -> None:
    address = f"/api/v1/programmes/{programme.pk}/seasons"
    ice = {"kind": "closed", "name": "Ice", "water": str(river.pk), "first_day": "11-20", "last_day": "02-30"}
    assert lead.post(address, ice, format="json").data["code"] == "day_impossible"
    assert lead.post(address, {**ice, "last_day": "W10-1"}, format="json").data["code"] == "day_impossible"
    assert lead.post(address, {**ice, "last_day": "03-01"}, format="json").status_code == 201
    assert lead.get(f"/api/v1/programmes/{programme.pk}/plan").data["seasons"][0]["last_day"] == "03-01"


def test_permits_are_warned_of_and_kept(lead: APIClient, programme: Programme) -> None:
    today = date.today()
    body = {"kind": "permit", "name": "Collecting", "holder": "", "number": "7", "gears": []}

    def enter(first: int, last: int) -> Any:
        days = {"first": (today + timedelta(first)).isoformat(), "last": (today + timedelta(last)).isoformat()}
        return lead.post(f"/api/v1/programmes/{programme.pk}/permits", {**body, **days}, format="json")

    assert [enter(*days).data["state"] for days in ((-9, 61), (-9, 60), (-9, -1), (3, 90))] == [
        "valid",
        "soon",
        "expired",
        "not yet",
    ]
    assert enter(9, 3).data["code"] == "days_out_of_order"
    permit = Permit.objects.filter(last=today + timedelta(-1)).get()
    renewed = {**body, "first": today.isoformat(), "last": (today + timedelta(400)).isoformat()}
    assert lead.post(f"/api/v1/permits/{permit.pk}", renewed, format="json").data["state"] == "valid"
    assert Change.objects.get(table="permit", row=permit.pk).before["last"] == str(permit.last)
    reversed_days = {**renewed, "last": (today - timedelta(9)).isoformat()}
    assert lead.post(f"/api/v1/permits/{permit.pk}", reversed_days, format="json").data["code"] == "days_out_of_order"


def test_the_outing_knows_its_checklists_limits_and_settings(lead: APIClient, ready: str, unit: Unit) -> None:
    lead.post(f"{ready}/outing", {"date": FIRST.isoformat()}, format="json")
    outing = Outing.objects.get(name__startswith="Marks, spring")
    assert lead.get(ready).data["progress"]["outings"][0]["unsigned"] == len(outing.checklists)

    deck = lead.get(f"/api/v1/outings/{outing.pk}/deck").data
    assert [each["code"] for each in deck["checklists"]] == [
        each["code"] for each in lead.get(ready).data["checklists"]
    ]
    assert {each["signature"] for each in deck["checklists"]} == {None}
    orders = deck["orders"]
    assert orders["survey"] == "Marks, spring" and any("never over 120 s" in line for line in orders["lines"])
    # the goal in today's water is the one of the settings screen, as near as waters in steps of 5 % come
    today = lead.get(f"{ready}/settings").data
    nearest = min(orders["electro"]["goals"], key=lambda each: abs(each["us_cm"] - today["ambient_us_cm"]))
    assert nearest["volts"] == pytest.approx(today["goal"]["volts"], rel=0.03)
    assert nearest["amps"] == pytest.approx(today["goal"]["amps"], rel=0.03)
    assert orders["electro"]["most_amps"] == today["unit"]["max_amps"]
    shares = orders["electro"]["ambient_shares"]  # handbook 6: Ca = Cs 1.02^(T - 25)
    assert (shares[25], shares[9]) == (1.0, pytest.approx(1.02**-16, abs=5e-5))

    # a plan that changes while the outing is out gives new orders; a closed outing keeps those it had
    lead.post(ready, {"parts": {"limits": {"well_l": 100}}}, format="json")
    assert lead.get(f"/api/v1/outings/{outing.pk}/deck").data["orders"]["well"]["most_g"] == pytest.approx(6000)
    zones = [{"kind": "dam", "name": "Weir", "start_m": 1000, "end_m": 1400}]
    water = outing.water_id
    lead.post(f"/api/v1/waters/{water}/zones", {"zones": zones}, format="json")
    deck = lead.get(f"/api/v1/outings/{outing.pk}/deck").data
    assert "Keep clear of Weir: km 1.00 to 1.40." in deck["orders"]["lines"]
    assert "dam" in [each["code"] for each in deck["checklists"]]
    Outing.objects.filter(pk=outing.pk).update(state="closed")
    lead.post(ready, {"parts": {"limits": {"well_l": 300}}}, format="json")
    assert lead.get(f"/api/v1/outings/{outing.pk}/deck").data["orders"]["well"]["most_g"] == pytest.approx(6000)


def test_a_plans_own_limits_for_fish_in_hand(lead: APIClient, ready: str, unit: Unit) -> None:
    def limits(**change: object) -> Any:
        return lead.post(ready, {"parts": {"limits": change}}, format="json")

    kit = lead.get(f"{ready}/kit").data["limits"]  # the defaults of handbook 7
    assert "at most 12 large fish or 60 g/L, oxygen 6 mg/L or more, within 3 °C" in kit["lines"][0]
    assert [each["most"] for each in kit["well_fish"]] == [12, 12, 5]  # 250 L hold 15 kg
    assert limits(well_l=100, well_fish=20, air_alarm_s=100, air_warn_s=80).status_code == 200
    kit = lead.get(f"{ready}/kit").data["limits"]
    assert [each["most"] for each in kit["well_fish"]] == [20, 6, 2] and "never over 100 s" in kit["lines"][1]
    refused = limits(air_goal_s=95)
    assert refused.status_code == 422 and refused.data["code"] == "limits_out_of_order"
    assert "before its warning" in refused.data["message"]
    assert limits(well_fish=0).data["field"] == "parts.limits.well_fish"


def test_the_live_well_of_an_older_plan_is_kept(lead: APIClient, ready: str) -> None:
    survey = Survey.objects.get()
    survey.parts["bath"] = {"agent": "tricaine", "target_mg_l": 60, "well_l": 400}
    survey.save()
    migration = import_module("nailwright.plan.migrations.0004_well_to_limits")
    for _ in range(2):
        migration.move(apps, None)
    parts = lead.get(ready).data["parts"]
    assert (parts["limits"]["well_l"], parts["bath"]["target_mg_l"]) == (400, 60)
    assert "well_l" not in Survey.objects.get().parts["bath"]


def test_targets_by_zone_and_month_reach_the_outing_of_that_month(
    lead: APIClient, ready: str, river: Water, unit: Unit, programme: Programme
) -> None:
    half = reach_of(river).length_m / 2
    zones = [
        {"kind": "zone", "name": name, "start_m": a, "end_m": b}
        for name, a, b in (("Lower", 0, half), ("Upper", half, 2 * half))
    ]
    lead.post(f"/api/v1/waters/{river.pk}/zones", {"zones": zones}, format="json")
    wanted = {"species": "wal", "what": "marked", "wanted": 60, "from_mm": 250}
    other_month = FIRST.month % 12 + 1

    def ask(**target: object) -> Any:
        return lead.post(ready, {"parts": {"targets": [wanted | each for each in ({}, target)]}}, format="json").data

    assert ask(zone="Middle")["code"] == "zone_unknown" and ask(month=13)["field"].startswith("parts.targets")
    targets = ask(zone="Lower", month=FIRST.month)["progress"]["targets"]
    visits = lead.get(ready).data["visits"]
    days = [date.fromisoformat(str(each["first"])) for each in lead.get(ready).data["days"] if each["what"] == "visit"]
    there = sum(day.month == FIRST.month for day in days)
    assert [each["per_visit"] for each in targets] == [-(-60 // visits), -(-60 // there)]

    lead.post(f"{ready}/sites", format="json")
    lead.post(f"{ready}/outing", {"date": FIRST.isoformat()}, format="json")
    outing = Outing.objects.get(name__startswith="Marks, spring")
    assert set(outing.targets.values_list("zone__name", "wanted")) == {
        (None, -(-60 // visits)),
        ("Lower", -(-60 // there)),
    }

    # a marked fish counts in its own zone and month only
    upper, lower = (river.sites.filter(zone__name=name).first() for name in ("Upper", "Lower"))
    for number, site in enumerate((lower, upper, upper), 1):
        run = Run.objects.create(
            outing=outing, site=site, number=number, gear="boat_electrofishing", started_at=timezone.now(), recorder=programme.people.first()
        )  # fmt: skip
        fish = Fish.objects.create(programme=programme)
        capture = Capture.objects.create(
            programme=programme, run=run, species="wal", length_mm=300, length_basis="measured", length_type="TL", fish=fish,
            recorder=run.recorder,
        )  # fmt: skip
        tag = Tag.objects.create(programme=programme, kind="tbar", number=str(number))
        Placement.objects.create(tag=tag, fish=fish, capture_id=capture.pk, recorder=run.recorder)
    assert [each["done"] for each in lead.get(ready).data["progress"]["targets"]] == [3, 1]
    today = lead.get(f"/api/v1/programmes/{programme.pk}/today").data["outings"]
    assert {each["zone"]: each["done"] for row in today for each in row["targets"]} == {"": 3, "Lower": 1}
    assert [each["done"] for each in ask(month=other_month)["progress"]["targets"]] == [3, 0]


def test_a_unit_that_is_entered_late_reaches_the_outing(lead: APIClient, ready: str, programme: Programme) -> None:
    lead.post(f"{ready}/outing", {"date": FIRST.isoformat()}, format="json")
    outing = Outing.objects.get(name__startswith="Marks, spring")
    assert outing.orders["electro"] is None and any("Enter a unit" in line for line in outing.orders["lines"])
    body = {
        "name": "Boat",
        "gear": "boat_electrofishing",
        "max_volts": 500,
        "max_amps": 9,
        "max_watts": 3000,
        "r100_ohm": 60,
    }
    assert lead.post(f"/api/v1/programmes/{programme.pk}/units", body, format="json").status_code == 201
    outing.refresh_from_db()
    assert outing.orders["electro"]["most_amps"] == 9


def test_anglers_are_told_bouts_feeding_and_rules(lead: APIClient, ready: str, change: Callable[..., Any]) -> None:
    change(gear="angling", parts={"angling": {"bouts": 4, "rods": 3, "rules": "One burbot a day; rods out at dusk."}})
    made = lead.post(f"{ready}/outing", {"date": FIRST.isoformat()}, format="json")
    assert made.status_code == 200, made.data
    orders = Outing.objects.get(name__startswith="Marks, spring").orders
    assert orders["electro"] is None and "4 bouts of 90 min with 3 rods in each zone." in orders["lines"]
    assert any(line.endswith("rods out at dusk. The law decides.") for line in orders["lines"])


def test_orders_say_what_the_plan_could_not_give(lead: APIClient, ready: str, unit: Unit) -> None:
    bath = {"agent": "tricaine", "purpose": "measure", "target_mg_l": 500}
    lead.post(ready, {"parts": {"bath": bath, "electro": {"conductivity": 0}}}, format="json")
    lead.post(f"{ready}/outing", {"date": FIRST.isoformat()}, format="json")
    outing = Outing.objects.get(name__startswith="Marks, spring")
    assert any("50 to 100 mg/L; got 500" in line for line in outing.orders["lines"])
    assert any("µS/cm; got 0" in line for line in outing.orders["lines"]) and outing.orders["electro"] is None


def test_a_survey_is_planned_again_on_its_very_sites(lead: APIClient, ready: str) -> None:
    lead.post(f"{ready}/sites/move", {"number": 2, "start_m": 9000, "reason": "log jam"}, format="json")
    lead.post(f"{ready}/outing", {"date": FIRST.isoformat()}, format="json")
    before = lead.get(ready).data
    made = lead.post(f"{ready}/again", {"first": "2031-05-20"}, format="json")
    assert made.status_code == 201, made.data
    again = made.data
    assert again["id"] != before["id"] and again["name"] == "Marks, spring, 2031"
    span = date.fromisoformat(str(before["last"])) - date.fromisoformat(str(before["first"]))
    assert date.fromisoformat(str(again["last"])) - date(2031, 5, 20) == span
    assert (again["sites"], again["parts"], again["species"]) == (before["sites"], before["parts"], before["species"])
    assert again["progress"]["outings"] == [] and again["progress"]["sites_done"] == 0
    # its outing works the same sites of the water, so that the years can be compared
    n = Site.objects.count()
    Permit.objects.update(last=date(2040, 1, 1))
    assert lead.post(f"/api/v1/surveys/{again['id']}/outing", {"date": "2031-05-20"}, format="json").status_code == 200
    assert Site.objects.count() == n
    assert lead.post(f"{ready}/again", {"first": "soon"}, format="json").data["field"] == "first"


@pytest.mark.parametrize("day", ["9999-12-31", "0001-01-01", "2200-01-01"])
def test_a_day_that_is_a_slip_of_the_keys_is_refused(lead: APIClient, ready: str, day: str) -> None:
    for path, body in (("/again", {"first": day}), ("", {"last": day}), ("/outing", {"date": day})):
        answer = lead.post(ready + path, body, format="json")
        assert answer.status_code == 422 and "Expected a day from 1900-01-01 to 2199-12-31" in answer.data["message"]
    assert lead.post(f"{ready}/again", {"first": "2199-12-31"}, format="json").status_code == 201


def test_a_survey_is_taken_out_and_put_back(lead: APIClient, ready: str, programme: Programme) -> None:
    def plans() -> list[str]:
        return [each["name"] for each in lead.get(f"/api/v1/programmes/{programme.pk}/plan").data["surveys"]]

    def take_out(deleted: bool, key: object = None) -> Any:
        return lead.post(f"{ready}/deleted", {"id": str(key or new_id()), "deleted": deleted}, format="json")

    lead.post(f"{ready}/outing", {"date": FIRST.isoformat()}, format="json")
    key = new_id()
    assert take_out(True, key).data["deleted"] is take_out(True, key).data["deleted"] is True
    assert plans() == [] and lead.get(ready).status_code == lead.post(ready, {}, format="json").status_code == 404
    assert (
        Outing.objects.count() == 1 and Change.objects.filter(table="survey", after__has_key="deleted_at").count() == 1
    )
    assert take_out(False).data["deleted"] is False
    assert plans() == ["Marks, spring"] and len(lead.get(ready).data["progress"]["outings"]) == 1


def test_the_calendar_is_read_by_another_package(lead: APIClient, ready: str, programme: Programme) -> None:
    Season.objects.create(programme=programme, kind="spawning", name="Spawn", first_day="12-20", last_day="01-10")
    calendar = vobject.readOne(lead.get(f"{ready}/survey.ics").content.decode())
    events = [(event.summary.value, event.dtstart.value, event.dtend.value) for event in calendar.vevent_list]
    assert ("Marks, spring: visit 1 of 4", FIRST, FIRST + timedelta(days=1)) in events
    assert ("Marks, spring: visit 4 of 4", date(2027, 6, 22), date(2027, 6, 23)) in events
    assert ("Spawning: Spawn", date(2027, 12, 20), date(2028, 1, 11)) in events
    assert [start.year for name, start, _ in events if "revisit" in name] == [2032, 2037, 2042]


def test_the_screen_and_the_calendar_tell_the_same_days(
    lead: APIClient, ready: str, change: Callable[..., Any]
) -> None:
    change(first="2027-12-31", last="2027-12-31")
    shown = lead.get(ready).data["days"]
    calendar = vobject.readOne(lead.get(f"{ready}/survey.ics").content.decode())
    assert [day["first"] for day in shown] == [event.dtstart.value.isoformat() for event in calendar.vevent_list]
    assert shown[-1]["first"] == "2042-12-31"


@pytest.mark.parametrize(("paper", "size"), [("a4", (595, 842)), ("letter", (612, 792))])
def test_the_field_sheet_is_one_or_two_pages(
    lead: APIClient, ready: str, unit: Unit, change: Callable[..., Any], paper: str, size: tuple[int, int]
) -> None:
    change(parts={"bath": {"agent": "clove-oil", "target_mg_l": 30}, "tags": {"kind": "pit", "n": 30, "double": 0.2}})
    answered = lead.get(f"{ready}/sheet.pdf", {"paper": paper})
    assert answered.status_code == 200 and answered["Content-Type"] == "application/pdf"
    document = pypdfium2.PdfDocument(BytesIO(answered.content))
    assert len(document) == 2 and document[0].get_size() == pytest.approx(size, abs=1)
    words = " ".join(" ".join(page.get_textpage().get_text_range() for page in document).split())
    for word in (
        "Marks, spring",
        "Long River",
        "µS/cm",
        "mg/L",
        "licensed leader decide",
        "Scan before you tag",
        "signed",
        "Ada, Bo",
    ):
        assert word in words, word
    site = Survey.objects.get().sites.first()
    assert site is not None and f"{site.start_m / 1000:.2f}" in words


def test_a_sheet_is_printed_even_where_a_part_cannot_be_said(lead: APIClient, ready: str) -> None:
    answered = lead.get(f"{ready}/sheet.pdf")
    words = pypdfium2.PdfDocument(BytesIO(answered.content))[0].get_textpage().get_text_range()
    assert "Enter a unit with its limits first" in words.replace("\r\n", " ")
    assert lead.get(f"{ready}/sheet.pdf", {"paper": "a9"}).data["code"] == "paper_unknown"


def test_plans_that_cannot_be(lead: APIClient, programme: Programme, river: Water, change: Callable[..., Any]) -> None:
    base = {
        "water": str(river.pk), "name": "x", "question": "size", "species": ["wal"], "gear": "angling",
        "first": "2027-06-01", "last": "2027-05-01",
    }  # fmt: skip
    address = f"/api/v1/programmes/{programme.pk}/plan"
    assert lead.post(address, base, format="json").data["code"] == "dates_reversed"
    assert (
        lead.post(address, {**base, "last": "2027-07-01", "species": ["lwf"]}, format="json").data["field"] == "species"
    )
    assert lead.post(address, {**base, "water": str(programme.pk)}, format="json").data["code"] == "water_unknown"
    assert change(parts={"layout": {"site_length_m": -4}}).status_code == 422
    assert change(parts={"bath": {"agent": "brandy"}}).status_code == 422
    fresh = {"name": "New Beck", "kind": "river"}
    water = lead.post(f"/api/v1/programmes/{programme.pk}/new-water", fresh, format="json")
    assert water.status_code == 201
    assert lead.post(f"/api/v1/programmes/{programme.pk}/new-water", fresh, format="json").data["code"] == "water_there"
    assert lead.get(f"/api/v1/waters/{water.data['id']}/reach").data["code"] == "line_missing"


@pytest.mark.parametrize("figure", ["1e999", "-1e999"])
def test_endless_figures_are_refused_and_not_stored(
    lead: APIClient, ready: str, programme: Programme, figure: str
) -> None:
    for part in ('"bath": {"fill_cm": %s}', '"electro": {"conductivity": %s}', '"layout": {"to_km": %s}'):
        body = '{"parts": {' + part % figure + "}}"
        assert lead.post(ready, body, content_type="application/json").status_code == 422
    design = f'{{"kind": "marks", "design": {{"population": {figure}, "marks": 1, "catch": 1}}}}'
    assert lead.post(f"{ready}/rehearsals", design, content_type="application/json").status_code == 422
    assert lead.get(f"/api/v1/programmes/{programme.pk}/enough", {"sd_mm": figure}).status_code == 422
    move = f'{{"number": 1, "start_m": {figure}, "reason": "far away"}}'
    assert lead.post(f"{ready}/sites/move", move, content_type="application/json").status_code == 422
    assert lead.get(ready).status_code == 200


def test_what_past_catches_by_rod_say(lead: APIClient, run: Run, programme: Programme) -> None:
    """Twelve rod-hours with six fish, six with none; a run that never ended has no effort."""
    for number, (hours, n) in enumerate(((6, 6), (3, 0), (None, 4)), 2):
        other = Run.objects.create(
            outing=run.outing, site=run.site, number=number, gear="angling", rods=2, started_at=run.started_at, recorder=run.recorder,
            ended_at=run.started_at + timedelta(hours=hours) if hours else None,
        )  # fmt: skip
        if n:
            Capture.objects.create(programme=programme, run=other, species="wal", count=n, recorder=run.recorder)
    body = {
        "water": str(run.outing.water_id), "name": "By rod", "question": "size", "species": ["wal"], "gear": "angling",
        "first": "2027-06-01", "last": "2027-07-01",
    }  # fmt: skip
    pilot = lead.post(f"/api/v1/programmes/{programme.pk}/plan", body, format="json").data["pilot"]
    assert (pilot["runs"], pilot["per"], pilot["cpue"]) == (2, "rod-hour", pytest.approx(6 / 18))


def test_what_past_catches_say(lead: APIClient, run: Run, programme: Programme, unit: Unit) -> None:
    for number, (seconds, n) in enumerate(((900, 6), (600, 2), (900, 10)), 2):
        other = Run.objects.create(
            outing=run.outing, site=run.site, number=number, gear="boat_electrofishing", current_on_s=seconds, volts=300,
            amps=8, started_at=run.started_at, recorder=run.recorder,
        )  # fmt: skip
        for place in range(n):
            Capture.objects.create(
                programme=programme, run=other, species="wal", length_mm=300 + 10 * place, length_basis="measured",
                length_type="TL", recorder=run.recorder,
            )  # fmt: skip
    body = {
        "water": str(run.outing.water_id), "name": "Again", "question": "size", "species": ["wal"], "gear": "boat_electrofishing",
        "first": "2027-06-01", "last": "2027-07-01",
    }  # fmt: skip
    pilot = lead.post(f"/api/v1/programmes/{programme.pk}/plan", body, format="json").data["pilot"]
    assert pilot["cpue"] == pytest.approx(18 / (2400 / 3600)) and (pilot["catch_mean"], pilot["catch_variance"]) == (
        6,
        16,
    )
    assert pilot["psd"] == pytest.approx(2 / 18) and pilot["fish"] == 18
    assert pilot["selection"]["gear"] == ["boat_electrofishing"]

    # from another selection: kept with the survey, and refused where it is none
    address = f"/api/v1/surveys/{programme.surveys.get().pk}"

    def start_from(**selection: object) -> Any:
        body = {"parts": {"pilot": {"species": "wal", **selection}}}
        return lead.post(address, body, format="json").data

    Run.objects.filter(number=4).update(gear="backpack_electrofishing")
    chosen = start_from(gear=["backpack_electrofishing"])["pilot"]
    assert (chosen["runs"], chosen["fish"]) == (1, 10)
    assert lead.get(address).data["pilot"] == chosen
    Run.objects.filter(number=4).update(gear="boat_electrofishing")
    assert start_from(last="2026-01-01")["pilot"]["runs"] == 0
    assert start_from(first="2027-01-01", last="2026-01-01")["code"] == "dates_reversed"
    assert start_from(gear=["spear"])["field"].startswith("parts.pilot.gear")
    assert start_from(species="xyz")["code"] == "species_not_in_programme"
    assert start_from(species="yep")["pilot"]["fish"] == 0
    assert lead.get(address).data["pilot"]["selection"] == {
        "species": "yep", "outing": [], "water": [], "site": [], "zone": [], "gear": [], "sex": [], "estimated": False, "once": False,
    }  # fmt: skip
    for hours, us_cm in ((-5, 900), (-1, 200), (1, 400)):  # the one nearest before the run counts, none after it
        run.outing.water_readings.create(
            ambient_us_cm=us_cm, recorder=run.recorder, device_time=run.started_at + timedelta(hours=hours)
        )
    readings = lead.get(f"/api/v1/programmes/{programme.pk}/units").data["readings"]
    assert [each["r100_ohm"] for each in readings] == [75.0] * 3
