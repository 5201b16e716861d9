"""Permuting sites: against every labelling written down, and how often a difference that is none is found."""

from __future__ import annotations

import math
from itertools import combinations

import numpy as np
import pytest

from bench.size import some
from nailwright_core.common import species
from nailwright_core.findings.condition_comparison import compare_condition
from nailwright_core.findings.line_comparison import compare_lines
from nailwright_core.findings.site_permutation import by_site
from nailwright_core.findings.size_structure import compare_lengths
from nailwright_core.findings.value_comparison import compare_values, mean_difference

WALLEYE = species.get("wal")
CATEGORIES = {"stock": 250, "quality": 380, "preferred": 510, "memorable": 630, "trophy": 760}


def two(sites: int, rng: np.random.Generator, shared: bool = False, by: float = 0.0, icc: float = 0.2):  # type: ignore[no-untyped-def]
    """Two groups of lengths with the site of each; both groups at the same sites, or each at its own."""
    of_site = rng.normal(0, math.sqrt(icc), 2 * sites)
    groups = []
    for group in (0, 1):
        n = rng.negative_binomial(3, 3 / 23, sites) + 1
        site = np.repeat(np.arange(sites) + (0 if shared else group * sites), n)
        values = of_site[site] + rng.normal(0, math.sqrt(1 - icc), site.size)
        groups.append(((400 + 60 * values + by * group).round(), site))
    return groups


def ks_distance(a: np.ndarray, b: np.ndarray) -> float:
    return max(abs(np.mean(a <= v) - np.mean(b <= v)) for v in np.unique([*a, *b]))


def test_ks_against_every_labelling_written_down() -> None:
    rng = np.random.default_rng(1)
    (a, sa), (b, sb) = two(3, rng, by=40)
    values, site = np.concatenate([a, b]), np.concatenate([sa, sb])
    seen = ks_distance(a, b)
    every = [
        ks_distance(values[~np.isin(site, chosen)], values[np.isin(site, chosen)])
        for chosen in combinations(range(6), 3)
    ]
    permuted = by_site(a, b, sa, sb, rng)
    assert permuted.every and len(permuted.labellings) == 20
    assert permuted.ks() == pytest.approx((seen, np.mean([each >= seen - 1e-12 for each in every])))


def test_a_site_of_both_groups_changes_labels_within_itself() -> None:
    rng = np.random.default_rng(2)
    (a, sa), (b, sb) = two(5, rng, shared=True)
    permuted = by_site(a, b, sa, sb, rng)
    assert permuted.every and len(permuted.labellings) == 32 and permuted.sites == 5
    assert (permuted.labellings.sum(axis=1) == 5).all() and (permuted.labellings[0] == permuted.second).all()
    # at each site one cell, never both, is of the second group
    assert (permuted.labellings[:, ::2] != permuted.labellings[:, 1::2]).all()


@pytest.mark.parametrize(("sites", "shared"), some([(6, False), (12, False), (8, True)], 1))
def test_a_difference_that_is_none_is_found_as_seldom_as_it_says(sites: int, shared: bool) -> None:
    """At an intraclass correlation of 0.2, where permuting fish raises false alarms in a quarter to a half of surveys."""
    rng = np.random.default_rng(3)
    ks = shift = plain = held = 0
    for _ in range(100):
        (a, sa), (b, sb) = two(sites, rng, shared)
        found = compare_lengths(a, b, sites=(sa, sb))
        ks += found.ks_p <= 0.05
        shift += found.shift_p <= 0.05
        held += found.shift.lower <= 0 <= found.shift.upper
        plain += compare_lengths(a, b).shift_p <= 0.05
    assert (
        ks / 100 <= 0.12 and shift / 100 <= 0.12 and held / 100 > 0.88
    )  # Monte Carlo error 2.2 %; bench/coverage has more
    assert shared or plain / 100 > 0.15


def test_p_and_interval_of_a_shift_say_the_same() -> None:
    rng = np.random.default_rng(4)
    for by in (0, 15, 30, 60):
        (a, sa), (b, sb) = two(7, rng, by=by)
        for sites in ((sa, sb), None):
            found = compare_lengths(a, b, sites=sites)
            assert (found.shift_p < 0.05) == (not found.shift.lower <= 0 <= found.shift.upper)


def test_too_few_sites_leave_the_shift_without_limits_and_say_so() -> None:
    rng = np.random.default_rng(5)
    (a, sa), (b, sb) = two(2, rng, by=300)
    found = compare_lengths(a, b, sites=(sa, sb), categories=CATEGORIES)
    permuted, _ = by_site(a, b, sa, sb, rng).shift(0.95)
    assert (permuted.lower, permuted.upper) == (-math.inf, math.inf)
    assert found.shift.lower < 300 < found.shift.upper and found.shift.interval == "t over 4 sites"
    doubt = next(each for each in found.assumptions if "alike" in each.name)
    assert doubt.verdict == "doubtful" and "permuted in 6 ways" in doubt.detail
    assert found.test == "means and PSD by t over sites" and found.p <= min(1, 2 * found.shift_p)
    assert found.category_p is not None and found.category_p >= 1 / 6


def test_few_sites_see_a_change_of_shape_that_leaves_the_mean() -> None:
    rng = np.random.default_rng(13)
    site = np.repeat(np.arange(4), 60)
    narrow, wide = rng.normal(360, 15, 240), np.where(rng.random(240) < 0.5, 300.0, 420.0) + rng.normal(0, 5, 240)
    found = compare_lengths(narrow, wide, sites=(site, site), categories=CATEGORIES)
    assert found.shift_p > 0.02 > 0.005 > found.p
    without = compare_lengths(narrow, wide, sites=(site, site))
    assert (without.test, without.p) == ("means by t over sites", without.shift_p)
    short = compare_lengths(narrow / 10, wide / 10, sites=(site, site), categories=CATEGORIES)
    assert short.test == "means by t over sites"  # no fish of stock length


