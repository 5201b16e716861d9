from __future__ import annotations

import math
from collections.abc import Callable

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.stats import hypergeom

from nailwright_core.common.errors import CoreError
from nailwright_core.findings.abundance import (
    chapman_intervals,
    leslie,
    petersen,
    removal,
    removal_many,
    repeated_catches,
    schnabel,
)


@pytest.mark.parametrize(
    ("call", "code"),
    [
        (lambda: petersen(10, 20, 11), "count_out_of_range"),
        (lambda: petersen(-1, 20, 0), "count_out_of_range"),
        (lambda: petersen(0, 20, 0), "count_out_of_range"),
        (lambda: petersen(10, 20, 0, "petersen"), "no_recaptures"),
        (lambda: petersen(10, 20, 2, "other"), "choice_unknown"),
        (lambda: schnabel([10], [1], [5]), "occasions_too_few"),
        (lambda: schnabel([10, 5], [0, 0], [0, 10]), "no_recaptures"),
        (lambda: schnabel([10, 5], [0, 6], [0, 10]), "count_out_of_range"),
        (lambda: removal([5]), "passes_too_few"),
        (lambda: removal([0, 0, 0]), "no_fish"),
        (lambda: removal([5, 5, 5], "zippin"), "no_solution"),
        (lambda: removal([5, 9], "two-pass"), "no_solution"),
        (lambda: removal([5, 3, 1], "two-pass"), "passes_too_many"),
        (lambda: removal([5, 9, 12]), "no_solution"),
        (lambda: removal([5, -1]), "count_out_of_range"),
        (lambda: removal([5, 2.5]), "count_out_of_range"),  # type: ignore[list-item]
        (lambda: removal([5, float("nan")]), "number_out_of_range"),  # type: ignore[list-item]
        (lambda: removal([5, 2], level=1.0), "level_out_of_range"),
        (lambda: removal_many([5, 2]), "number_out_of_range"),
        (lambda: removal_many([[5], [2]]), "passes_too_few"),
        (lambda: petersen(30, 60, float("nan")), "number_out_of_range"),  # type: ignore[arg-type]
        (lambda: petersen(30, 60, 3, level=95), "level_out_of_range"),
        (lambda: repeated_catches(30, [20, 20], [41]), "count_out_of_range"),
        (lambda: repeated_catches(30, [], [0]), "count_out_of_range"),
        (lambda: schnabel([10, 5], [0, 1], [0, float("inf")]), "number_out_of_range"),
        (lambda: removal([5, 2], "other"), "choice_unknown"),
        (lambda: leslie([5, 6, 7], [1, 1, 1]), "no_solution"),
        (lambda: leslie([5, 4], [1, 1]), "occasions_too_few"),
        (lambda: leslie([5, 4, 3], [1, 0, 1]), "count_out_of_range"),
    ],
)
def test_refusals(call: Callable[[], object], code: str) -> None:
    with pytest.raises(CoreError) as refused:
        call()
    assert refused.value.code == code


@given(st.integers(1, 400), st.integers(1, 400), st.data())
def test_many_at_once_agree_with_one_at_a_time(marked: int, caught: int, data: st.DataObject) -> None:
    recaptured = data.draw(st.integers(0, min(marked, caught)))
    one = petersen(marked, caught, recaptured).n
    low, high = (float(end) for end in chapman_intervals(marked, caught, recaptured))
    # one survey's interval holds its estimate too: of 181 marks of which 180 are met in 181, Chapman's form lies above the exact end
    assert one.lower == pytest.approx(min(low, one.value), rel=1e-6)
    assert one.upper == pytest.approx(max(high, one.value), rel=1e-6)
    assert one.lower <= max(one.value, marked + caught - recaptured) <= one.upper + 1e-6


@given(st.lists(st.integers(0, 200), min_size=2, max_size=6).filter(lambda catches: sum(catches) > 0))
def test_removal_answers_where_catches_fall_and_refuses_elsewhere(catches: list[int]) -> None:
    total, k = sum(catches), len(catches)
    falls = sum((k - 1 - place) * catch for place, catch in enumerate(catches)) > total * (k - 1) / 2
    many = [float(each[0]) for each in removal_many([catches])]
    if not falls:
        with pytest.raises(CoreError) as refused:
            removal(catches)
        assert refused.value.code == "no_solution" and np.isnan(many).all()
        return
    found = removal(catches)
    assert total <= found.n.lower <= found.n.value <= found.n.upper and found.n.upper > total
    assert 0 <= found.p.lower < found.p.value <= 1 and found.p.value <= found.p.upper + 1e-9
    assert many == [found.n.value, found.n.lower, found.n.upper]
    falling = list(found.n_if_falling.values())
    assert falling == sorted(falling) and falling[0] >= total


