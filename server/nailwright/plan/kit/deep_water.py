"""The way down for fish from depth."""

from __future__ import annotations

from typing import Any

from nailwright.plan.models import Survey
from nailwright.plan.parts import parts_of
from nailwright.programmes.protocols import standing_protocol
from nailwright_core.deck.deep_water import LEGAL_MINIMUM_G, Water, choose_device, descent_plan
from nailwright_core.protocol import SECTIONS

#: Allowed ways for fish from depth, in words.
WAYS = dict(SECTIONS["deep_water"].column["ways"].choices)

_DEPTHS_M = (10, 20, 30, 40, 60, 80)


_DEEP_FISH_G = (500, 2000, 8000)


def show_deep(survey: Survey) -> dict[str, Any]:
    """Release and weight by depth and size of fish, and which device."""
    deep = parts_of(survey.parts).deep
    decided = standing_protocol(survey.programme)
    rule = decided.one("deep_water")
    depths = deep.depths_m() or tuple(sorted(float(row["lets_go_m"] or 0) for row in decided.rows("devices")))
    share, least = float(rule["share"] or 0.75), float(rule["least_weight_g"] or LEGAL_MINIMUM_G)
    water: Water = "sea" if survey.water.kind == "coast" else "fresh"
    return {
        "water": water,
        "ways": WAYS[str(rule["ways"])],
        "share": share,
        "rows": [
            {
                "depth_m": depth,
                "fish_g": grams,
                "release_m": plan.release_depth_m,
                "sinker_g": plan.sinker_g,
                "pulls": plan.pulls,
                "lets_go_m": plan.lets_go_m,
                "excess": plan.excess,
            }
            for depth in _DEPTHS_M
            for grams in _DEEP_FISH_G
            for plan in [
                descent_plan(
                    grams,
                    depth,
                    water,
                    legal_minimum_g=least,
                    lets_go_at_m=depths,
                    pull_m=deep.pull_m,
                    let_go_share=share,
                )
            ]
        ],
        "devices": [
            {"name": device.name, "fits": device.fits, "reasons": list(device.reasons)}
            for device in choose_device(2000, 1, rough=False, firm_bottom=True, depth_m=30, lets_go_at_m=depths)
        ],
    }
