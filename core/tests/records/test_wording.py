"""Findings as sentences."""

import math

import numpy as np
import pytest

from nailwright_core.common import species
from nailwright_core.common.estimate import Estimate
from nailwright_core.common.intervals import median_interval
from nailwright_core.findings.condition import fit_length_mass
from nailwright_core.findings.condition_comparison import compare_condition
from nailwright_core.findings.group_trend import group_trend
from nailwright_core.findings.relative_weight import RelativeWeightSummary, summarise_relative_weight
from nailwright_core.findings.size_structure import fit_cohorts, proportional_size_distribution
from nailwright_core.plan.rehearsal import MarksDesign, Rehearsal, TrendDesign
from nailwright_core.records.wording import (
    cohort_sentence,
    condition_comparison_sentence,
    condition_sentence,
    rehearsal_sentence,
    size_comparison_sentence,
    size_sentence,
    sweep_sentence,
)

WALLEYE = species.get("wal")


def size(mm: list[float]) -> str:
    return size_sentence(WALLEYE, proportional_size_distribution(mm, WALLEYE.size_categories), median_interval(mm))


def condition(factor: float, slope: float = 0.0) -> str:
    length = np.linspace(200, 600, 60)
    standard = 10 ** (WALLEYE.standard_weight.a + WALLEYE.standard_weight.b * np.log10(length))
    mass = standard * (factor + slope * (length - 400) / 100) * (1 + 0.002 * np.sin(7 * length))
    return condition_sentence(WALLEYE, fit_length_mass(length, mass), summarise_relative_weight(WALLEYE, length, mass))


def test_size_says_the_interval_and_the_number_of_fish() -> None:
    sentence = size([300.0] * 40 + [400.0] * 60)
    assert "of stock-length walleye are quality size or longer (PSD 60, n = 100)" in sentence
    assert sentence.startswith("50-69 %")


def test_few_fish_are_said_to_say_little() -> None:
    assert "says little" in size([300.0, 400.0, 410.0])


def test_no_stock_length_fish() -> None:
    assert size([100.0, 120.0]).startswith("None of the 2 measured walleye reaches stock length (250 mm)")


def test_a_species_with_no_categories() -> None:
    without = next(kind for kind in species.all_species() if kind.size_categories is None)
    assert "no agreed size categories" in size_sentence(without, None, median_interval([300.0, 310.0]))


def test_condition_is_read_against_the_benchmark() -> None:
    assert condition(1.0).endswith(": within the benchmark of 95 to 105.")
    assert ": below the benchmark" in condition(0.9)
    assert ": thin, below the benchmark" in condition(0.7)
    assert ": above the benchmark" in condition(1.2)


@pytest.mark.parametrize(
    ("lower", "upper", "words"),
    [
        (96, 104, "within the benchmark"),
        (93, 97, "spans 95: within or below the benchmark"),
        (103, 107, "spans 105: within or above the benchmark"),
        (90, 110, "wider than the benchmark"),
        (70, 79.9, "thin, below the benchmark"),
        (78, 82, ": below the benchmark"),
        (math.nan, math.nan, "too few to be read"),
    ],
)
def test_the_interval_is_read_and_not_the_mean_alone(lower: float, upper: float, words: str) -> None:
    length = np.linspace(200, 600, 60)
    fit = fit_length_mass(length, 1e-5 * length**3.01)
    mean = Estimate((lower + upper) / 2, 1.0, lower, upper, 0.95, "t", 30)
    weight = RelativeWeightSummary(np.full(30, mean.value), mean, {}, None, 0)
    assert words in condition_sentence(WALLEYE, fit, weight)


def test_a_fall_with_length_names_what_to_look_for() -> None:
    assert "Wr falls by 5.0 with every 100 mm of length; prey of the wrong size" in condition(1.0, -0.05)
    assert "Wr rises by 5.0" in condition(1.0, 0.05)


