"""Catch per effort, asked over HTTP."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import pytest
from rest_framework.test import APIClient

from nailwright.deck.models import Run
from nailwright.programmes.models import Programme
from server.tests.findings.basin import Basin

Ask = Callable[..., Any]


@pytest.fixture
def ask(client_as: Callable[[str], APIClient], programme: Programme) -> Ask:
    client = client_as("biologist")
    return lambda **asked: client.get(
        f"/api/v1/programmes/{programme.pk}/findings/catch-rate", {"species": "wal", **asked}
    )


@pytest.fixture
def two_years(basin: Basin) -> list[Run]:
    """Three sites in two years, a quarter of an hour each: 10 and 20 fish, none at the highest."""
    runs = []
    for year, n in ((2024, 10), (2025, 20)):
        for number, site in enumerate(("T2", "T10", "T36"), 1):
            run = basin.run(site, f"{year}-06-01", number=number, distance_m=400)
            runs.append(run)
            if site != "T36":
                basin.caught(run, n)
            basin.caught(run, 7, species="yep")
    return runs


def test_fish_over_hours_with_true_zeros(ask: Ask, two_years: list[Run]) -> None:
    told = ask().data
    assert (told["unit"], told["n"]) == ("fish per hour of current", 60)
    assert told["all"]["rate"]["value"] == pytest.approx(60 / 1.5)
    assert (told["all"]["runs"], told["all"]["empty"], told["all"]["rate"]["n"]) == (6, 2, 3)
    assert [(each["name"], each["rate"]["value"]) for each in told["groups"]] == [
        ("2024", pytest.approx(20 / 0.75)),
        ("2025", pytest.approx(40 / 0.75)),
    ]
    assert told["change"]["value"] == pytest.approx(100)
    assert "From 2024 to 2025, at the 3 sites fished in both" in told["sentence"]


def test_a_changed_run_changes_the_answer_at_once(ask: Ask, two_years: list[Run]) -> None:
    before = ask().data["all"]["rate"]["value"]
    Run.objects.filter(pk=two_years[0].pk).update(current_on_s=1800)
    assert ask().data["all"]["rate"]["value"] == pytest.approx(before * 1.5 / 1.75)


def test_bars_along_the_river_and_where_nobody_fished(ask: Ask, two_years: list[Run]) -> None:
    told = ask(by="site").data
    assert [(each["name"], each["river_km"], each["fish"]) for each in told["groups"]] == [
        ("T2", 2, 30),
        ("T10", 10, 30),
        ("T36", 36, 0),
    ]
    assert told["groups"][2]["rate"]["value"] == 0 and told["groups"][2]["rate"]["upper"] > 0
    assert told["groups"][0]["rate"]["lower"] is not None  # over its two visits
    assert told["not_fished"] == [{"name": "T25", "river_km": 25}]
    assert [each["name"] for each in ask(by="zone").data["groups"]] == ["low", "high"]


def test_by_distance_by_site_alike_and_by_size(ask: Ask, basin: Basin, two_years: list[Run]) -> None:
    assert ask(per="distance").data["all"]["rate"]["value"] == pytest.approx(60 / 24)
    assert ask(mean="site").data["all"]["rate"]["value"] == pytest.approx((60 + 60 + 0) / 3)
    basin.caught(two_years[0], mm=610)
    basin.caught(two_years[0], mm=300)
    large = ask(from_mm=510).data
    assert large["n"] == 1 and "of 510 mm or longer" in large["sentence"]
    assert "60 fish of these runs were not measured" in large["doubts"][0]


def test_what_is_not_written_down_is_left_out_and_told(ask: Ask, two_years: list[Run]) -> None:
    Run.objects.filter(pk=two_years[2].pk).update(current_on_s=0)
    told = ask().data
    assert told["left_out"] == [{"reason": "runs without effort written down", "n": 1}] and told["all"]["runs"] == 5
    Run.objects.update(current_on_s=0)
    refused = ask()
    assert (
        refused.status_code == 422
        and "None of these runs with boat electrofishing has effort" in refused.data["message"]
    )


def test_an_empty_programme_is_told_what_is_missing(ask: Ask, basin: Basin) -> None:
    refused = ask()
    assert (refused.status_code, refused.data["code"]) == (422, "no_runs")
