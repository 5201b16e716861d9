"""A bath's running strength from what was done to it, and what to do to reach the strength that is wanted.

Ideal mixing; the volume of the stock is left out; nothing decays and no fish takes any up (common practice, no source), so the
strength is an upper one for an old bath. Examples worked by hand: ``tests/shared/baths.json``.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import ArrayLike

from nailwright_core.common.checks import finite, numbers
from nailwright_core.common.errors import CoreError
from nailwright_core.common.estimate import Estimate
from nailwright_core.deck.handling import AGENTS, BathState, dose_volume_ml
from nailwright_core.fitting.censored import censored_line

#: A dose of the same amount within so many seconds is one touch that was felt twice, unless said to be a second one.
TWICE_WITHIN_S = 20.0


#: From this stage of anaesthesia on a fish lies still enough for surgery.
STILL_FROM = 4


def times_to_lie(stages: Sequence[tuple[float, int | None]]) -> list[tuple[float, float | None]]:
    """Each way of one fish into a bath, and how long it then took to lie still.

    Args:
        stages: time, s, in order, and a stage of anaesthesia, or None where it went into a bath.

    Returns:
        Time of each way in, and seconds to the first stage of ``STILL_FROM`` or more before the next one; None without such.
    """
    found: list[tuple[float, float | None]] = []
    for at, stage in stages:
        if stage is None:
            found.append((at, None))
        elif stage >= STILL_FROM and found and found[-1][1] is None:
            found[-1] = (found[-1][0], at - found[-1][0])
    return found


def times_watched(
    stages: Sequence[tuple[float, int | None]], elsewhere: Sequence[float] = ()
) -> list[tuple[float, float, bool]]:
    """Each way of one fish into a bath of which its stage was looked at: when, for how long, and whether it lay still by then.

    A fish that never lay still was seen up for as long as somebody last saw it below ``STILL_FROM`` in the bath: what it did later
    nobody knows, and below it again in recovery tells nothing.

    Args:
        stages: as ``times_to_lie``. elsewhere: times, s, at which it was put anywhere else.
    """
    last_up = dict.fromkeys((at for at, stage in stages if stage is None), 0.0)
    since = None
    for at, stage in stages:
        if stage is None:
            since = at
        elif stage < STILL_FROM and since is not None and not any(since < moved <= at for moved in elsewhere):
            last_up[since] = at - since
    found = (
        (at, last_up[at] if seconds is None else seconds, seconds is not None) for at, seconds in times_to_lie(stages)
    )
    return [each for each in found if each[1] > 0]


@dataclass(frozen=True)
class Trial:
    """A trial of a bath: fish done of those wanted, their median induction time (s), and how it went.

    ``went``: "going" while fish are missing, "slow" or "fast" where the median is beyond the goal or below what is too fast, else "good".
    """

    done: int
    wanted: int
    median_s: float | None
    went: str


def bath_trial(inductions_s: Sequence[float], wanted: int, goal_s: float, fast_s: float) -> Trial:
    """How a trial of a bath goes, by the first fish whose induction was timed.

    Args:
        inductions_s: induction times, s, in the order of the fish.
        wanted: fish of the trial; 0: none is planned.
        goal_s: goal of the protocol, s.
        fast_s: below this a bath is too strong, s.
    """
    first = sorted(inductions_s[: max(wanted, 0)])
    middle = len(first) // 2
    median = None if not first else first[middle] if len(first) % 2 else (first[middle - 1] + first[middle]) / 2
    if median is None or len(first) < wanted:
        went = "going"
    else:
        went = "slow" if median > goal_s else "fast" if median < fast_s else "good"
    return Trial(len(first), wanted, median, went)


@dataclass(frozen=True)
class BathStep:
    """What was done to a bath: ``said`` of an event of core's ``deck.events`` about it, by its ``key``, at a time in s."""

    key: str
    at_s: float
    what: str
    details: Mapping[str, Any]


@dataclass(frozen=True)
class Bath:
    """A bath as it stands.

    Attributes:
        state: litres and mg/L; None before it was filled.
        agent, purpose: of its last filling. filled_at_s, dosed_at_s: the last time of each.
        stock_mg_ml: of its stock.
        twice: keys of doses that are taken for one touch felt twice, and are not counted.
        undone: keys of steps that cannot have been so (more exchanged than there was), left out.
    """

    state: BathState | None = None
    agent: str = "none"
    purpose: str = ""
    stock_mg_ml: float | None = None
    filled_at_s: float | None = None
    dosed_at_s: float | None = None
    twice: tuple[str, ...] = ()
    undone: tuple[str, ...] = ()