def test_as_many_sites_are_too_few_for_many_comparisons() -> None:
    """Seven shared sites give a p of 0.016: enough for one comparison, none after Holm's correction for ten."""
    (a, sa), (b, sb) = two(7, np.random.default_rng(7), shared=True, by=60)
    one, ten = (compare_lengths(a, b, sites=(sa, sb), tests=tests) for tests in (1, 10))
    assert (one.test, ten.test) == ("Kolmogorov-Smirnov", "means by t over sites")
    assert one.p == one.ks_p >= 1 / 128 and ten.p < 0.005


def test_a_shift_is_found_and_measured_over_sites() -> None:
    (a, sa), (b, sb) = two(12, np.random.default_rng(6), shared=True, by=50)
    found = compare_lengths(a, b, sites=(sa, sb), categories=CATEGORIES)
    assert found.ks_p < 0.01 and found.shift.lower < 50 < found.shift.upper and found.shift.lower > 0


def test_equal_fish_do_not_differ() -> None:
    found = compare_lengths([300.0] * 4, [300.0] * 5, sites=([0, 0, 1, 1], [2, 2, 3, 3, 3]), categories=CATEGORIES)
    assert (found.ks, found.ks_p, found.shift.value, found.shift_p, found.category_p) == (0, 1, 0, 1, None)


def test_values_over_sites() -> None:
    rng = np.random.default_rng(7)
    (a, sa), (b, sb) = two(9, rng, by=-40)
    (pair,) = compare_values({"a": a / 4, "b": b / 4}, sites={"a": sa, "b": sb})
    assert pair.difference.lower < -10 < pair.difference.upper and pair.difference.interval == "t over 18 sites"


def test_thousands_of_different_values_are_told_to_a_part_of_their_range() -> None:
    many, site = np.random.default_rng(7).normal(95, 8, 6000), np.arange(3000) % 6
    found, _ = by_site(many[:3000], many[3000:] + 3, site, site, np.random.default_rng(1)).shift(0.9)
    assert found.value == pytest.approx(np.median(np.subtract.outer(many[3000:] + 3, many[:3000])), abs=0.02)


def test_difference_of_means_is_paired_where_sites_are_shared() -> None:
    """Sites that move both groups alike do not blur the difference."""
    rng = np.random.default_rng(8)
    of_site, site = rng.normal(0, 10, 10), np.repeat(np.arange(10), 15)
    a, b = (of_site[site] + rng.normal(0, 1, 150) for _ in range(2))
    paired, p = mean_difference(a, b, sites=(site, site))
    apart, p_apart = mean_difference(a, b, sites=(site, site + 10))
    assert p < p_apart
    assert paired.upper - paired.lower < 1 < 10 < apart.upper - apart.lower
    welch, _ = mean_difference(a, b)
    assert welch.value == pytest.approx(paired.value) and welch.interval == "Welch's t"


def weighed(site: np.ndarray, of_site: np.ndarray, rng: np.random.Generator, factor: float = 1.0):  # type: ignore[no-untyped-def]
    mm = rng.uniform(200, 600, site.size)
    return mm, factor * 10 ** (-5.4 + 3.15 * np.log10(mm) + of_site[site] + rng.normal(0, 0.04, site.size))


@pytest.mark.parametrize("sites", some([4, 6, 12], 1))
def test_lines_that_are_the_same_are_refuted_as_seldom_as_it_says(sites: int) -> None:
    rng = np.random.default_rng(9)
    refuted = plain = 0
    for _ in range(300):
        of_site, number = rng.normal(0, 0.02, 2 * sites), np.repeat(np.arange(sites), rng.integers(5, 30, sites))
        groups = {"a": weighed(number, of_site, rng), "b": weighed(number + sites, of_site, rng)}
        where = {"a": number, "b": number + sites}
        refuted += compare_lines(groups, sites=where).pairs[0].p <= 0.05
        plain += compare_lines(groups).pairs[0].p <= 0.05
    assert refuted / 300 <= 0.1 and plain / 300 > 0.15  # Monte Carlo error 1.3 %


def test_one_family_keeps_any_false_alarm_rare() -> None:
    rng = np.random.default_rng(10)
    alarms = 0
    for _ in range(200):
        number = np.repeat(np.arange(8), 12)
        groups = {name: weighed(number, np.zeros(8), rng) for name in "abc"}
        found = compare_condition(WALLEYE, groups, sites=dict.fromkeys("abc", number))
        alarms += bool(np.nanmin([*found.line_p, *found.wr_p]) <= 0.05)
    assert alarms / 200 <= 0.09
    assert len(found.line_p) == len(found.wr_p) == 3 and {each.category for each in found.by_category} >= {"S-Q", "Q-P"}


def test_groups_of_one_site_each_cannot_be_told_over_sites() -> None:
    rng = np.random.default_rng(11)
    one = np.zeros(30, dtype=int)
    groups = {"a": weighed(one, np.zeros(1), rng), "b": weighed(one, np.zeros(1), rng, 0.8)}
    found = compare_condition(WALLEYE, groups, sites={"a": one, "b": one + 1})
    assert np.isnan(found.line_p).all() and math.isnan(found.lines.pairs[0].differences[0].lower)
