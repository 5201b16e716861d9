"""Numbers of fish against published examples and by simulation.

Answers are from memory of the sources named.
"""

from __future__ import annotations

import itertools
from collections.abc import Callable

import numpy as np
import pytest
import statsmodels.api as sm
from scipy.integrate import quad
from scipy.special import expit, gammaln, logit, xlogy
from scipy.stats import chi2, hypergeom, norm

from nailwright_core.findings.abundance import (
    MarkEstimate,
    chapman,
    chapman_intervals,
    delury,
    leslie,
    petersen,
    removal,
    removal_many,
    removal_sites,
    schnabel,
    schumacher_eschmeyer,
)

#: Omand (1951), smallmouth bass, in Ricker (1975): catch and equal effort of ten occasions.
OMAND = [131, 69, 99, 78, 56, 76, 49, 42, 63, 47]
#: Gerking (1953), redear sunfish, in Krebs (1999), table 2.2: catch, recaptures, marks at large.
SUNFISH = (
    [10, 27, 17, 7, 1, 5, 6, 15, 9, 18, 16, 5, 7, 19],
    [0, 0, 0, 0, 0, 0, 2, 1, 5, 5, 4, 2, 2, 3],
    [0, 10, 37, 54, 61, 62, 67, 71, 85, 89, 102, 112, 115, 119],
)


def test_the_textbook_trout() -> None:
    """M 109, C 177, R 57: Ricker (1975), Krebs (1999)."""
    assert petersen(109, 177, 57, "petersen").n.value == pytest.approx(338.5, abs=0.05)
    found = petersen(109, 177, 57).n
    assert (found.value, found.se) == (pytest.approx(336.6, abs=0.05), pytest.approx(24.8, abs=0.05))


def test_cottontails() -> None:
    """Edwards and Eberhardt's cottontails, in Pollock et al. (1990), Wildl. Monogr. 107."""
    found = petersen(87, 14, 7, interval="normal").n
    assert (found.value, found.se) == (164, pytest.approx(35.8, abs=0.05))
    assert (found.lower, found.upper) == (pytest.approx(94, abs=0.5), pytest.approx(234, abs=0.5))


def test_sunfish_of_many_occasions() -> None:
    """Krebs (1999), boxes 2.2 and 2.3: Schnabel 447.5, Schumacher and Eschmeyer 423."""
    assert schnabel(*SUNFISH).n.value == pytest.approx(447.5)
    found = schumacher_eschmeyer(*SUNFISH).n
    assert found.value == pytest.approx(423, abs=0.5)
    # the same line through the origin by a general-purpose package
    caught, recaptured, marked = (np.array(values, dtype=float)[1:] for values in SUNFISH)
    line = sm.WLS(recaptured / caught, marked, weights=caught).fit()
    assert 1 / found.value == pytest.approx(line.params[0])
    assert found.se / found.value**2 == pytest.approx(line.bse[0])


def test_removal_of_the_first_paper() -> None:
    """38, 26, 12: Carle and Strub (1978), N 91 and p 0.444."""
    found = removal([38, 26, 12])
    assert (found.n.value, found.p.value) == (91, pytest.approx(0.444, abs=5e-4))


@pytest.mark.parametrize(
    ("catches", "n"), [([38, 26, 12], 92), ([187, 77, 35], 323), ([50, 5, 0], 55), ([9, 4, 4, 1], 19)]
)
def test_the_likelihood_is_highest_where_asking_every_number_says(catches: list[int], n: int) -> None:
    total, k = sum(catches), len(catches)

    def log_likelihood(fish: int) -> float:
        """The multinomial's, at the best p of a fine grid."""
        p = np.arange(1, 2000) / 2000
        shares = np.array([p * (1 - p) ** step for step in range(k)])
        rest = (fish - total) * k * np.log1p(-p)
        ordered = gammaln(fish + 1) - gammaln(fish - total + 1)
        return float((ordered + np.array(catches) @ np.log(shares) + rest).max())

    told = {fish: log_likelihood(fish) for fish in range(total, 3 * total)}
    assert removal(catches, "zippin").n.value == max(told, key=told.__getitem__) == n
    inside = [fish for fish, each in told.items() if each >= max(told.values()) - chi2.ppf(0.95, 1) / 2]
    found = removal(catches).n
    assert (found.lower, found.upper) == (max(total, inside[0] - 1), inside[-1] + 1)


