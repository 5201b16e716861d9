"""Settings, sites, sample sizes, reaches and tags."""

from __future__ import annotations

import itertools
import json
from collections.abc import Callable
from datetime import date
from pathlib import Path

import numpy as np
import pytest
from geographiclib.geodesic import Geodesic
from hypothesis import given
from hypothesis import strategies as st
from scipy.stats import binom

from nailwright_core.common import species
from nailwright_core.common.errors import CoreError
from nailwright_core.deck.deep_water import descent_plan
from nailwright_core.findings.catches.catch_per_effort import cpue
from nailwright_core.plan.current_limits import (
    SALMONID_BACKPACK,
    LimitSet,
    conductivity_steps,
    held_within,
    most_volts,
    problems,
)
from nailwright_core.plan.effort import lay_out_sites, negative_binomial_k, rod_hours, sites_for_cv
from nailwright_core.plan.electrofishing import (
    Unit,
    ambient_conductivity,
    duty,
    field_rings_cm,
    matched_power,
    median_r100,
    power_achieved,
    power_ratio,
    r100_from_reading,
    ramp_up,
    settings_for,
    settings_table,
)
from nailwright_core.plan.pulse_advice import pulse_advice, pulse_advice_for
from nailwright_core.plan.sample_size import (
    catch_for_marks,
    fish_for_mean,
    fish_for_proportion,
    fish_to_tell_mortality,
    lengths_before,
)
from nailwright_core.plan.tag_choice import compare_kinds, draw_shares
from nailwright_core.tags.battery import battery_days, collision_loss, last_ping, most_tags
from nailwright_core.tags.burden import burden_of, minimum_length_mm
from nailwright_core.waters.reach import looks_swapped, reach_from

WAL = species.get("wal")


@pytest.mark.parametrize(
    ("call", "code"),
    [
        (lambda: power_ratio(0), "conductivity_out_of_range"),
        (lambda: power_ratio(200_000), "conductivity_out_of_range"),
        (lambda: ambient_conductivity(200, 60), "temperature_out_of_range"),
        (lambda: r100_from_reading(0, 5, 200), "reading_out_of_range"),
        (lambda: settings_for(200, 0, 60), "power_out_of_range"),
        (lambda: settings_for(200, 3000, -1), "resistance_out_of_range"),
        (lambda: duty(400, 4), "pulse_out_of_range"),
        (lambda: field_rings_cm(300, 0), "anode_out_of_range"),
        (lambda: lay_out_sites(500, 1000, 100), "reach_too_short"),
        (lambda: lay_out_sites(50_000, 1000, 60_000), "spacing_out_of_range"),
        (lambda: lay_out_sites(50_000, 1, 0), "too_many_sites"),
        (lambda: lay_out_sites(50_000, 1000, 0, layout="other"), "layout_unknown"),
        (lambda: lay_out_sites(50_000, 1000, 0, layout="stratified"), "no_zones"),
        (lambda: lay_out_sites(10_000, 1000, 1000, layout="random", n=9), "no_room"),
        (lambda: lay_out_sites(10_000, 1000, 1000, closed=((0, 10_000),)), "no_room"),
        (lambda: sites_for_cv(0, 4, 0.1), "pilot_out_of_range"),
        (lambda: sites_for_cv(4, 4, 0), "cv_out_of_range"),
        (lambda: cpue([], []), "no_data"),
        (lambda: cpue([1], [0]), "count_out_of_range"),
        (lambda: cpue([1, 2], [1, 1], [1, -1]), "count_out_of_range"),
        (lambda: cpue([1, 2], [1, 1], sites_in_all=1), "count_out_of_range"),
        (lambda: cpue([1, float("nan")], [1, 1]), "number_out_of_range"),
        (lambda: fish_for_proportion(1, 0.1), "share_out_of_range"),
        (lambda: fish_for_proportion(0.5, 0), "width_out_of_range"),
        (lambda: fish_for_mean(60, 1e-6), "width_out_of_range"),
        (lambda: fish_to_tell_mortality(0.15, 0.05), "share_out_of_range"),
        (lambda: catch_for_marks(5, [2], 0.25), "population_out_of_range"),
        (lambda: catch_for_marks(500, [2], 1.5), "accuracy_out_of_range"),
        (lambda: reach_from([]), "line_too_short"),
        (lambda: reach_from([(1, 1), (1, 1)]), "line_too_short"),
        (lambda: reach_from([(44.9, -131.6), (44.8, -131.5)]), "coordinates_swapped"),
        (lambda: reach_from([(200, 1), (201, 1)]), "coordinates_out_of_range"),
        (lambda: reach_from([(0, 0), (1, 1), (1, 0), (0, 1)]), "line_crosses_itself"),
        (lambda: reach_from([("a", 0), (1, 1)]), "line_unreadable"),
        (lambda: reach_from([(-170, 0), (0, 1), (170, 0)]), "line_too_long"),
        (lambda: reach_from([(0, 0), (0.1, 0)]).point_at(20_000), "beyond_reach"),
        (lambda: minimum_length_mm(WAL, 0), "tag_mass_out_of_range"),
        (lambda: minimum_length_mm(WAL, 10, 0.5), "burden_out_of_range"),
        (lambda: burden_of(2, 0), "mass_not_positive"),
        (lambda: battery_days(0, 1, 1, 1), "battery_out_of_range"),
        (lambda: collision_loss(0, 3, 60), "tags_out_of_range"),
        (lambda: compare_kinds("mood", WAL, 400, 2, 1000, {}, {}), "question_unknown"),
        (lambda: draw_shares(10, 1.2, 0), "share_out_of_range"),
    ],
)
def test_refusals(call: Callable[[], object], code: str) -> None:
    with pytest.raises(CoreError) as refused:
        call()
    assert refused.value.code == code and refused.value.message.endswith((".", "?"))


