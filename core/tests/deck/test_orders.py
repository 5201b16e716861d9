"""What a plan tells the deck, by the cases that the browser is held to as well."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import pytest

from nailwright_core.common.errors import CoreError
from nailwright_core.deck.orders import Goal, ambient_read, beyond_limits, goal_in

SHARED = Path(__file__).resolve().parents[3] / "tests" / "shared"
ORDERS = json.loads((SHARED / "orders.json").read_text())
SHARES = [
    ORDERS["shares"]["from_0"] + ORDERS["shares"]["per_degree"] * celsius for celsius in range(ORDERS["shares"]["n"])
]
GOALS = [Goal(**row) for row in ORDERS["goals"]]


@pytest.mark.parametrize("case", ORDERS["ambient"])
def test_ambient_conductivity_of_a_reading(case: dict[str, Any]) -> None:
    found = ambient_read(case["ambient_us_cm"], case["specific_us_cm"], case["temperature_c"], SHARES)
    assert found == (case["us_cm"] if case["us_cm"] is None else pytest.approx(case["us_cm"], rel=1e-9))


def test_shares_are_what_the_cases_were_worked_with() -> None:
    """By hand: 0.5 at 0 °C and 0.02 a degree give 0.68 at 9 and 0.7 at 10: 500 at 25 °C is 340 at 9.4 °C and 350 at 9.5."""
    assert SHARES[25] == pytest.approx(ORDERS["shares"]["at_25"])


@pytest.mark.parametrize("case", ORDERS["goal"])
def test_the_goal_in_a_water(case: dict[str, Any]) -> None:
    goal = goal_in(GOALS, case["us_cm"])
    assert (goal.us_cm, goal.volts, goal.most_volts) == (case["row"], case["volts"], case["most_volts"])


def test_a_goal_that_cannot_be() -> None:
    for goals, us_cm, code in (
        ([], 100.0, "no_goals"),
        (GOALS, 0.0, "conductivity_impossible"),
        (GOALS, float("nan"), "conductivity_impossible"),
    ):
        with pytest.raises(CoreError) as refused:
            goal_in(goals, us_cm)
        assert refused.value.code == code


@pytest.mark.parametrize("case", ORDERS["beyond"]["cases"])
def test_settings_beyond_the_plan(case: dict[str, Any]) -> None:
    settings = {name: float("nan") if case[name] is None else case[name] for name in ("volts", "amps", "pulse_hz")}
    assert list(beyond_limits(settings, ORDERS["beyond"]["most"])) == case["beyond"]
