"""How a meeting with a known fish ended, and where was fished: kept true by every way of writing, and read as histories."""

from __future__ import annotations

from collections.abc import Callable
from datetime import date
from typing import Any

import pytest
from rest_framework.test import APIClient

from nailwright.deck.encounters import rebuild_encounters
from nailwright.deck.models import Outing, Run
from nailwright.programmes.models import Programme
from nailwright.tags.histories import histories_of
from nailwright.tags.models import Encounter, Occasion, Tag, TagKind
from nailwright.waters.models import Site
from server.tests.conftest import BEGAN, operation

Send = Callable[..., Any]
Called = Callable[..., dict[str, Any]]
PIT = "999000000000101"


@pytest.fixture
def fish(programme: Programme, sync: Send, called: Called) -> dict[str, Any]:
    """A walleye with a tag."""
    Tag.objects.create(programme=programme, kind=TagKind.PIT, number=PIT)
    made = called(scanned="none")
    placed = operation("tag.place", capture=made["id"], kind="pit", number=PIT)
    assert sync(made, placed).status_code == 200
    return made


def left(fish: dict[str, Any], fate: str | None) -> dict[str, Any]:
    return operation("release.set", captures=[fish["id"]], fate=fate)


@pytest.mark.parametrize(
    ("fate", "disposition"),
    [("released", "released"), ("escaped", "released"), ("dead", "dead"), ("kept", "retained"), ("taken", "retained")],
)
def test_how_it_left_stands_in_its_encounter(fish: dict[str, Any], sync: Send, fate: str, disposition: str) -> None:
    assert Encounter.objects.get().disposition == ""  # aboard
    sync(left(fish, fate))
    met = Encounter.objects.get()
    swims = disposition == "released"
    assert met.disposition == disposition and (met.let_go_at is not None) == swims
    assert rebuild_encounters() == 0
    sync(left(fish, None))
    taken_back = Encounter.objects.get()
    assert (taken_back.disposition, taken_back.let_go_at) == ("", None) and rebuild_encounters() == 0


def test_a_position_that_was_said_is_where_it_was_let_go(fish: dict[str, Any], sync: Send) -> None:
    sync(left(fish, "released"))
    details = operation(
        "event.record", what="let_go", capture=fish["id"], details={"lat": 46.5, "lon": 8.5, "within_m": 12}
    )
    sync(details)
    met = Encounter.objects.get()
    assert (met.let_go_lat, met.let_go_lon, met.let_go_error_m) == (46.5, 8.5, 12) and rebuild_encounters() == 0
    sync(operation("event.edit", event=details["id"], details={}, deleted=True))
    assert Encounter.objects.get().let_go_lat == met.lat and rebuild_encounters() == 0


def test_one_that_a_predator_took_on_its_way_down_is_a_known_loss(fish: dict[str, Any], sync: Send) -> None:
    sync(left(fish, "released"))
    sync(operation("event.record", what="way_down", capture=fish["id"], details={"outcome": "predator"}))
    assert Encounter.objects.get().disposition == "dead" and rebuild_encounters() == 0


def test_a_run_is_an_occasion_with_its_effort_fish_or_none(sync: Send, outing: Outing, site: Site) -> None:
    began = BEGAN.isoformat()
    start = operation("run.start", outing=str(outing.pk), site=str(site.pk), started_at=began, current_on_s=0)
    sync(start)
    fished = Occasion.objects.get(pk=start["id"])
    assert (fished.site_id, fished.gear, fished.day, fished.ended_at) == (site.pk, outing.gear, outing.date, None)
    sync(operation("run.edit", run=start["id"], current_on_s=1800))
    fished.refresh_from_db()
    assert (fished.effort, fished.effort_unit) == (0.5, "h") or fished.effort == 1800
    assert rebuild_encounters() == 0


def test_a_table_that_is_not_true_is_made_true(fish: dict[str, Any], sync: Send) -> None:
    sync(left(fish, "dead"))
    Encounter.objects.update(disposition="released")
    Occasion.objects.all().delete()
    assert rebuild_encounters() == 3  # an encounter out and in, an occasion in
    assert Encounter.objects.get().disposition == "dead" and Occasion.objects.count() == 1


def test_histories_read_encounters_and_occasions(
    fish: dict[str, Any],
    sync: Send,
    called: Called,
    programme: Programme,
    run: Run,
    site: Site,
    person_as: Any,
    client_as: Any,
) -> None:
    """Fished in three years, met in the first and the third, where it was kept."""
    sync(left(fish, "released"))
    for year in (2027, 2028):
        outing = Outing.objects.create(
            programme=programme, water=site.water, name=str(year), date=date(year, 10, 12), gear=run.gear
        )
        Run.objects.create(
            outing=outing, site=site, number=1, gear=run.gear, started_at=BEGAN, recorder=person_as("crew")
        )
    again = called(scanned="number", scan=PIT, run=str(Run.objects.get(outing__date__year=2028).pk))
    sync(again, left(again, "kept"))
    rebuild_encounters()
    found = histories_of(programme, "wal")
    assert found.labels == ("2026", "2027", "2028")
    assert found.x.tolist() == [[1, 0, 1]] and found.lost.tolist() == [True]
    assert histories_of(programme, "wal", by="day").labels[0] == "2026-10-12"
    assert histories_of(programme, "bur").x.shape == (0, 3)
    desk, to = client_as("biologist"), f"/api/v1/programmes/{programme.pk}/encounter-histories.csv"
    head, line = b"".join(desk.get(to, {"species": "wal"})).decode().splitlines()
    assert head.startswith("organismID,scientificName,2026,2027,2028,history,lost")
    assert line.endswith(",Sander vitreus,1,0,1,h101,1") and line.startswith(str(found.fish[0]))
    assert b"2026-10,2027-10,2028-10" in b"".join(desk.get(to, {"species": "wal", "by": "month"}))
    assert desk.get(to).status_code == 422 and client_as("viewer").get(to, {"species": "wal"}).status_code == 403


def test_the_story_says_how_each_meeting_ended(fish: dict[str, Any], sync: Send, crew: APIClient) -> None:
    sync(left(fish, "released"))
    (met,) = crew.get(f"/api/v1/fish/{Encounter.objects.get().fish_id}").data["encounters"]
    assert met["disposition"] == "released" and met["let_go_at"] is not None
