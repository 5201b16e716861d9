"""Length-mass lines, relative condition and relative weight."""

from __future__ import annotations

import math

import numpy as np
import pytest
import statsmodels.api as sm
from hypothesis import given
from hypothesis import strategies as st
from numpy.typing import NDArray

from nailwright_core.common import species
from nailwright_core.common.errors import CoreError
from nailwright_core.findings.condition import fit_length_mass, fulton_k, relative_condition, relative_weight
from nailwright_core.findings.relative_weight import summarise_relative_weight

WALLEYE = species.get("wal")
TRUE_A, TRUE_B, TRUE_SD = -5.4, 3.15, 0.04


def made_up_fish(n: int, seed: int = 1, sd: float = TRUE_SD) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    rng = np.random.default_rng(seed)
    length = rng.uniform(150, 700, n)
    return length, 10 ** (TRUE_A + TRUE_B * np.log10(length) + rng.normal(0, sd, n))


def test_the_true_line_lies_in_the_interval_as_often_as_it_says() -> None:
    hits = 0
    for seed in range(400):
        fit = fit_length_mass(*made_up_fish(40, seed))
        hits += fit.b.lower <= TRUE_B <= fit.b.upper
    assert 0.92 <= hits / 400 <= 0.98


def test_new_fish_fall_into_the_prediction_interval_as_often_as_it_says() -> None:
    fit = fit_length_mass(*made_up_fish(200, 5))
    length, mass = made_up_fish(4000, 6)
    predicted = fit.predict(length)
    inside = (predicted.lower_g <= mass) & (mass <= predicted.upper_g)
    assert 0.93 <= inside.mean() <= 0.97
    assert predicted.mass_g.mean() == pytest.approx(mass.mean(), rel=0.02)


@pytest.mark.parametrize("n", [8, 40, 300])
def test_the_mean_mass_at_a_length_lies_in_its_interval_as_often_as_it_says(n: int) -> None:
    """With a spread of a quarter of the mass, where mean and median are 3 % apart."""
    sd = 0.11
    true = 10 ** (TRUE_A + TRUE_B * np.log10(420.0) + sd**2 * math.log(10) / 2)
    found = [fit_length_mass(*made_up_fish(n, seed, sd)).predict(420.0) for seed in range(500)]
    hits = np.mean([each.mean_lower_g <= true <= each.mean_upper_g for each in found])
    assert 0.925 <= hits <= 0.975  # Monte Carlo error 1 %


def test_an_exact_line_is_found_exactly() -> None:
    length = np.array([100.0, 200, 300, 400])
    fit = fit_length_mass(length, 1e-5 * length**3)
    assert (fit.log10_a.value, fit.b.value) == pytest.approx((-5, 3))
    assert fit.residual_sd == pytest.approx(0, abs=1e-9) and fit.isometry_p > 0.05
    assert fit.line.b == fit.b.value


def test_residuals_come_in_the_order_given_and_outliers_are_flagged_not_dropped() -> None:
    length, mass = made_up_fish(60)
    mass[17] *= 2
    fit = fit_length_mass(length, mass)
    assert fit.flagged.tolist() == [17] and fit.n == 60
    assert fit.residual[17] == pytest.approx(
        np.log10(mass[17]) - fit.log10_a.value - fit.b.value * np.log10(length[17])
    )


@given(st.floats(0.1, 10))
def test_the_unit_of_mass_moves_the_intercept_and_nothing_else(factor: float) -> None:
    length, mass = made_up_fish(30)
    before, after = fit_length_mass(length, mass), fit_length_mass(length, mass * factor)
    assert after.b.value == pytest.approx(before.b.value)
    assert after.log10_a.value == pytest.approx(before.log10_a.value + math.log10(factor))
    assert after.residual_sd == pytest.approx(before.residual_sd)


def test_pairs_with_a_gap_are_left_out() -> None:
    length, mass = made_up_fish(20)
    mass[3] = math.nan
    assert fit_length_mass(length, mass).n == 19


@pytest.mark.parametrize(
    ("length", "mass", "code"),
    [
        ([100.0, 200.0], [10.0], "lengths_differ"),
        ([100.0, 200.0, 300.0], [10.0, 0.0, 30.0], "not_positive"),
        ([100.0, -200.0, 300.0], [10.0, 20.0, 30.0], "not_positive"),
        ([100.0, 200.0, 200.0], [10.0, 80.0, 90.0], "too_few_lengths"),
        ([], [], "too_few_lengths"),
    ],
)
def test_bad_pairs_are_refused(length: list[float], mass: list[float], code: str) -> None:
    with pytest.raises(CoreError) as refused:
        fit_length_mass(length, mass)
    assert refused.value.code == code


