"""Limits that electrofishing keeps to: those that ship and those of a protocol."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import numpy as np

from nailwright_core.common.errors import CoreError
from nailwright_core.plan.electrofishing import LOWEST_US_CM, Settings, Unit, duty
from nailwright_core.protocol.sections import Row
from nailwright_core.protocol.values import Protocol


@dataclass(frozen=True)
class LimitSet:
    """One agency's limits. ``volts`` holds steps: a conductivity (µS/cm), whether it still belongs to its step, highest volts."""

    name: str
    volts: tuple[tuple[float, bool, float], ...]
    max_hz: float
    max_pulse_ms: float
    max_water_c: float
    note: str

    def most_volts(self, ambient_us_cm: float) -> float:
        """Highest volts at a conductivity."""
        return next(
            volts for end, with_end, volts in self.volts if ambient_us_cm < end or (with_end and ambient_us_cm == end)
        )

    def step_ends(self) -> tuple[float, ...]:
        """Conductivities at which the limit changes: rows of a table, so that no water between two of them is let off."""
        return tuple(end for end, _, _ in self.volts if math.isfinite(end))


#: Backpack work among protected salmonids in the western United States (NMFS 2000), from memory: verify locally.
SALMONID_BACKPACK = LimitSet(
    "Backpack among protected salmonids, western United States (2000)",
    ((100.0, False, 1100.0), (300.0, True, 800.0), (math.inf, True, 400.0)),
    70.0,
    5.0,
    18.0,
    "From memory; verify locally. Start at 30 Hz and 0.5 ms. Not near spawning adults or redds.",
)


LIMIT_SETS = {"salmonid-backpack": SALMONID_BACKPACK}


def limit_sets(protocol: Protocol) -> dict[str, LimitSet]:
    """Sets of limits that can be chosen: those that ship, and the programme's own by their names.

    Of what the rows of one set say of pulse and water, the strictest holds; beyond the last step its volts go on holding.

    Args:
        protocol: of the programme.
    """
    own: dict[str, list[Row]] = {}
    for row in protocol.rows("agency_limits"):
        own.setdefault(str(row["name"]), []).append(row)
    return LIMIT_SETS | {name: _own_limits(name, rows) for name, rows in own.items()}


def _own_limits(name: str, rows: list[Row]) -> LimitSet:
    def strictest(column: str) -> float:
        return min(float(row[column]) for row in rows)  # type: ignore[arg-type]

    steps = [(float(row["to_us_cm"]), True, float(row["max_volts"])) for row in rows]  # type: ignore[arg-type]
    return LimitSet(
        name,
        (*steps[:-1], (math.inf, True, steps[-1][2])),
        strictest("max_hz"),
        strictest("max_pulse_ms"),
        strictest("max_water_c"),
        "Entered by this programme. Local code, permit and the trained leader decide.",
    )


def limits_named(protocol: Protocol, name: str) -> LimitSet | None:
    """The set of a name; None for no name.

    Args:
        protocol: whose sets of limits.
        name: of the set; empty: none.

    Raises:
        CoreError: ``limits_unknown``: a limit that is not known any more is not silently none.
    """
    sets = limit_sets(protocol)
    if name and name not in sets:
        raise CoreError(
            "limits_unknown",
            f"There are no limits of the name '{name[:60]}' (any more). Choose a set in the plan, or enter it in the protocol.",
            "limits",
        )
    return sets[name] if name else None


@dataclass(frozen=True)
class Problem:
    """A setting that a unit or a limit set does not allow: what, by how much, what to do."""

    code: str
    message: str


