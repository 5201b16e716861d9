"""A bath's running strength, in closed form and by examples worked by hand, and the line of induction times."""

import json
from dataclasses import asdict
from pathlib import Path

import numpy as np
import pandas as pd
import pytest
import statsmodels.formula.api as smf

from nailwright_core.common.errors import CoreError
from nailwright_core.deck.baths import Bath, BathStep, advice, bath_after, bath_trial, induction_line, times_to_lie
from nailwright_core.deck.handling import BathState

SHARED = json.loads((Path(__file__).parents[3] / "tests/shared/baths.json").read_text())


def steps_of(case):
    return [BathStep(str(place), at, what, said) for place, (at, what, said) in enumerate(case["steps"])]


@pytest.mark.parametrize("case", SHARED["baths"], ids=lambda case: case["name"])
def test_running_strength(case):
    found = bath_after(steps_of(case))
    state = found.state
    assert (state.litres if state else None) == case["litres"]
    assert (state.mg_l if state else None) == (None if case["mg_l"] is None else pytest.approx(case["mg_l"]))
    assert list(found.twice) == [str(each) for each in case.get("twice", [])]
    assert list(found.undone) == [str(each) for each in case.get("undone", [])]


@pytest.mark.parametrize("case", SHARED["advice"], ids=lambda case: f"{case['mg_l']} to {case['target']}")
def test_what_to_add_or_exchange(case):
    bath = Bath(BathState(case["litres"], case["mg_l"]), "tricaine", "surgery", case["stock_mg_ml"])
    found = advice(bath, case["target"], 10, 150)
    assert (found.add_ml, found.exchange_l) == pytest.approx((case["add_ml"], case["exchange_l"]))


@pytest.mark.parametrize("case", SHARED["times_to_lie"], ids=lambda case: case["name"])
def test_times_to_lie(case):
    assert times_to_lie(case["said"]) == [tuple(each) for each in case["times"]]


def test_many_exchanges_in_closed_form():
    """n exchanges of a share s leave (1 - s)^n of the strength: a dilution series."""
    filled = [BathStep("f", 0, "bath_filled", {"agent": "tricaine", "purpose": "surgery", "litres": 50}), BathStep("d", 1, "bath_dosed", {"ml": 50})]  # fmt: skip
    exchanges = [BathStep(f"e{n}", 2 + n, "bath_exchanged", {"litres": 5}) for n in range(20)]
    found = bath_after(filled + exchanges)
    assert found.state is not None and found.state.mg_l == pytest.approx(100 * 0.9**20)
    early = bath_after(filled + exchanges, now_s=4.5)
    assert early.state is not None and early.state.mg_l == pytest.approx(100 * 0.9**3)


def test_refusals_say_what_to_do():
    bath = Bath(BathState(60, 10), "tricaine", "surgery", 100)
    for which, target, code in (
        (bath, 200, "target_out_of_range"),
        (Bath(), 50, "bath_empty"),
        (Bath(BathState(60)), 50, "stock_unknown"),
    ):
        with pytest.raises(CoreError) as refused:
            advice(which, target, 10, 150)
        assert refused.value.code == code


def simulated(rng, n=40, slope=-1.2, per_degree=-0.02, sd=0.08):
    mg_l = rng.choice([50.0, 65.0, 80.0, 100.0], n)
    degrees = rng.uniform(8, 16, n)
    seconds = 10 ** (4.4 + slope * np.log10(mg_l) + per_degree * (degrees - degrees.mean()) + rng.normal(0, sd, n))
    return mg_l, seconds, degrees


def test_the_line_against_a_formula_of_statsmodels():
    mg_l, seconds, degrees = simulated(np.random.default_rng(3))
    found = induction_line(mg_l, seconds, degrees, 180, 50, 150)
    wanted = smf.ols("y ~ x + t", pd.DataFrame({"y": np.log10(seconds), "x": np.log10(mg_l), "t": degrees})).fit()
    assert found.slope.value == pytest.approx(wanted.params["x"])
    assert (found.slope.lower, found.slope.upper) == pytest.approx(tuple(wanted.conf_int().loc["x"]))
    assert found.per_degree is not None and found.per_degree.value == pytest.approx(wanted.params["t"])
    assert found.suggest_mg_l is not None and found.suggest_lower is not None and found.suggest_upper is not None
    assert 50 <= found.suggest_lower <= found.suggest_mg_l <= found.suggest_upper <= 150


def test_the_interval_of_the_slope_holds_what_it_says():
    """Seeded simulation: 95 % of intervals hold the true slope, and the true strength that meets the goal, within what 400
    tries can tell (3 SE = 3.3 %)."""
    rng = np.random.default_rng(11)
    truth = 10 ** ((4.4 - np.log10(180)) / 1.2)
    found = [induction_line(*simulated(rng), 180, 50, 150) for _ in range(400)]
    assert np.mean([each.slope.lower <= -1.2 <= each.slope.upper for each in found]) == pytest.approx(0.95, abs=0.033)
    inside = [each.suggest_lower <= truth <= each.suggest_upper for each in found]
    assert np.mean(inside) == pytest.approx(0.95, abs=0.033)


def test_no_suggestion_where_strength_is_not_seen_to_matter():
    rng = np.random.default_rng(8)
    mg_l, seconds, degrees = simulated(rng, n=10, slope=0.0, sd=0.3)
    assert induction_line(mg_l, seconds, degrees, 180, 50, 150).suggest_mg_l is None
    found = induction_line(mg_l, seconds, np.full(10, np.nan), 180, 50, 150)
    assert found.per_degree is None  # nobody read the temperature
    for bad, code in (((mg_l[:5], seconds[:5], degrees[:5]), "too_few_fish"), ((mg_l, seconds * 0, degrees), "strength_out_of_range")):  # fmt: skip
        with pytest.raises(CoreError) as refused:
            induction_line(*bad, 180, 50, 150)
        assert refused.value.code == code


@pytest.mark.parametrize("case", SHARED["trials"])
def test_trial_of_a_bath(case):
    trial = bath_trial(case["inductions_s"], case["wanted"], case["goal_s"], case["fast_s"])
    assert asdict(trial) == case["trial"]