def bath_after(steps: Sequence[BathStep], now_s: float | None = None) -> Bath:
    """The bath after its steps up to a moment, in the order of their times.

    Args:
        steps: what was done to the bath, in any order.
        now_s: the moment that is asked about, s.
    """
    state: BathState | None = None
    agent, purpose, stock = "none", "", None
    filled_at = dosed_at = None
    twice, undone = [], []
    last_dose: tuple[float, float] | None = None
    for each in sorted(steps, key=lambda step: step.at_s):
        if now_s is not None and each.at_s > now_s:
            break
        details = each.details
        litres = float(details.get("litres") or 0)
        try:
            if each.what == "bath_filled":
                kept = min(float(details.get("kept_l") or 0), state.litres if state else 0.0)
                carried = details["agent"] == agent  # what is left of another agent is not counted in its mg/L
                state = (state if state and carried else BathState(max(kept, litres))).fill(litres, kept)
                agent, purpose = str(details["agent"]), str(details["purpose"])
                stock = details.get("stock_mg_ml") or (AGENTS[agent].stock_mg_ml if agent in AGENTS else None)
                filled_at, last_dose = each.at_s, None
            elif state is None:
                undone.append(each.key)
            elif each.what == "bath_dosed":
                ml = float(details["ml"])
                if stock is None:
                    undone.append(each.key)
                elif last_dose and last_dose[0] == ml and each.at_s - last_dose[1] <= TWICE_WITHIN_S and details.get("again") != "yes":  # fmt: skip
                    twice.append(each.key)
                else:
                    state, dosed_at, last_dose = state.add(ml, float(stock)), each.at_s, (ml, each.at_s)
            elif each.what == "bath_exchanged":
                state = state.exchange(litres)
            elif each.what == "bath_topped":
                state = state.top_up(litres)
        except CoreError:
            undone.append(each.key)
    return Bath(state, agent, purpose, stock, filled_at, dosed_at, tuple(twice), tuple(undone))


@dataclass(frozen=True)
class Advice:
    """What brings a bath to a strength: mL of stock to add, or litres to exchange for fresh water; one of them is 0."""

    add_ml: float
    exchange_l: float


def advice(bath: Bath, target_mg_l: float, low_mg_l: float, high_mg_l: float) -> Advice:
    """What to add or to exchange for a target inside the range that holds.

    Args:
        bath: as ``bath_after`` gives it.
        target_mg_l: strength that is wanted, mg/L.
        low_mg_l: least strength of the range, mg/L.
        high_mg_l: greatest strength of the range, mg/L.

    Raises:
        CoreError: ``target_out_of_range``, ``bath_empty``, ``stock_unknown``, and as ``dose_volume_ml``.
    """
    finite(target_mg_l, "target_mg_l")
    if not low_mg_l <= target_mg_l <= high_mg_l:
        raise CoreError(
            "target_out_of_range",
            f"Expected {low_mg_l:g} to {high_mg_l:g} mg/L here; got {target_mg_l:g} mg/L. Take the lowest that holds the fish still.",
            "target_mg_l",
        )
    if bath.state is None:
        raise CoreError("bath_empty", "Fill the bath first: its litres are not known.", "litres")
    if bath.stock_mg_ml is None:
        raise CoreError("stock_unknown", "Say what stock it is, in mg/mL.", "stock_mg_ml")
    if bath.state.mg_l > target_mg_l:
        return Advice(0.0, bath.state.litres * (1 - target_mg_l / bath.state.mg_l))
    return Advice(dose_volume_ml(bath.state.litres, target_mg_l, bath.stock_mg_ml, bath.state.mg_l), 0.0)


