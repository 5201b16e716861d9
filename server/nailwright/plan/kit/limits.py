"""Limits for fish in hand."""

from __future__ import annotations

from typing import Any

from nailwright_core.deck.handling import (
    most_fish,
)
from nailwright_core.plan.parts import HandLimits
from nailwright_core.plan.wording import limits_lines


def show_limits(limits: HandLimits) -> dict[str, Any]:
    """The limits for fish in hand in words, and what the live well holds of fish of three sizes."""
    used = limits.limits()
    return {
        "well_fish": [{"fish_g": grams, "most": most_fish(limits.well_l, grams, used)} for grams in (300, 1000, 3000)],
        "lines": limits_lines(used),
    }