@pytest.mark.parametrize(("population", "passes"), [(20, 3), (40, 3), (60, 2)])
def test_coverage_of_removal_by_exact_sums(population: int, passes: int) -> None:
    """Every set of catches with its chance; of the surveys that have an answer. The normal interval covered 56-83 %."""
    grids = np.meshgrid(*[np.arange(population + 1)] * passes, indexing="ij")
    catches = np.stack([grid.ravel() for grid in grids], axis=1)
    catches = catches[catches.sum(axis=1) <= population]
    value, low, high = removal_many(catches)
    known = ~np.isnan(value)
    rest = population - catches.sum(axis=1)
    covered = []
    for p in (0.4, 0.5, 0.6, 0.7):
        shares = p * (1 - p) ** np.arange(passes)
        log = (
            gammaln(population + 1) - gammaln(catches + 1).sum(axis=1) - gammaln(rest + 1)
            + catches @ np.log(shares) + rest * passes * np.log(1 - p)
        )  # fmt: skip
        chance = np.exp(log)
        assert chance.sum() == pytest.approx(1)
        holds = known & (low <= population) & (population <= high)
        covered.append(float(chance[holds].sum() / chance[known].sum()))
    assert 0.93 <= np.mean(covered) <= 0.98 and min(covered) > 0.9


@pytest.mark.parametrize(("ricker", "q", "n"), [(True, 0.01525, 1077.6), (False, 0.01484, 1060.3)])
def test_leslie_of_the_bass(ricker: bool, q: float, n: float) -> None:
    found = leslie(OMAND, [7] * 10, ricker)
    assert (found.q.value, found.n.value) == (pytest.approx(q, abs=5e-6), pytest.approx(n, abs=0.05))
    catches = np.array(OMAND, dtype=float)
    before = np.cumsum(catches) - catches * (0.5 if ricker else 1)
    line = sm.OLS(catches / 7, sm.add_constant(before)).fit()
    assert (found.q.value, found.q.se) == (pytest.approx(-line.params[1]), pytest.approx(line.bse[1]))


def test_no_recapture_leaves_no_upper_limit() -> None:
    """30 marked, 60 caught, none again: 534 or more (inverting the hypergeometric); the classical rule said 402-1,890."""
    found = petersen(30, 60, 0).n
    assert (found.lower, found.upper) == (534, np.inf)
    assert hypergeom.pmf(0, 533, 30, 60) < 0.025 <= hypergeom.pmf(0, 534, 30, 60)


@pytest.mark.parametrize(
    ("population", "marked", "caught"),
    [(100, 20, 20), (100, 50, 50), (100, 90, 80), (500, 100, 60), (2000, 400, 500), (5000, 300, 400)],
)
def test_exact_intervals_cover_at_least_what_they_say(population: int, marked: int, caught: int) -> None:
    """By summing over every number of recaptures."""
    r = np.arange(max(0, marked + caught - population), min(marked, caught) + 1)
    chance = hypergeom.pmf(r, population, marked, caught)
    low, high = chapman_intervals(marked, caught, r)
    assert 0.95 <= float(chance[(low <= population) & (population <= high)].sum()) <= 0.9975


