"""Electrofishing settings for today's water.

Power transfer: Kolz (1989), US Fish Wildl. Tech. Rep. 22; effective conductivity of fish 115 µS/cm: Miranda and Dolan
(2003), Trans. Am. Fish. Soc. 132, 1179-1185; conductivity and temperature: Reynolds (1996), Fisheries Techniques, ch. 8.
All from memory of these sources. Volts, amps and watts are peak values; mean power is peak times duty.

The tool guides trained people: local code, permit and the licensed leader decide.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray

from nailwright_core.common.checks import finite
from nailwright_core.common.errors import CoreError

FISH_US_CM = 115.0
#: Conductivities of waters in which electrofishing is done, with a wide margin (sea water has about 50,000).
LOWEST_US_CM, HIGHEST_US_CM = 1.0, 60_000.0
#: Field strengths at which rings are drawn, V/cm.
RINGS_V_CM = (0.1, 0.2, 0.5, 1.0)
_PER_DEGREE = 1.02


@dataclass(frozen=True)
class Unit:
    """A control box with its generator: peak limits, and highest mean power, pulse rate and duty (a share)."""

    max_volts: float
    max_amps: float
    max_watts: float
    max_hz: float = 120.0
    max_duty: float = 1.0


@dataclass(frozen=True)
class Settings:
    """Goal settings in one water: peak volts, amps, watts; ``resistance_ohm``; the power ratio applied / matched."""

    ambient_us_cm: float
    volts: float
    amps: float
    watts: float
    resistance_ohm: float
    power_ratio: float

    def mean_watts(self, share: float) -> float:
        """Mean power at a duty, W."""
        return self.watts * share


def ambient_conductivity(specific_us_cm: float, temperature_c: float) -> float:
    """Ambient conductivity, µS/cm, from specific conductance at 25 C: Ca = Cs 1.02^(T - 25).

    Args:
        specific_us_cm: conductivity at 25 °C, µS/cm.
        temperature_c: of the water, °C.

    Raises:
        CoreError: ``conductivity_out_of_range``, ``temperature_out_of_range``.
    """
    _check_conductivity(specific_us_cm, "specific_us_cm")
    return float(specific_us_cm * _PER_DEGREE ** (_temperature(temperature_c) - 25))


def specific_conductance(ambient_us_cm: float, temperature_c: float) -> float:
    """Specific conductance at 25 C, µS/cm, from ambient conductivity.

    Args:
        ambient_us_cm: ambient conductivity of the water, µS/cm.
        temperature_c: of the water, °C.

    Raises:
        CoreError: as ``ambient_conductivity``.
    """
    _check_conductivity(ambient_us_cm, "ambient_us_cm")
    return float(ambient_us_cm * _PER_DEGREE ** (25 - _temperature(temperature_c)))


def power_ratio(ambient_us_cm: ArrayLike, fish_us_cm: float = FISH_US_CM) -> NDArray[np.float64]:
    """Power to apply over power in matched water, (1 + q)^2 / (4 q), q = Ca / Cf; of the shape of ``ambient_us_cm``.

    Args:
        ambient_us_cm: ambient conductivity of the water, µS/cm.
        fish_us_cm: effective conductivity of fish, µS/cm.

    Raises:
        CoreError: ``conductivity_out_of_range``.
    """
    _check_conductivity(ambient_us_cm, "ambient_us_cm")
    _check_conductivity(fish_us_cm, "fish_us_cm")
    q = np.asarray(ambient_us_cm, dtype=float) / fish_us_cm
    return np.asarray((1 + q) ** 2 / (4 * q), dtype=float)


def r100_from_reading(volts: float, amps: float, ambient_us_cm: float) -> float:
    """A boat's resistance in water of 100 µS/cm, ohm, from one logged reading: (V / I) Ca / 100.

    Args:
        volts: peak volts.
        amps: peak amps.
        ambient_us_cm: ambient conductivity of the water, µS/cm.

    Raises:
        CoreError: ``reading_out_of_range``, ``conductivity_out_of_range``.
    """
    for name, value in (("volts", volts), ("amps", amps)):
        if not value > 0 or not math.isfinite(value):
            raise CoreError("reading_out_of_range", f"Expected {name} above 0; got {value:g}.", name)
    _check_conductivity(ambient_us_cm, "ambient_us_cm")
    return volts / amps * ambient_us_cm / 100


def matched_power(watts: float, ambient_us_cm: float, fish_us_cm: float = FISH_US_CM) -> float:
    """The power goal in matched water, W, that a power which worked at ``ambient_us_cm`` stands for.

    Args:
        watts: peak watts.
        ambient_us_cm: ambient conductivity of the water, µS/cm.
        fish_us_cm: effective conductivity of fish, µS/cm.
    """
    finite(watts, "watts", 0)
    return float(watts / power_ratio(ambient_us_cm, fish_us_cm))


def settings_for(
    ambient_us_cm: float, matched_power_w: float, r100_ohm: float, fish_us_cm: float = FISH_US_CM
) -> Settings:
    """Volts, amps and watts that transfer the same power into fish as ``matched_power_w`` does in matched water.

    Args:
        ambient_us_cm: ambient conductivity of the water, µS/cm.
        matched_power_w: power wanted in water that matches the fish, W.
        r100_ohm: resistance of the electrodes in water of 100 µS/cm, ohm.
        fish_us_cm: effective conductivity of fish, µS/cm.

    Raises:
        CoreError: ``conductivity_out_of_range``, ``power_out_of_range``, ``resistance_out_of_range``.
    """
    ratio = float(power_ratio(ambient_us_cm, fish_us_cm))
    if not 0 < matched_power_w <= 100_000:
        raise CoreError(
            "power_out_of_range",
            f"Expected a power goal above 0 and up to 100,000 W; got {matched_power_w:g}.",
            "matched_power_w",
        )
    if not 0 < r100_ohm <= 100_000:
        raise CoreError(
            "resistance_out_of_range", f"Expected a resistance above 0 ohm at 100 µS/cm; got {r100_ohm:g}.", "r100_ohm"
        )
    resistance = r100_ohm * 100 / ambient_us_cm
    watts = matched_power_w * ratio
    return Settings(
        ambient_us_cm, math.sqrt(watts * resistance), math.sqrt(watts / resistance), watts, resistance, ratio
    )


def settings_table(
    conductivities_us_cm: Sequence[float], matched_power_w: float, r100_ohm: float, fish_us_cm: float = FISH_US_CM
) -> tuple[Settings, ...]:
    """``settings_for`` at each conductivity.

    Args:
        conductivities_us_cm: waters of the table, µS/cm.
        matched_power_w: power wanted in water that matches the fish, W.
        r100_ohm: resistance of the electrodes in water of 100 µS/cm, ohm.
        fish_us_cm: effective conductivity of fish, µS/cm.
    """
    return tuple(settings_for(each, matched_power_w, r100_ohm, fish_us_cm) for each in conductivities_us_cm)


@dataclass(frozen=True)
class Applied:
    """What a pair of readings says: ``watts`` (peak), ``percent`` of the goal's power, ``r100_ohm`` of the boat (None where the
    water's conductivity is not known)."""

    watts: float
    percent: float
    r100_ohm: float | None