@given(st.floats(5, 5000), st.floats(50, 20_000), st.floats(5, 500))
def test_settings_keep_ohms_law_and_the_power_that_reaches_fish(us_cm: float, watts: float, r100: float) -> None:
    found = settings_for(us_cm, watts, r100)
    assert found.volts * found.amps == pytest.approx(found.watts)
    assert found.volts / found.amps == pytest.approx(found.resistance_ohm)
    assert matched_power(found.watts, us_cm) == pytest.approx(watts)
    assert r100_from_reading(found.volts, found.amps, us_cm) == pytest.approx(r100)
    assert found.power_ratio >= 1 - 1e-12


def test_what_a_unit_cannot_give_is_said_with_by_how_much() -> None:
    goal = settings_for(200, 3000, 60)
    assert problems(goal, Unit(400, 20, 5000), 60, 4) == ()
    found = problems(goal, Unit(300, 10, 700, max_hz=50), 60, 4)
    assert [each.code for each in found] == [
        "volts_beyond_unit",
        "amps_beyond_unit",
        "watts_beyond_unit",
        "rate_beyond_unit",
    ]
    assert "11.6 V above 300 V" in found[0].message


def test_an_agencys_limits_can_be_switched_on() -> None:
    goal = settings_for(350, 3000, 100)
    found = {each.code for each in problems(goal, Unit(1200, 50, 9000), 80, 6, SALMONID_BACKPACK, water_c=19)}
    assert found == {"rate_beyond_limits", "pulse_beyond_limits", "water_too_warm"} | (
        {"volts_beyond_limits"} if goal.volts > 400 else set()
    )


