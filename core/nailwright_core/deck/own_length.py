"""A length as its species' limits and categories mean it: those are of one type of length, and another is converted or not judged.

The tablet's own rule (``web/src/features/deck/rules/own-length.ts``) is held to the same cases, ``tests/shared/own-length.json``.
"""

from __future__ import annotations

from dataclasses import dataclass

from nailwright_core.common.species import Species


@dataclass(frozen=True)
class OwnLength:
    """A length in its species' own type, mm; ``converted`` where it was measured in another."""

    mm: float
    converted: bool


def own_length(kind: Species, mm: float, length_type: str) -> OwnLength | None:
    """The length that categories, legal sizes, standard weights and tag sizes are held against; None where none is known.

    Args:
        kind: the species, with its own type of length and conversions to it.
        mm: as it was measured, mm.
        length_type: in which it was measured, such as "FL"; empty: the species' own.
    """
    if not length_type or length_type == kind.length_type:
        return OwnLength(mm, False)
    found = kind.conversion_from(length_type)
    return OwnLength(found.intercept_mm + found.slope * mm, True) if found else None
