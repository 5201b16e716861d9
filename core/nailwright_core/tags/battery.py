"""How long a transmitter lasts, and how many may share one water."""

from __future__ import annotations

import math
from datetime import date, timedelta

from nailwright_core.common.errors import CoreError

SECONDS_PER_DAY = 86_400
SECONDS_PER_HOUR = 3_600


def battery_days(
    capacity_mah: float, sleep_ua: float, pulse_mas: float, interval_s: float, usable: float = 0.85
) -> float:
    """Days until a battery is spent: capacity over mean current.

    Args:
        capacity_mah: capacity, mAh.
        sleep_ua: current between transmissions, uA.
        pulse_mas: charge of one transmission, mA s.
        interval_s: mean seconds between transmissions.
        usable: share of the capacity that can be drawn (ours, no source; the maker's figure is better).

    Raises:
        CoreError: ``battery_out_of_range``.
    """
    for name, value in (("capacity_mah", capacity_mah), ("pulse_mas", pulse_mas), ("interval_s", interval_s)):
        if not value > 0 or not math.isfinite(value):
            raise CoreError("battery_out_of_range", f"Expected {name} above 0; got {value:g}.", name)
    if sleep_ua < 0 or not 0 < usable <= 1:
        raise CoreError(
            "battery_out_of_range", "Expected a current of 0 or more and a usable share up to 1.", "sleep_ua"
        )
    mean_ma = sleep_ua / 1000 + pulse_mas / interval_s
    return capacity_mah * usable / mean_ma / (SECONDS_PER_DAY / SECONDS_PER_HOUR)


def last_ping(activated: date, days: float, guaranteed: float = 1.0) -> date:
    """The day of the last expected transmission, ``guaranteed`` of ``days`` after activation.

    Args:
        activated: day on which the tag was activated.
        days: life of the battery, days.
        guaranteed: share of it that is counted on.
    """
    return activated + timedelta(days=math.floor(days * guaranteed))


def collision_loss(n_tags: int, burst_s: float, interval_s: float) -> float:
    """Share of transmissions that overlap another's where ``n_tags`` are in reach of one receiver.

    Random intervals as in unslotted random access: a transmission is heard where none of the others starts within one
    burst before or after it, exp(-2 (n - 1) burst / interval) (Abramson 1970, from memory).

    Args:
        n_tags: tags within range of one receiver.
        burst_s: length of one transmission, s.
        interval_s: mean time between transmissions, s.

    Raises:
        CoreError: ``tags_out_of_range``.
    """
    if n_tags < 1 or not 0 < burst_s < interval_s:
        raise CoreError(
            "tags_out_of_range",
            f"Expected 1 tag or more and a burst shorter than the interval; got {n_tags}, {burst_s:g} s, {interval_s:g} s.",
            "n_tags",
        )
    return 1 - math.exp(-2 * (n_tags - 1) * burst_s / interval_s)


def most_tags(loss: float, burst_s: float, interval_s: float) -> int:
    """How many tags may be in reach of one receiver at once for at most this loss.

    Args:
        loss: share of transmissions that may be lost.
        burst_s: length of one transmission, s.
        interval_s: mean time between transmissions, s.
    """
    if not 0 < loss < 1:
        raise CoreError("loss_out_of_range", f"Expected a loss between 0 and 1; got {loss:g}.", "loss")
    return 1 + math.floor(-math.log(1 - loss) * interval_s / (2 * burst_s) + 1e-9)
