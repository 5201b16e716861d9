"""A bath's running strength, in closed form and by examples worked by hand, and the line of induction times."""

import json
from dataclasses import asdict
from pathlib import Path

import pytest

from nailwright_core.common.errors import CoreError
from nailwright_core.deck.baths import Bath, BathStep, advice, bath_after, bath_trial, times_to_lie, times_watched
from nailwright_core.deck.handling import BathState

SHARED = json.loads((Path(__file__).parents[3] / "tests/shared/baths.json").read_text())


def steps_of(case):
    return [BathStep(str(place), at, what, details) for place, (at, what, details) in enumerate(case["steps"])]


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
    assert times_to_lie(case["details"]) == [tuple(each) for each in case["times"]]


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


@pytest.mark.parametrize(
    ("details", "elsewhere", "watched"),
    [([(0, None), (60, 2), (150, 4)], [], [(0, 150, True)]), ([(0, None), (60, 2), (90, 3)], [], [(0, 90, False)]),
     ([(0, None)], [], []), ([(0, None), (60, 2), (300, 1)], [200], [(0, 60, False)]),
     ([(0, None), (60, 2), (200, None), (320, 5)], [100], [(0, 60, False), (200, 120, True)])],
    ids=["lay still", "seen up", "nobody looked", "up again in recovery", "into a second bath"],
)  # fmt: skip
def test_how_long_a_fish_was_watched(details, elsewhere, watched):
    assert times_watched(details, elsewhere) == watched


@pytest.mark.parametrize("case", SHARED["trials"])
def test_trial_of_a_bath(case):
    trial = bath_trial(case["inductions_s"], case["wanted"], case["goal_s"], case["fast_s"])
    assert asdict(trial) == case["trial"]
