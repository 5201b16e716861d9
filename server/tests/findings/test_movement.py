"""Movement of marked fish, asked over HTTP."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import pytest
from rest_framework.test import APIClient

from nailwright.deck.models import Capture, Release, Run
from nailwright.programmes.models import Programme, ProgrammeSpecies
from nailwright.tags.models import Fish
from nailwright.waters.models import Site, Water, Zone
from nailwright_core.common import species
from nailwright_core.common.species_values import species_values
from server.tests.findings.basin import Basin

Ask = Callable[..., Any]


@pytest.fixture
def ask(client_as: Callable[[str], APIClient], programme: Programme) -> Ask:
    def get(role: str = "biologist", **asked: Any) -> Any:
        return client_as(role).get(f"/api/v1/programmes/{programme.pk}/findings/movement", {"species": "wal", **asked})

    return get


@pytest.fixture
def moved(basin: Basin) -> list[Fish]:
    """Twelve fish let go at T10: nine are met there again, one 15 km up, one 26 km up, one 8 km down."""
    tagging = basin.run("T10", "2025-05-01")
    fish = [basin.tagged(tagging, 350 + 5 * place) for place in range(12)]
    runs = {site: basin.run(site, "2025-09-01", number=n) for n, site in enumerate(("T2", "T10", "T25", "T36"), 1)}
    for place, each in enumerate(fish):
        site = {0: "T25", 1: "T36", 2: "T2"}.get(place, "T10")
        basin.met(runs[site], each, 380 + 5 * place)
    basin.done()
    return fish


def test_who_stayed_and_how_far_the_others_went(ask: Ask, moved: list[Fish]) -> None:
    told = ask().data
    assert told["all"]["stayed"] == 9 and told["n"] == 12 and told["all"]["share"]["value"] == pytest.approx(75)
    assert [round(each["km"]) for each in told["longest"][:3]] == [26, 15, 8]
    assert [round(each["up_km"]) for each in told["longest"][:3]] == [26, 15, -8]
    assert told["longest"][0]["days"] == pytest.approx(123, abs=0.1) and told["longest"][0]["fish"] == str(moved[1].pk)
    assert told["straight"] == 0
    assert [(each["name"], each["value"]) for each in told["directions"]] == [
        ("Upstream, of those that moved", pytest.approx(200 / 3))
    ]
    assert told["homing"] is None
    assert "the farthest, a single fish, 26 km in 123 days" in told["sentence"]


def test_the_matrix_has_the_effort_beside_it(ask: Ask, moved: list[Fish]) -> None:
    told = ask().data["matrix"]
    assert (told["zones"], told["counts"]) == (["low", "high"], [[10, 2], [0, 0]])
    assert (told["effort"], told["effort_unit"]) == ([0.75, 0.5], "hour of current")
    assert told["corrected"][0] == [
        pytest.approx(100 * (10 / 2700) / (10 / 2700 + 2 / 1800)),
        pytest.approx(100 * (2 / 1800) / (10 / 2700 + 2 / 1800)),
    ]


def test_a_fish_caught_by_rod_does_not_stand_beside_hours_of_current(ask: Ask, basin: Basin, moved: list[Fish]) -> None:
    rod = basin.run("T36", "2025-10-01")
    Run.objects.filter(pk=rod.pk).update(gear="angling", rods=2, current_on_s=0)
    basin.met(rod, moved[5], 420)
    basin.done()
    told = ask().data
    assert told["n"] == 13 and told["matrix"]["counts"] == [[10, 2], [0, 0]]


def test_zones_of_one_name_on_two_waters_stay_apart(ask: Ask, basin: Basin, moved: list[Fish]) -> None:
    lake = Water.objects.create(programme=basin.programme, name="Tarn", kind="lake")
    basin.sites["Inlet"] = Site.objects.create(
        water=lake, name="Inlet", zone=Zone.objects.create(water=lake, name="low")
    )
    basin.run("Inlet", "2025-09-02", seconds=9000)
    basin.done()
    told = ask().data["matrix"]
    assert (told["zones"], told["effort"]) == (["low, Tarnbeck", "high", "low, Tarn"], [0.75, 0.5, 2.5])


def test_few_days_are_asked_for_and_groups_told(ask: Ask, moved: list[Fish]) -> None:
    refused = ask(days=365)
    assert refused.status_code == 422 and "12 were sooner" in refused.data["message"]
    assert [(each["name"], each["fish"]) for each in ask(by="zone").data["groups"]] == [("low", 12)]
    assert [each["name"] for each in ask(by="tag").data["groups"]] == ["PIT"]
    assert [each["name"] for each in ask(by="season").data["groups"]] == ["spring"]


def test_who_is_back_in_the_season_of_tagging(ask: Ask, basin: Basin, moved: list[Fish]) -> None:
    """A year after, in May, three are where they were tagged and one is 26 km up; one is met in August only."""
    at_home, far, late = (
        basin.run("T10", "2026-05-20"),
        basin.run("T36", "2026-05-20", number=2),
        basin.run("T10", "2026-08-01"),
    )
    for each in moved[:3]:
        basin.met(at_home, each, 420)
    basin.met(far, moved[3], 420)
    basin.met(late, moved[4], 420)
    basin.done()
    told = ask().data
    assert (told["homing"]["n"], told["homing"]["value"]) == (4, pytest.approx(75))
    assert [each["name"] for each in told["directions"][1:]] == ["Upstream, met in spring", "Upstream, met in autumn"]


def test_a_fish_that_died_went_nowhere(ask: Ask, basin: Basin, moved: list[Fish]) -> None:
    """From a known loss no journey begins: a correction of how it left changes the answer at once."""
    assert ask().data["n"] == 12
    first = Capture.objects.get(fish=moved[0], length_mm=350)
    Release.objects.create(capture=first, fate="dead", recorder=basin.person, device_time=first.device_time)
    basin.done()
    assert ask().data["n"] == 11


def test_where_protected_fish_were_is_not_told(ask: Ask, programme: Programme, moved: list[Fish]) -> None:
    hidden = {**species_values(species.get("wal")), "places_hidden": True}
    ProgrammeSpecies.objects.filter(programme=programme, code="wal").update(own=hidden)
    assert ask().status_code == 200
    refused = ask("viewer")
    assert (refused.status_code, refused.data["code"]) == (403, "places_hidden")


def test_nobody_met_again(ask: Ask, basin: Basin) -> None:
    basin.tagged(basin.run("T10", "2025-05-01"))
    basin.done()
    refused = ask()
    assert (refused.status_code, refused.data["code"]) == (422, "no_journeys")
    assert "A journey needs a tagged fish that is met twice" in refused.data["message"]
