"""What deaths among the fish of a day say."""

import json
from pathlib import Path

import numpy as np
import pytest
from scipy.stats import binom, binomtest

from nailwright_core.common.errors import CoreError
from nailwright_core.deck.ledger import deaths_among


def test_none_of_143_as_the_handbook_has_it():
    """Handbook 6: no deaths among 143 handled still allows a true rate of up to 2.1 %."""
    assert deaths_among(0, 143).line() == "None of 143 died; true rate up to 2.1 % (95 %)."


def test_none_of_n_is_by_its_definition():
    for n in (1, 7, 30, 1000):
        found = deaths_among(0, n)
        assert (1 - found.upper) ** n == pytest.approx(0.05)


@pytest.mark.parametrize(("dead", "n"), [(1, 1), (1, 40), (3, 143), (40, 40)])
def test_some_of_n_against_scipy(dead, n):
    found, wanted = deaths_among(dead, n), binomtest(dead, n, alternative="less").proportion_ci(0.95, "exact")
    assert (found.share, found.upper) == pytest.approx((dead / n, wanted.high))


@pytest.mark.parametrize("n", [20, 143])
def test_the_limit_holds_the_true_rate_at_least_as_often_as_it_says_none_or_some(n):
    """By the exact sum over all numbers of deaths, at 200 true rates."""
    upper = np.array([deaths_among(dead, n).upper for dead in range(n + 1)])
    for rate in np.linspace(0.001, 0.5, 200):
        assert binom.pmf(np.arange(n + 1), n, rate)[upper >= rate].sum() >= 0.95 - 1e-12


def test_words_and_refusals():
    assert deaths_among(3, 143).line() == "3 of 143 died: 2.1 %; true rate up to 5.3 % (95 %)."
    for dead, n in ((0, 0), (2, 1), (-1, 4)):
        with pytest.raises(CoreError, match="Expected 0 to n deaths"):
            deaths_among(dead, n)


def test_the_tablet_says_none_of_n_alike():
    shared = json.loads((Path(__file__).parents[3] / "tests/shared/none-of-n.json").read_text())
    for case in shared:
        assert f"{100 * deaths_among(0, case['n']).upper:.1f}" == case["percent"]
