"""Settings, sample sizes, doses, depth: against published values and general-purpose packages.

Published values are from memory of the sources named.
"""

from __future__ import annotations

import itertools
import math

import numpy as np
import pandas as pd
import pytest
import statsmodels.api as sm
import statsmodels.formula.api as smf
from geographiclib.geodesic import Geodesic
from scipy import stats
from shapely import LineString
from statsmodels.stats.power import NormalIndPower
from statsmodels.stats.proportion import proportion_effectsize, samplesize_confint_proportion

from nailwright_core.deck.deep_water import expansion, pressure_pa
from nailwright_core.deck.handling import box_l, cylinder_l, dose_volume_ml, half_barrel_l, zero_deaths_upper
from nailwright_core.findings.catches.catch_per_effort import cpue, cpue_change, cpue_trend
from nailwright_core.plan.effort import sites_for_cv
from nailwright_core.plan.electrofishing import ambient_conductivity, power_ratio, specific_conductance
from nailwright_core.plan.sample_size import (
    catch_for_marks,
    fish_for_difference,
    fish_for_mean,
    fish_for_proportion,
    fish_to_tell_mortality,
)
from nailwright_core.waters.reach import reach_from


def test_power_ratios() -> None:
    """Kolz (1989); Miranda and Dolan (2003): fish of 115 µS/cm."""
    assert power_ratio([50, 115, 200, 500]).round(2).tolist() == [1.18, 1.0, 1.08, 1.64]


def test_ambient_from_specific() -> None:
    """Reynolds (1996): 200 at 25 C is 148.6 µS/cm in water of 10 C."""
    assert ambient_conductivity(200, 10) == pytest.approx(148.6, abs=0.05)
    assert specific_conductance(ambient_conductivity(200, 10), 10) == pytest.approx(200)


def test_expansion_from_thirty_metres() -> None:
    """Boyle: 30 m of sea water, 3.98 times at one standard atmosphere."""
    assert expansion(30) == pytest.approx(3.98, abs=0.005)


@pytest.mark.parametrize(("metres", "pascal"), [(0, 101_325), (1000, 89_874.6), (2000, 79_495.2), (3000, 70_108.5)])
def test_air_pressure_at_altitude(metres: float, pascal: float) -> None:
    """ISO 2533, standard atmosphere."""
    assert pressure_pa(0, "fresh", metres) == pytest.approx(pascal, rel=1e-4)


@pytest.mark.parametrize(("share", "half"), [(0.5, 0.1), (0.3, 0.05), (0.85, 0.03)])
def test_fish_for_a_proportion_against_statsmodels(share: float, half: float) -> None:
    assert fish_for_proportion(share, half) == math.ceil(samplesize_confint_proportion(share, half))


@pytest.mark.parametrize(("a", "b"), [(0.3, 0.5), (0.61, 0.74), (0.05, 0.15)])
def test_fish_for_a_difference_against_statsmodels(a: float, b: float) -> None:
    effect = abs(proportion_effectsize(a, b))
    assert fish_for_difference(a, b) == math.ceil(NormalIndPower().solve_power(effect, alpha=0.05, power=0.8))


def test_fish_for_a_mean_gives_the_width_asked_for() -> None:
    n = fish_for_mean(60, 10)
    width = [stats.t.ppf(0.975, k - 1) * 60 / math.sqrt(k) for k in (n - 1, n)]
    assert width[0] > 10 >= width[1]


def test_fish_that_tell_five_from_fifteen_per_cent() -> None:
    """By the binomial itself: the test keeps its level and has its power at the number given, and at all larger ones."""
    n = fish_to_tell_mortality(0.05, 0.15)
    by_normal = (1.645 * math.sqrt(0.05 * 0.95) + 0.842 * math.sqrt(0.15 * 0.85)) ** 2 / 0.1**2  # 43, too few by nature
    assert by_normal < n < 2 * by_normal
    for size in range(n, n + 25):
        cut = next(k for k in range(size) if stats.binom.sf(k - 1, size, 0.05) <= 0.05)
        assert stats.binom.sf(cut - 1, size, 0.15) >= 0.8


@pytest.mark.parametrize("accuracy", [0.5, 0.25, 0.1])
def test_marks_and_catch_give_the_accuracy_promised(accuracy: float) -> None:
    """Robson and Regier's charts by simulation from the hypergeometric: 95 of 100 surveys within the accuracy."""
    population, marks = 5000, 500
    catch = int(catch_for_marks(population, [marks], accuracy).catch[0])
    recaptured = np.random.default_rng(1).hypergeometric(marks, population - marks, catch, 40_000)
    found = marks * catch / np.maximum(recaptured, 0.5)
    assert (np.abs(found / population - 1) <= accuracy).mean() == pytest.approx(0.95, abs=0.025)


def test_sites_for_a_cv() -> None:
    """Cochran (1977): n = s^2 / (cv m)^2; with N sites in all n / (1 + n / N)."""
    assert sites_for_cv(10, 40, 0.1) == 40
    assert sites_for_cv(10, 40, 0.1, frame_size=60) == 24


