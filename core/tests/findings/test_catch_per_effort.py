"""Catch per effort over strata, between two visits and over years."""

from __future__ import annotations

import math

import numpy as np
import pytest

from nailwright_core.common.errors import CoreError
from nailwright_core.findings.catches.catch_per_effort import cpue, cpue_change, cpue_stratified, cpue_trend, trend_many
from nailwright_core.plan.rehearsal import TrendDesign, rehearse


def negative_binomial(rng: np.random.Generator, mean: np.ndarray | float, k: float, size: object = None) -> np.ndarray:
    return rng.negative_binomial(k, k / (k + np.asarray(mean)), size)  # type: ignore[call-overload]


def test_strata_by_hand() -> None:
    counts, effort, strata = [4, 6, 20, 30, 25], [1.0, 1.0, 1.0, 1.0, 1.0], ["a", "a", "b", "b", "b"]
    found = cpue_stratified(counts, effort, strata, {"a": 3, "b": 1})
    a, b = cpue(counts[:2], effort[:2]), cpue(counts[2:], effort[2:])
    assert found.value == pytest.approx(0.75 * 5 + 0.25 * 25)
    assert found.se == pytest.approx(math.hypot(0.75 * a.se, 0.25 * b.se))
    all_seen = cpue_stratified(counts, effort, strata, {"a": 3, "b": 1}, sites_in_all={"a": 2, "b": 3})
    # every site was fished: what is left is what the counts vary by chance, sqrt(0.75^2 x 10 / 4 + 0.25^2 x 75 / 9)
    assert all_seen.se == pytest.approx(math.sqrt(0.75**2 * 10 / 4 + 0.25**2 * 75 / 9))
    one = cpue_stratified(counts, effort, ["all"] * 5, {"all": 7.5})
    whole = cpue(counts, effort)
    assert (one.value, one.lower, one.upper) == pytest.approx((whole.value, whole.lower, whole.upper))


@pytest.mark.parametrize(
    ("strata", "shares", "words"),
    [
        (["a", "a", "b"], {"a": 1, "b": 1}, "Stratum b needs"),
        (["a", "a", "a"], {"b": 1}, "Stratum a needs"),
        (["a", "a", "a"], {"a": 1, "c": 1}, "No site was sampled in c"),
    ],
)
def test_strata_that_say_nothing_are_refused(strata: list[str], shares: dict[str, float], words: str) -> None:
    with pytest.raises(CoreError, match=words):
        cpue_stratified([1, 2, 3], [1, 1, 1], strata, shares)


def test_strata_hold_the_truth_as_often_as_they_say() -> None:
    rng = np.random.default_rng(1)
    strata, shares, means = (
        np.repeat(["a", "b", "c"], [5, 6, 8]),
        {"a": 1.0, "b": 3.0, "c": 2.0},
        {"a": 3.0, "b": 12.0, "c": 30.0},
    )
    truth = (3 + 3 * 12 + 2 * 30) / 6
    hits = 0
    for _ in range(600):
        found = cpue_stratified(
            negative_binomial(rng, [means[each] for each in strata], 2.0), np.ones(19), strata, shares
        )
        hits += found.lower <= truth <= found.upper
    assert 0.91 <= hits / 600 <= 0.98  # Monte Carlo error 0.9 %


def test_no_catch_in_any_stratum_has_an_exact_end() -> None:
    """The largest weighted density that three sites of nothing do not refute: -ln 0.05 over the effort of the worst stratum."""
    found = cpue_stratified([0, 0, 0, 0], [1.0, 1.0, 2.0, 2.0], ["a", "a", "b", "b"], {"a": 1, "b": 3})
    assert (found.value, found.lower) == (0, 0) and found.upper == pytest.approx(
        -math.log(0.05) * max(0.25 / 2, 0.75 / 4)
    )


def test_a_change_at_the_same_sites_leaves_out_what_sites_have_for_themselves() -> None:
    rng = np.random.default_rng(2)
    hits, widths, apart = 0, [], []
    for _ in range(500):
        site = np.exp(rng.normal(0, 1, 12))
        first, second = negative_binomial(rng, 20 * site, 8.0), negative_binomial(rng, 14 * site, 8.0)
        if not first.any() or not second.any():
            continue
        found = cpue_change((first, np.ones(12)), (second, np.ones(12)))
        hits += found.lower <= -0.3 <= found.upper
        widths.append(found.upper - found.lower)
        low, high = cpue(first, np.ones(12)), cpue(second, np.ones(12))
        apart.append(math.hypot(low.se / low.value, high.se / high.value) * 2 * 2.2 * 0.7)
    assert 0.91 <= hits / 500 <= 0.98 and np.median(widths) < 0.6 * np.median(apart)


def test_a_change_from_or_to_nothing_is_exact() -> None:
    """8 fish, all in the second visit of like effort: the share is at least 0.631 (Clopper and Pearson), the odds 1.71."""
    gone = cpue_change(([5, 3, 0], [1, 1, 1]), ([0, 0, 0], [1, 1, 1]))
    come = cpue_change(([0, 0, 0], [1, 1, 1]), ([5, 3, 0], [1, 1, 1]))
    assert gone.value == gone.lower == -1 and gone.upper == pytest.approx(0.3694 / 0.6306 - 1, abs=2e-3)
    assert come.value == come.upper == math.inf and come.lower == pytest.approx(0.6306 / 0.3694 - 1, abs=2e-3)
    for pair in ((([0, 0], [1, 1]), ([0, 0], [1, 1])), (([1], [1]), ([1], [1]))):
        with pytest.raises(CoreError):
            cpue_change(*pair)


