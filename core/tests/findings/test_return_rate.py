"""Shares of tags that were reported. Outside check: SciPy's exact binomial; the reporting rate has its own in tests/tags."""

from __future__ import annotations

import numpy as np
import pytest
from scipy import stats

from nailwright_core.common.errors import CoreError
from nailwright_core.findings.return_rate import return_rate, return_sentence


def told(reported: int, n: int) -> np.ndarray:
    return np.arange(n) < reported


def test_shares_are_exact_binomials_of_tags() -> None:
    found = return_rate(told(16, 400), np.zeros(400, bool), ["2024"] * 200 + ["2025"] * 200)
    for group, k, n in ((found.all, 16, 400), (found.groups[0], 16, 200), (found.groups[1], 0, 200)):
        exact = stats.binomtest(k, n).proportion_ci(0.95, "exact")
        assert (group.share.value, group.share.lower, group.share.upper) == pytest.approx(
            (k / n, exact.low, exact.high)
        )
        assert group.reported == k and group.share.n == n
    assert found.reporting is None and "cannot be told without tags of high reward" in return_sentence(
        found, "walleye", "T-bar", False
    )


def test_rewards_tell_how_many_are_reported() -> None:
    """Worked example of two binomials: 24 of 400 and 15 of 100 give .400, profile interval .220 to .752."""
    reported = np.concatenate([told(24, 400), told(15, 100)])
    found = return_rate(reported, np.arange(500) >= 400, ["a"] * 500)
    rate = found.reporting
    assert rate and (rate.value, rate.lower, rate.upper) == pytest.approx((0.4, 0.220, 0.752), abs=6e-4)
    assert "40 % of those met are reported (22 to 75)" in return_sentence(found, "walleye", "T-bar", True)


def test_without_a_high_return_nothing_is_told_of_reporting() -> None:
    assert return_rate(told(3, 20), np.arange(20) >= 15, ["a"] * 20).reporting is None
    assert return_rate(told(3, 20), np.ones(20, bool), ["a"] * 20).reporting is None


@pytest.mark.parametrize(("reported", "groups", "code"), [([], [], "no_tags"), ([True], ["a", "b"], "lengths_differ")])
def test_what_cannot_be_is_refused(reported: list[bool], groups: list[str], code: str) -> None:
    with pytest.raises(CoreError) as refused:
        return_rate(reported, reported, groups)
    assert refused.value.code == code
