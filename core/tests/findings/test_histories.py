"""Histories and m-arrays, by hand and by counting over again."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from nailwright_core.common.errors import CoreError
from nailwright_core.findings.histories import from_histories, histories

#: Five fish over four occasions, as one would write them on paper.
X = [[1, 0, 1, 0], [1, 1, 0, 0], [0, 1, 1, 1], [0, 0, 1, 0], [1, 0, 0, 0]]


def test_the_m_array_of_five_fish_by_hand() -> None:
    found = from_histories(X)
    assert found.released.tolist() == [3, 2, 3]
    assert found.recaptured.tolist() == [[1, 1, 0], [0, 1, 0], [0, 0, 1]]
    assert found.never_again.tolist() == [1, 1, 2]


def test_a_fish_that_did_not_go_back_is_no_release() -> None:
    found = from_histories(X, lost=[False, True, False, False, True])
    assert found.released.tolist() == [2, 1, 3] and found.recaptured.tolist() == [[1, 1, 0], [0, 1, 0], [0, 0, 1]]


def test_encounters_become_histories_also_of_occasions_without_fish() -> None:
    labels, x = histories(["b", "a", "b", "b"], [0, 2, 3, 3], 5)
    assert labels.tolist() == ["a", "b"] and x.tolist() == [[0, 0, 1, 0, 0], [1, 0, 0, 1, 0]]
    with pytest.raises(CoreError, match="Expected occasions 0 to 1"):
        histories(["a"], [2], 2)


@given(st.lists(st.lists(st.integers(0, 1), min_size=5, max_size=5), min_size=1, max_size=30))
def test_every_meeting_but_the_first_is_one_recapture(rows: list[list[int]]) -> None:
    found = from_histories(rows)
    met = np.array(rows).sum(axis=1)
    assert found.recaptured.sum() == np.maximum(met - 1, 0).sum()
    assert (np.tril(found.recaptured, -1) == 0).all() and (found.never_again >= 0).all()


@pytest.mark.parametrize("rows", [[[1]], [[1, 2]]])
def test_what_is_no_history_is_refused(rows: list[list[int]]) -> None:
    with pytest.raises(CoreError):
        from_histories(rows)
