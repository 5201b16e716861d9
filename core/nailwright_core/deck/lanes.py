"""Where a fish stands between net and release, for how long, and how long it has been out of water; derived from events.

Times are seconds on one clock, whichever. Events may come in any order: they are sorted by their times, so that two tablets
and late entries agree. Examples worked by hand: ``tests/shared/lanes.json``, which the tablet's own reckoning is held to.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

from nailwright_core.deck.handling import Limits, Status, lane_status

#: Share of a lane's time after which a fish is soon to move on, where nothing else says so (common practice, no source).
SOON = 0.75


@dataclass(frozen=True)
class Lane:
    """A lane of the programme: for how long at most, s (None: as long as one likes), and whether a fish there is in air."""

    code: str
    word: str
    most_s: float | None = None
    in_air: bool = False


@dataclass(frozen=True)
class Moment:
    """Something that happened to a fish: it entered a ``lane``, went "out" of water or back "in", or left ("gone").

    ``held_s`` is how long it had been held before it was ours, where it entered a lane so.
    """

    at_s: float
    what: Literal["lane", "out", "in", "gone"]
    lane: str = ""
    held_s: float = 0.0


@dataclass(frozen=True)
class Stand:
    """Where a fish is at a moment.

    Attributes:
        lane: its code; "" once it has left.
        in_lane_s: since it entered it, with what it had been held before; until it left, where it has.
        aboard_s: since it came aboard, so too.
        air_s: out of water, all together. air_now_s: in the interval that lasts; 0 in water. longest_air_s: the longest interval.
    """

    lane: str
    in_lane_s: float
    aboard_s: float
    air_s: float
    air_now_s: float
    longest_air_s: float


def stand_of(
    came_s: float, moments: Sequence[Moment], now_s: float, lanes: Sequence[Lane], held_s: float = 0.0
) -> Stand:
    """Where a fish stands that came aboard, into the first lane, at a time, held for ``held_s`` before.

    What was said to have happened before it came counts from when it came. Entering the lane that it is in changes nothing;
    an "out" of water holds until "in" or until it enters the next lane. What comes after it left changes nothing.

    Args:
        came_s: when it came aboard, s.
        moments: what happened to it, in any order.
        now_s: the moment that is asked about, s.
        lanes: of the programme, the first one first.
        held_s: for how long it was held before it came, s.
    """
    air_lanes = {each.code for each in lanes if each.in_air}
    lane = lanes[0].code if lanes else ""
    entered, here_before, before = came_s, held_s, held_s
    out_since: float | None = came_s if lane in air_lanes else None
    air = longest = 0.0
    end = max(now_s, came_s)
    for each in sorted(moments, key=lambda moment: moment.at_s):
        if each.at_s > now_s:
            break
        at = max(each.at_s, came_s)
        if each.what == "gone":
            lane, end = "", at
            break
        if each.what == "lane":
            before = max(before, each.held_s)
            if each.lane == lane:
                here_before = max(here_before, each.held_s)
                continue
            lane, entered, here_before = each.lane, at, each.held_s
            is_out = lane in air_lanes
        else:
            is_out = each.what == "out"
        if is_out and out_since is None:
            out_since = at
        elif not is_out and out_since is not None:
            air, longest, out_since = air + at - out_since, max(longest, at - out_since), None
    last = 0.0 if out_since is None else end - out_since
    return Stand(
        lane,
        end - entered + here_before,
        end - came_s + before,
        air + last,
        last if lane else 0.0,
        max(longest, last),
    )


def limits_in(lane: Lane, limits: Limits) -> tuple[float, float] | None:
    """From when a fish of these limits is soon to move on from a lane, and from when it is over its time, s; None: never.

    The live well, the bath and recovery have limits by the fish's kind and size; the lane's own counts too, the shorter holds.

    Args:
        lane: of the programme.
        limits: for a fish of its kind and size.
    """
    own: tuple[float, float] | None = {
        "well": (SOON * limits.well_minutes * 60, limits.well_minutes * 60),
        "bath": (limits.induction_warn_s, limits.induction_alarm_s),
        "recovery": (limits.recovery_goal_s, limits.recovery_warn_s),
    }.get(lane.code)
    if lane.most_s is None:
        return own
    if own is None or lane.most_s < own[1]:
        return SOON * lane.most_s, lane.most_s
    return own


def status_of(stand: Stand, lane: Lane, limits: Limits) -> Status:
    """The worse of what its time in the lane and its time out of water say.

    Args:
        stand: as ``stand_of`` gives it.
        lane: in which it is.
        limits: for a fish of its kind and size.
    """
    bounds = limits_in(lane, limits)
    by_lane: Status = lane_status(stand.in_lane_s, *bounds) if bounds else "good"
    by_air = lane_status(stand.air_now_s, limits.air_warn_s, limits.air_alarm_s)
    order: list[Status] = ["good", "soon", "over"]
    return max(by_lane, by_air, key=order.index)


@dataclass(frozen=True)
class Batch:
    """Fish that went into the live well together: when, how many, and how long they had been held before."""

    at_s: float
    n: int
    held_s: float = 0.0


def share_batches(
    batches: Sequence[Batch], calls: Mapping[str, tuple[float, int]]
) -> tuple[dict[str, Batch], list[int]]:
    """Which batch each called fish came out of, and how many of each batch have not been called yet.

    The first to come is the first to be worked up: a call takes its fish from the oldest batch that was aboard before it and
    has any left.

    Args:
        calls: for each key when it was called, s, and how many fish it counts.
    """
    in_order = sorted(batches, key=lambda batch: batch.at_s)
    left = [each.n for each in in_order]
    of: dict[str, Batch] = {}
    for key, (at, n) in sorted(calls.items(), key=lambda call: (call[1][0], call[0])):
        for place, batch in enumerate(in_order):
            if batch.at_s <= at and left[place] > 0:
                of.setdefault(key, batch)
                taken = min(n, left[place])
                left[place] -= taken
                n -= taken
                if n == 0:
                    break
    return of, left
