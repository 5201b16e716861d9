"""A site that was fished never moves, zones keep their history, and a dam's keep-off is not dropped in passing."""

from __future__ import annotations

import threading
from collections.abc import Callable
from datetime import date, timedelta
from typing import Any

import pytest
from django.db import connection
from django.utils import timezone
from rest_framework.test import APIClient

from nailwright.common.rows import new_id
from nailwright.deck.models import Capture, Outing, Run
from nailwright.plan.models import Survey
from nailwright.plan.parts import parts_of
from nailwright.plan.surveys.actions import change_survey
from nailwright.programmes.models import Change, Person, Programme
from nailwright.programmes.record.audit import Act
from nailwright.waters.models import Site, Water, Zone

DAY = date(2027, 6, 1)
ZONES = [
    {"kind": "zone", "name": "Lower", "start_m": 0, "end_m": 9000},
    {"kind": "dam", "name": "Weir", "start_m": 13_000, "end_m": 13_400},
]


@pytest.fixture
def river(programme: Programme) -> Water:
    """About 21 km along a parallel."""
    line = {"type": "LineString", "coordinates": [[10 + step / 100, 50] for step in range(31)]}
    return Water.objects.create(programme=programme, name="Long River", kind="river", geometry=line)


@pytest.fixture
def survey(lead: APIClient, river: Water, programme: Programme) -> str:
    """The address of a survey with a crew, its sites laid out."""
    values = {
        "name": "Spring", "water": str(river.pk), "question": "size", "species": ["wal"], "gear": "angling",
        "first": DAY.isoformat(), "last": DAY.isoformat(), "visits": 1, "effort_s": 900,
    }  # fmt: skip
    made = lead.post(f"/api/v1/programmes/{programme.pk}/plan", values, format="json")
    assert made.status_code == 201, made.data
    address = f"/api/v1/surveys/{made.data['id']}"
    parts = {"crew": ["Ada", "Bo"], "layout": {"site_length_m": 1000, "gap_m": 4000}}
    assert lead.post(address, {"parts": parts}, format="json").status_code == 200
    lead.post(f"{address}/sites")
    return address


@pytest.fixture
def fished(lead: APIClient, survey: str, person_as: Callable[[str], Person]) -> list[tuple[Any, ...]]:
    """An outing of the survey with a fish at every site; gives how the fish are placed."""
    made = lead.post(f"{survey}/outing", {"id": str(new_id()), "date": DAY.isoformat()}, format="json")
    assert made.status_code == 200, made.data
    outing, person = Outing.objects.get(), person_as("crew")
    for number, site in enumerate(Site.objects.order_by("river_km"), 1):
        run = Run.objects.create(
            outing=outing, site=site, number=number, gear="angling", started_at=timezone.now(), recorder=person
        )
        Capture.objects.create(programme=outing.programme, run=run, species="wal", recorder=person)
    return placed()


def placed() -> list[tuple[Any, ...]]:
    columns = (
        "pk",
        "run__site",
        "run__site__name",
        "run__site__zone__name",
        "run__site__river_km",
        "run__site__geometry",
    )
    return list(Capture.objects.order_by("pk").values_list(*columns))


def test_moving_a_planned_site_makes_a_new_one_and_leaves_the_past(
    lead: APIClient, survey: str, fished: list[tuple[Any, ...]]
) -> None:
    moved = lead.post(f"{survey}/sites/move", {"number": 2, "start_m": 8000, "reason": "log jam"}, format="json")
    assert moved.status_code == 200 and placed() == fished
    names = set(Site.objects.filter(retired_at=None).values_list("name", flat=True))
    assert "Spring 2b" in names and "Spring 2" not in names
    assert Change.objects.filter(table="site", after__has_key="retired_at").count() == 1
    # the open outing is offered the new place, and still knows where it has been
    deck = lead.get(f"/api/v1/outings/{Outing.objects.get().pk}/deck").data
    assert {"Spring 2", "Spring 2b"} <= {each["name"] for each in deck["sites"]}