@pytest.mark.parametrize("limits", [None, SALMONID_BACKPACK])
@pytest.mark.parametrize("unit", [Unit(1200, 50, 9000), Unit(600, 4, 9000), Unit(1200, 50, 300)])
def test_no_row_and_no_step_passes_a_limit_or_the_unit(unit: Unit, limits: LimitSet | None) -> None:
    share = duty(60, 4)
    waters = conductivity_steps(20, 900, 150, limits)
    assert limits is None or {100.0, 300.0} <= set(waters)
    for goal in settings_table(waters, 3000, 80):
        held = held_within(goal, unit, share, limits)
        assert held.volts <= most_volts(unit, goal.ambient_us_cm, limits)
        assert held.amps <= unit.max_amps * (1 + 1e-9) and held.mean_watts(share) <= unit.max_watts * (1 + 1e-9)
        assert held.volts == pytest.approx(held.amps * held.resistance_ohm)
        assert all(step.volts <= held.volts for step in ramp_up(held.volts))
        # lowered only where something stands against the goal
        assert (held == goal) == (not problems(goal, unit, 60, 4, limits))


def test_working_up_and_pulse_rates() -> None:
    steps = ramp_up(306)
    assert [step.volts for step in steps] == [150, 200, 250, 300]  # never rounded up
    assert [step.volts for step in ramp_up(12)] == [6, 8, 10, 12]
    assert (
        pulse_advice("sturgeon", False)[0] == 30 == pulse_advice("other", True)[0]
        and pulse_advice("other", False)[0] == 60
    )


def test_steps_of_a_table_hold_today_and_a_margin() -> None:
    steps = conductivity_steps(150, 210, 178)
    assert steps[0] == pytest.approx(105) and steps[-1] == pytest.approx(315) and 178 in steps and len(steps) == 10
    assert conductivity_steps(150, 210, 400)[-1] == pytest.approx(600)
    assert conductivity_steps(2, 3, 2)[0] == 2


def test_the_most_tender_fish_sets_the_pulse_rate() -> None:
    assert pulse_advice_for([species.get("yep")])[0] == 60
    assert pulse_advice_for([species.get("yep"), WAL])[0] == 30
    assert pulse_advice_for([species.get("lwf")])[1].startswith("Trout, salmon and sturgeon")


def test_the_middle_resistance() -> None:
    assert median_r100([(300, 8, 200), (300, 10, 200), (300, 5, 200)]) == 75
    assert median_r100([]) is None


def test_voltage_falls_and_current_rises_with_conductivity() -> None:
    table = settings_table([50, 115, 300, 800], 3000, 60)
    assert [row.amps for row in table] == sorted(row.amps for row in table)
    rings = field_rings_cm(300, 15)
    assert rings[0.1] > rings[0.2] > rings[0.5] > rings[1.0] >= 15


@given(
    st.floats(2000, 100_000), st.floats(50, 1500), st.floats(0, 3000), st.integers(0, 10_000),
    st.sampled_from(["regular", "systematic", "random"]),
)  # fmt: skip
def test_sites_lie_in_the_reach_apart_and_are_repeatable(
    reach: float, site: float, gap: float, seed: int, layout: str
) -> None:
    if gap > reach or site > reach:
        return
    sites = lay_out_sites(reach, site, gap, seed, layout)
    assert sites == lay_out_sites(reach, site, gap, seed, layout)
    assert sites[0].start_m >= 0 and sites[-1].end_m <= reach + 1e-6
    for one, other in itertools.pairwise(sites):
        assert other.start_m - one.end_m >= gap - 1e-6
    for each in sites:
        length = each.end_m - each.start_m
        assert length == pytest.approx(site) if not each.cut else 0 <= length <= site + 1e-6
        assert not each.cut or each.start_m == 0 or each.end_m == reach


def test_sites_five_kilometres_apart_on_the_river() -> None:
    sites = lay_out_sites(62_000, 1000, 5000, layout="regular")
    assert [site.start_m for site in sites] == [6000.0 * place for place in range(11)]
    clear = lay_out_sites(62_000, 1000, 5000, layout="regular", closed=((30_000, 32_000),))
    assert len(clear) == 10
    strata = lay_out_sites(62_000, 1000, 500, 3, "stratified", n=12, zones=((0, 31_000), (31_500, 62_000)))
    assert [sum(site.stratum == stratum for site in strata) for stratum in (0, 1)] == [6, 6]


