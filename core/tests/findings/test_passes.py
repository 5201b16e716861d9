"""Removal while fishing: against the finding, and whether its advice is worth following."""

import numpy as np
import pytest

from nailwright_core.common.errors import CoreError
from nailwright_core.findings.abundance import FALLS, passes_so_far, removal, removal_falling


def test_says_what_the_findings_say():
    for catches in ([45, 20, 9], [120, 60], [30, 21, 14, 8]):
        found = passes_so_far(catches)
        assert found.alike == removal(catches) and found.falling == removal_falling(catches)
        assert f"{found.alike.n.value:,.0f} ({found.alike.n.lower:,.0f} to" in found.words
    assert "128 fish (85 to 864), averaged over" in passes_so_far([38, 26, 12]).words
    assert "Two passes cannot tell how fast" in passes_so_far([120, 60]).words


def test_a_protocol_that_knows_that_the_chance_stays():
    found = passes_so_far([100, 30, 9], falls={0.0: 1.0})
    assert not found.another and "if it stayed the same" not in found.words
    assert "the same in each pass" in passes_so_far([100, 30], falls={0.0: 1.0}).words


@pytest.mark.parametrize(
    ("catches", "another", "words"),
    [
        ([12], True, "One pass cannot say"),
        ([5, 9], True, "do not fall yet"),
        ([0, 0], False, "No fish in 2 passes"),
        ([100, 10, 1], False, "Enough"),
        ([200, 4], False, "Enough"),
        ([20, 14], True, "another pass is expected to bring"),
        ([10, 3, 0], False, "it would hardly tell more"),
        ([2, 0], False, "would hardly tell more"),
    ],
)
def test_advice(catches, another, words):
    found = passes_so_far(catches)
    assert found.another is another and words in found.words, found.words


def test_what_it_expects_of_the_next_pass_comes_true():
    """Seeded simulation of 60 stretches of 200 fish at a first chance of 0.4 that falls as often and as fast as is thought: after
    three passes the fourth brings what was expected, on the mean within 15 %."""
    rng = np.random.default_rng(4)
    expected, came = [], []
    for fall in rng.choice(list(FALLS), 60, p=list(FALLS.values())):
        left, catches = 200, []
        for at in range(4):
            catches.append(int(rng.binomial(left, 0.4 * (1 - fall) ** at)))
            left -= catches[-1]
        expected.append(passes_so_far(catches[:3]).falling.next_catch)
        came.append(catches[3])
    assert np.mean(expected) == pytest.approx(np.mean(came), rel=0.15)


def test_refusals():
    for bad in ([-1, 2], [1.5, 2]):
        with pytest.raises(CoreError):
            passes_so_far(bad)
    with pytest.raises(CoreError, match="half-width"):
        passes_so_far([10, 5], 0)
