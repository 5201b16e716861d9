"""The bath with its recipe."""

from __future__ import annotations

from typing import Any

from nailwright_core.deck.handling import (
    AGENTS,
    CAUTION,
    check_target,
    dose_volume_ml,
    spare_stock_ml,
    tank_l,
)
from nailwright_core.plan.parts import Bath
from nailwright_core.plan.wording import bath_line


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