def test_the_variance_of_a_rate_over_sites_is_the_regressions() -> None:
    """The ratio estimator is weighted least squares through the origin; its robust variance (HC0) is the design's."""
    counts, hours = np.array([10, 20, 0, 6, 31.0]), np.array([0.5, 0.7, 0.4, 0.6, 1.1])
    line = sm.WLS(counts, hours, weights=1 / hours).fit(cov_type="HC0")
    found = cpue(counts, hours)
    assert found.value == pytest.approx(line.params[0])
    assert found.se == pytest.approx(line.bse[0] * math.sqrt(5 / 4))  # n - 1 sites tell of the spread


@pytest.mark.parametrize("sites", [3, 5, 10, 40])
def test_coverage_of_catch_per_effort(sites: int) -> None:
    """Patchy catches (negative binomial), 3 and 20 fish a site, by simulation: 2,000 surveys, Monte Carlo error 0.5 of 100."""
    rng = np.random.default_rng(sites)
    held = []
    for k in (0.5, 1, 2, 5):
        for mean in (3, 20):
            for _ in range(250):
                hours = rng.uniform(0.5, 1.5, sites)
                found = cpue(rng.negative_binomial(k, k / (k + mean * hours)), hours)
                held.append(found.lower <= mean <= found.upper)
    assert 0.92 <= np.mean(held) <= 0.97


def test_none_dead_of_143() -> None:
    """The exact upper end, 2.07 %, and the rule of three, 2.10 %."""
    assert zero_deaths_upper(143) == pytest.approx(1 - 0.05 ** (1 / 143), abs=1e-9)
    assert zero_deaths_upper(143) == pytest.approx(0.0207, abs=5e-5)


def test_volumes_and_dose() -> None:
    """Definitions: a litre is 1,000 cm3; half a barrel filled to its radius is half a cylinder; mg = mg/L x L."""
    assert box_l(50, 40, 30) == 60
    assert cylinder_l(100, 50) == pytest.approx(math.pi * 2500 * 50 / 1000)
    assert half_barrel_l(60, 100, 30) == pytest.approx(cylinder_l(60, 100) / 2)
    assert dose_volume_ml(60, 40, 105) == pytest.approx(60 * 40 / 105)


def test_kilometres_along_a_line() -> None:
    """Lengths against GeographicLib, places along it against shapely on a plane small enough to be flat."""
    line = [(-31.62 + 0.01 * step, 44.91 + 0.004 * math.sin(step)) for step in range(20)]
    reach = reach_from(line)
    legs = [Geodesic.WGS84.Inverse(a[1], a[0], b[1], b[0])["s12"] for a, b in itertools.pairwise(line)]
    assert reach.length_m == pytest.approx(sum(legs), abs=1e-3)
    for lon, lat in line[3:15:4]:
        along, off = reach.nearest_m(lon, lat)
        assert off < 0.5 and along == pytest.approx(sum(legs[: line.index((lon, lat))]), abs=1)
    scale = np.array([math.cos(math.radians(44.91)), 1.0])
    flat = LineString(np.array(line) * scale)
    lon, lat = reach.point_at(reach.length_m / 3)
    there = flat.interpolate(1 / 3, normalized=True)
    assert (float(lon) * scale[0], float(lat)) == (pytest.approx(there.x, abs=2e-6), pytest.approx(there.y, abs=2e-6))


def test_trend_against_statsmodels_poisson_with_site_effects() -> None:
    """The conditional likelihood has its maximum where Poisson regression with a dummy for each site has it."""
    rng = np.random.default_rng(7)
    effort = rng.uniform(0.5, 2, (9, 6))
    effort[2, 3] = effort[5, 0] = 0
    counts = rng.poisson(6 * np.exp(rng.normal(0, 1, (9, 1))) * 0.88 ** np.arange(6) * effort)
    site, year = np.indices(counts.shape)
    there = effort.ravel() > 0
    rows = pd.DataFrame({"y": counts.ravel(), "f": effort.ravel(), "site": site.ravel(), "t": year.ravel()})[there]
    theirs = smf.glm("y ~ C(site) + t", rows, family=sm.families.Poisson(), offset=np.log(rows.f)).fit(tol=1e-12)
    ours = cpue_trend(counts, effort, np.arange(6.0))
    assert np.log1p(ours.change.value) == pytest.approx(theirs.params["t"], abs=1e-6)
    # with Poisson catches and calm years the standard error is near the model's own
    assert 0.5 < ours.change.se / (1 + ours.change.value) / theirs.bse["t"] < 2


def test_change_between_visits_against_statsmodels_poisson() -> None:
    rng = np.random.default_rng(8)
    first, second, hours = rng.poisson(14, 10), rng.poisson(9, 10), rng.uniform(0.5, 1, 10)
    rows = pd.DataFrame({"y": [*first, *second], "f": [*hours, *hours], "second": np.repeat([0, 1], 10)})
    theirs = smf.glm("y ~ second", rows, family=sm.families.Poisson(), offset=np.log(rows.f)).fit()
    ours = cpue_change((first, hours), (second, hours))
    assert np.log1p(ours.value) == pytest.approx(theirs.params["second"])
    assert 0.5 < ours.se / (1 + ours.value) / theirs.bse["second"] < 2