@pytest.mark.parametrize("state", ["open", "closed"])
def test_laying_out_anew_leaves_the_past(
    lead: APIClient, survey: str, fished: list[tuple[Any, ...]], state: str
) -> None:
    Outing.objects.update(state=state)
    lead.post(survey, {"parts": {"layout": {"seed": 5, "layout": "random", "n": 3}}}, format="json")
    assert lead.post(f"{survey}/sites").status_code == 200
    again = lead.post(f"{survey}/outing", {"id": str(new_id()), "date": DAY.isoformat()}, format="json")
    assert again.status_code == 200, again.data
    assert placed() == fished
    in_use = list(Site.objects.filter(retired_at=None).values_list("name", flat=True))
    assert len(in_use) == len(set(in_use)) == 3


def test_planning_again_and_renaming_a_zone_leave_the_past(
    lead: APIClient, survey: str, fished: list[tuple[Any, ...]], river: Water
) -> None:
    again = lead.post(f"{survey}/again", {"first": "2029-06-01"}, format="json").data
    zones = [{"kind": "zone", "name": "Tidal", "start_m": 0, "end_m": 9000}]
    lead.post(f"/api/v1/waters/{river.pk}/zones", {"zones": zones}, format="json")
    address = f"/api/v1/surveys/{again['id']}"
    lead.post(f"{address}/sites/move", {"number": 1, "start_m": 2500, "reason": "log jam"}, format="json")
    assert lead.post(f"{address}/outing", {"date": "2029-06-01"}, format="json").status_code == 200
    assert placed() == fished
    first = Survey.objects.get(name="Spring")
    assert {each.site_id for each in first.sites.all()} == {row[1] for row in fished}
    assert Site.objects.filter(pk__in=[row[1] for row in fished], retired_at=None).count() == len(fished)


def test_a_site_where_nothing_was_recorded_is_not_kept_as_a_ghost(lead: APIClient, survey: str) -> None:
    lead.post(f"{survey}/outing", {"id": str(new_id()), "date": DAY.isoformat()}, format="json")
    n = Site.objects.count()
    lead.post(f"{survey}/sites/move", {"number": 2, "start_m": 8000, "reason": "log jam"}, format="json")
    assert Site.objects.count() == n


def test_zones_keep_their_history(lead: APIClient, river: Water) -> None:
    address = f"/api/v1/waters/{river.pk}/zones"
    first = lead.post(address, {"zones": ZONES}, format="json").data["zones"]
    lower, weir = sorted(first, key=lambda each: each["name"])
    assert lead.post(address, {"zones": [{**lower, "end_m": 8000}, weir]}, format="json").status_code == 200
    assert lead.post(address, {"zones": [weir]}, format="json").status_code == 200
    row = Zone.objects.get(pk=lower["id"])
    assert row.deleted_at and row.name == "Lower" and [each["name"] for each in lead.get(
        f"/api/v1/waters/{river.pk}/reach").data["zones"]] == ["Weir"]  # fmt: skip
    changed = [change.after for change in Change.objects.filter(row=row.pk).order_by("server_time")]
    assert changed[1] == {"end_m": 8000} and "deleted_at" in changed[2]
    assert (
        lead.post(address, {"zones": [{**ZONES[0], "id": str(new_id())}, weir]}, format="json").data["code"]
        == "zone_unknown"
    )


@pytest.mark.parametrize("after", [[], [{**ZONES[1], "start_m": 13_100}], [{**ZONES[1], "kind": "zone"}]])
def test_a_dams_keep_off_is_not_dropped_without_a_question(lead: APIClient, river: Water, after: list[Any]) -> None:
    address = f"/api/v1/waters/{river.pk}/zones"
    lead.post(address, {"zones": ZONES}, format="json")
    asked = lead.post(address, {"zones": after}, format="json")
    assert (asked.status_code, asked.data["code"]) == (422, "keep_off_dropped") and "'Weir'" in asked.data["message"]
    assert river.zones.filter(kind="dam", start_m=13_000).exists()
    assert lead.post(address, {"zones": after, "confirmed": True}, format="json").data["code"] == "reason_missing"
    done = lead.post(address, {"zones": after, "confirmed": True, "reason": "the weir is gone"}, format="json")
    assert done.status_code == 200 and not river.zones.filter(kind="dam", start_m=13_000).exists()
    assert Change.objects.filter(table="zone", reason="the weir is gone").exists()


