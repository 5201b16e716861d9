"""Is this number believable, and if not, which slip would explain it?

A length is held against the species' range, a mass against a band about the length-mass line: more than 2.5
residual SD away asks, more than 5 asks twice. A repair is proposed only where it lands inside both.
Thresholds and slips: common practice, no source.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from nailwright_core.common import species as species_table
from nailwright_core.common.checks import finite
from nailwright_core.common.quantities import G_PER, MM_PER
from nailwright_core.common.species import LengthMassLine, Species

ASK_SD = 2.5
ASK_TWICE_SD = 5.0
MAX_REPAIRS = 4
#: A fish may be read so much shorter than before by measuring alone (ours, no source): mm, and a share of its length.
SHRINKS_MM, SHRINKS_SHARE = 10.0, 0.03
#: By which line a mass was judged.
LINES = {"own": "this programme's own fish", "general": "the general line"}

#: Unit slips: (code, what a person reads, which number, factor), the likeliest first.
UNIT_SLIPS: tuple[tuple[str, str, Literal["length", "mass"], float], ...] = (
    ("length_in_cm", "called in cm", "length", MM_PER["cm"]),
    ("length_in_inches", "called in inches", "length", MM_PER["in"]),
    ("mass_in_kg", "called in kg", "mass", G_PER["kg"]),
    ("mass_in_pounds", "called in pounds", "mass", G_PER["lb"]),
)


@dataclass(frozen=True)
class Measured:
    """The length (mm) and mass (g, None where not weighed) of one fish."""

    length_mm: float | None
    mass_g: float | None


@dataclass(frozen=True)
class Repair:
    """A one-touch repair: what both numbers would become, and the slip that it supposes."""

    code: str
    label: str
    length_mm: float | None
    mass_g: float | None


@dataclass(frozen=True)
class Question:
    """A doubt about a called fish.

    ``weight`` is "ask", "ask twice", or "refuse" where no fish of the species can have this length; ``repairs``
    may be empty.
    """

    code: str
    message: str
    weight: Literal["ask", "ask twice", "refuse"]
    repairs: tuple[Repair, ...]


def check_capture(
    species: Species | str,
    length_mm: float | None,
    mass_g: float | None,
    previous: Measured | None = None,
    line: LengthMassLine | None = None,
) -> tuple[Question, ...]:
    """Questions about one called fish; none where it is believable.

    Args:
        species: a Species or its code.
        length_mm, mass_g: as called; either may be None.
        previous: the fish called before it, to notice a repeated mass.
        line: the programme's own length-mass line; by default the species' published one.

    Raises:
        CoreError: ``species_unknown``; ``number_out_of_range`` for a length or mass that is none (0.001 to 1e6 mm, 1e-6 to 1e9 g).
    """
    kind = species_table.get(species) if isinstance(species, str) else species
    if length_mm is not None:
        finite(length_mm, "length_mm", 1e-3, 1e6)
    if mass_g is not None:
        finite(mass_g, "mass_g", 1e-6, 1e9)
    used = line or kind.length_mass
    doubts: list[tuple[str, str, Literal["ask", "ask twice", "refuse"]]] = []
    if length_mm is not None:
        doubts.extend(_length_doubts(kind, length_mm))
    if length_mm is not None and mass_g is not None:
        doubts.extend(_mass_doubts(kind, length_mm, mass_g, used, "own" if line else "general"))
    if not doubts:
        return ()
    repairs = tuple(_repairs(kind, Measured(length_mm, mass_g), previous, used))[:MAX_REPAIRS]
    return tuple(Question(code, message, weight, repairs) for code, message, weight in doubts)


def check_growth(last_mm: float, length_mm: float) -> Question | None:
    """The question about a known fish that is shorter than it was when it was met last; None where it may be so.

    Args:
        last_mm, length_mm: then and now, in one length type.
    """
    if last_mm - length_mm <= max(SHRINKS_MM, SHRINKS_SHARE * last_mm):
        return None
    return Question(
        "shrank",
        f"It was {last_mm:g} mm when it was met last; {length_mm:g} mm is {last_mm - length_mm:g} mm shorter. "
        "Another fish, or a slip?",
        "ask",
        (),
    )


def log_residual_sd(length_mm: float, mass_g: float, line: LengthMassLine) -> float:
    """How many residual SDs the mass lies above (+) or below (-) the line.

    Args:
        length_mm: length of the fish, mm.
        mass_g: mass of the fish, g.
        line: the length-mass line.
    """
    return (math.log10(mass_g) - line.log10_a - line.b * math.log10(length_mm)) / line.sd


@dataclass(frozen=True)
class BelievabilityTable:
    """What the Deck needs to judge a fish with no core at hand: look up the row at the length, read the limits.

    ``length_mm`` is shape (k,), 1 % apart; the mass limits (g) are of the same shape. Between rows a straight line
    is within 0.02 % of the curve.
    """

    usual_mm: tuple[float, float]
    bounds_mm: tuple[float, float]
    length_mm: NDArray[np.float64]
    far_low_g: NDArray[np.float64]
    low_g: NDArray[np.float64]
    expected_g: NDArray[np.float64]
    high_g: NDArray[np.float64]
    far_high_g: NDArray[np.float64]


def believability_table(species: Species, line: LengthMassLine | None = None) -> BelievabilityTable:
    """The table for one species by the given line (default: the published one).

    Args:
        species: the species.
        line: the length-mass line; None: the published one.
    """
    used = line or species.length_mass
    low, high = species.length_bounds_mm
    steps = math.ceil(math.log(high / low) / math.log(1.01))
    length = low * 1.01 ** np.arange(steps + 1, dtype=np.float64)
    expected = 10 ** (used.log10_a + used.b * np.log10(length))
    ask, twice = 10 ** (ASK_SD * used.sd), 10 ** (ASK_TWICE_SD * used.sd)
    return BelievabilityTable(
        usual_mm=species.length_range_mm,
        bounds_mm=species.length_bounds_mm,
        length_mm=length,
        far_low_g=expected / twice,
        low_g=expected / ask,
        expected_g=expected,
        high_g=expected * ask,
        far_high_g=expected * twice,
    )


def _length_doubts(kind: Species, length_mm: float) -> Iterator[tuple[str, str, Literal["ask", "refuse"]]]:
    low, high = kind.length_bounds_mm
    usual_low, usual_high = kind.length_range_mm
    both = f"{length_mm:g} mm ({length_mm / MM_PER['in']:.1f} in)"
    if not low <= length_mm <= high:
        yield (
            "length_impossible",
            f"No {kind.common_name} is {both}; expected {low:g} to {high:g} mm.",
            "refuse",
        )
    elif not usual_low <= length_mm <= usual_high:
        side = "short" if length_mm < usual_low else "long"
        yield (
            "length_unusual",
            f"{both} is {side} for {kind.common_name}; usually {usual_low:g} to {usual_high:g} mm.",
            "ask",
        )


def _mass_doubts(
    kind: Species, length_mm: float, mass_g: float, line: LengthMassLine, whose: Literal["own", "general"]
) -> Iterator[tuple[str, str, Literal["ask", "ask twice"]]]:
    away = log_residual_sd(length_mm, mass_g, line)
    if abs(away) <= ASK_SD:
        return
    expected = 10 ** (line.log10_a + line.b * math.log10(length_mm))
    low, high = expected / 10 ** (ASK_SD * line.sd), expected * 10 ** (ASK_SD * line.sd)
    side = "light" if away < 0 else "heavy"
    far = abs(away) > ASK_TWICE_SD
    yield (
        "mass_far_off" if far else "mass_off",
        f"{mass_g:g} g is {'far too ' if far else ''}{side} for {kind.common_name} of {length_mm:g} mm; "
        f"expected {_rounded(low)} to {_rounded(high)} g by {LINES[whose]}.",
        "ask twice" if far else "ask",
    )


def _repairs(kind: Species, called: Measured, previous: Measured | None, line: LengthMassLine) -> Iterator[Repair]:
    for code, label, what, factor in UNIT_SLIPS:
        if what == "length" and called.length_mm is not None:
            fish = Measured(round(called.length_mm * factor, 1), called.mass_g)
        elif what == "mass" and called.mass_g is not None:
            fish = Measured(called.length_mm, round(called.mass_g * factor, 2))
        else:
            continue
        if _believable(kind, fish, line):
            yield Repair(code, label, fish.length_mm, fish.mass_g)
    if called.length_mm is not None and called.mass_g is not None:
        exchanged = Measured(called.mass_g, called.length_mm)
        if _believable(kind, exchanged, line):
            yield Repair("exchanged", "length and mass exchanged", exchanged.length_mm, exchanged.mass_g)
        if previous is not None and called.mass_g == previous.mass_g:
            dropped = Measured(called.length_mm, None)
            if _believable(kind, dropped, line):
                yield Repair("mass_repeated", "last fish's mass repeated: leave it out", called.length_mm, None)
    for swapped in _swapped(called.length_mm):
        fish = Measured(swapped, called.mass_g)
        if _believable(kind, fish, line):
            yield Repair("length_digits", "two digits swapped", fish.length_mm, fish.mass_g)
    for swapped in _swapped(called.mass_g):
        fish = Measured(called.length_mm, swapped)
        if _believable(kind, fish, line):
            yield Repair("mass_digits", "two digits swapped", fish.length_mm, fish.mass_g)


def _believable(kind: Species, fish: Measured, line: LengthMassLine) -> bool:
    if fish.length_mm is not None and not kind.length_range_mm[0] <= fish.length_mm <= kind.length_range_mm[1]:
        return False
    if fish.length_mm is None or fish.mass_g is None:
        return True
    return abs(log_residual_sd(fish.length_mm, fish.mass_g, line)) <= ASK_SD


def _swapped(value: float | None) -> Iterator[float]:
    """Whole numbers with two neighbouring digits of ``value`` exchanged."""
    if value is None or value != int(value):
        return
    digits = str(int(value))
    for i in range(len(digits) - 1):
        if digits[i] != digits[i + 1]:
            swapped = digits[:i] + digits[i + 1] + digits[i] + digits[i + 2 :]
            if swapped[0] != "0":
                yield float(swapped)


def _rounded(value: float) -> str:
    """Three significant digits without an exponent."""
    digits = max(0, 2 - math.floor(math.log10(value)))
    return f"{round(value, digits):.{digits}f}" if digits else f"{round(value, 2 - math.floor(math.log10(value))):.0f}"