def power_achieved(volts: float, amps: float, goal_w: float, ambient_us_cm: float | None = None) -> Applied:
    """Applied power against the goal in this water, from the volts and amps read while fishing (``tests/shared/power.json``).

    Args:
        volts: peak volts.
        amps: peak amps.
        goal_w: power wanted in matched water, W.
        ambient_us_cm: ambient conductivity of the water, µS/cm.

    Raises:
        CoreError: ``reading_out_of_range``, ``goal_out_of_range``, ``conductivity_out_of_range``.
    """
    for name, value in (("volts", volts), ("amps", amps)):
        if not value > 0 or not math.isfinite(value):
            raise CoreError("reading_out_of_range", f"Expected {name} above 0; got {value:g}.", name)
    if not goal_w > 0 or not math.isfinite(goal_w):
        raise CoreError("goal_out_of_range", f"Expected a goal above 0 W; got {goal_w:g}.", "goal_w")
    watts = volts * amps
    r100 = None if ambient_us_cm is None else r100_from_reading(volts, amps, ambient_us_cm)
    return Applied(watts, 100 * watts / goal_w, r100)


def median_r100(readings: Sequence[tuple[float, float, float]]) -> float | None:
    """The middle of the resistances that logged (volts, amps, µS/cm) give, ohm; None without readings.

    Args:
        readings: volts, amps and ambient conductivity of each reading.

    Raises:
        CoreError: as ``r100_from_reading``.
    """
    return float(np.median([r100_from_reading(*reading) for reading in readings])) if readings else None


