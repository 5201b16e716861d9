"""What the plan tells the deck: checklists to sign, limits, settings by the water as it is read, the smallest fish to mark."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import asdict
from typing import Any

import numpy as np

from nailwright.deck.models import Capture, Gear, Outing
from nailwright.deck.serializers import OrdersSerializer
from nailwright.deck.tagging.quotas import marked
from nailwright.plan.electrofishing.settings import ambient_today, core_unit, unit_of
from nailwright.plan.kit.baths import show_bath
from nailwright.plan.kit.deep_water import WAYS
from nailwright.plan.models import Survey
from nailwright.plan.parts import parts_of
from nailwright.plan.readiness import checklists_for, is_electric
from nailwright.programmes.protocols import protocol_in, standing_protocol
from nailwright_core.common.errors import CoreError
from nailwright_core.plan.current_limits import held_within, limits_named, most_volts
from nailwright_core.plan.electrofishing import ambient_conductivity, duty, settings_table
from nailwright_core.plan.parts import Bath, Electro, Tags
from nailwright_core.plan.tag_choice import draw_shares
from nailwright_core.plan.wording import (
    ELECTRIC_CAUTION,
    angling_lines,
    deep_line,
    keep_clear_line,
    limits_lines,
    precision_line,
    stations_line,
)

#: Waters between which the tablet finds today's: fine enough that the nearest is the answer (steps of 5 %).
_WATERS_US_CM = tuple(float(each) for each in np.geomspace(10, 3000, 118).round(1))


#: Up to here the tablet knows the ambient share of a conductivity that was read at 25 C.
_WARMEST_C = 40


def give_orders(survey: Survey, outing: Outing) -> None:
    """Write the plan's orders into an outing; called again they are what the plan says now."""
    parts, decided = parts_of(survey.parts), protocol_in(outing.protocol)
    lines = [precision_line(decided)]
    limits, well_l = parts.limits.limits(), parts.limits.well_l
    lines += limits_lines(limits)
    electro = feeding = None
    if is_electric(survey):
        try:
            electro = _electro_orders(survey, parts.electro)
        except CoreError as refused:
            lines.append(f"No settings from the plan: {refused.message}")
    if {Gear.ANGLING, Gear.ICE} & set(survey.gears):
        feeding = asdict(parts.angling.feeding())
        lines += angling_lines(parts.angling)
        deep = decided.one("deep_water")
        lines.append(deep_line(WAYS[str(deep["ways"])], deep["aboard"] == "yes"))
    if parts.bath.agent:
        lines.append(_bath_line(parts.bath))
    if parts.stations:
        lines.append(stations_line(parts.stations))
    closed = survey.water.zones.exclude(kind="zone")
    lines += [keep_clear_line(zone.name, *zone.ends_m) for zone in closed]
    if is_electric(survey):
        lines.append(ELECTRIC_CAUTION)
    orders = {
        "survey": survey.name,
        "lines": lines,
        "electro": electro,
        "well": {
            "litres": well_l,
            "most_fish": limits.well_fish,
            "most_g": limits.most_load_g(well_l),
            "least_oxygen_mg_l": limits.well_oxygen_mg_l,
            "most_degrees": limits.well_degrees,
        },
        "mark_from_mm": parts.tags.fish_mm if parts.tags.kind else None,
        "pull_m": parts.deep.pull_m,
        "feeding": feeding,
        "enough": {"psd_half": parts.precision.psd_half, "cv": parts.precision.cv},
        "tags": _tag_orders(survey, outing, parts.tags) if parts.tags.kind else None,
        "bath": _bath_orders(parts.bath) if parts.bath.agent else None,
        "stations": [asdict(each) for each in parts.stations],
    }
    outing.orders = OrdersSerializer(orders).data
    outing.checklists = list(checklists_for(survey))
    outing.save(update_fields=["orders", "checklists"])


def renew_orders(surveys: Iterable[Survey]) -> None:
    """Tell the outings of these surveys that are still out what the plan says now."""
    for survey in surveys:
        for outing in survey.outings.filter(state=Outing.State.OPEN):
            give_orders(survey, outing)


def _bath_line(bath: Bath) -> str:
    try:
        return str(show_bath(bath)["line"])
    except CoreError as refused:
        return f"No bath from the plan: {refused.message}"


def _tag_orders(survey: Survey, outing: Outing, tags: Tags) -> dict[str, Any]:
    drawn = draw_shares(tags.n, tags.double, tags.high_reward, tags.seed)
    species = species_to_tag(survey)
    others = Capture.present.filter(
        marked(), species__in=species, run__outing__in=survey.outings.exclude(pk=outing.pk), run__deleted_at=None
    )
    return {
        "kind": tags.kind,
        "species": species,
        "mass_g": tags.mass_g,
        "burden": tags.burden,
        "before": others.count(),
        "double": [place + 1 for place, each in enumerate(drawn) if each.double],
        "high_reward": [place + 1 for place, each in enumerate(drawn) if each.high_reward],
    }


def species_to_tag(survey: Survey) -> list[str]:
    """Species that the plan tags: those of its targets of marked fish, and where it has none, those it samples."""
    targets = parts_of(survey.parts).targets
    return list(dict.fromkeys(each.species for each in targets if each.what == "marked")) or list(survey.species)


def _bath_orders(bath: Bath) -> dict[str, Any] | None:
    try:
        litres = show_bath(bath)["litres"]
    except CoreError:
        return None  # the line among the orders says why
    return {
        "agent": bath.agent,
        "purpose": bath.purpose,
        "litres": litres,
        "target_mg_l": bath.target_mg_l,
        "cap_ml": bath.cap_ml,
        "trial_fish": bath.trial_fish,
    }


def _electro_orders(survey: Survey, electro: Electro) -> dict[str, Any]:
    unit = unit_of(survey.programme, electro.unit)
    limits = limits_named(standing_protocol(survey.programme), electro.limits)
    today = ambient_today(electro)
    share = duty(electro.pulse_hz, electro.pulse_width_ms)
    waters = sorted({*_WATERS_US_CM, today, *(limits.step_ends() if limits else ())})
    rows = [
        held_within(row, core_unit(unit), share, limits)
        for row in settings_table(waters, electro.goal_w, unit.r100_ohm)
    ]
    return {
        "goals": [
            {
                "us_cm": row.ambient_us_cm,
                "volts": math.floor(row.volts),
                "amps": round(row.amps, 1),
                "most_volts": most_volts(core_unit(unit), row.ambient_us_cm, limits),
            }
            for row in rows
        ],
        "unit": {"id": unit.pk, "name": unit.name, "r100_ohm": unit.r100_ohm},
        "today_us_cm": today,
        "ambient_shares": [round(ambient_conductivity(1000, celsius) / 1000, 4) for celsius in range(_WARMEST_C + 1)],
        "pulse_hz": electro.pulse_hz,
        "pulse_width_ms": electro.pulse_width_ms,
        "most_amps": unit.max_amps,
        "most_hz": min(unit.max_hz, limits.max_hz) if limits else unit.max_hz,
    }