@settings(deadline=None, max_examples=40)
@given(st.integers(1, 30), st.integers(1, 30), st.data())
def test_exact_ends_are_the_first_and_last_numbers_that_are_not_rare(
    marked: int, caught: int, data: st.DataObject
) -> None:
    """By asking every number of fish in turn."""
    recaptured = data.draw(st.integers(0, min(marked, caught)))
    found = petersen(marked, caught, recaptured).n
    numbers = np.arange(marked + caught - recaptured, 1500)
    few = hypergeom.cdf(recaptured, numbers, marked, caught)
    many = hypergeom.sf(recaptured - 1, numbers, marked, caught)
    rare = 0.025 * (1 - 1e-9)  # a chance that is just that is not rarer, whatever the last digit says
    possible = numbers[(few >= rare) & (many >= rare)]
    if possible.size:
        assert found.lower == min(possible[0], found.value)
    if recaptured == 0:
        assert found.upper == math.inf and "no upper limit" in petersen(marked, caught, 0).assumptions[0].detail
    elif possible.size and possible[-1] < numbers[-1]:
        assert found.upper == max(possible[-1], found.value)


@pytest.mark.parametrize(("population", "marks", "catches"), [(300, 100, [80] * 5), (1000, 60, [40, 50, 60])])
def test_several_catches_cover_by_exact_sums(population: int, marks: int, catches: list[int]) -> None:
    """The chance of every number of recaptures, by convolution; the interval that assumes one catch never covered the first."""
    chances = np.array([1.0])
    for catch in catches:
        chances = np.convolve(chances, hypergeom.pmf(np.arange(min(marks, catch) + 1), population, marks, catch))
    r = np.arange(chances.size)
    value, low, high = repeated_catches(marks, catches, r)
    covered = float(chances[(low <= population) & (population <= high)].sum())
    assert 0.95 <= covered <= 0.985
    assert float(chances @ value) == pytest.approx(population, rel=0.02)


def test_more_recaptures_narrow_the_interval_and_few_are_named() -> None:
    wide, narrow = petersen(100, 100, 5), petersen(400, 400, 80)
    assert wide.n.upper / wide.n.lower > 3 > narrow.n.upper / narrow.n.lower
    assert wide.assumptions[0].verdict == "fails" and "factor" in wide.assumptions[0].detail
    assert narrow.assumptions[0].verdict == "holds"
    assert [petersen(100, 100, 50, *how).n.interval for how in ((), ("bailey",), ("chapman", 0.95, "normal"))] == [
        "exact hypergeometric, chapman", "exact binomial, bailey", "normal, chapman",
    ]  # fmt: skip


def test_bent_marks_are_seen() -> None:
    marked = np.arange(10, 110, 10)
    bent = schnabel([40] * 10, [8, 8, 7, 7, 6, 4, 3, 2, 2, 1], marked)
    assert bent.assumptions[0].verdict == "fails"


def test_falling_catchability_is_seen_where_it_can_be() -> None:
    assert removal([60, 10, 9, 8]).assumptions[0].verdict == "fails"
    few = removal([38, 26, 12]).assumptions[0]
    assert few.verdict == "not refuted" and "could hardly refute it" in few.detail
    many = removal([15_000, 9_000, 5_400, 3_240, 1_944]).assumptions[0]
    assert many.verdict == "not refuted" and "would show in 100 of 100" in many.detail
    assert removal([20, 5]).assumptions[0].verdict == "not checked"


def test_the_number_under_a_falling_chance_is_the_true_one() -> None:
    """Expected catches of 1,000 fish, of whom 0.5 are caught at first and a fifth fewer in each pass."""
    left, chance, catches = 1000.0, 0.5, []
    for _ in range(4):
        catches.append(left * chance)
        left, chance = left * (1 - chance), chance * 0.8
    found = removal([round(catch) for catch in catches])
    assert found.n_if_falling[0.2] == pytest.approx(1000, rel=0.01) and found.n.value < 960


def test_removal_of_millions_is_that_of_as_many_fish_in_smaller_numbers() -> None:
    """The value grows with the catch and the relative width with its root, beyond a million as below (by the large-sample law)."""
    small, large = removal([60_000, 30_000, 15_000]).n, removal([6_000_000, 3_000_000, 1_500_000]).n
    assert large.value == pytest.approx(100 * small.value, rel=1e-4)
    assert (large.upper - large.lower) == pytest.approx(10 * (small.upper - small.lower), rel=0.01)
