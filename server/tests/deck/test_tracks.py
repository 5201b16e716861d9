"""Where runs went: positions as they come, in any order, from two tablets, by a wrong clock."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import pytest
from rest_framework.test import APIClient

from nailwright.deck.models import Capture, Outing, Run, TrackPart
from nailwright.programmes.models import Programme, ProgrammeSpecies
from nailwright.waters.models import Water
from nailwright_core.common import species
from nailwright_core.common.species_values import species_values
from server.tests.conftest import BEGAN, operation

Send = Callable[..., Any]
#: 0.0001 degrees of latitude here, m.
STEP_M = 11.113


def fixes(n: int, first: int = 0, behind_s: float = 0) -> list[list[float]]:
    """Northward, a position every five seconds."""
    at = BEGAN.timestamp() - behind_s
    return [[at + 5 * place, 44.9 + 1e-4 * place, -31.5] for place in range(first, first + n)]


def add(run: Run, some: list[list[float]], **more: Any) -> dict[str, Any]:
    return {**operation("track.add", run=str(run.pk), fixes=some), **more}


def track(client: APIClient, outing: Outing) -> dict[str, Any]:
    (told,) = client.get(f"/api/v1/outings/{outing.pk}/tracks").data
    return dict(told)


def test_parts_in_any_order_are_one_line_once(sync: Send, crew: APIClient, outing: Outing, run: Run) -> None:
    assert crew.get(f"/api/v1/outings/{outing.pk}/tracks").data == []
    later, sooner = add(run, fixes(10, 10)), add(run, fixes(10))
    assert sync(later, sooner).status_code == 200
    assert {each["state"] for each in sync(sooner, later).data["results"]} == {"already"}
    told = track(crew, outing)
    assert told["length_m"] == pytest.approx(19 * STEP_M, abs=0.5) and told["gaps"] == 0
    assert len(told["pieces"][0]) == 2  # a straight line is its two ends


def test_of_two_tablets_the_one_with_most_positions_counts(
    sync: Send, client_as: Any, crew: APIClient, outing: Outing, run: Run
) -> None:
    sync(add(run, fixes(4)))
    aside = [[at + 1, lat, lon + 1e-4] for at, lat, lon in fixes(20)]
    sync(add(run, aside), client=client_as("biologist"))
    assert track(crew, outing)["length_m"] == pytest.approx(19 * STEP_M, abs=0.5)


def test_a_wrong_clock_is_put_right_and_a_gap_stays(sync: Send, crew: APIClient, outing: Outing, run: Run) -> None:
    sync(add(run, fixes(5, behind_s=3600), clock_offset_s=3600.0), add(run, fixes(5, 5)))
    told = track(crew, outing)
    assert told["gaps"] == 0 and told["length_m"] == pytest.approx(9 * STEP_M, abs=0.5)
    sync(add(run, fixes(5, 100)))
    told = track(crew, outing)
    assert told["gaps"] == 1 and told["length_m"] == pytest.approx(13 * STEP_M, abs=0.5)


@pytest.mark.parametrize(
    "bad",
    [None, [], "x", [[1, 2]], [[1, 2, "3"]], [[True, 1, 1]], [[1e9, 95, 0]], [[-1, 1, 1]], [[1e9, 1, 1]] * 1001, [1e9, 1, 1]],
    ids=["none", "empty", "text", "short", "words", "flag", "off-the-earth", "before-1970", "too-many", "flat"],
)  # fmt: skip
def test_refused_in_words(sync: Send, run: Run, bad: Any) -> None:
    assert sync(operation("track.add", run=str(run.pk), fixes=bad)).data["code"] == "fixes_unreadable"
    assert not TrackPart.objects.exists()


def test_after_closing_and_before_the_run(sync: Send, outing: Outing, run: Run) -> None:
    nobodys = "01900000-0000-7000-8000-000000000001"
    assert sync(operation("track.add", run=nobodys, fixes=fixes(2))).data["results"][0]["state"] == "failed"
    Outing.objects.update(state="closed")
    assert sync(add(run, fixes(2))).data["code"] == "outing_closed"


@pytest.mark.parametrize("role", ["viewer", "crew"])
def test_who_may_not_see_all_places_sees_no_line(
    client_as: Any, sync: Send, programme: Programme, outing: Outing, run: Run, role: str
) -> None:
    sync(add(run, fixes(5)))
    hidden = {**species_values(species.get("wal")), "places_hidden": True}
    ProgrammeSpecies.objects.filter(programme=programme, code="wal").update(own=hidden)
    Programme.objects.update(species_revision=11)
    told = client_as(role).get(f"/api/v1/outings/{outing.pk}/tracks").data
    assert len(told) == (0 if role == "viewer" else 1)


def test_positions_on_land_are_said_and_stay(
    sync: Send, called: Any, crew: APIClient, outing: Outing, run: Run
) -> None:
    sync(add(run, fixes(20)), called())
    assert (track(crew, outing)["off_water"], track(crew, outing)["off_water_m"]) == (0, 0)  # the water is not drawn
    river = {"type": "LineString", "coordinates": [[-31.49, 44.8], [-31.49, 45.0]]}
    Water.objects.update(geometry=river)
    told = track(crew, outing)
    assert told["off_water"] == 20 and told["off_water_m"] == pytest.approx(
        790, abs=5
    )  # 0.01 degrees of longitude at 44.9 N
    assert told["length_m"] == pytest.approx(19 * STEP_M, abs=0.5)
    assert told["water"] == {"areas": [], "islands": [], "lines": []}  # it is too far off to be drawn beside
    Water.objects.update(geometry={**river, "coordinates": [[-31.501, 44.8], [-31.501, 45.0]]})
    told = track(crew, outing)
    assert told["off_water"] == 0
    ((first, *_),) = told["water"]["lines"]
    assert first[1] == -31.501

    def open_lines() -> str:
        return " ".join(crew.get(f"/api/v1/outings/{outing.pk}/ledger").data["open"])

    fish = str(Capture.objects.get().pk)
    sync(operation("event.record", what="let_go", details={"lat": 44.9, "lon": -31.5}, capture=fish))
    assert "not on" not in open_lines()
    sync(operation("event.record", what="let_go", details={"lat": 44.9, "lon": -31.6}, capture=fish))
    assert "1 fish was let go at a position that is not on Ketterwick River" in open_lines()
    sync(operation("event.record", what="let_go", details={"lat": 44.9, "lon": -31.61}, capture=fish))
    assert "1 fish was let go" in open_lines()  # said twice, it is one fish
    sync(operation("event.record", what="let_go", details={"words": "off the jetty"}, capture=fish))
    assert "not on" not in open_lines()  # what was said last of it names no position
