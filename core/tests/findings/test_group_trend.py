"""A trend over groups in order: against statsmodels, and by simulated years that differ by themselves."""

from __future__ import annotations

import numpy as np
import pytest
from scipy import stats
from statsmodels.api import OLS, add_constant

from nailwright_core.common.errors import CoreError
from nailwright_core.findings.group_trend import group_trend

YEARS = ("a year", "over the years")


def test_it_is_least_squares_on_the_groups():
    at, values = np.array([2019.0, 2020, 2022, 2023, 2026]), np.array([402.0, 396, 399, 371, 360])
    found = group_trend(values, at, *YEARS)
    wanted = OLS(values, add_constant(at - at.mean())).fit()
    assert found is not None
    assert (found.slope.value, found.slope.lower, found.slope.upper) == pytest.approx(
        (wanted.params[1], *wanted.conf_int()[1])
    )
    assert found.p == pytest.approx(wanted.pvalues[1]) == pytest.approx(stats.linregress(at, values).pvalue)


def test_per_cent_by_hand():
    """1.02 to the power of the year, exactly: 2 % a year."""
    found = group_trend(800 * 1.02 ** np.arange(6), np.arange(6), *YEARS, per_cent=True)
    assert found is not None and found.slope.value == pytest.approx(2.0) and found.p < 1e-6
    flat = group_trend([5.0] * 5, np.arange(5), *YEARS)
    assert flat is not None and (flat.slope.value, flat.p) == (pytest.approx(0.0, abs=1e-9), 1.0)


@pytest.mark.parametrize(("years", "year_sd"), [(5, 20.0), (8, 5.0), (12, 20.0)])
def test_the_interval_holds_what_it_says_where_years_differ_and_hold_unlike_numbers_of_fish(years, year_sd):
    """Seeded simulation of medians of 20 to 400 fish: 95 %, within what 400 tries can tell (3 SE = 3.3 %). A test of every pair of these
    years, fish by fish, would call nearly all of them different."""
    rng = np.random.default_rng(3)
    held = []
    for _ in range(400):
        fish = rng.integers(20, 400, years)
        means = 400 - 4.0 * np.arange(years) + rng.normal(0, year_sd, years)
        found = group_trend(
            [np.median(rng.normal(each, 60, n)) for each, n in zip(means, fish, strict=True)], np.arange(years), *YEARS
        )
        held.append(found.slope.lower <= -4.0 <= found.slope.upper)
    assert np.mean(held) == pytest.approx(0.95, abs=0.033)


def test_few_groups_have_no_trend_and_what_is_refused():
    assert group_trend([1.0, 2, 3], [1, 2, 3], *YEARS) is None
    assert group_trend([1.0, 2, 3, 4], [1, 1, 2, 2], *YEARS) is None
    for values, at, code in (([1.0, 2], [1], "lengths_differ"), ([1.0, 0, 2, 3], [1, 2, 3, 4], "number_out_of_range")):
        with pytest.raises(CoreError) as refused:
            group_trend(values, at, *YEARS, per_cent=True)
        assert refused.value.code == code
