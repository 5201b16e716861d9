"""Cards of volunteers: what is missing, and how their lengths are read."""

import numpy as np
import pytest
from scipy.special import gammaincc

from nailwright_core.common.errors import CoreError
from nailwright_core.tags.cards import FEWEST_LENGTHS, block_of, end_digits, missing_of

WHOLE = {
    "number_text": "W1001", "species": "wal", "length_mm": 412.0, "caught_on": "2026-05-01", "block": "morning",
    "place_text": "below the weir", "condition": 1, "tagger_number": "17",
}  # fmt: skip


def test_a_complete_card_misses_nothing() -> None:
    assert missing_of(WHOLE) == ()
    assert missing_of({**WHOLE, "place_text": "", "lat": 0.0}) == ()  # the equator is a place


@pytest.mark.parametrize(
    ("name", "words"),
    [("species", "species"), ("length_mm", "length"), ("place_text", "place or position"), ("condition", "condition")],
)
def test_what_is_not_told_is_missing(name: str, words: str) -> None:
    assert missing_of({**WHOLE, name: None}) == (words,)


def test_a_fish_without_a_tag_misses_no_number() -> None:
    assert missing_of({**WHOLE, "number_text": ""}) == ("tag number",)
    assert missing_of({**WHOLE, "number_text": ""}, tagged=False) == ()


@pytest.mark.parametrize(
    ("hour", "block"), [(0, "night"), (3, "night"), (4, "dawn"), (12, "midday"), (21, "evening"), (23, "night")]
)
def test_blocks_of_the_day(hour: int, block: str) -> None:
    assert block_of(hour) == block


def test_an_hour_that_is_none_is_refused() -> None:
    with pytest.raises(CoreError):
        block_of(24)


def test_end_digits_against_the_formula() -> None:
    """Pearson's statistic by hand and the upper incomplete gamma function, which is not how core reaches it."""
    lengths = np.random.default_rng(5).integers(300, 700, 200)
    found = end_digits(lengths)
    assert found is not None and sum(found.counts) == found.n == 200
    statistic = sum((each - 20) ** 2 / 20 for each in found.counts)
    assert found.p == pytest.approx(gammaincc(4.5, statistic / 2), rel=1e-12)
    assert not found.preferred


def test_a_board_read_to_five_is_noticed() -> None:
    lengths = np.arange(300, 500, 5)
    found = end_digits(lengths)
    assert found is not None and found.preferred and found.share_0_5 == 1.0 and found.p < 1e-20


def test_of_fair_readers_one_in_twenty_is_accused() -> None:
    """Five in a hundred of those who prefer nothing: 2,000 seeded volunteers of 60 fish each, binomial error 0.5 points."""
    rng = np.random.default_rng(11)
    accused = sum(bool(end_digits(rng.integers(200, 800, 60)).preferred) for _ in range(2000))  # type: ignore[union-attr]
    assert 0.035 < accused / 2000 < 0.065


def test_few_lengths_say_nothing() -> None:
    assert end_digits([400.0] * (FEWEST_LENGTHS - 1)) is None