@pytest.mark.parametrize(("reach", "site", "gap"), [(40_000, 1000, 5000), (10_000, 1000, 1000), (3_000, 700, 1500)])
def test_each_metre_is_as_likely_to_be_in_a_systematic_site(reach: float, site: float, gap: float) -> None:
    """Before, 30 % of the first reach could never be drawn: the start came from what the last whole site left over."""
    draws, metres = 1500, np.linspace(0, reach, 41)
    within = np.zeros(metres.size)
    for seed in range(draws):
        for each in lay_out_sites(reach, site, gap, seed):
            within += (each.start_m <= metres) & (metres < each.end_m + (each.end_m == reach))
    share = site / (site + gap)
    error = np.sqrt(share * (1 - share) / draws)
    assert np.abs(within / draws - share).max() < 4 * error


def test_a_gap_longer_than_the_reach_is_drawn_until_it_holds_a_site() -> None:
    assert all(lay_out_sites(2000, 100, 2000, seed) for seed in range(60))


@pytest.mark.parametrize(
    ("n", "lengths", "counts"),
    [(10, (5, 5, 5), (4, 3, 3)), (7, (10, 1, 1), (5, 1, 1)), (3, (10, 1, 1), (1, 1, 1)), (12, (31, 30.5), (6, 6))],
)
def test_strata_share_all_sites(n: int, lengths: tuple[float, ...], counts: tuple[int, ...]) -> None:
    ends = np.cumsum([0, *lengths]) * 2000
    zones = tuple(itertools.pairwise(map(float, ends)))
    sites = lay_out_sites(float(ends[-1]), 100, 0, 3, "stratified", n=n, zones=zones)
    assert tuple(sum(each.stratum == place for each in sites) for place in range(len(zones))) == counts


def test_more_strata_than_sites_are_refused() -> None:
    with pytest.raises(CoreError) as refused:
        lay_out_sites(30_000, 100, 0, 3, "stratified", n=2, zones=((0, 1e4), (1e4, 2e4), (2e4, 3e4)))
    assert refused.value.code == "no_room"


def test_a_species_with_no_swim_bladder_is_not_lifted() -> None:
    plan = descent_plan(3000, 80, swim_bladder=False, legal_minimum_g=0)
    assert (plan.lift_n, plan.sinker_g, plan.excess) == (0, 0, 0) and "no swim bladder" in plan.notes[0]
    deep = descent_plan(3000, 40, lets_go_at_m=(15, 30, 50))
    assert deep.lets_go_m == 30  # not the one that is deeper than the fish came from


@pytest.mark.parametrize(("low", "high"), [(0.001, 0.01), (0.05, 0.15), (0.02, 0.06)])
def test_so_many_fish_tell_mortality_and_so_do_more(low: float, high: float) -> None:
    n = fish_to_tell_mortality(low, high)
    larger = np.arange(n - 1, n + 3000)
    power = binom.sf(binom.ppf(0.95, larger, low), larger, high)
    assert power[0] < 0.8 <= power[1:].min()


def test_what_past_lengths_say() -> None:
    found = lengths_before([240, 300, 400, 420], WAL.size_categories)
    assert (found.n, found.mean_mm, found.psd) == (4, 340, pytest.approx(2 / 3))
    assert found.sd_mm == pytest.approx(np.std([240, 300, 400, 420], ddof=1))
    assert lengths_before([400, 410], None).psd is None and np.isnan(lengths_before([400], None).sd_mm)


def test_the_highest_volts_are_the_lower_of_unit_and_limits() -> None:
    # NMFS (2000) backpack limits among protected salmonids, from memory: 1,100 V below 100 µS/cm, 800 to 300, 400 above
    strong, weak = Unit(1200, 20, 5000), Unit(600, 20, 5000)
    assert [most_volts(strong, water, SALMONID_BACKPACK) for water in (50, 99.9, 100, 300, 300.1, 2000)] == [
        1100,
        1100,
        800,
        800,
        400,
        400,
    ]
    assert [most_volts(weak, water, SALMONID_BACKPACK) for water in (50, 200, 400)] == [600, 600, 400]
    assert most_volts(strong, 400) == 1200