def test_a_species_with_no_standard_weight_is_judged_by_its_own_line() -> None:
    without = next(kind for kind in species.all_species() if kind.standard_weight is None)
    length = np.linspace(200, 600, 60)
    assert "its own line" in condition_sentence(without, fit_length_mass(length, 1e-5 * length**3.01), None)


def line(factor: float, slope: float = 3.1, seed: int = 0) -> tuple[np.ndarray, np.ndarray]:
    rng = np.random.default_rng(seed)
    mm = rng.uniform(200, 600, 80)
    return mm, factor * 10 ** (-5.3 + slope * np.log10(mm) + rng.normal(0, 0.03, 80)) * 400 ** (3.1 - slope)


def compared(groups: dict[str, tuple[np.ndarray, np.ndarray]], **more: object) -> str:
    return condition_comparison_sentence(WALLEYE, compare_condition(WALLEYE, groups, **more))  # type: ignore[arg-type]


def test_lines_that_differ_are_said_in_grams_and_per_cent() -> None:
    sentence = compared({"upper": line(1.0, seed=1), "lower": line(0.88, seed=2)})
    assert "weigh most in upper" in sentence and "least in lower" in sentence and "g, -1" in sentence
    assert "the lines differ in 1 of 1 pairs, relative weight in 1 of 1 (Holm, 2 tests)." in sentence
    assert "depends on length" not in sentence


def test_a_difference_that_goes_with_length_is_told_at_both_ends() -> None:
    sentence = compared({"a": line(1.02, 3.0), "b": line(1, 3.5, seed=3)})
    assert "depends on length: " in sentence and " mm, " in sentence


def test_groups_alike_are_said_to_be_alike() -> None:
    assert "No pair of the 2 groups differs by itself beyond chance" in compared(
        {"a": line(1, seed=1), "b": line(1, seed=2)}
    )


def test_too_few_sites_are_said_so() -> None:
    groups = {"a": line(1, seed=1), "b": line(0.8, seed=2)}
    sites = {"a": np.zeros(80, int), "b": np.ones(80, int)}
    without = next(kind for kind in species.all_species() if kind.standard_weight is None)
    found = compare_condition(without, groups, sites=sites)
    assert condition_comparison_sentence(without, found).startswith("Too few sites to tell")


def test_sites_are_named_beside_the_number_of_fish() -> None:
    lengths = np.random.default_rng(4).uniform(260, 700, 200)
    many = proportional_size_distribution(lengths, WALLEYE.size_categories, sites=np.arange(200) % 7)
    one = proportional_size_distribution(lengths, WALLEYE.size_categories, sites=np.zeros(200, int))
    median = median_interval(lengths)
    assert "n = 200 from 7 sites" in size_sentence(WALLEYE, many, median)
    assert "n = 200 from one site" in size_sentence(WALLEYE, one, median)


def test_lengths_compared_name_longest_and_shortest_or_say_chance() -> None:
    medians = {"2022": 380.0, "2023": 410.0, "2024": 395.0}
    assert "longest in 2023 (median 410 mm) and shortest in 2022 (380 mm); 2 of 3 pairs" in size_comparison_sentence(
        WALLEYE, medians, [0.001, 0.04, 0.3], {"Kolmogorov-Smirnov"}
    )
    assert (
        "No pair of the 3 groups differs by itself beyond chance in lengths of walleye (smallest p = 0.200"
        in size_comparison_sentence(WALLEYE, medians, [0.2, 0.9, 1.0], {"Kolmogorov-Smirnov", "means"})
    )
    assert size_comparison_sentence(WALLEYE, medians, [np.nan] * 3, {"means"}).startswith("Too few sites")


def test_a_trend_stands_before_the_pairs_and_a_sentence_never_denies_what_its_picture_shows() -> None:
    years = {str(2020 + n): 420.0 - 9 * n + (-1) ** n for n in range(6)}
    falling = group_trend(list(years.values()), list(map(float, years)), "a year", "over the years")
    details = size_comparison_sentence(WALLEYE, years, [0.2] * 15, {"Kolmogorov-Smirnov"}, falling)
    assert details.startswith(
        "Over the years the median length of walleye changes by -9.2 mm a year (-9.9 to -8.4). No pair of the 6 groups"
    )
    level = group_trend([400.0, 420, 380, 410], [1, 2, 3, 4], "a year", "over the years")
    assert ": no trend is shown yet. Walleye are longest" in size_comparison_sentence(
        WALLEYE, years, [0.001] * 15, {"means"}, level
    )


