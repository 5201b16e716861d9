"""What a plan tells the deck, held against what is read: the goal in the water of now, and settings.

The Deck does this with no signal (``web/src/features/deck/rules/orders.ts``); both are held to ``tests/shared/orders.json``.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from nailwright_core.common.errors import CoreError


@dataclass(frozen=True)
class Goal:
    """Settings for a water: conductivity (µS/cm, ambient), volts and amps to set, and the most volts that are allowed."""

    us_cm: float
    volts: float
    amps: float
    most_volts: float


def ambient_read(
    ambient_us_cm: float | None, specific_us_cm: float | None, temperature_c: float | None, shares: Sequence[float]
) -> float | None:
    """Ambient conductivity of one reading.

    Args:
        ambient_us_cm: as it was read, µS/cm; None where it was not.
        specific_us_cm: at 25 °C, µS/cm.
        temperature_c: of the water, °C.
        shares: ambient as a share of specific conductivity at 0, 1, 2 ... °C.

    Returns:
        µS/cm; None where it was not read and cannot be computed.
    """
    if ambient_us_cm is not None:
        return ambient_us_cm
    if specific_us_cm is None or temperature_c is None:
        return None
    place = math.floor(temperature_c + 0.5)
    return specific_us_cm * shares[place] if 0 <= place < len(shares) and shares[place] else None


def goal_in(goals: Sequence[Goal], us_cm: float) -> Goal:
    """The goal of the row whose water is nearest by ratio, with the stricter limit of the two rows that the water lies between.

    Args:
        goals: rows in ascending order of conductivity.
        us_cm: ambient conductivity of the water, µS/cm.

    Raises:
        CoreError: ``no_goals`` where there is no row; ``conductivity_impossible`` for a water of none.
    """
    if not goals:
        raise CoreError("no_goals", "Expected at least one row of settings.", "goals")
    if not us_cm > 0:
        raise CoreError("conductivity_impossible", f"Expected a conductivity above 0 µS/cm; got {us_cm:g}.", "us_cm")
    nearest = min(goals, key=lambda each: abs(math.log(each.us_cm / us_cm)))
    below = next((each for each in reversed(goals) if each.us_cm <= us_cm), nearest)
    above = next((each for each in goals if each.us_cm >= us_cm), nearest)
    most = min(below.most_volts, above.most_volts)
    return replace(nearest, volts=min(nearest.volts, most), most_volts=most)


def beyond_limits(settings: Mapping[str, float], most: Mapping[str, float]) -> tuple[str, ...]:
    """Names of the settings that are above what is allowed; one that is not known or has no limit is within.

    Args:
        settings: by name.
        most: what is allowed, by name.
    """
    return tuple(name for name, value in settings.items() if value > most.get(name, math.inf))
