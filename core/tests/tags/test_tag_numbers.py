"""Numbers of tags as people give them. Invented numbers; PIT numbers of the country code 999, which is kept for trials (ISO 11784)."""

from __future__ import annotations

import pytest

from nailwright_core.common.errors import CoreError
from nailwright_core.tags.numbers import read_numbers, visible_number
from nailwright_core.tags.pit import parse_pit


def pit(text: str) -> str:
    return parse_pit(text).decimal15


@pytest.mark.parametrize(
    ("text", "numbers"),
    [
        ("W1001-W1003", ["W1001", "W1002", "W1003"]),
        ("w1001 - w1003", ["W1001", "W1002", "W1003"]),
        ("W1001 to W1003", ["W1001", "W1002", "W1003"]),
        ("W1001..1003", ["W1001", "W1002", "W1003"]),
        ("W0998–W1001", ["W0998", "W0999", "W1000", "W1001"]),
        ("A-1001", ["A-1001"]),  # a hyphen within a number
        ("12-1001", ["12-1001"]),
        ("#W7, W8; W9\nW10\tW11", ["W7", "W8", "W9", "W10", "W11"]),
        ("W7 W8 W9", ["W7", "W8", "W9"]),
    ],
)
def test_numbers_on_tags(text: str, numbers: list[str]) -> None:
    found = read_numbers(text, visible_number)
    assert (list(found.numbers), found.twice, found.unread) == (numbers, 0, ())


def test_pit_numbers_with_spaces_and_as_a_row() -> None:
    assert read_numbers("999 000000000101\n999.000000000102", pit).numbers == ("999000000000101", "999000000000102")
    assert read_numbers("999 000000000101 - 999 000000000103", pit).numbers == tuple(
        f"99900000000010{n}" for n in (1, 2, 3)
    )
    assert read_numbers("999000000000101 999000000000102", pit).numbers == ("999000000000101", "999000000000102")


def test_what_stands_twice_counts_once_and_what_is_none_is_told() -> None:
    found = read_numbers("W1001-W1003, W1002, no tag!", visible_number)
    assert found.numbers == ("W1001", "W1002", "W1003") and found.twice == 1
    assert found.unread[0][0] == "no tag!" and "2 to 16" in found.unread[0][1]


def test_what_is_far_too_long_for_a_number_is_told_at_once() -> None:
    """Two million digits and a letter: the search for a row's end must not try each of them."""
    found = read_numbers("1" * 2_000_000 + "x-2", visible_number)
    assert found.numbers == () and len(found.unread) == 1


def test_many_on_one_line_with_blanks_between() -> None:
    assert len(read_numbers(" ".join(f"W{n}" for n in range(1000, 1100)), visible_number).numbers) == 100


@pytest.mark.parametrize(
    ("text", "code"),
    [
        ("", "tag_numbers_none"),
        (" ,;\n", "tag_numbers_none"),
        ("W1003-W1001", "tag_row_backwards"),
        ("W0000001-W9999999", "tag_row_too_long"),
    ],
)
def test_what_cannot_be(text: str, code: str) -> None:
    with pytest.raises(CoreError) as refused:
        read_numbers(text, visible_number)
    assert refused.value.code == code
