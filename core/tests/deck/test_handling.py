"""Baths, limits, and fish from deep water."""

from __future__ import annotations

import json
from collections.abc import Callable
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nailwright_core.common.errors import CoreError
from nailwright_core.deck.deep_water import choose_device, descent_plan, expansion, pressure_pa
from nailwright_core.deck.handling import (
    AGENTS,
    BathState,
    Limits,
    box_l,
    check_target,
    dose_volume_ml,
    half_barrel_l,
    lane_status,
    most_fish,
    reflex_score,
    spare_stock_ml,
    zero_deaths_upper,
)


@pytest.mark.parametrize(
    ("call", "code"),
    [
        (lambda: dose_volume_ml(0, 40, 105), "bath_out_of_range"),
        (lambda: dose_volume_ml(60, 0, 105), "dose_out_of_range"),
        (lambda: dose_volume_ml(60, 40, 105, 50), "bath_too_strong"),
        (lambda: check_target(AGENTS["clove-oil"], "measure", 90), "target_out_of_range"),
        (lambda: check_target(AGENTS["clove-oil"], "sleep", 50), "purpose_unknown"),
        (lambda: box_l(0, 10, 10), "tank_out_of_range"),
        (lambda: half_barrel_l(60, 100, 31), "tank_out_of_range"),
        (lambda: BathState(60).fill(50, 70), "bath_out_of_range"),
        (lambda: BathState(60).exchange(70), "bath_out_of_range"),
        (lambda: BathState(60).top_up(-1), "bath_out_of_range"),
        (lambda: spare_stock_ml(60, 40, 105, 0), "dose_out_of_range"),
        (lambda: zero_deaths_upper(0), "count_out_of_range"),
        (lambda: pressure_pa(-1), "depth_out_of_range"),
        (lambda: pressure_pa(10, "brackish"), "water_unknown"),  # type: ignore[arg-type]
        (lambda: pressure_pa(10, "sea", 9000), "altitude_out_of_range"),
        (lambda: descent_plan(0, 30), "mass_not_positive"),
        (lambda: descent_plan(2000, 30, weight="gold"), "weight_unknown"),
        (lambda: descent_plan(2000, 30, bottom_m=0), "depth_out_of_range"),
        (lambda: choose_device(0, 1, False, True, 30), "count_out_of_range"),
    ],
)
def test_refusals(call: Callable[[], object], code: str) -> None:
    with pytest.raises(CoreError) as refused:
        call()
    assert refused.value.code == code


def test_a_bath_keeps_its_running_strength() -> None:
    bath = BathState(60).add(dose_volume_ml(60, 40, 105), 105)
    assert bath.mg_l == pytest.approx(40)
    thinner = bath.exchange(15).top_up(5)
    assert thinner.mg_l == pytest.approx(40 * 0.75 * 60 / 65)
    refilled = bath.fill(60, kept_l=20)
    assert refilled.mg_l == pytest.approx(40 / 3)
    missing = dose_volume_ml(60, 40, 105, refilled.mg_l)
    assert refilled.add(missing, 105).mg_l == pytest.approx(40)


@given(st.floats(1, 500), st.floats(5, 150), st.floats(10, 500), st.floats(0, 1))
def test_the_dose_brings_any_bath_to_its_target(litres: float, target: float, stock: float, share: float) -> None:
    bath = BathState(litres, target * share)
    assert bath.add(dose_volume_ml(litres, target, stock, bath.mg_l), stock).mg_l == pytest.approx(target)


def test_the_range_is_named_where_a_target_lies_beyond_it() -> None:
    with pytest.raises(CoreError, match="20 to 60 mg/L"):
        check_target(AGENTS["clove-oil"], "measure", 90)
    check_target(AGENTS["tricaine"], "surgery", 100)


def test_lanes_and_wells() -> None:
    assert [lane_status(seconds, 90, 120) for seconds in (30, 90, 120)] == ["good", "soon", "over"]
    assert Limits().most_load_g(250) == 15_000  # 60 g/L, handbook 7: common practice, no source
    assert most_fish(200, 2000) == 6 and most_fish(1000, 500) == 12


def test_a_shoal_from_thirty_metres() -> None:
    plan = descent_plan(2000, 30)
    assert plan.release_depth_m == 22.5 and plan.pulls is None and plan.lets_go_m is None
    assert plan.sinker_g > 2000 * 0.05 * 2.9  # at least what its gas lifts
    assert plan.excess == pytest.approx(expansion(30) / expansion(22.5) - 1)
    own = descent_plan(2000, 30, lets_go_at_m=(12, 20, 40))
    assert own.lets_go_m == 20 and own.lets_go_excess == pytest.approx(expansion(30) / expansion(20) - 1)
    assert descent_plan(100, 8).sinker_g == pytest.approx(453.59, abs=0.01)  # never under the legal 16 oz
    assert descent_plan(2000, 30, strong_current=True).sinker_g == pytest.approx(plan.sinker_g * 2 / 1.5)


