"""Removal while fishing: against the finding, and whether its advice is worth following."""

import numpy as np
import pytest

from nailwright_core.common.errors import CoreError
from nailwright_core.findings.abundance import passes_so_far, removal


def test_says_what_the_finding_says():
    for catches in ([45, 20, 9], [120, 60], [30, 21, 14, 8]):
        found = passes_so_far(catches)
        wanted = removal(catches)
        assert found.estimate == wanted
        left = wanted.n.value - sum(catches)
        assert found.next_catch == pytest.approx(left * wanted.p.value)


@pytest.mark.parametrize(
    ("catches", "another", "words"),
    [
        ([12], True, "One pass cannot say"),
        ([5, 9], True, "do not fall yet"),
        ([0, 0], False, "No fish in 2 passes"),
        ([100, 10, 1], False, "enough"),
        ([20, 14], True, "another pass is expected to bring"),
        ([2, 0], False, "would hardly tell more"),
    ],
)
def test_advice(catches, another, words):
    found = passes_so_far(catches)
    assert found.another is another and words in found.words, found.words


def test_what_it_expects_of_the_next_pass_comes_true():
    """Seeded simulation of 100 stretches of 200 fish at p = 0.4: after three passes the fourth brings what was expected, on
    the mean within 15 % (the weighted likelihood is biased low by a few fish)."""
    rng = np.random.default_rng(4)
    expected, came = [], []
    for _ in range(100):
        left, catches = 200, []
        for _ in range(4):
            catches.append(int(rng.binomial(left, 0.4)))
            left -= catches[-1]
        found = passes_so_far(catches[:3])
        if found.next_catch is not None:
            expected.append(found.next_catch)
            came.append(catches[3])
    assert np.mean(expected) == pytest.approx(np.mean(came), rel=0.15)


def test_refusals():
    for bad in ([-1, 2], [1.5, 2]):
        with pytest.raises(CoreError):
            passes_so_far(bad)
    with pytest.raises(CoreError, match="half-width"):
        passes_so_far([10, 5], 0)
