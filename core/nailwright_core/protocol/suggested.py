"""Rows that a programme may take into sections of its protocol by one touch, where it has not decided yet.

None of them holds before somebody takes it. Common practice without a source where none is named; law, permit,
animal-care protocol and the licensed person decide.
"""

from __future__ import annotations

from collections.abc import Mapping

from nailwright_core.common.field import Cell
from nailwright_core.protocol.sections import SECTIONS

_SUGGESTED: dict[str, tuple[Mapping[str, Cell], ...]] = {
    "well_room": ({"species": "", "from_mm": 0, "kg_100l": 6.0}, {"species": "", "from_mm": 600, "kg_100l": 4.0}),
    "boarding": ({"species": "", "from_mm": 1200, "where": "alongside", "how": "in a sling, in the water, two people"},),
    # smallest fish for a tag of about 2 % of its weight by common practice; PIT of 12 mm from about 65 mm (Brown et al. 1999)
    "tag_sizes": (
        {"species": "", "kind": "pit", "from_mm": 100}, {"species": "", "kind": "tbar", "from_mm": 200},
        {"species": "", "kind": "dart", "from_mm": 300}, {"species": "", "kind": "acoustic", "from_mm": 300},
        {"species": "", "kind": "radio", "from_mm": 300}, {"species": "", "kind": "satellite", "from_mm": 1000},
    ),
    "non_target": ({"share": 0.7, "last": 20},),
    "run_figures": (
        {"figure": "distance_m", "gear": "boat_electrofishing"}, {"figure": "distance_m", "gear": "backpack_electrofishing"},
        {"figure": "rods", "gear": "angling"},
    ),
    "checklist_lines": (
        {"checklist": "electrofishing", "line": "Everybody knows the word that stops the current."},
        {"checklist": "boat", "line": "Weather of the next six hours read; who decides to turn back is named."},
        {"checklist": "surgery", "line": "Recovery tank at the temperature of the water, within 2 °C."},
        {"checklist": "needles_drugs", "line": "First-aid card for a needle stick and for a spine lies open."},
        {"checklist": "ice", "line": "Thickness at the first hole written down before anybody goes on."},
    ),
    "weigh_in": ({"species": "", "best": 5, "by": "length", "dead": "no"},),
}  # fmt: skip


def suggested_rows(code: str) -> tuple[Mapping[str, Cell], ...]:
    """Rows suggested for a section; those that ship where nothing else is suggested, none where it is one row or fixed.

    Args:
        code: of the section.
    """
    section = SECTIONS[code]
    if section.single or section.fixed:
        return ()
    rows = _SUGGESTED.get(code, section.ships)
    return tuple({each.name: row.get(each.name) for each in section.columns} for row in rows)
