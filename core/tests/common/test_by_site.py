"""Intervals over sites: small simulations of their coverage (the long ones are `bin/bench coverage`), and laws."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from nailwright_core.common import species
from nailwright_core.common.by_site import mean_by_site, median_by_site, share_by_site
from nailwright_core.common.clusters import jackknife, numbered
from nailwright_core.common.errors import CoreError
from nailwright_core.common.intervals import median_interval, wilson
from nailwright_core.findings.abundance import removal_sites
from nailwright_core.findings.condition import fit_length_mass
from nailwright_core.findings.relative_weight import summarise_relative_weight
from nailwright_core.findings.size_structure import proportional_size_distribution
from nailwright_core.findings.value_comparison import mean_difference

WALLEYE = species.get("wal")


def alike_fish(sites: int, each: int, icc: float, rng: np.random.Generator) -> tuple[np.ndarray, np.ndarray]:
    """Standard normal values of which sites explain a share, with sites of unlike size, and the site of each."""
    n = rng.negative_binomial(3, 3 / (3 + each), sites) + 1
    site = np.repeat(np.arange(sites), n)
    of_site = rng.normal(0, math.sqrt(icc), sites)
    return of_site[site] + rng.normal(0, math.sqrt(1 - icc), site.size), site


@pytest.mark.parametrize("sites", [5, 12, 40])
def test_the_mean_lies_in_the_interval_as_often_as_it_says(sites: int) -> None:
    rng = np.random.default_rng(1)
    found = [mean_by_site(*alike_fish(sites, 20, 0.2, rng))[0] for _ in range(600)]
    assert 0.91 <= np.mean([each.lower <= 0 <= each.upper for each in found]) <= 0.98  # Monte Carlo error 0.9 %


def test_psd_of_twelve_sites_of_like_fish() -> None:
    """Twelve sites of twenty fish at an intraclass correlation of 0.1: over fish 78 of 100 hold, over sites 95."""
    rng = np.random.default_rng(2)
    over_sites = over_fish = 0
    for _ in range(600):
        site = np.repeat(np.arange(12), 20)
        # logit-normal shares with ICC 0.1 on the liability
        liability = rng.normal(0, math.sqrt(0.2), 12)[site] + rng.normal(0, math.sqrt(0.8), 240)
        lengths = np.where(liability > 0, 400.0, 300.0)
        share = proportional_size_distribution(lengths, WALLEYE.size_categories, sites=site).psd
        over_sites += share.lower <= 50 <= share.upper
        plain = wilson(int((liability > 0).sum()), 240)
        over_fish += plain[0] <= 0.5 <= plain[1]
    assert over_fish / 600 < 0.83
    assert 0.92 <= over_sites / 600 <= 0.98


@pytest.mark.parametrize("icc", [0.0, 0.3])
def test_the_median_lies_in_its_interval_at_least_as_often(icc: float) -> None:
    rng = np.random.default_rng(3)
    hits = 0
    for _ in range(300):
        values, site = alike_fish(12, 20, icc, rng)
        found, _ = median_by_site((100 * values).round(), site)
        hits += found.lower <= 0 <= found.upper
    assert hits / 300 >= 0.9  # Monte Carlo error 1.4 %


def test_the_true_slope_lies_in_the_interval_where_sites_move_the_line() -> None:
    rng = np.random.default_rng(4)
    over_sites = over_fish = 0
    for _ in range(300):
        bend, site = alike_fish(12, 20, 0.999, rng)
        x = rng.uniform(2.3, 2.8, site.size)
        mass = 10 ** (-5.4 + (3.1 + 0.1 * bend) * x - 0.255 * bend + rng.normal(0, 0.03, site.size))
        for sites in (site, None):
            b = fit_length_mass(10**x, mass, sites=sites).b
            if sites is None:
                over_fish += b.lower <= 3.1 <= b.upper
            else:
                over_sites += b.lower <= 3.1 <= b.upper
    assert over_fish / 300 < 0.8 and 0.9 <= over_sites / 300 <= 0.98


@settings(deadline=None, max_examples=30)
@given(st.lists(st.integers(0, 4), min_size=12, max_size=40), st.integers(1, 7))
def test_names_and_order_of_sites_change_nothing(sites: list[int], factor: int) -> None:
    values = np.random.default_rng(5).normal(0, 1, len(sites))
    before, alike = mean_by_site(values, sites)
    order = np.random.default_rng(6).permutation(len(sites))
    for again in (mean_by_site(values, [f"K{factor * each}" for each in sites]),
                  mean_by_site(values[order], np.array(sites)[order])):  # fmt: skip
        assert (again[0].value, again[0].lower) == pytest.approx((before.value, before.lower), nan_ok=True)
        assert again[1].icc == pytest.approx(alike.icc, nan_ok=True)


def test_every_fish_its_own_site_is_the_t_interval() -> None:
    values = np.random.default_rng(7).normal(90, 8, 25)
    found, alike = mean_by_site(values, np.arange(25))
    se = values.std(ddof=1) / 5
    assert found.se == pytest.approx(se) and found.upper - found.value == pytest.approx(2.0639 * se, rel=1e-4)
    assert math.isnan(alike.icc)


def test_one_site_has_no_interval_over_sites_and_says_so() -> None:
    found, alike = mean_by_site([90.0, 95, 99], ["K1"] * 3)
    assert math.isnan(found.lower) and alike.sites == 1 and alike.assumption.verdict == "not checked"
    weights = summarise_relative_weight(WALLEYE, [300.0, 400, 500], [260.0, 650, 1300], sites=["K1"] * 3)
    assert math.isfinite(weights.overall.lower) and weights.likeness is not None and weights.likeness.sites == 1
    median, _ = median_by_site(range(1, 30), ["K1"] * 29)
    assert median == median_interval(range(1, 30))
    share = proportional_size_distribution([300.0, 400, 420], WALLEYE.size_categories, sites=["K1"] * 3).psd
    assert (share.lower, share.upper) == pytest.approx(tuple(100 * end for end in wilson(2, 3)))


def test_few_sites_are_doubtful() -> None:
    _, alike = mean_by_site([1.0, 2, 3, 4, 5, 7], [0, 0, 1, 1, 2, 2])
    assert alike.assumption.verdict == "doubtful" and "fewer than 5 sites" in alike.assumption.detail


def test_none_and_all_have_an_end_of_their_own() -> None:
    for hits in ([0, 0, 0], [9, 4, 7]):
        found, _ = share_by_site(hits, [9, 4, 7])
        assert (found.lower == 0) == (sum(hits) == 0) and (found.upper == 1) == (sum(hits) == 20)
        assert 0.1 < found.upper - found.lower < 0.9
    assert (share_by_site([0], [0])[0].lower, share_by_site([0], [0])[0].upper) == (0, 1)


def test_an_estimate_that_cannot_do_without_a_site_has_no_covariance() -> None:
    sums = np.array([[3.0, 5.0], [0.0, 0.0]])
    value, covariance = jackknife(sums, lambda s: s[..., 1:] / s[..., :1])
    assert value[0] == pytest.approx(5 / 3) and math.isnan(covariance[0, 0])


def test_a_site_for_each_fish_is_asked() -> None:
    with pytest.raises(CoreError) as refused:
        numbered(["K1"], 2)
    assert (refused.value.code, refused.value.field) == ("lengths_differ", "sites")


def test_numbers_of_sites_are_made_small_without_sorting() -> None:
    number, many = numbered(np.array([7, 3, 7, 900]), 4)
    assert (number.tolist(), many) == ([1, 0, 1, 2], 3)
    assert numbered(np.array([7, 3, 7, 10**9]), 4)[0].tolist() == [1, 0, 1, 2]


def test_sites_whose_means_are_alike_are_no_certainty() -> None:
    """Three sites of the very same fish: no spread between them, and the interval is that of as many independent fish."""
    fish = np.array([300.0, 340, 380, 420])
    found, _ = mean_by_site(np.tile(fish, 3), np.repeat(np.arange(3), 4))
    of_fish = math.sqrt(fish.var(ddof=1) / 12)
    assert found.upper - found.value == pytest.approx(1.959964 * of_fish, rel=1e-6) and found.se == pytest.approx(
        of_fish
    )
    difference, p = mean_difference(
        np.tile(fish, 3), np.tile(fish + 10, 3), sites=(np.repeat(np.arange(3), 4), np.repeat(np.arange(3, 6), 4))
    )
    assert difference.lower < 0 < difference.upper and p > 0.3


def test_removal_at_sites_that_all_caught_alike_is_no_certainty() -> None:
    found = removal_sites([[10, 5, 2]] * 3, np.ones(3)).density
    assert math.log(found.upper / found.value) == pytest.approx(1.959964 / math.sqrt(51), rel=1e-6)
