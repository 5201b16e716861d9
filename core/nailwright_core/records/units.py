"""Which units a table of lengths and masses is in, judged by the fish themselves."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray

from nailwright_core.common.quantities import G_PER, MM_PER
from nailwright_core.common.species import Species

#: A mass further than this from the species' line, in log10 units, is not believed: a factor of two. Ours, no source.
FAR = 0.3
#: From this share of believable fish on, units are proposed. Ours, no source.
ENOUGH = 0.6
TIE = 0.05

#: Units that are used together: an inch with pounds, a centimetre with grams. It decides between inch with pound and
#: centimetre with ounce, which no fish can tell apart (2.54 cubed is 16.4, and a pound has 16 ounces).
TOGETHER = frozenset(
    [(length, mass) for length in ("mm", "cm", "m") for mass in ("g", "kg")]
    + [(length, mass) for length in ("in", "ft") for mass in ("lb", "oz")]
)


def looks_like_mass(length: ArrayLike, figure: ArrayLike) -> bool:
    """Whether a figure rises with length as mass does: log against log nearly a line whose slope is near three.

    Args:
        length: bare numbers in any one unit, shape (n,); nan where missing.
        figure: bare numbers in any one unit, shape (n,); nan where missing.

    Source: the slope of length-mass lines of fish lies between 2.5 and 3.5 (Froese 2006, J. Appl. Ichthyol. 22, 241-253; from memory);
    the least correlation, 0.9, and the least number, 10, are ours.
    """
    pairs = np.column_stack([np.asarray(length, dtype=float), np.asarray(figure, dtype=float)])
    pairs = pairs[(pairs > 0).all(axis=1)]
    if len(pairs) < 10 or len(np.unique(pairs[:, 0])) < 3:
        return False
    x, y = np.log10(pairs).T
    if np.ptp(x) == 0 or np.ptp(y) == 0:
        return False
    r = float(np.corrcoef(x, y)[0, 1])
    slope = r * float(y.std() / x.std())
    return r >= 0.9 and 2.3 <= slope <= 3.8


@dataclass(frozen=True)
class UnitGuess:
    """The units in which most fish are believable, and their share; None where none or several make it so."""

    length: str | None
    mass: str | None
    share: float


def guess_units(
    species: Sequence[Species],
    length: ArrayLike,
    mass: ArrayLike | None = None,
    lengths: Sequence[str] = tuple(MM_PER),
    masses: Sequence[str] = tuple(G_PER),
) -> UnitGuess:
    """The pair of units in which lengths lie in their species' usual range and masses near its length-mass line.

    Args:
        species: one for each fish, n of them.
        length: bare numbers, shape (n,); nan where missing.
        mass: bare numbers, shape (n,); nan where missing.
        lengths: units of length to choose from, mm, cm, m, in, ft.
        masses: units of mass to choose from, g, kg, lb, oz.

    Returns:
        UnitGuess. With no masses, a length that is believable in two units is left undecided.
    """
    long = np.asarray(length, dtype=float)
    heavy = np.full(long.shape, np.nan) if mass is None else np.asarray(mass, dtype=float)
    if not len(long) or np.isnan(long).all():
        return UnitGuess(None, None, 0.0)
    kinds = {id(kind): kind for kind in species}
    place = {key: number for number, key in enumerate(kinds)}
    whose = np.fromiter((place[id(kind)] for kind in species), dtype=np.int64, count=long.size)
    low, high = np.array([kind.length_range_mm for kind in kinds.values()], dtype=float)[whose].T
    a, b = np.array([(kind.length_mass.log10_a, kind.length_mass.b) for kind in kinds.values()], dtype=float)[whose].T
    measured = ~np.isnan(long)
    without = bool(np.isnan(heavy).all())
    # how far a mass is from the line, but for its unit and that of the length, which only shift it
    with np.errstate(divide="ignore", invalid="ignore"):
        off_line = np.log10(heavy) - a - b * np.log10(long)
    tried: list[tuple[float, bool, float, str, str | None]] = []
    for unit in lengths:
        mm = long * MM_PER[unit]
        usual = measured & (mm >= low) & (mm <= high)
        if without:
            tried.append((_share(usual, measured), True, 0.0, unit, None))
            continue
        of_length = off_line - b * math.log10(MM_PER[unit])
        shares = {}
        for mass_unit in masses:
            off = np.abs(of_length + math.log10(G_PER[mass_unit]))
            shares[mass_unit] = _share(usual & (np.isnan(off) | (off < FAR)), measured), off
        best = max(share for share, _ in shares.values())
        for mass_unit, (share, off) in shares.items():
            # who is further behind cannot win by its median
            median = _median(off) if share == best else math.inf
            tried.append((share, (unit, mass_unit) in TOGETHER, -median, unit, mass_unit))
    tried.sort(reverse=True)
    share, _, _, unit, best_mass = tried[0]
    undecided = best_mass is None and len(tried) > 1 and tried[1][0] > share - TIE
    if share < ENOUGH or undecided:
        return UnitGuess(None, None, share)
    return UnitGuess(unit, best_mass, share)


def _share(good: NDArray[np.bool_], measured: NDArray[np.bool_]) -> float:
    """In steps of ``TIE``, so that two pairs which do nearly equally well count as equal."""
    return float(round(good.sum() / measured.sum() / TIE) * TIE)


def _median(off: NDArray[np.float64]) -> float:
    known = off[np.isfinite(off)]
    return float(np.median(known)) if known.size else np.inf
