"""Fishing by rod: fights and the feeder's timer; rod-hours are an effort of ``deck.gears`` (handbook 10; common practice, no source).

Times are seconds on one clock. Examples worked by hand: ``tests/shared/angling.json``, which the tablet is held to as well.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

#: Feeding: so often while the bed is built, and after that, s; the bed is built for so long from the start.
FEED_FIRST_S, FEED_LATER_S, BED_S = 300.0, 750.0, 1800.0
#: A fight that has lasted longer was of a fish that got off without a word, s.
LONGEST_FIGHT_S = 7200.0


@dataclass(frozen=True)
class Fight:
    """From hook-up to hand; ``ended_s`` is None while it lasts."""

    began_s: float
    ended_s: float | None


def fights(hooked_s: Sequence[float], ended_s: Sequence[float]) -> tuple[Fight, ...]:
    """Which hook-up each fish in hand, or lost, ended: the oldest that was still open; more than one rod may be bent.

    A hook-up that nothing ended within two hours is closed without a fight, and left out.
    """
    ends = sorted(ended_s)
    found = []
    for began in sorted(hooked_s):
        end = next((each for each in ends if began <= each <= began + LONGEST_FIGHT_S), None)
        if end is not None:
            ends.remove(end)
        found.append(Fight(began, end))
    return tuple(found)


def feed_due_s(began_s: float, fed_s: Sequence[float], now_s: float) -> float:
    """Seconds until the spot is to be fed again; below zero: since when it was due.

    Every five minutes while the bed is built, in the first half hour; then every twelve and a half (10 to 15).
    """
    last = max((each for each in fed_s if each <= now_s), default=None)
    if last is None:
        return began_s - now_s
    every = FEED_FIRST_S if last - began_s < BED_S else FEED_LATER_S
    return last + every - now_s