@dataclass(frozen=True)
class InductionLine:
    """Time to loss of balance against strength: log10 s = intercept + slope x log10 mg/L, with what temperature adds per degree.

    Attributes:
        slope: change of log10 seconds with log10 mg/L; below zero where a stronger bath is faster.
        per_degree: change of log10 seconds with a degree; None where the temperatures are too alike to tell.
        residual_sd: of log10 seconds. n: fish, ``still_up`` of them seen up to their end. baths: in which they lay.
        suggest_mg_l: strength at which half of the fish are expected to lose balance within the goal, inside the range;
            None where the slope's interval holds zero: the data do not say that strength matters.
        suggest_lower, suggest_upper: strengths at which the 95 % interval of the line's mean meets the goal, cut to the range.
    """

    slope: Estimate
    intercept: float
    per_degree: Estimate | None
    residual_sd: float
    n: int
    still_up: int
    baths: int
    suggest_mg_l: float | None
    suggest_lower: float | None
    suggest_upper: float | None
    at_mg_l: tuple[float, ...]
    mean_s: tuple[float, ...]
    lower_s: tuple[float, ...]
    upper_s: tuple[float, ...]


def induction_line(
    mg_l: ArrayLike,
    seconds: ArrayLike,
    lay: ArrayLike,
    bath: ArrayLike,
    temperature_c: ArrayLike,
    goal_s: float,
    low_mg_l: float,
    high_mg_l: float,
) -> InductionLine:
    """Fit the line at the mean temperature, and suggest the next bath.

    Fish that nobody saw lie still count as longer than they were watched (leaving them out suggests too weak a bath), and baths, not
    fish, are what the interval counts: fish of one bath share the water and the hand.

    Args:
        mg_l, seconds: of each fish, shape (n,): strength, and time to lie still or, where not ``lay``, for how long it was seen up.
        bath: a number for the bath it lay in. temperature_c: nan where it was not read (then left out of the fit).
        goal_s: within which half of the fish are to lie still, s. low_mg_l, high_mg_l: range of the protocol.

    Raises:
        CoreError: ``too_few_fish`` below eight of at least three strengths in three baths; ``strength_out_of_range``,
            ``number_out_of_range``.

    Source: ``fitting.censored``. Coverage: core/tests/deck/test_induction_line.py.
    """
    x, y, still = numbers(mg_l, "mg_l"), numbers(seconds, "seconds"), np.asarray(lay, bool)
    degrees, of = np.asarray(temperature_c, float), np.asarray(bath)
    finite(goal_s, "goal_s", 0, above=True)
    finite(low_mg_l, "low_mg_l", 0, above=True)
    finite(high_mg_l, "high_mg_l", low_mg_l)
    if not (x.shape == y.shape == still.shape == of.shape == degrees.shape) or np.any(~(x > 0)) or np.any(~(y > 0)):
        raise CoreError(
            "strength_out_of_range", "Expected strengths and times above 0, one of each for a fish.", "mg_l"
        )
    strengths, baths = len(np.unique(np.round(x, 1))), len(np.unique(of))
    if still.sum() < 8 or strengths < 3 or baths < 3:
        raise CoreError(
            "too_few_fish",
            f"A line takes 8 fish that lost equilibrium, at 3 strengths, in 3 baths; got {still.sum()}, of {strengths}, in {baths}.",
            "mg_l",
        )
    told = bool(np.all(np.isfinite(degrees)) and np.ptp(degrees) >= 2.0 and baths > 3)
    columns = [np.log10(x)] + ([degrees - degrees.mean()] if told else [])
    fit = censored_line(np.column_stack([np.ones_like(x), *columns]), np.log10(y), still, of)
    grid = np.geomspace(min(low_mg_l, x.min()), max(high_mg_l, x.max()), 401)
    design = np.column_stack([np.ones_like(grid), np.log10(grid), *([np.zeros_like(grid)] if told else [])])
    means, lowers, uppers = (10**each for each in fit.mean_at(design))
    slope = fit.estimate(1)
    suggest = lower = upper = None
    if slope.upper < 0:
        inside = (grid >= low_mg_l) & (grid <= high_mg_l)
        suggest = float(np.clip(10 ** ((np.log10(goal_s) - fit.params[0]) / slope.value), low_mg_l, high_mg_l))
        lower = float(grid[inside & (lowers <= goal_s)].min()) if np.any(inside & (lowers <= goal_s)) else high_mg_l
        upper = float(grid[inside & (uppers <= goal_s)].min()) if np.any(inside & (uppers <= goal_s)) else high_mg_l
    return InductionLine(
        slope, float(fit.params[0]), fit.estimate(2) if told else None, fit.residual_sd, len(x), int((~still).sum()), baths,
        suggest, lower, upper, *(tuple(map(float, each[::10])) for each in (grid, means, lowers, uppers)),
    )  # fmt: skip
