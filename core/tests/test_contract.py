"""What every public function of core does with numbers that are none: it refuses in the house's one way."""

from __future__ import annotations

import math
from collections.abc import Callable
from datetime import date
from typing import Any

import numpy as np
import pytest

from nailwright_core.common import by_site, intervals, quantities, species
from nailwright_core.common.errors import CoreError
from nailwright_core.deck import baths, deep_water, handling, plausibility
from nailwright_core.findings import (
    abundance,
    condition,
    group_trend,
    induction,
    relative_weight,
    return_rate,
    selectivity,
    shift,
    size_structure,
    tag_retention,
    value_comparison,
)
from nailwright_core.findings.catches import catch_per_effort, catch_rates
from nailwright_core.plan import effort, electrofishing, sample_size
from nailwright_core.tags import burden, cards, retention
from nailwright_core.tags import plausibility as plausibility_of_reports
from nailwright_core.waters import geodesics, oxygen

WAL = species.get("wal")
LENGTHS = [230.0, 300.0, 310.0, 420.0, 505.0, 260.0, 330.0, 480.0]
SITES = ("K1", "K1", "K1", "K2", "K2", "K2", "K3", "K3")
MASSES = [110.0, 260.0, 290.0, 760.0, 1400.0, 160.0, 350.0, 1150.0]

