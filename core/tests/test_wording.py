"""Findings as sentences."""

import numpy as np

from nailwright_core.common import species
from nailwright_core.common.intervals import median_interval
from nailwright_core.findings.condition import fit_length_mass, summarise_relative_weight
from nailwright_core.findings.size_structure import proportional_size_distribution
from nailwright_core.records.wording import condition_sentence, size_sentence

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
    assert condition(1.0).endswith("near the benchmark of 95 to 105.")
    assert "below the benchmark" in condition(0.9)
    assert ": thin." in condition(0.7)
    assert "above the benchmark" in condition(1.2)


def test_a_fall_with_length_names_what_to_look_for() -> None:
    assert "Wr falls by 5.0 with every 100 mm of length; prey of the wrong size" in condition(1.0, -0.05)
    assert "Wr rises by 5.0" in condition(1.0, 0.05)


def test_a_species_with_no_standard_weight_is_judged_by_its_own_line() -> None:
    without = next(kind for kind in species.all_species() if kind.standard_weight is None)
    length = np.linspace(200, 600, 60)
    assert "its own line" in condition_sentence(without, fit_length_mass(length, 1e-5 * length**3.01), None)
