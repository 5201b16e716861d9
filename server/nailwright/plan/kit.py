"""What goes along: baths, stock, tags, and gear for fish from deep water."""

from __future__ import annotations

from datetime import date
from typing import Any

from nailwright.deck.queries import own_lines
from nailwright.plan.models import Survey
from nailwright.tags.models import TagState
from nailwright_core.common import species as species_table
from nailwright_core.deck.deep_water import choose_device, descent_plan
from nailwright_core.deck.handling import (
    AGENTS,
    CAUTION,
    check_target,
    dose_volume_ml,
    most_fish,
    spare_stock_ml,
    tank_l,
)
from nailwright_core.plan.parts import Bath, HandLimits, Tags
from nailwright_core.plan.tag_choice import MASSES_G, PRICES, compare_kinds, draw_shares
from nailwright_core.plan.wording import bath_line, limits_lines
from nailwright_core.tags.battery import battery_days, collision_loss, last_ping, most_tags
from nailwright_core.tags.burden import minimum_length_mm

_DEPTHS_M = (10, 20, 30, 40, 60, 80)
_DEEP_FISH_G = (500, 2000, 8000)
_LOSS = 0.2


def show_bath(bath: Bath) -> dict[str, Any]:
    """The recipe: litres from the tank's shape, stock in mL and in the crew's own measure, spare stock for the day.

    Raises:
        CoreError: ``target_out_of_range`` with the range, and as the core's handling.
    """
    agent = AGENTS[bath.agent]
    check_target(agent, bath.purpose, bath.target_mg_l)
    litres = tank_l(bath.shape, bath.a_cm, bath.b_cm, bath.fill_cm)
    stock = dose_volume_ml(litres, bath.target_mg_l, agent.stock_mg_ml)
    low, high = agent.ranges_mg_l[bath.purpose]
    return {
        "agent": agent.name,
        "stock_mg_ml": agent.stock_mg_ml,
        "litres": litres,
        "low_mg_l": low,
        "high_mg_l": high,
        "stock_ml": stock,
        "caps": stock / bath.cap_ml,
        "spare_ml": spare_stock_ml(litres, bath.target_mg_l, agent.stock_mg_ml, bath.refills),
        "line": bath_line(bath, agent.name, litres, stock),
        "note": agent.note,
        "caution": CAUTION,
    }


def show_limits(limits: HandLimits) -> dict[str, Any]:
    """The limits for fish in hand in words, and what the live well holds of fish of three sizes."""
    used = limits.limits()
    return {
        "well_fish": [{"fish_g": grams, "most": most_fish(limits.well_l, grams, used)} for grams in (300, 1000, 3000)],
        "lines": limits_lines(used),
    }


def show_tags(survey: Survey, tags: Tags, today: date) -> dict[str, Any]:
    """Kinds side by side; smallest fish; battery; collision; how many of which stock; shares drawn at random.

    Raises:
        CoreError: as the core's tag modules.
    """
    kind = species_table.get(survey.species[0]) if survey.species else species_table.get("wal")
    line = own_lines(survey.programme).get(kind.code)
    smallest = minimum_length_mm(kind, tags.mass_g, tags.burden, line)
    days = battery_days(tags.capacity_mah, tags.sleep_ua, tags.pulse_mas, tags.interval_s)
    verdicts = compare_kinds(
        tags.question, kind, tags.fish_mm, tags.years, tags.budget, PRICES,
        MASSES_G | {tags.kind: tags.mass_g}, survey.water.kind != "coast", tags.burden, line,
    )  # fmt: skip
    stock = survey.programme.tags.filter(state=TagState.STOCK, kind="tbar" if tags.kind == "visible" else tags.kind)
    numbers = list(stock.order_by("number").values_list("number", flat=True)[: tags.n])
    drawn = draw_shares(tags.n, tags.double, tags.high_reward, tags.seed)
    return {
        "species": kind.common_name,
        "smallest_mm": smallest.value,
        "smallest_low": smallest.lower,
        "smallest_high": smallest.upper,
        "own_line": line is not None,
        "battery_days": days,
        "last_ping": last_ping(max(survey.first, today), days),
        "collision": collision_loss(tags.in_reach, tags.burst_s, tags.interval_s),
        "most_in_reach": most_tags(_LOSS, tags.burst_s, tags.interval_s),
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
