"""Fishing by rod: fights and the feeder's timer; rod-hours are an effort of ``deck.gears`` (common practice, no source).

Times are seconds on one clock. Examples worked by hand: ``tests/shared/angling.json``, which the tablet is held to as well.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from nailwright_core.common.checks import finite
from nailwright_core.common.intervals import exact_poisson

#: A fight that has lasted longer was of a fish that got off without a word, s.
LONGEST_FIGHT_S = 7200.0


@dataclass(frozen=True)
class Feeding:
    """How often a spot is fed: every ``first_s`` for the first ``first_for_s`` (the bed is built), then every ``later_s``, s.

    An outing with a plan goes by the plan's; these hold for a plan that says nothing else (common practice, no source).
    """

    first_s: float = 300.0
    first_for_s: float = 1800.0
    later_s: float = 720.0


@dataclass(frozen=True)
class Fight:
    """From hook-up to hand; ``ended_s`` is None while it lasts."""

    began_s: float
    ended_s: float | None


def fights(hooked_s: Sequence[float], ended_s: Sequence[float]) -> tuple[Fight, ...]:
    """Which hook-up each fish in hand, or lost, ended: the oldest that was still open; more than one rod may be bent.

    A hook-up that nothing ended within two hours is closed without a fight, and left out.

    Args:
        hooked_s: times of hook-ups, s.
        ended_s: times at which a fish came to hand or was lost, s.
    """
    ends = sorted(ended_s)
    found = []
    for began in sorted(hooked_s):
        end = next((each for each in ends if began <= each <= began + LONGEST_FIGHT_S), None)
        if end is not None:
            ends.remove(end)
        found.append(Fight(began, end))
    return tuple(found)


def whose_fights(hooked: Sequence[tuple[float, str]], ended: Mapping[str, float]) -> dict[str, tuple[str, float]]:
    """On whose rod each fish was that was brought in or lost, and for how long it fought, s; paired as ``fights`` does.

    Args:
        hooked: when a fish took the hook, and whose; an empty name where nobody said.
        ended: when each ended, by the key of the fish in hand or of what was said of the loss. Those that no hook-up led to
            are not in the answer.
    """
    ends = sorted(ended.items(), key=lambda each: (each[1], each[0]))
    found = {}
    for began, angler in sorted(hooked):
        end = next((each for each in ends if began <= each[1] <= began + LONGEST_FIGHT_S), None)
        if end is not None:
            ends.remove(end)
            found[end[0]] = (angler, end[1] - began)
    return found


@dataclass(frozen=True)
class Rate:
    """Fish for an hour of one rod, with the interval of a count that scatters as Poisson's: too narrow where fish come in schools."""

    value: float
    lower: float
    upper: float


def rate_per_hour(fish: int, hours: float) -> Rate:
    """Fish for a rod-hour with a 95 % interval.

    Args:
        fish: how many were caught.
        hours: rod-hours.

    Raises:
        CoreError: ``number_out_of_range`` unless hours are above 0, ``count_out_of_range`` below 0 fish.
    """
    finite(hours, "hours", 0, above=True)
    low, high = exact_poisson(fish)
    return Rate(fish / hours, low / hours, high / hours)


def feed_due_s(began_s: float, fed_s: Sequence[float], now_s: float, feeding: Feeding | None = None) -> float:
    """Seconds until the spot is to be fed again; below zero: since when it was due.

    Args:
        began_s: when fishing at the spot began, s.
        fed_s: times at which it was fed, s.
        now_s: the moment that is asked about, s.
        feeding: of the plan; None: as ``Feeding`` has it.
    """
    feeding = feeding or Feeding()
    last = max((each for each in fed_s if each <= now_s), default=None)
    if last is None:
        return began_s - now_s
    every = feeding.first_s if last - began_s < feeding.first_for_s else feeding.later_s
    return last + every - now_s