def test_line_is_counted_in_the_crews_own_pulls() -> None:
    assert descent_plan(2000, 40, pull_m=0.75).pulls == 40  # 30 m
    assert descent_plan(2000, 40, pull_m=0.76).pulls == 40 and descent_plan(2000, 40, pull_m=0.7).pulls == 43
    with pytest.raises(CoreError, match="pull"):
        descent_plan(2000, 40, pull_m=9)


def test_too_shallow_water_is_named() -> None:
    shallow = descent_plan(2000, 60, bottom_m=14, lets_go_at_m=(15,))
    assert shallow.lets_go_m is None and any("No device lets go" in note for note in shallow.notes)
    assert any("too shallow" in note for note in shallow.notes)
    assert shallow.excess > 1


def test_a_lake_in_the_mountains_expands_more() -> None:
    assert expansion(30, "fresh", 2000) > expansion(30, "fresh", 0)


def test_devices_come_with_reasons() -> None:
    calm = choose_device(800, 6, rough=False, firm_bottom=True, depth_m=40)
    assert calm[0].code == "cage" and "several" in " ".join(calm[0].reasons)
    heavy = {
        each.code: each
        for each in choose_device(
            9000, 1, rough=True, firm_bottom=False, depth_m=70, predators=True, lets_go_at_m=(25, 50)
        )
    }
    assert heavy["pressure-clamp"].fits and not heavy["cage"].fits and not heavy["tug-clamp"].fits
    assert all(each.reasons for each in heavy.values())
    none = {each.code: each for each in choose_device(9000, 1, False, True, 30)}["pressure-clamp"]
    assert not none.fits and "no depth is entered" in none.reasons[0]


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"air_goal_s": 95}, "air_goal_s"),
        ({"air_alarm_s": 80}, "air_goal_s"),
        ({"induction_warn_s": 700}, "induction_goal_s"),
        ({"recovery_warn_s": 200}, "recovery_goal_s"),
    ],
)
def test_a_goal_comes_before_its_warning_and_that_before_its_alarm(change: dict[str, float], field: str) -> None:
    Limits().check()
    with pytest.raises(CoreError) as refused:
        Limits(**change).check()
    assert (refused.value.code, refused.value.field) == ("limits_out_of_order", field)


@pytest.mark.parametrize("level", [0.3, 0.5, 0.95])
def test_none_dead_at_any_level(level: float) -> None:
    share = zero_deaths_upper(40, level)
    assert (1 - share) ** 40 == pytest.approx(1 - level)


SHARED = json.loads((Path(__file__).parents[3] / "tests/shared/descent.json").read_text())


@pytest.mark.parametrize("case", SHARED["descents"], ids=lambda case: case["name"])
def test_the_tablet_plans_a_descent_alike(case):
    plan = descent_plan(**{name: value for name, value in case.items() if name not in ("name", "plan")})
    wanted = dict(case["plan"])
    assert len(plan.notes) == wanted.pop("notes")
    for name, value in wanted.items():
        assert getattr(plan, name) == (None if value is None else pytest.approx(value, rel=1e-5, abs=1e-6)), name


@pytest.mark.parametrize("case", SHARED["devices"], ids=lambda case: str(case["mass_g"]))
def test_the_tablet_chooses_a_device_alike(case):
    given = {name: value for name, value in case.items() if name not in ("fits", "first")}
    found = choose_device(**given)
    assert [each.code for each in found if each.fits] == case["fits"]
    assert [[each.code, list(each.reasons)] for each in found] == case["first"]


def test_a_descent_by_hand():
    """2 kg from 30 m of sea, by hand: 2 kg / 1,025 kg/m3 x 5 % = 97.6 mL of gas at depth; pressure 101,325 + 1,025 x 9.80665 x 30
    = 402,879 Pa, 3.976 times the surface's; so 97.6 mL x 2.976 = 290.3 mL too much, which lifts 0.2976 kg; lead of 11,340 kg/m3
    loses 9.04 % of its weight in water: 0.2976 / 0.9096 x 1.5 = 0.491 kg. Let go at three quarters, 22.5 m: 327,490 Pa, where
    402,879 / 327,490 - 1 = 23.0 % are left."""
    plan = descent_plan(2000, 30, "sea")
    assert plan.sinker_g == pytest.approx(491, abs=1)
    assert plan.release_depth_m == 22.5
    assert plan.excess == pytest.approx(0.230, abs=0.001)


def test_reflex_score_by_hand():
    assert reflex_score(["gills", "bite", "pinch", "upright"], ["bite"]) == 0.25
    assert (reflex_score(["gills"], []), reflex_score(["gills"], ["gills"])) == (0, 1)
    for tried, impaired, code in (([], [], "count_out_of_range"), (["gills"], ["bite"], "reflex_not_tried")):
        with pytest.raises(CoreError) as refused:
            reflex_score(tried, impaired)
        assert refused.value.code == code