def problems(
    settings: Settings,
    unit: Unit,
    pulse_hz: float,
    pulse_width_ms: float,
    limits: LimitSet | None = None,
    water_c: float | None = None,
) -> tuple[Problem, ...]:
    """What keeps these settings from being used, each with by how much and what to do; none where all is within.

    Args:
        settings: volts, amps and watts that are meant.
        unit: the control box.
        pulse_hz: pulses a second.
        pulse_width_ms: length of a pulse, ms.
        limits: a set of limits that was chosen; None: the unit's own alone.
        water_c: temperature of the water, degrees C; None: not known.
    """
    share = duty(pulse_hz, pulse_width_ms)
    found: list[Problem] = []

    def above(code: str, what: str, value: float, most: float, unit_name: str, advice: str) -> None:
        if value > most * (1 + 1e-9):
            found.append(
                Problem(
                    code,
                    f"{what} {value:,.4g} {unit_name} is {value - most:,.3g} {unit_name} above {most:,.4g} {unit_name}. {advice}",
                )
            )

    high = "Use less anode in the water or a stronger unit, or accept less than the goal."
    above("volts_beyond_unit", "The goal of", settings.volts, unit.max_volts, "V", high)
    above(
        "amps_beyond_unit",
        "The goal of",
        settings.amps,
        unit.max_amps,
        "A",
        "Take an anode out, or accept less than the goal.",
    )
    above(
        "watts_beyond_unit", "Mean power of", settings.mean_watts(share), unit.max_watts, "W",
        "Shorten the pulse or lower its rate: mean power is peak power times duty.",
    )  # fmt: skip
    above("rate_beyond_unit", "A pulse rate of", pulse_hz, unit.max_hz, "Hz", "Lower it.")
    above("duty_beyond_unit", "A duty of", 100 * share, 100 * unit.max_duty, "%", "Shorten the pulse.")
    if limits:
        most = limits.most_volts(settings.ambient_us_cm)
        above("volts_beyond_limits", f"{limits.name}:", settings.volts, most, "V", "Lower the voltage.")
        above("rate_beyond_limits", f"{limits.name}:", pulse_hz, limits.max_hz, "Hz", "Lower the rate.")
        above("pulse_beyond_limits", f"{limits.name}:", pulse_width_ms, limits.max_pulse_ms, "ms", "Shorten the pulse.")
        if water_c is not None:
            above("water_too_warm", f"{limits.name}: water of", water_c, limits.max_water_c, "°C", "Do not fish today.")
    return tuple(found)


def held_within(settings: Settings, unit: Unit, share: float, limits: LimitSet | None = None) -> Settings:
    """The settings, lowered in volts until the unit can hold them at this duty and the limits allow them.

    Args:
        settings: what is wanted.
        unit: the control box.
        share: duty, 0 to 1.
        limits: a set of limits that was chosen; None: the unit's own alone.
    """
    resistance = settings.resistance_ohm
    volts = min(
        settings.volts,
        most_volts(unit, settings.ambient_us_cm, limits),
        unit.max_amps * resistance,
        math.sqrt(unit.max_watts / share * resistance),
    )
    if volts >= settings.volts:
        return settings
    return replace(settings, volts=volts, amps=volts / resistance, watts=volts * volts / resistance)


def most_volts(unit: Unit, ambient_us_cm: float, limits: LimitSet | None = None) -> float:
    """The highest peak voltage that a unit and, where one is chosen, a limit set allow in a water, V.

    Args:
        unit: the control box.
        ambient_us_cm: ambient conductivity, µS/cm.
        limits: a set of limits that was chosen; None: the unit's own alone.
    """
    return min(unit.max_volts, limits.most_volts(ambient_us_cm)) if limits else unit.max_volts


def conductivity_steps(
    low_us_cm: float, high_us_cm: float, today_us_cm: float, limits: LimitSet | None = None, n: int = 9
) -> tuple[float, ...]:
    """Conductivities for a settings table: n in equal ratios, a margin beyond what a water showed, today's, and where a limit
    that was chosen changes.

    The margin (0.7 below, 1.5 above) is ours, no source.

    Args:
        low_us_cm: least that the water showed, µS/cm.
        high_us_cm: most that the water showed, µS/cm.
        today_us_cm: water of today, which is one of the steps, µS/cm.
        limits: a set of limits that was chosen, or None.
        n: steps in equal ratios.
    """
    low, high = max(min(low_us_cm, today_us_cm) * 0.7, 5 * LOWEST_US_CM), max(high_us_cm, today_us_cm) * 1.5
    changes = [each for each in (limits.step_ends() if limits else ()) if low <= each <= high]
    return tuple(sorted({*np.geomspace(low, high, n).tolist(), today_us_cm, *changes}))
