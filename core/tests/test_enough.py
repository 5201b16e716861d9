"""When it is enough: by the plan's formulas, and how often it is true of those who stop there."""

import numpy as np
import pytest

from nailwright_core.common import species
from nailwright_core.common.errors import CoreError
from nailwright_core.findings.size_structure import proportional_size_distribution
from nailwright_core.plan.effort import sites_for_cv
from nailwright_core.plan.enough import catch_rate_so_far, size_structure_so_far
from nailwright_core.plan.sample_size import fish_for_proportion

WALLEYE = species.get("wal").size_categories


def fish(n_quality, n_stock):
    return [400.0] * n_quality + [300.0] * (n_stock - n_quality)


def test_size_structure_as_the_finding_and_the_plan_say():
    few = size_structure_so_far(fish(30, 50), WALLEYE)
    assert few is not None and not few.reached
    assert few.more == fish_for_proportion(0.6, 0.08) - 50
    psd = proportional_size_distribution(fish(30, 50), WALLEYE).psd
    assert f"± {(psd.upper - psd.lower) / 2:.0f}" in few.words
    enough = size_structure_so_far(fish(90, 150), WALLEYE)
    assert enough is not None and enough.reached and "Count the rest" in enough.words
    assert size_structure_so_far([400.0] * 30, None) is None
    young = size_structure_so_far(fish(3, 19) + [100.0] * 400, WALLEYE)
    assert young is not None and young.more is None and young.words.startswith("19 of stock length")


def test_catch_rate_as_the_plan_says():
    rates = [10.0, 22.0, 13.0, 31.0]
    found = catch_rate_so_far(rates, 0.15)
    assert found.more == sites_for_cv(np.mean(rates), np.var(rates, ddof=1), 0.15) - 4
    assert catch_rate_so_far([20.0, 21.0, 19.0]).reached
    for too_few in ([3.0, 4.0], [0.0, 0.0, 0.0]):
        assert catch_rate_so_far(too_few).more is None


def test_the_interval_of_those_who_stop_when_it_is_narrow_enough():
    """Seeded simulation of 400 evenings at PSD 60 that stop at the first fish with which the interval is within 8: it still
    holds the truth in 95 %, within what 400 tries can tell (3 SE = 3.3 %)."""
    rng = np.random.default_rng(21)
    held = 0
    for _ in range(400):
        quality = rng.random(260) < 0.6
        for n in range(100, 260):
            k = int(quality[:n].sum())
            psd = proportional_size_distribution(fish(k, n), WALLEYE).psd
            if (psd.upper - psd.lower) / 2 <= 8:
                held += psd.lower <= 60 <= psd.upper
                break
    assert held / 400 == pytest.approx(0.95, abs=0.033)


def test_refusals():
    for bad in (0.5, 50, float("nan")):
        with pytest.raises(CoreError):
            size_structure_so_far(fish(30, 50), WALLEYE, bad)
    with pytest.raises(CoreError):
        catch_rate_so_far([3.0, 4.0, 9.0], 2)
