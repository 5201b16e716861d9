"""A volunteer's card: what makes it complete, and how precisely its writer measures."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import ArrayLike
from scipy import stats

from nailwright_core.common.checks import numbers
from nailwright_core.common.errors import CoreError

#: What a complete card tells, with the words for it; position or place is enough.
NEEDED = {
    "number_text": "tag number",
    "species": "species",
    "length_mm": "length",
    "caught_on": "date",
    "block": "time of day",
    "place": "place or position",
    "condition": "condition",
    "tagger_number": "tagger's number",
}
#: Blocks of the day as they stand on a card, each from an hour on.
BLOCKS = (("night", 0), ("dawn", 4), ("morning", 7), ("midday", 11), ("afternoon", 14), ("evening", 18), ("night", 22))
#: A board is read to five millimetres where its last digits are 0 and 5 alone; with fewer lengths nothing is said.
FEWEST_LENGTHS = 30


def missing_fields(card: Mapping[str, Any], tagged: bool = True) -> tuple[str, ...]:
    """Names, out of ``NEEDED``, of what a card does not say, in the order of the card.

    Args:
        card: values by the names of ``NEEDED``; empty or None where not told; ``place_text`` and ``lat`` for the place.
        tagged: False for a fish that was let go without a tag: its number is not missed.
    """
    values = {**card, "place": card.get("place_text") or card.get("lat") is not None}
    wanted = [name for name in NEEDED if tagged or name != "number_text"]
    return tuple(name for name in wanted if values.get(name) in (None, "", False))


def missing_of(card: Mapping[str, Any], tagged: bool = True) -> tuple[str, ...]:
    """Words for what a card does not say; as ``missing_fields``."""
    return tuple(NEEDED[name] for name in missing_fields(card, tagged))


def block_of(hour: int) -> str:
    """The block of the day in which an hour falls, 0 to 23."""
    if not 0 <= hour <= 23:
        raise CoreError("hour_impossible", f"Expected an hour from 0 to 23; got {hour}.", "hour")
    return next(name for name, first in reversed(BLOCKS) if hour >= first)


@dataclass(frozen=True)
class EndDigits:
    """How often each last digit stands in lengths in whole mm.

    Attributes:
        counts: of the digits 0 to 9. n: lengths.
        share_0_5: share that ends in 0 or 5; a fifth where none is preferred.
        p: of a chi-square test that all digits are as likely, nine degrees of freedom.
        preferred: whether that is refuted at 0.05.
    """

    counts: tuple[int, ...]
    n: int
    share_0_5: float
    p: float
    preferred: bool


def end_digits(length_mm: ArrayLike) -> EndDigits | None:
    """Whether somebody prefers some last digits: Pearson's chi-square of ten equally likely ones.

    Args:
        length_mm: lengths as they were read, shape (n,), mm.

    Returns:
        None with fewer than ``FEWEST_LENGTHS``, where the test says nothing (three expected of each digit).

    Raises:
        CoreError: ``not_numbers`` and the like, as ``numbers``; ``length_not_positive``, ``lengths_none``.

    Source: Pearson (1900); on digit preference in measured lengths and ages, common practice.
    """
    lengths = numbers(length_mm, "length_mm")
    if (lengths <= 0).any():
        raise CoreError("length_not_positive", "Expected lengths above 0 mm.", "length_mm")
    if lengths.size == 0:
        raise CoreError("lengths_none", "Expected lengths; got none.", "length_mm")
    if lengths.size < FEWEST_LENGTHS:
        return None
    digits = np.rint(lengths).astype(np.int64) % 10
    counts = np.bincount(digits, minlength=10)
    p = float(stats.chisquare(counts).pvalue)
    share = float((counts[0] + counts[5]) / lengths.size)
    return EndDigits(tuple(int(each) for each in counts), int(lengths.size), share, p, p < 0.05)
