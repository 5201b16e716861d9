"""Where to begin with pulses, by who is fished for."""

from __future__ import annotations

from collections.abc import Sequence

from nailwright_core.common.species import Species

_LARGE_MM = 600.0


_TENDER = ("Salmo", "Salvelinus", "Oncorhynchus", "Coregonus", "Thymallus", "Acipenser")


def pulse_advice_for(species: Sequence[Species]) -> tuple[float, str]:
    """A pulse rate to start with for the species together, by the one that bears least; as ``pulse_advice``.

    Large from 600 mm on: ours, no source.

    Args:
        species: those that may be caught.
    """
    tender = any(kind.scientific_name.split()[0] in _TENDER for kind in species)
    large = any(kind.length_range_mm[1] >= _LARGE_MM for kind in species)
    return pulse_advice("salmonid" if tender else "other", large)


def pulse_advice(family: str, large: bool) -> tuple[float, str]:
    """A pulse rate to start with, Hz, and why. ``family``: "salmonid", "sturgeon" or "other".

    Source: common practice, no source: low rates and direct current injure least, large fish are injured most.

    Args:
        family: "salmonid", "sturgeon" or "other".
        large: fish from 600 mm on are expected.
    """
    if family in ("salmonid", "sturgeon"):
        return 30.0, "Trout, salmon and sturgeon: direct current or at most 30 Hz; 60 Hz and above injures many spines."
    if large:
        return 30.0, "Large fish are injured most: 30 Hz first, higher only where too few are drawn."
    return 60.0, "60 Hz catches more small fish; go down to 30 Hz where dark bars or stiff fish are seen."
