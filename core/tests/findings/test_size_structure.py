"""Length-frequency and proportional size distribution."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from nailwright_core.common import species
from nailwright_core.common.errors import CoreError
from nailwright_core.findings.size_structure import (
    BIN_WIDTHS_MM,
    freedman_diaconis,
    length_frequency,
    proportional_size_distribution,
    suggest_bin,
)

WALLEYE = species.get("wal").size_categories
lengths = st.lists(st.integers(300, 9000).map(lambda tenths: tenths / 10), min_size=1, max_size=80)


@given(lengths, st.sampled_from(BIN_WIDTHS_MM[2:]))
def test_every_fish_is_in_the_bin_that_holds_its_length(mm: list[float], width: float) -> None:
    found = length_frequency(mm, width)
    assert found.counts.sum() == len(mm)
    assert found.edges[0] <= min(mm) < found.edges[1] + 1e-6 and max(mm) < found.edges[-1] + 1e-6
    assert np.allclose(np.diff(found.edges), width)
    expected, _ = np.histogram(mm, bins=found.edges - 1e-7)  # an edge belongs to the bin above it
    assert found.counts.tolist() == expected.tolist()


def test_a_length_on_an_edge_belongs_above_it_also_in_half_inches() -> None:
    assert length_frequency([254.0, 254.1, 266.7], 12.7).counts.tolist() == [2, 1]
    assert length_frequency([380.0, 389.9, 390.0], 10).counts.tolist() == [2, 1]


@pytest.mark.parametrize(
    ("mm", "width", "start", "code"),
    [
        ([], 10, None, "no_lengths"),
        ([0.0, 100.0], 10, None, "length_not_positive"),
        ([math.nan], 10, None, "length_not_positive"),
        ([math.inf], 10, None, "length_not_positive"),
        ([100.0], 0, None, "bin_out_of_range"),
        ([100.0], math.nan, None, "bin_out_of_range"),
        ([100.0, 900.0], 0.1, None, "bins_too_many"),
        ([100.0], 10, 150, "start_above_smallest"),
    ],
)
def test_bad_input_is_refused(mm: list[float], width: float, start: float | None, code: str) -> None:
    with pytest.raises(CoreError) as refused:
        length_frequency(mm, width, start)
    assert refused.value.code == code


@pytest.mark.parametrize(("largest", "width"), [(120, 5), (280, 10), (500, 20), (800, 25), (1400, 50)])
def test_the_bin_grows_with_the_fish(largest: float, width: float) -> None:
    assert suggest_bin(np.linspace(50, largest, 100)) == width


def test_freedman_diaconis_by_hand() -> None:
    """Quartiles of 1..9 are 3 and 7: 2 x 4 / 9^(1/3)."""
    assert freedman_diaconis(range(1, 10)) == pytest.approx(8 / 9 ** (1 / 3))
    assert math.isnan(freedman_diaconis([400.0] * 9))


def test_psd_by_hand() -> None:
    """Of ten walleye of stock length (250 mm) five reach quality (380), two preferred (510), one memorable (630)."""
    mm = [240, 250, 260, 300, 340, 379.9, 380, 400, 500, 510, 640]
    found = proportional_size_distribution(mm, WALLEYE)
    assert (found.n_all, found.n_stock) == (11, 10)
    assert [found.psd.value, found.psd_p.value, found.psd_m.value, found.psd_t.value] == [50, 20, 10, 0]
    assert {name: each.value for name, each in found.incremental.items()} == {
        "S-Q": 50,
        "Q-P": 30,
        "P-M": 10,
        "M-T": 10,
        "T": 0,
    }
    assert found.psd.interval == "Wilson" and found.incremental["S-Q"].interval == "Goodman"


@given(lengths)
def test_shares_add_up_and_fall_from_category_to_category(mm: list[float]) -> None:
    found = proportional_size_distribution(mm, WALLEYE)
    if found.n_stock == 0:
        assert math.isnan(found.psd.value) and (found.psd.lower, found.psd.upper) == (0, 100)
        return
    assert sum(each.value for each in found.incremental.values()) == pytest.approx(100)
    values = [100, found.psd.value, found.psd_p.value, found.psd_m.value, found.psd_t.value]
    assert values == sorted(values, reverse=True)


def test_few_fish_are_said_to_say_little() -> None:
    few = proportional_size_distribution([300.0] * 49, WALLEYE).assumptions[0]
    enough = proportional_size_distribution([300.0] * 50, WALLEYE).assumptions[0]
    assert (few.verdict, enough.verdict) == ("doubtful", "holds")


@pytest.mark.parametrize(
    ("limits", "code"),
    [
        ({"stock": 250, "quality": 380}, "categories_incomplete"),
        ({"stock": 250, "quality": 240, "preferred": 510, "memorable": 630, "trophy": 760}, "categories_out_of_order"),
    ],
)
def test_bad_categories_are_refused(limits: dict[str, float], code: str) -> None:
    with pytest.raises(CoreError) as refused:
        proportional_size_distribution([300.0], limits)
    assert refused.value.code == code