#: Each function with arguments that it takes.
CALLS: dict[str, tuple[Callable[..., Any], dict[str, Any]]] = {
    "wilson": (intervals.wilson, {"k": 3, "n": 10, "level": 0.95}),
    "exact_share": (lambda k, n, level: intervals.exact_share(k, n, "fish", level), {"k": 3, "n": 10, "level": 0.95}),
    "exact_binomial": (intervals.exact_binomial, {"k": 3, "n": 10, "level": 0.95}),
    "goodman": (intervals.goodman, {"counts": [3, 4], "level": 0.95}),
    "median_interval": (intervals.median_interval, {"values": LENGTHS, "level": 0.95}),
    "mean_by_site": (by_site.mean_by_site, {"values": LENGTHS, "sites": SITES, "level": 0.95}),
    "median_by_site": (by_site.median_by_site, {"values": LENGTHS, "sites": SITES, "level": 0.95}),
    "share_by_site": (by_site.share_by_site, {"hits": [1, 2, 0], "of": [3, 3, 2], "level": 0.95}),
    "shift": (shift.shift, {"a": LENGTHS, "b": MASSES, "level": 0.95}),
    "mean_difference": (value_comparison.mean_difference, {"a": LENGTHS, "b": MASSES, "level": 0.95}),
    "length_frequency": (size_structure.length_frequency, {"length_mm": LENGTHS, "bin_mm": 20.0}),
    "psd": (
        size_structure.proportional_size_distribution,
        {"length_mm": LENGTHS, "categories": WAL.size_categories, "level": 0.95},
    ),
    "psd_by_site": (
        size_structure.proportional_size_distribution,
        {"length_mm": LENGTHS, "categories": WAL.size_categories, "level": 0.95, "sites": SITES},
    ),
    "cohorts_from_starts": (size_structure.fit_cohorts, {"length_mm": LENGTHS, "start_means_mm": [260.0, 420.0]}),
    "check_capture": (plausibility.check_capture, {"species": WAL, "length_mm": 400.0, "mass_g": 600.0}),
    "suggest_bin": (size_structure.suggest_bin, {"length_mm": LENGTHS}),
    "compare_lengths": (size_structure.compare_lengths, {"a": LENGTHS, "b": MASSES, "level": 0.95}),
    "fit_cohorts": (size_structure.fit_cohorts, {"length_mm": LENGTHS, "k": 2, "level": 0.95, "step_mm": 1.0}),
    "fit_length_mass": (condition.fit_length_mass, {"length_mm": LENGTHS, "mass_g": MASSES, "level": 0.95}),
    "relative_weight": (relative_weight.summarise_relative_weight, {"species": WAL, "length_mm": LENGTHS, "mass_g": MASSES}),
    "petersen": (abundance.petersen, {"marked": 60, "caught": 50, "recaptured": 9, "level": 0.95}),
    "repeated_catches": (
        abundance.repeated_catches, {"marked": 60, "caught": [50, 40], "recaptured": [9], "level": 0.95},
    ),
    "schnabel": (
        abundance.schnabel,
        {"caught": [10, 12, 9], "recaptured": [0, 1, 3], "marked_at_large": [0, 10, 21], "level": 0.95},
    ),
    "removal": (abundance.removal, {"catches": [38, 26, 12], "level": 0.95}),
    "delury": (abundance.delury, {"catches": [30, 22, 14, 9], "efforts": [1.0, 1.0, 1.0, 1.0], "level": 0.95}),
    "strata_of_two_catches": (
        abundance.strata_of_two_catches,
        {"marked": {"a": 60, "b": 30}, "caught": {"a": 50, "b": 40}, "recaptured": {"a": 9, "b": 5}, "moved": 0, "part": "zone", "level": 0.95},
    ),
    "petersen_strata": (abundance.petersen_strata, {"strata": {"a": (60, 50, 9), "b": (30, 40, 5)}, "level": 0.95}),
    "removal_sites": (
        abundance.removal_sites, {"catches": ((38, 26, 12), (9, 3, 1), (20, 8, 4)), "size": [1.0, 1.0, 2.0], "level": 0.95},
    ),
    "relative_selectivity": (
        selectivity.relative_selectivity,
        {"a": [*range(200, 240)], "b": [*range(210, 250)], "effort_ratio": 1.5},
    ),
    "oxygen": (oxygen.oxygen_saturation_mg_l, {"temperature_c": 14.0, "altitude_m": 300.0, "salinity": 0.0}),
    "removal_falling": (abundance.removal_falling, {"catches": [30, 22, 14], "falls": {0.0: 1.0, 0.2: 2.0}, "level": 0.95}),
    "passes_so_far": (abundance.passes_so_far, {"catches": [30, 22, 14], "wanted": 0.25}),
    "leslie": (abundance.leslie, {"catches": [30, 22, 14, 9], "efforts": [1.0, 1.0, 1.0, 1.0], "level": 0.95}),
    "cpue": (catch_per_effort.cpue, {"counts": [3, 0, 8], "effort": [0.5, 0.5, 0.7], "level": 0.95}),
    "cpue_stratified": (
        catch_per_effort.cpue_stratified,
        {"counts": [3, 5, 8, 2], "effort": [0.5, 0.5, 0.7, 0.4], "strata": ("a", "a", "b", "b"), "shares": {"a": 2, "b": 1}, "level": 0.95},
    ),
    "cpue_change": (
        catch_per_effort.cpue_change, {"first": ([3, 5, 8], [1, 1, 1]), "second": ([2, 4, 4], [1, 1, 1]), "level": 0.95},
    ),
    "cpue_trend": (
        catch_per_effort.cpue_trend,
        {"counts": ((3, 5, 8), (4, 4, 9)), "effort": ((1, 1, 1), (1, 1, 1)), "years": [2022, 2023, 2024], "level": 0.95},
    ),
    "catch_rates": (
        catch_rates.catch_rates,
        {"counts": [3, 5, 8, 2], "effort": [0.5, 0.5, 0.7, 0.4], "sites": ("a", "b", "a", "b"), "groups": ("2025", "2025", "2026", "2026"), "level": 0.95},
    ),
    "lay_out_sites": (effort.lay_out_sites, {"reach_length_m": 9000.0, "site_length_m": 500.0, "spacing_m": 1000.0}),
    "sites_for_cv": (effort.sites_for_cv, {"mean": 4.0, "variance": 9.0, "cv": 0.2, "frame_size": 60}),
    "fish_for_proportion": (sample_size.fish_for_proportion, {"share": 0.4, "half_width": 0.05, "level": 0.95}),
    "fish_for_mean": (sample_size.fish_for_mean, {"sd": 40.0, "half_width": 10.0, "level": 0.95}),
    "fish_for_difference": (sample_size.fish_for_difference, {"share_a": 0.4, "share_b": 0.6, "power": 0.8}),
    "fish_to_tell_mortality": (sample_size.fish_to_tell_mortality, {"low": 0.05, "high": 0.2, "power": 0.8}),
    "catch_for_marks": (sample_size.catch_for_marks, {"population": 900.0, "marks": [50.0, 90.0], "accuracy": 0.25}),
    "ambient": (electrofishing.ambient_conductivity, {"specific_us_cm": 200.0, "temperature_c": 10.0}),
    "r100": (electrofishing.r100_from_reading, {"volts": 300.0, "amps": 8.0, "ambient_us_cm": 200.0}),
    "matched_power": (electrofishing.matched_power, {"watts": 3000.0, "ambient_us_cm": 200.0}),
    "duty": (electrofishing.duty, {"pulse_hz": 60.0, "pulse_width_ms": 4.0}),
    "dose": (handling.dose_volume_ml, {"bath_l": 60.0, "target_mg_l": 20.0, "stock_mg_ml": 100.0}),
    "zero_deaths": (handling.zero_deaths_upper, {"n": 143, "level": 0.95}),
    "pressure": (deep_water.pressure_pa, {"depth_m": 30.0, "altitude_m": 100.0}),
    "descent": (deep_water.descent_plan, {"mass_g": 3000.0, "depth_m": 40.0, "bottom_m": 45.0, "legal_minimum_g": 450.0}),
    "minimum_length": (burden.minimum_length_mm, {"species": WAL, "tag_air_g": 9.0, "burden": 0.02, "level": 0.95}),
    "burden_of": (burden.burden_of, {"tag_air_g": 9.0, "fish_g": 900.0}),
    "geodesic": (geodesics.geodesic_m, {"lat1": 50.0, "lon1": 4.0, "lat2": 51.0, "lon2": 5.0}),
    "format_length": (quantities.format_length, {"mm": 469.0, "unit": "mm"}),
}  # fmt: skip

