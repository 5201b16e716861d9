"""Numbers as finders read them off worn legends."""

import re

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nailwright_core.common.errors import CoreError
from nailwright_core.tags.legends import MOST_READINGS, near_pattern, part_pattern, readings


@pytest.mark.parametrize(
    ("text", "meant"),
    [
        ("W1207", "W1207"),
        (" w 12-07 ", "W1207"),
        ("w12o7", "W1207"),
        ("Wl207", "W1207"),
        ("WI2O7", "W1207"),
        ("#W1207.", "W1207"),
    ],
)
def test_what_looks_alike_is_among_the_readings(text: str, meant: str) -> None:
    assert meant in readings(text)


def test_as_written_comes_first_with_its_hyphen() -> None:
    assert readings("ab-12")[0] == "AB-12" and readings("ab-12")[1] == "AB12"


def test_of_too_many_ways_only_the_written_one_is_read() -> None:
    found = readings("0101010101")
    assert found == ("0101010101",) and MOST_READINGS < 6**5


@pytest.mark.parametrize(
    ("text", "code"), [("", "tag_number_missing"), ("?-*", "tag_number_missing"), ("9" * 41, "tag_number_too_long")]
)
def test_no_number_is_refused(text: str, code: str) -> None:
    with pytest.raises(CoreError) as refused:
        readings(text)
    assert refused.value.code == code


@given(st.text(max_size=40))
def test_any_text_is_read_or_refused(text: str) -> None:
    try:
        found = readings(text)
    except CoreError:
        return
    assert 0 < len(found) <= MOST_READINGS + 2 and len(set(found)) == len(found)
    re.compile(near_pattern(text))


@pytest.mark.parametrize(
    ("text", "number", "fits"),
    [
        ("1?45", "W1245", True),
        ("1?45", "W1455", False),
        ("W?2*", "W1207", True),
        ("?207", "W1207", True),
        ("1*7", "W1207", True),
        ("1?7", "W1207", False),
    ],
)
def test_signs_that_are_worn_away(text: str, number: str, fits: bool) -> None:
    pattern = part_pattern(text)
    assert pattern is not None and bool(re.search(pattern, number)) is fits


def test_a_whole_number_has_no_pattern() -> None:
    assert part_pattern("W1207") is None


@pytest.mark.parametrize("near", ["W1208", "W1270", "W120", "W12077", "X1207", "W1207"])
def test_numbers_one_slip_apart_are_near(near: str) -> None:
    assert re.search(near_pattern("W1207"), near)


@pytest.mark.parametrize("far", ["W1218", "W2107X", "W1", "AW12071"])
def test_numbers_two_slips_apart_are_not(far: str) -> None:
    assert not re.search(near_pattern("W1207"), far)
