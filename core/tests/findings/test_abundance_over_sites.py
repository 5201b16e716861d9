"""Marks in strata, removal at many sites, and the fall of log catch per effort."""

from __future__ import annotations

import math

import numpy as np
import pytest

from bench.size import some
from nailwright_core.common.errors import CoreError
from nailwright_core.findings.abundance import (
    delury,
    leslie,
    petersen,
    petersen_strata,
    removal,
    removal_sites,
    strata_of_two_catches,
)  # fmt: skip


def test_strata_that_are_caught_unlike() -> None:
    """Large fish are marked and met more: one estimate for all is too low, the strata's sum is not."""
    rng = np.random.default_rng(1)
    strata = {"short": (3000, 60, 90), "long": (600, 120, 110)}
    held = one_held = refuted = 0
    for _ in range(300):
        told = {name: (m, c, int(rng.hypergeometric(m, n - m, c))) for name, (n, m, c) in strata.items()}
        found = petersen_strata(told)
        held += found.n.lower <= 3600 <= found.n.upper
        one = petersen(*(sum(each) for each in zip(*told.values(), strict=True))).n
        one_held += one.lower <= 3600 <= one.upper
        refuted += found.assumptions[0].verdict == "fails"
    assert held / 300 >= 0.95 > 0.1 > one_held / 300 and refuted / 300 > 0.9


def test_one_stratum_is_petersen_and_none_met_again_has_no_upper_end() -> None:
    one, plain = petersen_strata({"all": (109, 177, 57)}), petersen(109, 177, 57)
    assert (one.n.value, one.n.lower, one.n.upper) == pytest.approx((plain.n.value, plain.n.lower, plain.n.upper))
    assert one.assumptions[0].verdict == "not checked"
    assert petersen_strata({"a": (30, 60, 0), "b": (30, 60, 9)}).n.upper == math.inf
    with pytest.raises(CoreError):
        petersen_strata({})


def passes(rng: np.random.Generator, sites: int, mean: float, logit: float, spread: float, times: int) -> np.ndarray:
    p = 1 / (1 + np.exp(-(logit + spread * rng.normal(size=sites))))
    left = rng.negative_binomial(2, 2 / (2 + mean), sites)
    caught = np.empty((sites, times), dtype=int)
    for step in range(times):
        caught[:, step] = rng.binomial(left, p)
        left = left - caught[:, step]
    return caught


@pytest.mark.parametrize(("sites", "times", "logit"), some([(12, 2, 0.4), (5, 3, 0.0), (12, 3, 0.0)], 1))
def test_density_over_sites_holds_the_truth_as_often_as_it_says(sites: int, times: int, logit: float) -> None:
    rng = np.random.default_rng(2)
    hits = []
    for _ in range(50):
        try:
            found = removal_sites(passes(rng, sites, 12, logit, 0.4, times), np.full(sites, 1.5))
        except CoreError as refused:
            assert refused.code == "no_solution"
            continue
        hits.append(found.density.lower <= 8 <= found.density.upper)
    assert len(hits) > 45 and np.mean(hits) > 0.86  # Monte Carlo error 3 %; bench/coverage has more


def test_many_sites_of_few_fish_tell_the_chance_that_one_site_cannot() -> None:
    rng = np.random.default_rng(3)
    caught = passes(rng, 60, 8, 0.0, 0.3, 3)
    found = removal_sites(caught, np.ones(60))
    assert found.p == pytest.approx(0.5, abs=0.06) and found.density.value == pytest.approx(8, rel=0.25)
    unsolved = 0
    for row in caught:
        try:
            removal(row.tolist())
        except CoreError:
            unsolved += 1
    assert unsolved > 3 and (found.n >= caught.sum(axis=1)).all()
    assert found.n[caught.sum(axis=1) == 0].sum() == 0


@pytest.mark.parametrize(
    ("catches", "size", "code"),
    [
        ([[5, 2], [4, 1]], [1, 1], "sites_too_few"),
        ([[5], [4], [3]], [1, 1, 1], "passes_too_few"),
        ([[5, 2], [4, 1], [3, 1]], [1, 0, 1], "count_out_of_range"),
        ([[0, 0], [0, 0], [0, 0]], [1, 1, 1], "no_fish"),
        ([[2, 5], [1, 4], [3, 3]], [1, 1, 1], "no_solution"),
    ],
)
def test_sites_that_say_nothing(catches: list[list[int]], size: list[float], code: str) -> None:
    with pytest.raises(CoreError) as refused:
        removal_sites(catches, size)
    assert refused.value.code == code


def test_a_fall_that_rests_on_one_site_bounds_nothing_above() -> None:
    found = removal_sites([[60, 20, 5], [3, 4, 5], [2, 3, 4]], [1, 1, 1])
    assert found.density.upper == math.inf


@pytest.mark.parametrize(("fish", "q", "times"), some([(500, 0.1, 6), (300, 0.3, 4)], 1))
def test_delury_and_leslie_hold_the_truth_as_often_as_they_say(fish: int, q: float, times: int) -> None:
    rng = np.random.default_rng(4)
    hits: dict[str, list[bool]] = {"delury": [], "leslie": []}
    for _ in range(500):
        left, catches = fish, []
        for _ in range(times):
            catches.append(int(rng.binomial(left, 1 - math.exp(-q))))
            left -= catches[-1]
        for method in (delury, leslie):
            try:
                n = method(catches, [1.0] * times).n
            except CoreError:
                continue
            hits[method.__name__].append(n.lower <= fish <= n.upper)
    for found in hits.values():
        assert len(found) > 480 and 0.91 <= np.mean(found) <= 0.98  # Monte Carlo error 1 %


@pytest.mark.parametrize("method", [leslie, delury])
def test_a_catch_that_rises_again_is_no_fall(method) -> None:  # type: ignore[no-untyped-def]
    with pytest.raises(CoreError, match="rises again on occasion 5"):
        method([100, 60, 35, 20, 70], [1.0] * 5)
    assert method([100, 60, 35, 40], [1.0] * 4).n.value > 235  # within what chance does
    rng = np.random.default_rng(12)
    refused = 0
    for _ in range(400):
        left, catches = 600, []
        for _ in range(6):
            catches.append(int(rng.binomial(left, 0.25)))
            left -= catches[-1]
        try:
            method(catches, [1.0] * 6)
        except CoreError as problem:
            refused += "rises again" in problem.message
    assert refused <= 4  # where nothing rises: 1 in 1,000 at most, within what 400 tries can tell


def test_delury_refuses_what_it_cannot_take() -> None:
    for catches, code in (([5, 0, 2], "count_out_of_range"), ([2, 3, 4], "no_solution"), ([5, 4], "occasions_too_few")):
        with pytest.raises(CoreError) as refused:
            delury(catches, [1.0] * len(catches))
        assert refused.value.code == code


def test_strata_of_two_catches_are_those_that_were_counted():
    marked, caught, again = {"a": 60, "b": 30, "c": 0}, {"a": 50, "b": 40}, {"a": 9, "b": 5}
    found = strata_of_two_catches(marked, caught, again, 0, "zone")
    assert found.n == petersen_strata({"a": (60, 50, 9), "b": (30, 40, 5)}).n
    for changed, code in (
        (({"a": 60}, caught, again, 0), "strata_too_few"),
        ((marked, {**caught, "c": 2}, again, 0), "strata_without_marks"),
        ((marked, caught, again, 2), "strata_moved"),
    ):
        with pytest.raises(CoreError) as refused:
            strata_of_two_catches(*changed, "zone")
        assert refused.value.code == code