def test_catch_per_effort() -> None:
    assert rod_hours(2, 3, 90) == 9.0
    found = cpue([10, 20, 0, 6], [0.5, 0.5, 0.4, 0.6])
    assert found.value == pytest.approx(36 / 2) and found.lower < found.value < found.upper
    assert cpue([3], [0.5]).interval == "one site"
    weighted = cpue([10, 20], [1, 1], [3, 1])
    assert weighted.value == pytest.approx(12.5)
    some, all_ = cpue([10, 20, 4], [1, 1, 1], sites_in_all=6), cpue([10, 20, 4], [1, 1, 1], sites_in_all=3)
    assert some.se == pytest.approx(found_se := cpue([10, 20, 4], [1, 1, 1]).se * np.sqrt(0.5)) and found_se > 0
    assert all_.se == pytest.approx(np.sqrt(34) / 3)  # every site was visited: the counts still vary by chance
    nothing = cpue([0, 0, 0], [1, 0.5, 1.5])
    assert (nothing.value, nothing.lower, nothing.interval) == (0, 0, "exact Poisson bound")
    assert np.exp(-3 * nothing.upper) == pytest.approx(0.05)  # so many a site-hour give nothing in 5 of 100
    assert negative_binomial_k([0, 0, 10, 30]) < 1 and np.isinf(negative_binomial_k([5, 5, 5]))


@given(st.floats(0.5, 200), st.floats(0.01, 0.08))
def test_a_heavier_tag_needs_a_longer_fish(grams: float, burden: float) -> None:
    one, heavier, more = (
        minimum_length_mm(WAL, grams, burden),
        minimum_length_mm(WAL, grams * 1.5, burden),
        minimum_length_mm(WAL, grams, min(burden * 1.5, 0.12)),
    )
    assert more.value < one.value < heavier.value and one.lower < one.value < one.upper
    line = WAL.length_mass
    fish_g = 10 ** (line.log10_a + line.b * np.log10(one.value))
    assert burden_of(grams, fish_g) == pytest.approx(burden)


def test_batteries_and_shared_water() -> None:
    days = battery_days(100, sleep_ua=1, pulse_mas=3, interval_s=60, usable=1)
    assert days == pytest.approx(100 / (0.001 + 0.05) / 24)
    assert battery_days(100, 1, 3, 120, 1) > days
    assert last_ping(date(2026, 5, 1), 365.9) == date(2027, 5, 1)
    assert collision_loss(1, 3, 60) == 0 and collision_loss(20, 3, 60) > collision_loss(20, 3, 120)
    n = most_tags(0.2, 3.3, 120)
    assert collision_loss(n, 3.3, 120) <= 0.2 < collision_loss(n + 1, 3.3, 120)


def test_choosing_a_tag() -> None:
    prices = {"visible": 1.0, "pit": 3.0, "acoustic": 400.0, "satellite": 4000.0}
    found = compare_kinds("home range", WAL, 450, 2, 3000, prices, {"acoustic": 9.0, "radio": 9.0}, fresh_water=True)
    assert [each.kind.code for each in found if each.fits] == ["acoustic", "radio"]
    assert next(each for each in found if each.kind.code == "acoustic").affordable == 7
    small = compare_kinds("home range", WAL, 220, 2, 3000, prices, {"acoustic": 9.0, "radio": 9.0})
    acoustic = next(each for each in small if each.kind.code == "acoustic")
    assert not acoustic.fits and "220 mm" in acoustic.against[0]
    poor = compare_kinds("far movement", WAL, 800, 1, 3000, prices, {"satellite": 40.0})
    assert "does not buy one" in " ".join(next(each for each in poor if each.kind.code == "satellite").against)


