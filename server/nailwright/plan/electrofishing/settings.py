"""Settings for a survey: the goal today, the table over this water's conductivities, what stands against it."""

from __future__ import annotations

from collections import defaultdict
from datetime import datetime
from typing import Any
from uuid import UUID

from django.db.models import Max, Min

from nailwright.deck.models import Run, WaterReading
from nailwright.plan.models import Survey, Unit
from nailwright.programmes.models import Programme
from nailwright.programmes.protocols import standing_protocol
from nailwright.programmes.species.known import species_of
from nailwright.waters.models import Water
from nailwright_core.common.errors import CoreError
from nailwright_core.plan.current_limits import conductivity_steps, held_within, limits_named, problems
from nailwright_core.plan.electrofishing import Unit as CoreUnit
from nailwright_core.plan.electrofishing import (
    ambient_conductivity,
    duty,
    field_rings_cm,
    r100_from_reading,
    ramp_up,
    settings_for,
    settings_table,
    specific_conductance,
)
from nailwright_core.plan.parts import Electro
from nailwright_core.plan.pulse_advice import pulse_advice_for
from nailwright_core.plan.wording import ELECTRIC_CAUTION


def unit_of(programme: Programme, key: str | None) -> Unit:
    """The unit chosen, or the first there is.

    Raises:
        CoreError: ``unit_missing``.
    """
    units = programme.units.all()
    unit = next((each for each in units if str(each.pk) == str(key).lower()), None) if key else units.first()
    if unit is None:
        raise CoreError(
            "unit_missing", "Enter a unit with its limits first; the settings are held against them.", "unit"
        )
    return unit


def core_unit(unit: Unit) -> CoreUnit:
    """The limits on its plate, as core holds them."""
    return CoreUnit(unit.max_volts, unit.max_amps, unit.max_watts, unit.max_hz, unit.max_duty)


def ambient_today(electro: Electro) -> float:
    """The water's ambient conductivity as it was read, or from specific conductance and temperature.

    Raises:
        CoreError: as ``ambient_conductivity``.
    """
    if electro.read_as == "specific":
        return ambient_conductivity(electro.conductivity, electro.temperature_c)
    return float(electro.conductivity)


def conductivity_range(water: Water, today: float) -> tuple[float, float]:
    """Lowest and highest ambient conductivity that was read in this water, today's among them."""
    seen = WaterReading.present.filter(outing__water=water).aggregate(
        low=Min("ambient_us_cm"), high=Max("ambient_us_cm")
    )
    return min(seen["low"] or today, today), max(seen["high"] or today, today)


def show_settings(survey: Survey, electro: Electro) -> dict[str, Any]:
    """Everything about settings that the screen and the printed sheet show.

    Raises:
        CoreError: what is out of range, with its field.
    """
    unit = unit_of(survey.programme, electro.unit)
    read_as, value, celsius = electro.read_as, electro.conductivity, electro.temperature_c
    ambient = ambient_today(electro)
    specific = value if read_as == "specific" else specific_conductance(value, celsius)
    share = duty(electro.pulse_hz, electro.pulse_width_ms)
    limits = limits_named(standing_protocol(survey.programme), electro.limits)
    goal = settings_for(ambient, electro.goal_w, unit.r100_ohm)

    def against(row: Any) -> list[str]:
        found = problems(row, core_unit(unit), electro.pulse_hz, electro.pulse_width_ms, limits, celsius)
        return [each.message for each in found]

    low, high = conductivity_range(survey.water, ambient)
    rows = settings_table(conductivity_steps(low, high, ambient, limits), electro.goal_w, unit.r100_ohm)
    hz, why = pulse_advice_for([species_of(survey.programme)[code] for code in survey.species])
    # what is shown to be set never passes the unit or the limits; what keeps it from the goal stands beside it
    held = held_within(goal, core_unit(unit), share, limits)
    rings = field_rings_cm(held.volts, electro.anode_radius_cm)
    return {
        "unit": unit,
        "ambient_us_cm": ambient,
        "specific_us_cm": specific,
        "duty": share,
        "goal": _row(held, share, against(goal), ambient),
        "table": [_row(held_within(row, core_unit(unit), share, limits), share, against(row), ambient) for row in rows],
        "ramp": [{"volts": step.volts, "watch": step.watch} for step in ramp_up(held.volts)],
        "advice_hz": hz,
        "advice": why,
        "limits": limits.name if limits else "",
        "limits_note": limits.note if limits else "",
        "rings": [{"v_cm": ring, "cm": round(distance, 1)} for ring, distance in rings.items()],
        "caution": ELECTRIC_CAUTION,
    }


def _row(row: Any, share: float, against: list[str], today: float) -> dict[str, Any]:
    return {
        "us_cm": row.ambient_us_cm,
        "volts": row.volts,
        "amps": row.amps,
        "watts": row.watts,
        "mean_watts": row.mean_watts(share),
        "ratio": row.power_ratio,
        "problems": against,
        "today": abs(row.ambient_us_cm - today) < 1e-9,
    }


def r100_readings(programme: Programme, gear: str) -> list[dict[str, Any]]:
    """What past runs say of the boat's resistance: volts and amps of each with the water read nearest before it."""
    runs = (
        Run.present.filter(outing__programme=programme, gear=gear, volts__gt=0, amps__gt=0)
        .select_related("outing")
        .order_by("-started_at")[:40]
    )
    readings: dict[UUID, list[tuple[datetime, float]]] = defaultdict(list)
    read = WaterReading.present.filter(outing__in={run.outing_id for run in runs}, ambient_us_cm__gt=0)
    for outing, at, us_cm in read.order_by("device_time").values_list("outing", "device_time", "ambient_us_cm"):
        readings[outing].append((at, float(us_cm or 0)))
    return [
        {
            "date": run.outing.date,
            "volts": run.volts,
            "amps": run.amps,
            "us_cm": us_cm,
            "r100_ohm": r100_from_reading(run.volts, run.amps, us_cm),
        }
        for run in runs
        if run.volts and run.amps and (us_cm := _read_before(readings[run.outing_id], run.started_at))
    ]


def _read_before(readings: list[tuple[datetime, float]], began: datetime) -> float | None:
    """The reading nearest before a run; one that was taken after it says nothing of the water it was fished in."""
    return next((us_cm for at, us_cm in reversed(readings) if at <= began), None)
