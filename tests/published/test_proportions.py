"""Intervals for proportions against Wilson (1927), the rule of three, and statsmodels."""

import itertools

import numpy as np
import pytest
from scipy import stats
from statsmodels.stats.proportion import multinomial_proportions_confint, proportion_confint
from statsmodels.stats.rates import confint_poisson

from nailwright_core.common.intervals import exact_binomial, exact_poisson, goodman, wilson

COUNTS = [(k, n) for n in (1, 2, 7, 20, 143, 2000) for k in {0, 1, n // 3, n - 1, n} if 0 <= k <= n]


def test_seventeen_of_twenty_by_wilson_1927() -> None:
    """Definition; 0.640-0.948."""
    assert wilson(17, 20) == pytest.approx((0.640, 0.948), abs=5e-4)


def test_none_of_143_by_definition() -> None:
    """One-sided 95 % upper limit 0.0207 = 1 - 0.05^(1/143); the rule of three says 0.0210."""
    assert exact_binomial(0, 143, level=0.90)[1] == pytest.approx(0.0207, abs=5e-5)
    assert pytest.approx(0.0210, abs=5e-5) == 3 / 143


@pytest.mark.parametrize(("k", "n"), COUNTS)
@pytest.mark.parametrize("level", [0.8, 0.95, 0.99])
def test_wilson_and_clopper_pearson_against_statsmodels(k: int, n: int, level: float) -> None:
    assert wilson(k, n, level) == pytest.approx(proportion_confint(k, n, 1 - level, "wilson"), abs=1e-12)
    assert exact_binomial(k, n, level) == pytest.approx(proportion_confint(k, n, 1 - level, "beta"), abs=1e-9)


def simultaneous_score(cells: list[int], level: float) -> np.ndarray:
    """Goodman (1965): score intervals at alpha / k, written out with statsmodels' normal quantile by Wilson's form."""
    alpha = (1 - level) / len(cells)
    return np.array([proportion_confint(k, sum(cells), alpha, "wilson") for k in cells])


@pytest.mark.parametrize("cells", [[56, 72, 73, 59, 62, 87, 58], [10, 20, 70], [5, 300]])
@pytest.mark.parametrize("level", [0.9, 0.95])
def test_goodman_against_statsmodels(cells: list[int], level: float) -> None:
    """statsmodels takes chi-square with one degree at alpha / k, which is the square of our normal quantile."""
    assert np.array(goodman(cells, level)) == pytest.approx(
        multinomial_proportions_confint(cells, 1 - level, "goodman"), abs=1e-9
    )
    assert np.array(goodman(cells, level)) == pytest.approx(simultaneous_score(cells, level), abs=1e-9)


def test_wilson_covers_near_its_level() -> None:
    """Over true shares the mean coverage of Wilson's interval is near the level (Agresti and Coull 1998, from memory)."""
    from scipy.stats import binom

    n = 40
    shares = np.linspace(0.05, 0.95, 91)
    covered = np.zeros_like(shares)
    for k, (place, share) in itertools.product(range(n + 1), enumerate(shares)):
        low, high = wilson(k, n)
        covered[place] += binom.pmf(k, n, share) * (low <= share <= high)
    assert covered.mean() == pytest.approx(0.95, abs=0.01)


@pytest.mark.parametrize("n", [0, 1, 4, 37, 1000])
@pytest.mark.parametrize("level", [0.8, 0.95, 0.99])
def test_garwood_against_statsmodels(n: int, level: float) -> None:
    assert exact_poisson(n, level) == pytest.approx(confint_poisson(n, 1, "exact-c", 1 - level), abs=1e-9, nan_ok=False)


@pytest.mark.parametrize("mean", [0.05, 0.5, 1, 2.5, 4, 9.3, 30])
def test_garwood_covers_by_an_exact_sum(mean: float) -> None:
    """By definition: the chance of a count whose interval holds the mean is 95 % or more, also where hardly any fish come."""
    counts = np.arange(0, 200)
    held = [low <= mean <= high for low, high in (exact_poisson(int(n)) for n in counts)]
    assert stats.poisson.pmf(counts, mean)[held].sum() >= 0.95