#: What no number of its kind may be; arrays get it as one of their values.
BAD = {"nan": math.nan, "inf": math.inf, "minus inf": -math.inf}
#: Zero, less than nothing, and a level of everything are for some arguments good values: they are answered or refused.
ODD = {"zero": 0, "negative": -3, "fraction": 2.5, "one": 1.0}

CALLS |= {
    "double_tag_retention": (retention.double_tag_retention, {"both": 40, "one": 10, "level": 0.95}),
    "unlike_tag_retention": (retention.unlike_tag_retention, {"both": 40, "only_a": 12, "only_b": 4, "level": 0.95}),
    "reporting_rate": (
        retention.reporting_rate,
        {"returned": 24, "released": 400, "returned_high": 15, "released_high": 100, "level": 0.95},
    ),
    "retention_curve": (
        retention.retention_curve,
        {"days": [40.0, 90, 120, 200, 260, 300, 410, 500, 620, 700, 800, 900], "shed": np.array([False, True] * 6), "level": 0.95},
    ),
    "tag_retention": (
        lambda days, seen_with, lasting, level: tag_retention.tag_retention(days, np.array([False, True] * 6), seen_with, ["a", "b"] * 6, lasting, level),
        {"days": [40.0, 90, 120, 200, 260, 300, 410, 500, 620, 700, 800, 900], "seen_with": np.zeros(12), "lasting": 12, "level": 0.95},
    ),
    "return_rate": (
        lambda level: return_rate.return_rate(np.array([False, True] * 6), np.array([False, False, True] * 4), ["a", "b"] * 6, level),
        {"level": 0.95},
    ),
    "read_rate": (tag_retention.read_rate, {"read": 30, "there": 34, "level": 0.95}),
    "end_digits": (cards.end_digits, {"length_mm": [*LENGTHS, *LENGTHS, *LENGTHS, *LENGTHS]}),
    "doubts_of_report": (
        lambda length_mm, lat, lon: plausibility_of_reports.doubts_of_report(
            plausibility_of_reports.LastKnown("wal", met=date(2026, 5, 1), lat=44.9, lon=-31.6, length_mm=400.0),
            plausibility_of_reports.Reported(found=date(2026, 6, 1), length_mm=length_mm, lat=lat, lon=lon),
        ),
        {"length_mm": 430.0, "lat": 44.8, "lon": -31.5},
    ),
    "group_trend": (
        group_trend.group_trend,
        {"values": LENGTHS, "at": [1.0, 2, 3, 4, 5, 6, 7, 8], "per": "a year", "along": "over the years", "level": 0.95},
    ),
    "induction_line": (
        baths.induction_line,
        {"mg_l": [50.0, 60, 80, 50, 60, 80, 50, 80], "seconds": [200.0, 160, 110, 190, 150, 120, 210, 100], "lay": np.ones(8, bool),
         "bath": np.arange(8), "temperature_c": np.full(8, np.nan), "goal_s": 180.0, "low_mg_l": 40.0, "high_mg_l": 150.0},
    ),
    "induction_by_temperature": (
        induction.induction_by_temperature,
        {"seconds": [200.0, 160, 110, 190, 150, 120, 210, 100], "lay": np.ones(8, bool), "temperature_c": [4.0, 8, 14, 5, 9, 13, 4, 15],
         "mg_l": [60.0] * 8, "bath": np.arange(8), "level": 0.95},
    ),
}  # fmt: skip

