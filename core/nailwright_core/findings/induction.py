"""Induction time, from the bath to loss of equilibrium, by the water's temperature. Fish of one bath share its strength, its water and
the hand that watched: intervals count baths. Fish that nobody saw lie still count as longer than they were watched."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray

from nailwright_core.common.checks import check_level, numbers
from nailwright_core.common.errors import CoreError
from nailwright_core.common.estimate import Assumption, Estimate
from nailwright_core.fitting.censored import censored_line

#: Fewer baths, or a span of fewer degrees, say nothing of temperature (ours, no source).
FEWEST_BATHS, NARROWEST_C = 4, 2.0
#: Strengths that lie further apart than this, as a ratio, may be what makes the difference (ours, no source).
ALIKE_RATIO = 1.25
_STEPS = 25


@dataclass(frozen=True)
class BathOfFish:
    """One bath: how many fish were watched in it, how many of them were seen up to the end, its temperature and mean strength, and the
    median time, s; None where half of them were seen up for longer than the others took."""

    n: int
    still_up: int
    temperature_c: float
    mg_l: float
    median_s: float | None


@dataclass(frozen=True)
class InductionByTemperature:
    """What a degree does to the time.

    Attributes:
        baths: in order of temperature. n: fish in all of them, ``still_up`` of them seen up to the end.
        per_10c: time at 10 degrees more, as a ratio to the time before; below 1 where warmth is faster.
        at_c, mean_s, lower_s, upper_s: the line through the baths, geometric mean time and its interval.
        assumptions: what it takes for granted.
    """

    baths: tuple[BathOfFish, ...]
    n: int
    still_up: int
    per_10c: Estimate
    at_c: tuple[float, ...]
    mean_s: tuple[float, ...]
    lower_s: tuple[float, ...]
    upper_s: tuple[float, ...]
    assumptions: tuple[Assumption, ...]


def induction_by_temperature(
    seconds: ArrayLike,
    lay: ArrayLike,
    temperature_c: ArrayLike,
    mg_l: ArrayLike,
    bath: ArrayLike,
    level: float = 0.95,
) -> InductionByTemperature:
    """The line of log time on temperature through baths.

    Args:
        seconds: of each fish, shape (n,): time to lie still or, where not ``lay``, for how long it was seen up.
        temperature_c, mg_l: of each fish. bath: a number for the bath it lay in.
        level: of the intervals, which are over baths.

    Raises:
        CoreError: ``times_out_of_range``, ``too_few_baths``, ``temperatures_alike``, ``number_out_of_range``, ``level_out_of_range``.

    Source: ``fitting.censored``. Coverage: core/tests/findings/test_induction.py.
    """
    check_level(level)
    time, degrees, strength = (
        numbers(seconds, "seconds"),
        numbers(temperature_c, "temperature_c"),
        numbers(mg_l, "mg_l"),
    )
    of, still = np.asarray(bath), np.asarray(lay, bool)
    if not time.shape == degrees.shape == strength.shape == of.shape == still.shape:
        raise CoreError("times_out_of_range", "Expected a time, a temperature and a strength of each fish.", "seconds")
    if not (time > 0).all() or not (strength > 0).all():
        raise CoreError(
            "times_out_of_range", "Expected times and strengths above 0.", "mg_l" if (time > 0).all() else "seconds"
        )
    _, which, fish = np.unique(of, return_inverse=True, return_counts=True)
    if len(fish) < FEWEST_BATHS or not still.any():
        raise CoreError(
            "too_few_baths",
            f"A line takes {FEWEST_BATHS} baths in which fish lost equilibrium and the temperature was read; got {len(fish)} "
            f"({len(time)} fish). Read the temperature of each bath when it is filled.",
            "bath",
        )

    def mean(values: NDArray[np.float64]) -> NDArray[np.float64]:
        return np.asarray(np.bincount(which, values) / fish)

    at, doses = mean(degrees), mean(strength)
    if np.ptp(at) < NARROWEST_C:
        raise CoreError(
            "temperatures_alike",
            f"The baths were from {at.min():.1f} to {at.max():.1f} °C: too alike to tell what a degree does; {NARROWEST_C:g} °C are needed.",
            "temperature_c",
        )
    fit = censored_line(np.column_stack([np.ones_like(time, dtype=float), at[which]]), np.log10(time), still, which)
    slope = fit.estimate(1, level)
    grid = np.linspace(at.min(), at.max(), _STEPS)
    means, lower, upper = (10**each for each in fit.mean_at(np.column_stack([np.ones_like(grid), grid]), level))
    ratio = Estimate(
        10 ** (10 * slope.value), float("nan"), 10 ** (10 * slope.lower), 10 ** (10 * slope.upper), level,
        f"t over {len(fish)} baths, likelihood of log time", len(fish),
    )  # fmt: skip
    baths = tuple(
        BathOfFish(
            int(fish[place]),
            int((~still[which == place]).sum()),
            float(at[place]),
            float(doses[place]),
            _median(time[which == place], still[which == place]),
        )
        for place in np.argsort(at, kind="stable")
    )
    at_c, mean_s, lower_s, upper_s = (tuple(map(float, each)) for each in (grid, means, lower, upper))
    up = int((~still).sum())
    return InductionByTemperature(baths, len(time), up, ratio, at_c, mean_s, lower_s, upper_s, (_strengths(doses),))


def _median(seconds: NDArray[np.float64], lay: NDArray[np.bool_]) -> float | None:
    """Of times of which some are only known to be longer; None where the median is one of those."""
    order = np.lexsort((~lay, seconds))
    up = np.flatnonzero(~lay[order])
    middle = len(seconds) // 2
    return None if up.size and up[0] <= middle else float(np.median(seconds))


def induction_sentence(found: InductionByTemperature, purpose: str) -> str:
    """What was found, how sure, from how many fish.

    Args:
        found: the finding.
        purpose: what the bath is for, a key of ``PURPOSES``.
    """
    first, last = found.at_c[0], found.at_c[-1]
    ratio = found.per_10c
    seen = (
        f"a bath 10 °C warmer takes {ratio.value:.2f} times as long ({ratio.lower:.2f} to {ratio.upper:.2f})"
        if ratio.upper < 1 or ratio.lower > 1
        else f"these baths do not show yet whether temperature matters (10 °C more: {ratio.value:.2f} times as long, "
        f"{ratio.lower:.2f} to {ratio.upper:.2f})"
    )
    return (
        f"In baths for {purpose} induction took {found.mean_s[0]:.0f} s at {first:.1f} °C and {found.mean_s[-1]:.0f} s at "
        f"{last:.1f} °C; {seen}. {found.n:,} fish in {len(found.baths)} baths"
        + (f", {found.still_up:,} of them still upright when last seen." if found.still_up else ".")
    )


def _strengths(mg_l: NDArray[np.float64]) -> Assumption:
    """Whether baths differ so in strength that this may be what is seen."""
    low, high = float(mg_l.min()), float(mg_l.max())
    name = "The baths were of one strength"
    if high / low <= ALIKE_RATIO:
        return Assumption(name, "not refuted", f"They were from {low:.0f} to {high:.0f} mg/L.")
    return Assumption(
        name,
        "doubtful",
        f"They were from {low:.0f} to {high:.0f} mg/L: a stronger bath is faster too. Look at the bath's own line on the Deck, or choose "
        "outings of one strength.",
    )
