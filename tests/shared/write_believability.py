"""Writes ``believability.json`` from core: called fish, the table sent to the Deck, and the answers."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

from nailwright_core.common import species as species_table
from nailwright_core.deck.plausibility import UNIT_SLIPS, Measured, believability_table, check_capture

FILE = Path(__file__).with_name("believability.json")
CALLS: tuple[tuple[str, float | None, float | None, float | None], ...] = (
    # species, length mm, mass g, mass of the fish before
    ("wal", 463, 985, None),  # believable
    ("wal", 463, None, None),
    ("wal", None, 985, None),
    ("wal", 46.3, 985, None),  # called in cm
    ("wal", 18.25, 985, None),  # called in inches
    ("wal", 463, 0.985, None),  # called in kg
    ("wal", 463, 2.1, None),  # called in pounds
    ("wal", 985, 463, None),  # exchanged
    ("wal", 463, 95, None),  # a digit lost: no repair
    ("wal", 463, 2800, 2800.0),  # the mass before, again
    ("wal", 643, 985, None),  # two digits swapped
    ("wal", 463, 1450, None),  # a little heavy
    ("wal", 9000, 985, None),
    ("yep", 200, 95, None),
    ("yep", 20, 95, None),
    ("bur", 500, 800, None),
    ("nop", 72, 2400, None),
)


def cases() -> dict[str, Any]:
    """Tables by species and cases, as the Deck would see them."""
    codes = sorted({code for code, *_ in CALLS})
    return {
        "slips": [
            {"code": code, "label": label, "what": what, "factor": factor} for code, label, what, factor in UNIT_SLIPS
        ],
        "species": {code: _table(code) for code in codes},
        "cases": [_case(*call) for call in CALLS],
    }


def _table(code: str) -> dict[str, Any]:
    kind = species_table.get(code)
    table = believability_table(kind)
    names = ("length_mm", "far_low_g", "low_g", "high_g", "far_high_g")
    return {
        "name": kind.common_name,
        "usual_mm": list(table.usual_mm),
        "bounds_mm": list(table.bounds_mm),
        "mass_table": {name: [float(f"{value:.6g}") for value in getattr(table, name)] for name in names},
    }


def _case(code: str, length: float | None, mass: float | None, mass_before: float | None) -> dict[str, Any]:
    previous = Measured(430.0, mass_before) if mass_before else None
    questions = check_capture(code, length, mass, previous)
    repairs = questions[0].repairs if questions else ()
    return {
        "species": code,
        "length_mm": length,
        "mass_g": mass,
        "mass_before_g": mass_before,
        "questions": [{"code": each.code, "weight": each.weight} for each in questions],
        "repairs": [{"code": each.code, "length_mm": each.length_mm, "mass_g": each.mass_g} for each in repairs],
    }


if __name__ == "__main__":
    FILE.write_text(json.dumps(cases(), separators=(",", ":")) + "\n", encoding="utf-8")
