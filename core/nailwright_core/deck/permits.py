"""What a permit allows, against what was done."""

from __future__ import annotations

from typing import Literal

#: What a permit counts: fish that were caught; of them those measured, weighed or marked; given a tag; dead or kept.
COUNTED = ("captured", "handled", "tagged", "killed")
#: From this share of the allowance on it is warned of (common practice, no source).
NEAR = 0.8

Standing = Literal["open", "near", "last", "over"]


def standing(before: int, more: int, most: int) -> Standing:
    """Where ``more`` fish take an allowance of ``most`` of which ``before`` are counted.

    ``last``: they are the last that are allowed; ``over``: one of them at least is not allowed any more.

    Args:
        before: fish counted already.
        more: fish that come to it.
        most: fish that are allowed.
    """
    after = before + more
    if after > most:
        return "over"
    if after == most:
        return "last"
    return "near" if after >= NEAR * most else "open"
