"""Retention as a finding: shares, curve, groups, and what is said."""

from __future__ import annotations

import numpy as np
import pytest
from scipy import stats

from nailwright_core.common.errors import CoreError
from nailwright_core.findings.tag_retention import read_rate, retention_sentence, tag_retention


def test_shares_are_exact_binomials_of_fish() -> None:
    """Outside check: SciPy's binomtest (exact, Clopper and Pearson)."""
    days = [30.0, 60, 90, 120, 150, 180]
    found = tag_retention(days, [False, False, True, False, False, True], [0] * 6, ["b", "b", "b", "a", "a", "a"], 6)
    for kept, k, n in ((found.all, 4, 6), (found.groups[0], 2, 3), (found.groups[1], 2, 3)):
        exact = stats.binomtest(k, n).proportion_ci(0.95, "exact")
        assert (kept.share.value, kept.share.lower, kept.share.upper) == pytest.approx((k / n, exact.low, exact.high))
    assert [each.name for each in found.groups] == ["a", "b"] and found.all.median_days == 105
    assert found.curve is None and found.at_days == ()
    assert "met again and known by another mark, 4 still carried their T-bar: 67 % (22 to 96)" in retention_sentence(
        found, "walleye", "T-bar"
    )


def test_the_curve_falls_and_its_interval_holds_it() -> None:
    rng = np.random.default_rng(5)
    days = rng.uniform(20, 900, 80)
    gone = rng.random(80) > 0.95 * np.exp(-0.3 * days / 365.25)
    found = tag_retention(days, gone, np.zeros(80), ["T-bar"] * 80, 70)
    mean, lower, upper = map(np.array, (found.mean, found.lower, found.upper))
    assert (np.diff(mean) <= 1e-9).all() and (lower <= mean).all() and (mean <= upper).all()
    assert "After a year" in retention_sentence(found, "walleye", "T-bar")
    assert "70 of 80 were known by a PIT" in found.assumptions[0].detail


def test_nobody_out_for_long_gives_no_loss_a_year() -> None:
    found = tag_retention([40.0 + n for n in range(12)], [False] * 12, [0.0] * 12, ["a"] * 12, 0)
    assert "Nobody was out for long enough" in retention_sentence(found, "walleye", "T-bar")
    assert found.all.share.lower == pytest.approx(stats.binomtest(12, 12).proportion_ci(0.95, "exact").low)


@pytest.mark.parametrize(
    ("days", "gone", "groups", "lasting", "code"),
    [
        ([], [], [], 0, "no_fish"),
        ([10.0], [True, False], ["a"], 0, "lengths_differ"),
        ([0.0], [True], ["a"], 0, "days_out_of_range"),
        ([10.0], [True], ["a"], 2, "lasting_out_of_range"),
    ],
)
def test_what_cannot_be_is_refused(
    days: list[float], gone: list[bool], groups: list[str], lasting: int, code: str
) -> None:
    with pytest.raises(CoreError) as refused:
        tag_retention(days, gone, [0.0] * len(days), groups, lasting)
    assert refused.value.code == code


def test_how_often_a_tag_is_read_that_is_there() -> None:
    rate = read_rate(45, 50)
    exact = stats.binomtest(45, 50).proportion_ci(0.95, "exact")
    assert (rate.value, rate.lower, rate.upper) == pytest.approx((0.9, exact.low, exact.high))
    with pytest.raises(CoreError):
        read_rate(5, 4)