def test_two_quick_edits_in_one_part_both_last(lead: APIClient, survey: str) -> None:
    for field, value in (("goal_w", 3500), ("pulse_hz", 60)):
        assert lead.post(survey, {"parts": {"electro": {field: value}}}, format="json").status_code == 200
    electro = lead.get(survey).data["parts"]["electro"]
    assert (electro["goal_w"], electro["pulse_hz"], electro["read_as"]) == (3500, 60, "ambient")
    refused = lead.post(survey, {"parts": {"electro": {"goal_w": 0}}}, format="json")
    assert refused.data["field"] == "parts.electro.goal_w" and "1 to 100,000 W" in refused.data["message"]
    assert lead.get(survey).data["parts"]["electro"]["goal_w"] == 3500


def test_an_edit_that_comes_late_loses_only_the_choices_that_a_later_one_set(
    survey: str, person_as: Callable[[str], Person]
) -> None:
    """The later act's request arrives first: that is what two at the same moment come to, now and then."""
    row, lead = Survey.objects.get(pk=survey.split("/")[-1]), person_as("lead")
    now = timezone.now()

    def edit(seconds: int, **parts: dict[str, Any]) -> Act:
        act = Act(new_id(), lead, now + timedelta(seconds=seconds))
        change_survey(act, row, {}, parts)
        return act

    edit(2, electro={"pulse_hz": 60, "goal_w": 3300}, limits={"air_warn_s": 100})
    first = edit(
        1, electro={"goal_w": 3500, "pulse_width_ms": 5}, limits={"air_goal_s": 95, "air_warn_s": 110, "well_fish": 9}
    )
    row.refresh_from_db()
    assert row.parts["electro"] == {"pulse_hz": 60, "goal_w": 3300, "pulse_width_ms": 5}
    assert row.parts["limits"] == {"air_warn_s": 100, "well_fish": 9}  # goal and warning stand or fall together
    history = Change.objects.get(pk=first.id)
    assert history.after == {"parts.electro.pulse_width_ms": 5, "parts.limits.well_fish": 9}
    assert history.late == {"parts.electro.goal_w": 3500, "parts.limits.air_goal_s": 95, "parts.limits.air_warn_s": 110}
    assert parts_of(row.parts).limits.air_goal_s == 60 and row.parts["crew"] == ["Ada", "Bo"]


@pytest.mark.django_db(transaction=True)
def test_two_edits_of_one_part_at_the_same_moment_both_last(lead: APIClient, survey: str) -> None:
    """Two real connections to MariaDB."""
    barrier, answers = threading.Barrier(2), []

    def edit(field: str, value: float) -> None:
        try:
            barrier.wait(10)
            answers.append(lead.post(survey, {"parts": {"electro": {field: value}}}, format="json").status_code)
        finally:
            connection.close()

    threads = [threading.Thread(target=edit, args=each) for each in (("goal_w", 3500), ("pulse_hz", 60))]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    electro = lead.get(survey).data["parts"]["electro"]
    assert answers == [200, 200] and (electro["goal_w"], electro["pulse_hz"]) == (3500, 60)


@pytest.mark.django_db(transaction=True)
def test_a_double_touch_makes_one_outing(lead: APIClient, survey: str) -> None:
    """Two real connections to MariaDB."""
    body = {"id": str(new_id()), "date": DAY.isoformat()}
    barrier, answers = threading.Barrier(2), []

    def touch() -> None:
        try:
            barrier.wait(10)
            answers.append(lead.post(f"{survey}/outing", body, format="json").status_code)
        finally:
            connection.close()

    threads = [threading.Thread(target=touch) for _ in range(2)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert answers == [200, 200] and Outing.objects.count() == 1
    assert Site.objects.filter(name__startswith="Spring").count() == Survey.objects.get().sites.count()
