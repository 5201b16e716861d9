"""Which fish count: against what a permit allows, towards a target, within a quota of tags.

The Deck counts its own fish with no signal (``web/src/features/deck/rules/counted.ts``) and the server counts the record in SQL; both are
held to this by ``tests/shared/counted.json`` and ``server/tests/deck/test_counted.py``.
"""

from __future__ import annotations

from dataclasses import dataclass

#: Fates after which a fish does not live on in the water.
KILLED = ("dead", "kept")


@dataclass(frozen=True)
class CountedFish:
    """What of a fish counts.

    Attributes:
        length_mm, mass_g: None where they were not taken. measured: its length was measured, not judged by eye.
        marked: a tag was placed, and that stands; two tags are one marked fish.
        fate: how it left; empty while it is aboard. zone: of the site where it was caught; empty where that has none.
    """

    species: str
    length_mm: float | None = None
    measured: bool = False
    mass_g: float | None = None
    marked: bool = False
    fate: str = ""
    zone: str = ""


def for_permit(what: str, species: str, fish: CountedFish) -> bool:
    """Whether a fish counts against an allowance of ``permits.COUNTED``; species empty is every species.

    Args:
        what: "captured", "handled", "tagged" or "killed".
        species: code of the species that is counted; empty: every species.
        fish: the fish.
    """
    if species and fish.species != species:
        return False
    match what:
        case "captured":
            return True
        case "handled":
            return fish.length_mm is not None or fish.mass_g is not None or fish.marked
        case "tagged":
            return fish.marked
    return fish.fate in KILLED


def towards_target(what: str, species: str, from_mm: float | None, zone: str, fish: CountedFish) -> bool:
    """Whether a fish counts towards a target of so many "measured" or "marked", from a length, in a zone (empty: anywhere).

    Args:
        what: "measured" or "marked".
        species: code of the species that is wanted.
        from_mm: least length that counts, mm; None: any.
        zone: name of a zone; empty: any.
        fish: the fish.
    """
    if fish.species != species or (zone and fish.zone.casefold() != zone.casefold()):
        return False
    if from_mm is not None and (fish.length_mm is None or fish.length_mm < from_mm):
        return False
    return fish.measured if what == "measured" else fish.marked


def within_quota(species: str, zone: str, from_mm: float, to_mm: float | None, fish: CountedFish) -> bool:
    """Whether a marked fish is one of a quota's: of its species (empty: any), zone (empty: any) and length, to_mm left out. A fish
    that was not measured used a tag too: it is one of a quota that asks for no length.

    Args:
        species: code of the species; empty: any.
        zone: name of a zone; empty: any.
        from_mm: least length that counts, mm; None: any.
        to_mm: length from which it counts no more, mm; None: any.
        fish: the fish.
    """
    if not fish.marked or (species and fish.species != species):
        return False
    if zone and fish.zone.casefold() != zone.casefold():
        return False
    if fish.length_mm is None:
        return from_mm == 0 and to_mm is None
    return fish.length_mm >= from_mm and (to_mm is None or fish.length_mm < to_mm)
