"""The result of an angling event by who caught what: the best fish of each angler, added up.

Common practice, no source: what counts is decided by the event's own rules, which the protocol holds.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from nailwright_core.common.errors import CoreError


@dataclass(frozen=True)
class Entered:
    """A fish at the weigh-in.

    Attributes:
        angler: who caught it.
        value: its weight (g) or length (mm), whichever the event goes by; None where it was not measured.
        alive: whether it was let go alive. tagged: whether it carries a tag.
    """

    angler: str
    value: float | None
    alive: bool
    tagged: bool


@dataclass(frozen=True)
class Standing:
    """An angler's place: equal totals share one. ``counted`` fish are in ``total``; ``unmeasured`` and ``dead`` ones are not."""

    place: int
    angler: str
    total: float
    counted: int
    fish: int
    let_go: int
    tagged_let_go: int
    unmeasured: int
    dead: int


def standings(entered: Sequence[Entered], best: int | None = None, dead_count: bool = False) -> list[Standing]:
    """Places by the total of each angler's best fish, the highest first; the earlier name first where totals are equal.

    Args:
        entered: every fish; one that was tagged and let go counts as any other.
        best: how many fish of an angler count; None: all.
        dead_count: whether fish that were not let go alive count too.

    Raises:
        CoreError: ``best_out_of_range`` below 1; ``value_not_positive``.
    """
    if best is not None and best < 1:
        raise CoreError("best_out_of_range", f"Expected 1 fish or more to count for each angler; got {best}.", "best")
    for each in entered:
        if each.value is not None and not (math.isfinite(each.value) and each.value > 0):
            raise CoreError("value_not_positive", f"Expected a weight or length above 0; got {each.value}.", "value")
    totals = []
    for angler in dict.fromkeys(each.angler for each in entered):
        own = [each for each in entered if each.angler == angler]
        counts = [each for each in own if each.alive or dead_count]
        values = sorted((each.value for each in counts if each.value is not None), reverse=True)[:best]
        totals.append((math.fsum(values), len(values), angler, own, counts))
    totals.sort(key=lambda each: (-each[0], each[2].casefold()))
    return [
        Standing(
            place=1 + sum(other[0] > total for other in totals),
            angler=angler,
            total=total,
            counted=counted,
            fish=len(own),
            let_go=sum(each.alive for each in own),
            tagged_let_go=sum(each.alive and each.tagged for each in own),
            unmeasured=sum(each.value is None for each in counts),
            dead=len(own) - len(counts),
        )
        for total, counted, angler, own, counts in totals
    ]