@pytest.mark.parametrize(
    ("name", "spoil"),
    [
        ("Lengths span enough", lambda length, mass: (300 + length / 10, mass)),
        (
            "The line is straight on log axes",
            lambda length, mass: (length, mass * 10 ** (2 * np.log10(length / 320) ** 2)),
        ),
        (
            "Spread is the same at every length",
            lambda length, mass: (length, mass * 10 ** (np.random.default_rng(1).normal(0, 1, 400) * (length / 3000))),
        ),
        ("Residuals are near normal", lambda length, mass: (length, mass * np.where(np.arange(400) % 13, 1, 1.6))),
    ],
)
def test_each_assumption_is_doubted_where_it_is_broken(name: str, spoil) -> None:  # type: ignore[no-untyped-def]
    length, mass = made_up_fish(400)
    sound = {each.name: each.verdict for each in fit_length_mass(length, mass).assumptions}
    spoiled = {each.name: each.verdict for each in fit_length_mass(*spoil(length, mass)).assumptions}
    assert sound[name] == ("holds" if name == "Lengths span enough" else "not refuted")
    assert spoiled[name] in ("doubtful", "fails")


def test_fulton_and_relative_condition_by_hand() -> None:
    assert fulton_k([200.0], [80.0]).tolist() == [1.0]
    length, mass = made_up_fish(50)
    fit = fit_length_mass(length, mass)
    assert relative_condition(length, mass, fit) == pytest.approx(10**fit.residual)
    assert np.log10(relative_condition(length, mass, fit.line)).mean() == pytest.approx(0, abs=1e-12)


def test_relative_weight_is_undefined_below_the_equations_shortest_length() -> None:
    shortest = WALLEYE.standard_weight.min_mm
    found = relative_weight(WALLEYE, [shortest - 1, shortest, 500.0], [20.0, 25.0, 1213.0])
    assert math.isnan(found[0]) and np.isfinite(found[1:]).all()
    without = next(kind for kind in species.all_species() if kind.standard_weight is None)
    assert np.isnan(relative_weight(without, [300.0, 400.0], [200.0, 500.0])).all()


def test_mean_relative_weight_by_category_by_hand() -> None:
    length = np.array([300.0, 300, 400, 400, 140])
    standard = 10 ** (WALLEYE.standard_weight.a + WALLEYE.standard_weight.b * np.log10(length))
    found = summarise_relative_weight(WALLEYE, length, standard * [0.8, 1.0, 1.0, 1.1, 1.0])
    assert found.by_category["S-Q"].value == pytest.approx(90)
    assert found.by_category["Q-P"].value == pytest.approx(105)
    assert found.overall.value == pytest.approx(97.5) and found.overall.n == 4 and found.n_undefined == 1


def test_a_trend_of_wr_with_length_is_found() -> None:
    length = np.linspace(200, 600, 80)
    standard = 10 ** (WALLEYE.standard_weight.a + WALLEYE.standard_weight.b * np.log10(length))
    found = summarise_relative_weight(WALLEYE, length, standard * (1.1 - length / 4000))
    assert found.trend.value == pytest.approx(-2.5)


def test_one_fish_has_a_mean_and_no_interval() -> None:
    found = summarise_relative_weight(WALLEYE, [400.0], [600.0])
    assert math.isnan(found.overall.lower) and found.trend is None


def test_relative_weight_that_cannot_be_is_refused() -> None:
    without = next(kind for kind in species.all_species() if kind.standard_weight is None)
    for kind, length, code in ((without, 300.0, "no_standard_weight"), (WALLEYE, 100.0, "no_relative_weight")):
        with pytest.raises(CoreError) as refused:
            summarise_relative_weight(kind, [length], [100.0])
        assert refused.value.code == code


def test_studentised_residuals_are_those_against_the_others() -> None:
    """By leaving each fish out in turn, and by statsmodels; one of ten far off passes sqrt(n - 2), the most an internal one can."""
    rng = np.random.default_rng(4)
    length = rng.uniform(200, 600, 10)
    mass = 10 ** (-5.4 + 3.1 * np.log10(length) + rng.normal(0, 0.01, 10))
    mass[3] *= 10
    found = fit_length_mass(length, mass)
    x, y = np.log10(length), np.log10(mass)
    line = sm.OLS(y, sm.add_constant(x)).fit()
    assert found.studentised == pytest.approx(line.get_influence().resid_studentized_external)
    others = np.arange(10) != 3
    rest = fit_length_mass(length[others], mass[others])
    leverage = 1 / 9 + (x[3] - x[others].mean()) ** 2 / ((x[others] - x[others].mean()) ** 2).sum()
    away = y[3] - rest.log10_a.value - rest.b.value * x[3]
    assert found.studentised[3] == pytest.approx(away / (rest.residual_sd * np.sqrt(1 + leverage)))
    assert found.studentised[3] > 50 > np.sqrt(8) and found.flagged.tolist() == [3]
