"""Laws that intervals keep; their figures are held to outside sources in tests/published."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from nailwright_core.common.errors import CoreError
from nailwright_core.common.intervals import exact_binomial, goodman, median_interval, wilson

counts = st.integers(1, 5000).flatmap(lambda n: st.tuples(st.integers(0, n), st.just(n)))


@given(counts)
def test_an_interval_holds_its_share_and_widens_with_the_level(k_of_n: tuple[int, int]) -> None:
    k, n = k_of_n
    for interval in (wilson, exact_binomial):
        low, high = interval(k, n, 0.95)
        wide_low, wide_high = interval(k, n, 0.99)
        assert 0 <= wide_low <= low <= k / n <= high <= wide_high <= 1


@given(counts)
def test_failures_mirror_successes(k_of_n: tuple[int, int]) -> None:
    k, n = k_of_n
    low, high = wilson(k, n)
    assert wilson(n - k, n) == pytest.approx((1 - high, 1 - low))


@pytest.mark.parametrize(
    ("k", "n", "level", "code"),
    [(-1, 5, 0.95, "count_out_of_range"), (6, 5, 0.95, "count_out_of_range"), (1, 5, 1.0, "level_out_of_range")],
)
def test_bad_counts_are_refused(k: int, n: int, level: float, code: str) -> None:
    for interval in (wilson, exact_binomial):
        with pytest.raises(CoreError) as refused:
            interval(k, n, level)
        assert refused.value.code == code


def test_nothing_seen_says_nothing() -> None:
    assert wilson(0, 0) == exact_binomial(0, 0) == (0.0, 1.0)
    assert goodman([0, 0, 0]) == [(0.0, 1.0)] * 3


@given(st.lists(st.integers(0, 400), min_size=2, max_size=6).filter(any))
def test_simultaneous_intervals_are_wider_than_single_ones(cells: list[int]) -> None:
    for k, (low, high) in zip(cells, goodman(cells), strict=True):
        single = wilson(k, sum(cells))
        assert low <= single[0] + 1e-12 and single[1] - 1e-12 <= high


def test_median_interval_of_five_values_is_open() -> None:
    """Five values cannot give 95 %: the chance that all lie on one side of the median is 2 / 2^5 = 6 %."""
    found = median_interval([1, 2, 3, 4, 5])
    assert (found.value, found.lower, found.upper) == (3, -math.inf, math.inf)


def test_median_interval_covers_as_often_as_it_says() -> None:
    rng = np.random.default_rng(11)
    hits = 0
    for _ in range(600):
        found = median_interval(rng.exponential(1, 41))
        hits += found.lower <= math.log(2) <= found.upper
    assert 0.93 <= hits / 600 <= 0.99


def test_median_needs_a_value() -> None:
    with pytest.raises(CoreError, match="at least one value"):
        median_interval([math.nan])