@pytest.mark.parametrize(
    ("sites", "years", "year_sd", "least"), [(10, 5, 0.0, 0.93), (10, 10, 0.3, 0.91), (30, 6, 0.3, 0.89)]
)
def test_a_trend_is_neither_shrunk_nor_too_sure(sites: int, years: int, year_sd: float, least: float) -> None:
    """log(mean + 0.5) made -3.4 % of -10 % a year where few were caught; and years that all sites share must widen the interval."""
    rng = np.random.default_rng(3)
    when = np.arange(years, dtype=float)
    mean = 2 * 0.9**when * np.exp(rng.normal(0, 0.5, (800, sites, 1)) + rng.normal(0, year_sd, (800, 1, years)))
    value, _, lower, upper, of_years = trend_many(negative_binomial(rng, mean, 2.0), None, when, 0.95)
    known = np.isfinite(value)
    assert known.mean() > 0.99 and np.median(value[known]) == pytest.approx(-0.1, abs=0.012)
    assert least <= np.mean((lower <= -0.1) & (upper >= -0.1)) <= 0.985  # Monte Carlo error 0.8 %
    assert (np.nanmean(of_years) > 0.3) == (year_sd > 0)


def test_one_trend_is_that_of_many_and_sites_not_visited_do_not_tilt_it() -> None:
    rng = np.random.default_rng(4)
    site = np.exp(rng.normal(0, 1.5, (40, 1)))
    effort = np.where(rng.random((40, 6)) < 0.6, 1.5, 0.0)
    counts = rng.poisson(30 * site * 0.85 ** np.arange(6) * effort)
    found = cpue_trend(counts, effort, 2020 + np.arange(6.0))
    assert found.change.lower < -0.15 < found.change.upper and found.change.value == pytest.approx(-0.15, abs=0.02)
    # as if rich sites had been visited late
    effort[site.ravel() > 1, :3] = 0
    counts = np.where(effort > 0, counts, 0)
    assert cpue_trend(counts, effort, np.arange(6.0)).change.value == pytest.approx(-0.15, abs=0.05)


@pytest.mark.parametrize(
    ("counts", "effort", "years", "code"),
    [
        ([[1, 2, 3]], [[1, 1, 1]], [1, 2, 3], "no_data"),
        ([[1, 2], [3, 4]], [[1, 1], [1, 1]], [1, 2], "no_data"),
        ([[0, 0, 0], [0, 0, 0]], [[1, 1, 1], [1, 1, 1]], [1, 2, 3], "no_data"),
        ([[1, 2, 3], [4, 5, 6]], [[1, 1, 0], [1, 1, 1]], [1, 2, 3], "count_out_of_range"),
    ],
)
def test_no_trend_can_be_told(counts: object, effort: object, years: list[float], code: str) -> None:
    with pytest.raises(CoreError) as refused:
        cpue_trend(counts, effort, years)  # type: ignore[arg-type]
    assert refused.value.code == code


def test_rehearsal_uses_the_same_estimator() -> None:
    """Few fish at a site: the answers lie about the truth, and years that differ for all sites make it less sure."""
    calm = rehearse(TrendDesign(sites=20, years=6, mean=1.0, k=1.0, change=-0.1, site_sd=0.4), 400, seed=1)
    rough = rehearse(
        TrendDesign(sites=20, years=6, mean=1.0, k=1.0, change=-0.1, site_sd=0.4, year_sd=0.4), 400, seed=1
    )
    assert abs(calm.bias) < 0.015 and 0.92 <= calm.coverage <= 0.99
    assert rough.within < calm.within and rough.coverage > 0.85


def test_sites_that_all_caught_alike_are_no_certainty() -> None:
    """Equal counts leave no spread between sites: the interval is never narrower than the counts' own chance (Poisson)."""
    rate = cpue([4, 4, 4], [1.0, 1, 1])
    assert rate.se == pytest.approx(math.sqrt(12) / 3) and (rate.lower, rate.upper) == pytest.approx(
        (2.272, 7.043), abs=0.001
    )  # 4 exp(-+ 1.96 x 1.1547 / 4)
    every = cpue([4, 9, 6], [1.0, 1, 1], sites_in_all=3)  # all sites fished: the counts still vary
    assert every.se == pytest.approx(math.sqrt(19) / 3)
    change = cpue_change(([6, 6, 6], [1.0] * 3), ([6, 6, 6], [1.0] * 3))
    assert (change.lower, change.upper) == pytest.approx((-0.4797, 0.9219), abs=1e-4)  # exp(-+ 1.96 sqrt(2 / 18)) - 1
    years = cpue_trend([[8, 8, 8, 8]] * 4, np.ones((4, 4)), [2020, 2021, 2022, 2023]).change
    assert years.value == pytest.approx(0.0) and years.upper - years.lower > 0.1


def test_the_floor_makes_no_interval_of_poisson_catches_too_wide() -> None:
    """Seeded simulation of six sites at which nothing but chance differs: 95 to 98.5 % of intervals hold the truth."""
    rng = np.random.default_rng(7)
    found = [cpue(rng.poisson(6, 6), np.ones(6)) for _ in range(1500)]
    held = np.mean([each.lower <= 6 <= each.upper for each in found])
    assert 0.945 < held < 0.985