#: Where a fish that was not measured is left out.
LEFT_OUT = {
    ("median_interval", "values"), ("fit_length_mass", "length_mm"), ("fit_length_mass", "mass_g"),
    ("relative_weight", "length_mm"), ("relative_weight", "mass_g"),
}  # fmt: skip

CASES = [(name, argument) for name, (_, given) in CALLS.items() for argument, value in given.items()
         if isinstance(value, int | float | list) and not isinstance(value, bool)]  # fmt: skip


def spoilt(name: str, argument: str, bad: Any) -> tuple[Callable[..., Any], dict[str, Any]]:
    call, given = CALLS[name]
    value = given[argument]
    return call, {**given, argument: [*value[:-1], bad] if isinstance(value, list) else bad}


@pytest.mark.parametrize("name", CALLS)
def test_the_arguments_are_good(name: str) -> None:
    call, given = CALLS[name]
    assert call(**given) is not None


@pytest.mark.parametrize(("name", "argument"), CASES)
@pytest.mark.parametrize("bad", BAD)
def test_what_is_no_number_is_refused(name: str, argument: str, bad: str) -> None:
    call, given = spoilt(name, argument, BAD[bad])
    if (name, argument) in LEFT_OUT and bad == "nan":
        call(**given)
        return
    with pytest.raises(CoreError) as refused:
        call(**given)
    assert refused.value.field and refused.value.message


@pytest.mark.parametrize(("name", "argument"), CASES)
@pytest.mark.parametrize("odd", ODD)
def test_odd_numbers_are_answered_or_refused(name: str, argument: str, odd: str) -> None:
    call, given = spoilt(name, argument, ODD[odd])
    with np.errstate(all="ignore"):
        try:
            call(**given)
        except CoreError as refused:
            assert refused.field and refused.message


@pytest.mark.parametrize(
    ("name", "argument"), [(name, argument) for name, argument in CASES if isinstance(CALLS[name][1][argument], list)]
)
def test_nothing_at_all_is_refused(name: str, argument: str) -> None:
    call, given = CALLS[name]
    if (name, argument) in (
        ("catch_for_marks", "marks"),
        ("repeated_catches", "recaptured"),
        ("passes_so_far", "catches"),
    ):
        call(**{**given, argument: []})  # many at once: none of them is none; before the first pass there is none yet
        return
    with pytest.raises(CoreError):
        call(**{**given, argument: []})


@pytest.mark.parametrize("sites", [[None] * 8, [float("nan")] * 8, ["K1"] * 3, 5])
def test_labels_that_are_none_are_refused(sites: Any) -> None:
    with pytest.raises(CoreError) as refused:
        size_structure.proportional_size_distribution(LENGTHS, WAL.size_categories, sites=sites)
    assert refused.value.field == "sites"


@pytest.mark.parametrize("word", ["x", "", [300.0]])
def test_what_is_no_figure_is_refused(word: Any) -> None:
    with pytest.raises(CoreError):
        plausibility.check_capture(WAL, word, 500.0)
    with pytest.raises(CoreError):
        size_structure.fit_cohorts(LENGTHS, k=word)


def test_perfectly_equal_lengths_have_no_line() -> None:
    with pytest.raises(CoreError) as refused:
        condition.fit_length_mass([300.0] * 6, [200.0, 210, 220, 230, 240, 250])
    assert refused.value.code == "too_few_lengths"
    nearly = [300.0, 300.0 + 1e-10, 300.0 + 2e-10, 300.0 + 3e-10]
    with pytest.raises(CoreError) as refused:
        condition.fit_length_mass(nearly, [200.0, 210, 220, 230])
    assert refused.value.code == "too_few_lengths"