def test_shares_are_exact_and_repeatable() -> None:
    drawn = draw_shares(200, 0.25, 0.1, seed=4)
    assert sum(each.double for each in drawn) == 50 and sum(each.high_reward for each in drawn) == 20
    assert drawn == draw_shares(200, 0.25, 0.1, seed=4) != draw_shares(200, 0.25, 0.1, seed=5)


def test_reaches() -> None:
    reach = reach_from([(0, 0), (0.01, 0), (0.01, 0), (0.02, 0.005)])
    assert reach.lon.size == 3 and reach.along_m[0] == 0
    part = reach.part(500, 1500)
    assert len(part) == 3 and part[1] == (0.01, 0)
    assert looks_swapped([(44.9, -31.6), (44.95, -31.7)], (-31.5, 44.8))
    assert not looks_swapped([(-31.6, 44.9), (-31.7, 44.95)], (-31.5, 44.8))


def test_a_reach_across_180_degrees_is_right_to_the_metre() -> None:
    """Its points by geographiclib (Karney 2013), along geodesics of 160 km."""
    reach = reach_from([(178.5, 51.0), (-179.3, 51.4), (-177.2, 50.9)])
    geod = Geodesic.WGS84
    first = geod.Inverse(51.0, 178.5, 51.4, -179.3)
    second = geod.Inverse(51.4, -179.3, 50.9, -177.2)
    assert reach.length_m == pytest.approx(first["s12"] + second["s12"], abs=0.001)
    for metres in (0.0, 60_000.0, first["s12"], first["s12"] + 75_000, reach.length_m):
        base, along = (first, metres) if metres <= first["s12"] else (second, metres - first["s12"])
        truth = geod.Direct(base["lat1"], base["lon1"], base["azi1"], along)
        lon, lat = reach.point_at(metres)
        assert geod.Inverse(truth["lat2"], truth["lon2"], float(lat), float(lon))["s12"] < 0.01
        along_again, off = reach.nearest_m(float(lon), float(lat))
        assert along_again == pytest.approx(metres, abs=1) and off < 1


def test_a_line_that_only_seems_to_cross_itself_on_a_flat_map() -> None:
    assert reach_from([(179.9, 10.0), (-179.9, 10.1), (-179.7, 10.0)]).length_m < 60_000


def test_a_shore_closes_where_it_began() -> None:
    """300 rings of points that no float holds exactly, some across 180 degrees: 6 of 100 once seemed to touch themselves."""
    rng = np.random.default_rng(1)
    for _ in range(300):
        turns = np.sort(rng.uniform(0, 6.2, 6))
        lon, lat = rng.uniform(-180.02, 180.02) + 0.02 * np.cos(turns), 50 + 0.01 * np.sin(turns)
        lon = np.where(lon > 180, lon - 360, np.where(lon < -180, lon + 360, lon))
        ring = list(zip(lon.tolist(), lat.tolist(), strict=True))
        assert reach_from([*ring, ring[0]]).length_m > 0


def test_a_shore_that_crosses_itself_is_refused() -> None:
    with pytest.raises(CoreError) as refused:
        reach_from([(4.0, 50.0), (4.1, 50.1), (4.1, 50.0), (4.0, 50.1), (4.0, 50.0)])
    assert refused.value.code == "line_crosses_itself"


POWER = json.loads((Path(__file__).parents[3] / "tests/shared/power.json").read_text())


@pytest.mark.parametrize("case", POWER, ids=lambda case: f"{case['volts']} V")
def test_power_achieved_by_hand(case):
    found = power_achieved(case["volts"], case["amps"], case["goal_w"], case["ambient_us_cm"])
    assert (found.watts, found.percent, found.r100_ohm) == (
        case["watts"],
        pytest.approx(case["percent"]),
        case["r100_ohm"],
    )


@pytest.mark.parametrize("bad", [(0, 5, 100), (300, float("nan"), 100), (300, 5, 0)])
def test_power_achieved_refuses(bad):
    with pytest.raises(CoreError):
        power_achieved(*bad)
