"""Differences by rank among very many pairs, against all of them written down; what one wild value may do."""

import numpy as np
import pytest

from nailwright_core.findings.shift import middle_difference, shift

RNG = np.random.default_rng(5)
A, B = RNG.normal(300, 40, 1200), RNG.normal(302.6, 40, 1100)  # 1.3 million pairs


def by_hand(a, b):
    return float(np.median(np.subtract.outer(b, a)))


@pytest.mark.parametrize(
    ("a", "b"),
    [
        (A, B),
        (np.rint(A), np.rint(B)),
        (A.round(1), B.round(1)),
        (np.rint(A) * 1e6, np.rint(B)),
        (-A, -B),
        (A * 0 + 5, B * 0 + 5),
    ],
    ids=["any values", "a board", "tenths", "far apart", "below zero", "all alike"],
)
def test_the_middle_of_all_pairs(a, b):
    assert middle_difference(a, b) == pytest.approx(by_hand(a, b), rel=1e-12, abs=1e-9)


@pytest.mark.parametrize("wild", [1e3, 1e6, 1e12])
def test_a_wild_value_moves_the_shift_by_its_rank_and_no_more(wild):
    true, _ = shift(A, B)
    spoilt, p = shift(A, np.append(B, wild))
    every = np.sort(np.subtract.outer(B, A).ravel())
    middle = every.size // 2
    # one value more, above all: the median of the differences moves by half as many ranks as there are fish in the other group
    assert true.value <= spoilt.value <= every[middle + A.size // 2 + 2]
    assert spoilt.lower <= spoilt.value <= spoilt.upper and spoilt.upper - spoilt.lower < 1.5 * (
        true.upper - true.lower
    )
    assert (p < 0.05) == (spoilt.lower > 0)