def _census(
    rng: np.random.Generator, population: int, occasions: int, catch: int, correlation: float
) -> list[list[int]]:
    """Catch, recaptures and marks at large of each occasion; fish of one catch are alike to this degree."""
    marks, told = 0, []
    for _ in range(occasions):
        if correlation and marks > 0:
            share = marks / population
            a = share * (1 - correlation) / correlation
            again = min(rng.binomial(catch, rng.beta(a, a * (1 - share) / share)), marks)
        else:
            again = rng.hypergeometric(marks, population - marks, catch)
        told.append([catch, int(again), marks])
        marks += catch - int(again)
    return [list(each) for each in zip(*told, strict=True)]


@pytest.mark.parametrize(
    ("estimate", "correlation"), [(schnabel, 0.0), (schumacher_eschmeyer, 0.0), (schumacher_eschmeyer, 0.03)]
)
def test_coverage_of_a_census(estimate: Callable[..., MarkEstimate], correlation: float) -> None:
    """By simulation, 120 censuses: the Monte Carlo error is 2 of 100. bench intervals runs 4,000."""
    rng = np.random.default_rng(11)
    held = []
    for _ in range(120):
        counts = _census(rng, 500, 6, 40, correlation)
        if sum(counts[1]):
            found = estimate(*counts).n
            held.append(found.lower <= 500 <= found.upper)
    assert 0.91 <= np.mean(held) <= 0.995


@pytest.mark.parametrize(
    ("marked", "caught", "low", "high"), [(30, 60, -0.75, -0.6), (100, 100, -0.2, -0.08), (200, 400, -0.01, 0.01)]
)
def test_the_bias_at_few_recaptures(marked: int, caught: int, low: float, high: float) -> None:
    """Robson and Regier (1964): the bias is -N exp(-MC/N): marks times catch of 4 N leaves under 2 %."""
    population = 5000
    rng = np.random.default_rng(3)
    found = chapman(marked, caught, rng.hypergeometric(marked, population - marked, caught, 200_000)).mean()
    assert low <= found / population - 1 <= high
    assert found / population - 1 == pytest.approx(-np.exp(-marked * caught / population), abs=0.02)


def test_delury_against_statsmodels() -> None:
    """The regression of log catch per effort on effort spent, with the delta method for log N."""
    catches, efforts = np.array(OMAND, dtype=float), np.linspace(7.0, 9.0, 10)
    spent = np.cumsum(efforts) - efforts / 2
    theirs = sm.OLS(np.log(catches / efforts), sm.add_constant(spent)).fit()
    height, slope = theirs.params
    ours = delury(catches, efforts)
    assert ours.q.value == pytest.approx(-slope) and ours.q.se == pytest.approx(theirs.bse[1])
    assert ours.n.value == pytest.approx(np.exp(height) / -slope)
    gradient = np.array([1.0, -1 / slope])
    assert ours.n.se / ours.n.value == pytest.approx(np.sqrt(gradient @ theirs.cov_params() @ gradient))


def test_removal_at_many_sites_against_brute_force() -> None:
    """The likelihood's maximum on a grid, its integral over sites by SciPy's quad instead of Gauss and Hermite."""
    rng = np.random.default_rng(6)
    p = expit(rng.normal(0.2, 0.6, 14))
    left = rng.poisson(20, 14)
    caught = np.empty((14, 3), dtype=int)
    for step in range(3):
        caught[:, step] = rng.binomial(left, p)
        left = left - caught[:, step]

    def chance(z: float, mean: float, spread: float, row: np.ndarray) -> float:
        one = expit(mean + spread * z)
        each = one * (1 - one) ** np.arange(3)
        return float(np.exp(xlogy(row, each / each.sum()).sum()) * norm.pdf(z))

    def log_likelihood(mean: float, spread: float) -> float:
        return sum(np.log(quad(chance, -8, 8, args=(mean, spread, row))[0]) for row in caught)

    ours = removal_sites(caught, np.ones(14))
    best = log_likelihood(float(logit(ours.p)), ours.p_spread)
    for mean, spread in itertools.product((-0.02, 0, 0.02), (0.9, 1, 1.1)):
        assert log_likelihood(float(logit(ours.p)) + mean, ours.p_spread * spread) <= best + 1e-4