def duty(pulse_hz: float, pulse_width_ms: float) -> float:
    """Share of the time that current flows.

    Args:
        pulse_hz: pulses a second, Hz.
        pulse_width_ms: width of one pulse, ms.

    Raises:
        CoreError: ``pulse_out_of_range`` where pulses would overlap.
    """
    share = pulse_hz * pulse_width_ms / 1000
    if not 0 < share <= 1:
        raise CoreError(
            "pulse_out_of_range",
            f"{pulse_hz:g} pulses a second of {pulse_width_ms:g} ms each fill {share:.0%} of the time; expected up to 100 %. "
            "Lower the rate or shorten the pulse.",
            "pulse_width_ms",
        )
    return share


@dataclass(frozen=True)
class RampStep:
    """One step of working up to the goal: volts to set, and what to watch for before the next."""

    volts: float
    watch: str


def ramp_up(volts: float, start_share: float = 0.5, steps: int = 4) -> tuple[RampStep, ...]:
    """Start low and raise until fish are drawn and recover quickly, then stop (common practice, no source).

    Args:
        volts: the goal as unit and limits let it be (``held_within``); no step is above it.
    """
    shares = np.linspace(start_share, 1.0, steps)
    watch = (
        "Are fish drawn to the anode? Do they right themselves within seconds?",
        "Fish that only flee: go on. Fish drawn and upright again at once: stay here.",
        "Look for dark bars, bleeding, stiff fish: if seen, go back a step and lower the pulse rate.",
        "The goal. Do not raise further; log volts, amps and how fish answer.",
    )
    return tuple(
        RampStep(_down_to_tens(float(volts * share)), watch[min(place, len(watch) - 1)])
        for place, share in enumerate(shares)
    )


def _down_to_tens(volts: float) -> float:
    return math.floor(volts / 10 + 1e-9) * 10.0 if volts >= 20 else volts


def field_rings_cm(anode_volts: float, anode_radius_cm: float) -> dict[float, float]:
    """Distance from a spherical anode's centre, cm, at which the field has each of ``RINGS_V_CM``: E = V a / r^2.

    A teaching picture: real anodes are droppers, and the cathode bends the field.

    Args:
        anode_volts: voltage of the anode against the water far away, V.
        anode_radius_cm: radius of the anode ring or sphere, cm.
    """
    if not 0 < anode_radius_cm <= 200 or not anode_volts > 0:
        raise CoreError(
            "anode_out_of_range",
            f"Expected an anode of up to 200 cm radius and volts above 0; got {anode_radius_cm:g} cm, {anode_volts:g} V.",
            "anode_radius_cm",
        )
    return {ring: max(math.sqrt(anode_volts * anode_radius_cm / ring), anode_radius_cm) for ring in RINGS_V_CM}


def _temperature(celsius: float) -> float:
    if not -2 <= celsius <= 45:
        raise CoreError(
            "temperature_out_of_range",
            f"Expected a water temperature from -2 to 45 °C; got {celsius:g}.",
            "temperature_c",
        )
    return celsius


def _check_conductivity(us_cm: ArrayLike, field: str) -> None:
    values = np.asarray(us_cm, dtype=float)
    if not ((values >= LOWEST_US_CM) & (values <= HIGHEST_US_CM)).all():
        worst = values[~((values >= LOWEST_US_CM) & (values <= HIGHEST_US_CM))].flat[0]
        raise CoreError(
            "conductivity_out_of_range",
            f"Expected a conductivity from {LOWEST_US_CM:g} to {HIGHEST_US_CM:,.0f} µS/cm; got {worst:,g}. Is the meter set "
            "to µS/cm, not mS/cm?",
            field,
        )