def test_cohorts_are_counted_placed_and_doubted() -> None:
    rng = np.random.default_rng(5)
    apart = np.concatenate([rng.normal(150, 10, 200), rng.normal(300, 15, 100)])
    assert "described by 2 cohorts: 1" in cohort_sentence(WALLEYE, fit_cohorts(apart, k=2))
    assert "described by one cohort" in cohort_sentence(WALLEYE, fit_cohorts(apart, k=1))
    blurred = np.concatenate([rng.normal(300, 30, 300), rng.normal(325, 30, 300)])
    assert "lie too close to be seen apart" in cohort_sentence(WALLEYE, fit_cohorts(blurred, k=2, spread="equal_sd"))


def rehearsed(
    design: MarksDesign | TrendDesign, within: float = 0.9, useless: float = 0.1, **more: object
) -> Rehearsal:
    known = {"truth": design.truth, "answers": np.zeros(1), "bias": 0.0, "spread": (0.0, 1.0), "median": 0.5, "coverage": 0.95,
             "coverage_interval": (0.9, 1.0), "cost": design.cost, "replicates": 1000, "level": 0.95, "seed": 1}  # fmt: skip
    return Rehearsal(design=design, within=within, useless=useless, **{**known, **more})  # type: ignore[arg-type]


def marks(n: int, within: float = 0.9, useless: float = 0.1) -> Rehearsal:
    return rehearsed(MarksDesign(5000, n, 400, cost_mark=10), within, useless)


def test_a_rehearsal_says_where_the_answers_lie() -> None:
    design = MarksDesign(5000, 250, 400)
    assert rehearsal_sentence(rehearsed(design, bias=-0.3, spread=(2000.4, 7000.0))) == (
        "95 of 100 such surveys would answer between 2,000 and 7,000; the truth is 5,000. The estimate is 30 % too low on average."
    )
    assert rehearsal_sentence(rehearsed(design, bias=0.019)).endswith("The estimate is nearly unbiased.")
    assert "4.0 % too high" in rehearsal_sentence(rehearsed(design, bias=0.04))
    trend = rehearsal_sentence(rehearsed(TrendDesign(10, 6, 12, 2, -0.1), bias=0.015, spread=(-0.21, 0.02)))
    assert "between -21 % and 2.0 %; the truth is -10 %. The estimate is 1.5 % too high" in trend
    assert rehearsal_sentence(rehearsed(design, spread=(np.nan, np.nan))).startswith("Not one such survey")


def test_a_sweep_says_from_where_on_all_are_good_enough() -> None:
    weak = {"within": 0.5, "useless": 0.4}
    assert sweep_sentence([marks(500), marks(50, **weak), marks(300)], "marks") == (
        "From fish marked 300 on, more than 80 of 100 surveys come within a quarter of the truth and fewer than 20 are "
        "useless, at a cost of 3,000."
    )
    # a value that is good by chance, with worse ones above it, is not "from there on"
    assert sweep_sentence([marks(100), marks(200, **weak), marks(300)], "marks").startswith("From fish marked 300 on")
    assert sweep_sentence([marks(100), marks(200, **weak)], "marks").startswith("Only with fish marked 100 are")
    assert sweep_sentence([marks(50, **weak), marks(100, 0.9, 0.2)], "marks").startswith("None of these values")
    trends = [rehearsed(TrendDesign(n, 6, 12, 2, -0.1)) for n in (8, 16)]
    assert sweep_sentence(trends, "sites").startswith(
        "From sites 8 on, more than 80 of 100 surveys see the direction and"
    )
    assert sweep_sentence([marks(300)], "cost_mark").startswith("From cost mark 10 on")
