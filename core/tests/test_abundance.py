from __future__ import annotations

from collections.abc import Callable

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from nailwright_core.common.errors import CoreError
from nailwright_core.findings.abundance import chapman_intervals, leslie, petersen, removal, schnabel


@pytest.mark.parametrize(
    ("call", "code"),
    [
        (lambda: petersen(10, 20, 11), "count_out_of_range"),
        (lambda: petersen(-1, 20, 0), "count_out_of_range"),
        (lambda: petersen(0, 20, 0), "count_out_of_range"),
        (lambda: petersen(10, 20, 0, "petersen"), "no_recaptures"),
        (lambda: petersen(10, 20, 2, "other"), "choice_unknown"),
        (lambda: schnabel([10], [1], [5]), "occasions_too_few"),
        (lambda: schnabel([10, 5], [0, 0], [0, 10]), "no_recaptures"),
        (lambda: schnabel([10, 5], [0, 6], [0, 10]), "count_out_of_range"),
        (lambda: removal([5]), "passes_too_few"),
        (lambda: removal([0, 0, 0]), "no_fish"),
        (lambda: removal([5, 5, 5], "zippin"), "no_solution"),
        (lambda: removal([5, 9], "two-pass"), "no_solution"),
        (lambda: removal([5, 3, 1], "two-pass"), "passes_too_many"),
        (lambda: removal([5, -1]), "count_out_of_range"),
        (lambda: removal([5, 2], "other"), "choice_unknown"),
        (lambda: leslie([5, 6, 7], [1, 1, 1]), "no_solution"),
        (lambda: leslie([5, 4], [1, 1]), "occasions_too_few"),
        (lambda: leslie([5, 4, 3], [1, 0, 1]), "count_out_of_range"),
    ],
)
def test_refusals(call: Callable[[], object], code: str) -> None:
    with pytest.raises(CoreError) as refused:
        call()
    assert refused.value.code == code


@given(st.integers(1, 400), st.integers(1, 400), st.data())
def test_many_at_once_agree_with_one_at_a_time(marked: int, caught: int, data: st.DataObject) -> None:
    recaptured = data.draw(st.integers(0, min(marked, caught)))
    one = petersen(marked, caught, recaptured).n
    low, high = chapman_intervals(marked, caught, recaptured)
    assert (float(low), float(high)) == (pytest.approx(one.lower, rel=1e-6), pytest.approx(one.upper, rel=1e-6))
    assert one.lower <= max(one.value, marked + caught - recaptured) <= one.upper + 1e-6


@given(st.lists(st.integers(0, 200), min_size=2, max_size=6).filter(lambda catches: sum(catches) > 0))
def test_removal_never_finds_fewer_than_were_caught(catches: list[int]) -> None:
    found = removal(catches)
    assert found.n.value >= sum(catches) and 0 < found.p.value <= 1


def test_more_recaptures_narrow_the_interval_and_few_are_named() -> None:
    wide, narrow = petersen(100, 100, 5), petersen(400, 400, 80)
    assert wide.n.upper / wide.n.lower > 3 > narrow.n.upper / narrow.n.lower
    assert wide.assumptions[0].verdict == "fails" and "factor" in wide.assumptions[0].detail
    assert narrow.assumptions[0].verdict == "holds"
    assert [petersen(*counts).n.interval for counts in ((100, 100, 50), (2000, 2000, 60), (2000, 2000, 9))] == [
        "binomial, chapman", "normal, chapman", "poisson, chapman",
    ]  # fmt: skip


def test_bent_marks_are_seen() -> None:
    marked = np.arange(10, 110, 10)
    bent = schnabel([40] * 10, [8, 8, 7, 7, 6, 4, 3, 2, 2, 1], marked)
    assert bent.assumptions[0].verdict == "fails"


def test_falling_catchability_is_seen() -> None:
    assert removal([60, 10, 9, 8]).assumptions[0].verdict == "fails"
