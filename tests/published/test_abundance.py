"""Numbers of fish against published examples and by simulation.

Answers are from memory of the sources named.
"""

from __future__ import annotations

import numpy as np
import pytest
import statsmodels.api as sm

from nailwright_core.findings.abundance import (
    chapman,
    chapman_intervals,
    leslie,
    petersen,
    removal,
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


@pytest.mark.parametrize(("ricker", "q", "n"), [(True, 0.01525, 1077.6), (False, 0.01484, 1060.3)])
def test_leslie_of_the_bass(ricker: bool, q: float, n: float) -> None:
    found = leslie(OMAND, [7] * 10, ricker)
    assert (found.q.value, found.n.value) == (pytest.approx(q, abs=5e-6), pytest.approx(n, abs=0.05))
    catches = np.array(OMAND, dtype=float)
    before = np.cumsum(catches) - catches * (0.5 if ricker else 1)
    line = sm.OLS(catches / 7, sm.add_constant(before)).fit()
    assert (found.q.value, found.q.se) == (pytest.approx(-line.params[1]), pytest.approx(line.bse[1]))


@pytest.mark.parametrize(("population", "marked", "caught"), [(2000, 400, 500), (5000, 600, 700), (20_000, 1500, 1200)])
def test_coverage_is_near_nominal_where_recaptures_are_many(population: int, marked: int, caught: int) -> None:
    """By simulation: the interval holds the truth in about 95 of 100 surveys.

    The exact ones err on the safe side; the normal, taken where R > 50 of a large catch, is a little short (94 of 100).
    """
    rng = np.random.default_rng(7)
    recaptured = rng.hypergeometric(marked, population - marked, caught, 4000)
    low, high = chapman_intervals(marked, caught, recaptured)
    assert 0.93 <= ((low <= population) & (population <= high)).mean() <= 0.985
    assert abs(chapman(marked, caught, recaptured).mean() / population - 1) < 0.01


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
