"""The way down for fish from depth."""

from __future__ import annotations

from typing import Any

from nailwright.plan.models import Survey
from nailwright_core.deck.deep_water import choose_device, descent_plan

_DEPTHS_M = (10, 20, 30, 40, 60, 80)


_DEEP_FISH_G = (500, 2000, 8000)


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
