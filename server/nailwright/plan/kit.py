"""What goes along: baths, stock, tags, and gear for fish from deep water."""

from __future__ import annotations

from datetime import date
from typing import Any

from nailwright.deck.queries import own_lines
from nailwright.plan.models import Survey
from nailwright.tags.models import Tag
from nailwright_core.common import species as species_table
from nailwright_core.deck.deep_water import choose_device, descent_plan
from nailwright_core.deck.handling import (
    AGENTS,
    CAUTION,
    Limits,
    box_l,
    check_target,
    cylinder_l,
    dose_volume_ml,
    half_barrel_l,
    most_fish,
    spare_stock_ml,
)
from nailwright_core.plan.tag_choice import compare_kinds, draw_shares
from nailwright_core.tags.battery import battery_days, collision_loss, last_ping, most_tags
from nailwright_core.tags.burden import minimum_length_mm

_DEPTHS_M = (10, 20, 30, 40, 60, 80)
_DEEP_FISH_G = (500, 2000, 8000)
#: Prices and masses from which the choosing aid starts; a programme knows its own (ours, no source).
PRICES = {"visible": 1.2, "pit": 3.0, "acoustic": 350.0, "radio": 220.0, "satellite": 3800.0, "archival": 420.0}
MASSES_G = {"visible": 0.3, "pit": 0.1, "acoustic": 9.0, "radio": 8.0, "satellite": 60.0, "archival": 15.0}
_LOSS = 0.2


def show_bath(bath: dict[str, Any]) -> dict[str, Any]:
    """The recipe: litres from the tank's shape, stock in mL and in the crew's own measure, spare stock for the day.

    Raises:
        CoreError: ``target_out_of_range`` with the range, and as the core's handling.
    """
    agent = AGENTS[bath["agent"]]
    check_target(agent, bath["purpose"], bath["target_mg_l"])
    litres = {
        "litres": lambda: bath["a_cm"],
        "box": lambda: box_l(bath["a_cm"], bath["b_cm"], bath["fill_cm"]),
        "cylinder": lambda: cylinder_l(bath["a_cm"], bath["fill_cm"]),
        "half_barrel": lambda: half_barrel_l(bath["a_cm"], bath["b_cm"], bath["fill_cm"]),
    }[bath["shape"]]()
    stock = dose_volume_ml(litres, bath["target_mg_l"], agent.stock_mg_ml)
    low, high = agent.ranges_mg_l[bath["purpose"]]
    return {
        "agent": agent.name,
        "stock_mg_ml": agent.stock_mg_ml,
        "litres": litres,
        "low_mg_l": low,
        "high_mg_l": high,
        "stock_ml": stock,
        "caps": stock / bath["cap_ml"],
        "spare_ml": spare_stock_ml(litres, bath["target_mg_l"], agent.stock_mg_ml, bath["refills"]),
        "note": agent.note,
        "caution": CAUTION,
    }


def show_limits(limits: dict[str, Any]) -> dict[str, Any]:
    """The limits for fish in hand in words, and what the live well holds of fish of three sizes."""
    used, well_l = limits_of(limits)
    return {
        "well_fish": [{"fish_g": grams, "most": most_fish(well_l, grams, used)} for grams in (300, 1000, 3000)],
        "lines": [
            f"Live well: at most {used.well_fish} large fish or {used.well_g_l:g} g/L, oxygen {used.well_oxygen_mg_l:g} mg/L "
            f"or more, within {used.well_degrees:g} C of the water, {used.well_minutes:g} min.",
            f"Out of water: goal under {used.air_goal_s:g} s, never over {used.air_alarm_s:g} s at a time.",
            f"Bath: still within {used.induction_goal_s / 60:g} min; {used.induction_alarm_s / 60:g} min means a wrong dose.",
            f"Recovery: upright within {used.recovery_goal_s / 60:g} min; look at the fish at {used.recovery_warn_s / 60:g}.",
        ],
    }


def limits_of(limits: dict[str, Any]) -> tuple[Limits, float]:
    """A plan's limits as core has them, and the litres of its live well."""
    return Limits(**{name: value for name, value in limits.items() if name != "well_l"}), limits["well_l"]


def show_tags(survey: Survey, tags: dict[str, Any], today: date) -> dict[str, Any]:
    """Kinds side by side; smallest fish; battery; collision; how many of which stock; shares drawn at random.

    Raises:
        CoreError: as the core's tag modules.
    """
    kind = species_table.get(survey.species[0]) if survey.species else species_table.get("wal")
    line = own_lines(survey.programme).get(kind.code)
    smallest = minimum_length_mm(kind, tags["mass_g"], tags["burden"], line)
    days = battery_days(tags["capacity_mah"], tags["sleep_ua"], tags["pulse_mas"], tags["interval_s"])
    verdicts = compare_kinds(
        tags["question"], kind, tags["fish_mm"], tags["years"], tags["budget"], PRICES,
        MASSES_G | {tags["kind"]: tags["mass_g"]}, survey.water.kind != "coast", tags["burden"], line,
    )  # fmt: skip
    stock = survey.programme.tags.filter(
        state=Tag.State.STOCK, kind="tbar" if tags["kind"] == "visible" else tags["kind"]
    )
    numbers = list(stock.order_by("number").values_list("number", flat=True)[: tags["n"]])
    drawn = draw_shares(tags["n"], tags["double"], tags["high_reward"], tags["seed"])
    return {
        "species": kind.common_name,
        "smallest_mm": smallest.value,
        "smallest_low": smallest.lower,
        "smallest_high": smallest.upper,
        "own_line": line is not None,
        "battery_days": days,
        "last_ping": last_ping(max(survey.first, today), days),
        "collision": collision_loss(tags["in_reach"], tags["burst_s"], tags["interval_s"]),
        "most_in_reach": most_tags(_LOSS, tags["burst_s"], tags["interval_s"]),
        "in_stock": stock.count(),
        "first_number": numbers[0] if numbers else "",
        "last_number": numbers[-1] if numbers else "",
        "double": [place + 1 for place, each in enumerate(drawn) if each.double],
        "high_reward": [place + 1 for place, each in enumerate(drawn) if each.high_reward],
        "kinds": [
            {
                "code": each.kind.code,
                "name": each.kind.name,
                "fits": each.fits,
                "against": list(each.against),
                "affordable": each.affordable,
                "smallest_mm": each.smallest_mm,
                "years": each.kind.years,
                "cannot": each.kind.cannot,
                "needs": each.kind.needs,
            }
            for each in verdicts
        ],
    }


def show_deep(survey: Survey) -> dict[str, Any]:
    """Release and weight by depth and size of fish, and which device."""
    water = "sea" if survey.water.kind == "coast" else "fresh"
    return {
        "water": water,
        "rows": [
            {
                "depth_m": depth,
                "fish_g": grams,
                "release_m": plan.release_depth_m,
                "sinker_g": plan.sinker_g,
                "pulls": plan.pulls,
                "preset_m": plan.preset_m,
                "excess": plan.excess,
            }
            for depth in _DEPTHS_M
            for grams in _DEEP_FISH_G
            for plan in [descent_plan(grams, depth, water)]  # type: ignore[arg-type]
        ],
        "devices": [
            {"name": device.name, "fits": device.fits, "reasons": list(device.reasons)}
            for device in choose_device(2000, 1, rough=False, firm_bottom=True, depth_m=30)
        ],
    }
