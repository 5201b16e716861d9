"""Catch rates of groups of runs."""

from __future__ import annotations

import math

import numpy as np
import pytest

from nailwright_core.common.errors import CoreError
from nailwright_core.findings.catches.catch_per_effort import cpue
from nailwright_core.findings.catches.catch_rates import catch_rates, rate_sentence

COUNTS = [12, 8, 0, 20, 15, 4]
EFFORT = [0.5, 0.5, 0.25, 1.0, 0.5, 0.5]
SITES = ("a", "b", "c", "a", "b", "c")
YEARS = ("2025", "2025", "2025", "2026", "2026", "2026")


def test_runs_of_a_site_are_put_together() -> None:
    found = catch_rates(COUNTS, EFFORT, SITES, YEARS)
    wanted = cpue([32, 23, 4], [1.5, 1.0, 0.75])
    assert (found.all.rate.value, found.all.rate.lower) == (wanted.value, wanted.lower)
    assert (found.all.fish, found.all.runs, found.all.empty, found.all.rate.n) == (59, 6, 1, 3)
    assert [each.name for each in found.groups] == ["2025", "2026"]
    assert found.groups[0].rate.value == pytest.approx(20 / 1.25)


def test_each_site_alike_is_the_mean_of_their_rates() -> None:
    found = catch_rates(COUNTS, EFFORT, SITES, YEARS, mean="site")
    assert found.all.rate.value == pytest.approx(np.mean([32 / 1.5, 23 / 1.0, 4 / 0.75]))


def test_the_change_is_over_sites_fished_in_both() -> None:
    found = catch_rates([*COUNTS, 900], [*EFFORT, 1.0], (*SITES, "new"), (*YEARS, "2026"))
    assert found.shared == 3
    assert found.change is not None
    assert found.change.value == pytest.approx((39 / 2.0) / (20 / 1.25) - 1)
    sentence = rate_sentence(found, "pike", "fish per hour")
    assert "From 2025 to 2026, at the 3 sites fished in both: neither a rise nor a fall is shown" in sentence


def test_a_trend_that_is_there_is_found_and_one_that_is_not_is_not_said() -> None:
    rng = np.random.default_rng(5)
    sites = np.repeat(np.arange(12), 6)
    years = np.tile(np.arange(2020, 2026), 12)
    rate = 40 * np.exp(rng.normal(0, 0.5, 12))[sites]
    falling = catch_rates(
        rng.poisson(rate * 0.8 ** (years - 2020)), np.ones(72), sites, tuple(map(str, years)), years=True
    )
    assert falling.trend is not None
    assert falling.trend.change.lower < -0.2 < falling.trend.change.upper < 0
    assert "The rate fell, -19 % a year (-21 to -16 %)" in rate_sentence(falling, "pike", "fish per hour")
    level = catch_rates(rng.poisson(rate), np.ones(72), sites, tuple(map(str, years)), years=True)
    assert "Neither a rise nor a fall is shown" in rate_sentence(level, "pike", "fish per hour")


def test_of_one_site_its_visits_are_what_the_interval_is_over() -> None:
    visits = ("v1", "v1", "v1", "v2", "v2", "v2")
    without = catch_rates(COUNTS, EFFORT, SITES, SITES)
    over = catch_rates(COUNTS, EFFORT, SITES, SITES, visits)
    assert math.isnan(without.groups[0].rate.lower)
    assert over.groups[0].rate.lower < over.groups[0].rate.value < over.groups[0].rate.upper
    assert over.all == without.all


def test_none_caught_is_no_certainty() -> None:
    found = catch_rates([0, 0, 0], [1.0, 2.0, 1.0], ("a", "b", "c"), ("x", "x", "x"))
    # exact Poisson: 3 / effort, nearly
    assert (found.all.rate.value, found.all.rate.upper) == (0.0, pytest.approx(-math.log(0.05) / 4))


@pytest.mark.parametrize(
    "change",
    [{"counts": []}, {"effort": [1.0, 0.0, 1.0]}, {"counts": [1, -1, 2]}, {"mean": "hour"}, {"groups": ("x",)}],
)
def test_what_is_no_catch_is_refused(change: dict[str, object]) -> None:
    given = {"counts": [1, 2, 3], "effort": [1.0, 1.0, 1.0], "sites": ("a", "b", "c"), "groups": ("x", "x", "y")}
    with pytest.raises(CoreError) as told:
        catch_rates(**(given | change))  # type: ignore[arg-type]
    assert told.value.field
