"""Constants of the rules that the Deck needs with no signal, by rule: written into the screens by bin/schema.

python -m nailwright_core.deck.rule_tables
"""

from __future__ import annotations

import json
import sys
from dataclasses import asdict

from nailwright_core.deck import (
    angling,
    baths,
    counted,
    deep_water,
    handling,
    lanes,
    permits,
    plausibility,
    tagging,
    well,
)
from nailwright_core.tags.pit import COUNTRIES, MAX_IDENTIFIER

#: Limits for a fish in hand by which the Deck's clocks go.
_LIMITS = (
    "well_minutes", "air_warn_s", "air_alarm_s", "induction_warn_s", "induction_alarm_s", "recovery_goal_s", "recovery_warn_s",
)  # fmt: skip


def tables() -> dict[str, dict[str, object]]:
    """By the rule's name in the screens; units as core's names have them."""
    return {
        "angling": {
            "feeding": asdict(angling.Feeding()), "longest_fight_s": angling.LONGEST_FIGHT_S,
        },
        "baths": {"twice_within_s": baths.TWICE_WITHIN_S, "still_from": baths.STILL_FROM},
        "believability": {
            "max_repairs": plausibility.MAX_REPAIRS, "shrinks_mm": plausibility.SHRINKS_MM, "shrinks_share": plausibility.SHRINKS_SHARE,
        },
        "counted": {"killed": list(counted.KILLED)},
        "descent": {
            "legal_minimum_g": deep_water.LEGAL_MINIMUM_G, "standard_pa": deep_water.STANDARD_PA, "gravity": deep_water.GRAVITY,
            "density": deep_water.DENSITY, "gas_share": deep_water.GAS_SHARE, "weight_density": deep_water.WEIGHT_DENSITY,
        },
        "lanes": {"soon": lanes.SOON, "shipped_limits": {name: getattr(handling.Limits(), name) for name in _LIMITS}},
        "marks": {"countries": sorted(COUNTRIES), "most": MAX_IDENTIFIER},
        "permits": {"near": permits.NEAR},
        "tagging": {"unfit_reflexes": tagging.UNFIT_REFLEXES},
        "well": {"least_known": well.LEAST_KNOWN},
    }  # fmt: skip


if __name__ == "__main__":
    json.dump(tables(), sys.stdout)
