"""What many fish of a selection say together of how they were written down: a unit mistaken throughout, length and mass exchanged, a file
that came in twice. Each fish alone is asked about as it is called; a file may bring hundreds at once, and a finding on them answers smoothly.
"""

from __future__ import annotations

from itertools import combinations

import numpy as np
from numpy.typing import ArrayLike, NDArray

from nailwright_core.common.arrays import Floats
from nailwright_core.common.checks import numbers
from nailwright_core.common.errors import CoreError
from nailwright_core.common.species import Species
from nailwright_core.deck.plausibility import ASK_SD, ASK_TWICE_SD, UNIT_SLIPS

#: It is said from so many fish, and from this share of them, on (ours, no source).
FEWEST_FISH, FEWEST_SHARE = 5, 0.05
#: A slip explains them where it puts right at least this share of those that are off (ours, no source).
EXPLAINS = 0.5
#: Fish of a run that are the same to the last figure as those of another are no chance from so many on (ours, no source).
SAME_FISH = 8
_MIXED = (np.uint64(0xBF58476D1CE4E5B9), np.uint64(0x94D049BB133111EB))


def unit_slips(kind: Species, length_mm: ArrayLike, mass_g: ArrayLike) -> tuple[str, ...]:
    """Sentences on fish that many are off alike.

    Args:
        kind: the species; its general length-mass line and usual lengths are what they are held against.
        length_mm, mass_g: shape (n,); mass nan where a fish was not weighed.

    Raises:
        CoreError: ``lengths_differ``; ``number_out_of_range`` for a length that is none.
    """
    length, mass = numbers(length_mm, "length_mm"), np.asarray(mass_g, dtype=np.float64).ravel()
    if length.size != mass.size:
        raise CoreError("lengths_differ", f"Got {length.size} lengths and {mass.size} masses.", "mass_g")
    weighed = np.isfinite(mass) & (mass > 0) & (length > 0)
    found = _off_the_line(kind, length[weighed], mass[weighed])
    return tuple(found or _off_the_range(kind, length[length > 0]))


def _off_the_line(kind: Species, length: Floats, mass: Floats) -> list[str]:
    log_length, log_mass = np.log10(length), np.log10(mass)
    off = _away(kind, log_length, log_mass) > ASK_TWICE_SD
    n, many = int(off.sum()), length.size
    if n < FEWEST_FISH or n < FEWEST_SHARE * many:
        return []
    at, of = log_length[off], log_mass[off]
    mended = {
        f"{what} in {label.removeprefix('called in ')}": _fits(
            kind,
            at + (np.log10(factor) if what == "length" else 0),
            of + (np.log10(factor) if what == "mass" else 0),
        )
        for _, label, what, factor in UNIT_SLIPS
    } | {"length and mass exchanged": _fits(kind, of, at)}
    best = max(mended, key=lambda each: mended[each])
    told = f"{n:,} of {many:,} weighed fish" if n < many else f"All {many:,} weighed fish"
    if mended[best] >= EXPLAINS * n:
        return [
            f"{told} are far off what {kind.common_name} weigh, and {mended[best]:,} of them fit if written as {best}. Put them right first."
        ]
    ratio = 10 ** float(np.median(of - kind.length_mass.log10_a - kind.length_mass.b * at))
    return [
        f"{told} are far off what {kind.common_name} weigh: their median mass is {ratio:.2g} times what is usual. Look at them first."
    ]


def _off_the_range(kind: Species, length: Floats) -> list[str]:
    low, high = kind.length_range_mm
    off = (length < low) | (length > high)
    n, many = int(off.sum()), length.size
    if n < FEWEST_FISH or n < FEWEST_SHARE * many:
        return []
    at = length[off]
    for _, label, what, factor in UNIT_SLIPS:
        fits = int(((at * factor >= low) & (at * factor <= high)).sum()) if what == "length" else 0
        if fits >= EXPLAINS * n:
            unit = label.removeprefix("called in ")
            return [
                f"{n:,} of {many:,} lengths are none that {kind.common_name} usually have ({low:g} to {high:g} mm), and {fits:,} of them fit "
                f"if written in {unit}. Put them right first."
            ]
    return []


def _away(kind: Species, log_length: Floats, log_mass: Floats) -> Floats:
    line = kind.length_mass
    return np.asarray(np.abs(log_mass - line.log10_a - line.b * log_length) / line.sd)


def _fits(kind: Species, log_length: Floats, log_mass: Floats) -> int:
    low, high = np.log10(kind.length_range_mm)
    return int(((log_length >= low) & (log_length <= high) & (_away(kind, log_length, log_mass) <= ASK_SD)).sum())


def same_runs(length_mm: ArrayLike, mass_g: ArrayLike, run: ArrayLike) -> list[tuple[int, int, int]]:
    """Pairs of runs whose fish are the same to the last figure, each with how many that are; runs of fewer than ``SAME_FISH`` are not looked at.

    Args:
        length_mm, mass_g: shape (n,); mass nan where not weighed. run: number of the run of each fish, from 0 on.

    Raises:
        CoreError: ``lengths_differ``.
    """
    length, mass = np.asarray(length_mm, dtype=np.float64).ravel(), np.asarray(mass_g, dtype=np.float64).ravel()
    of = np.asarray(run, dtype=np.int64).ravel()
    if not length.size == mass.size == of.size:
        raise CoreError("lengths_differ", f"Got {length.size} lengths, {mass.size} masses and {of.size} runs.", "run")
    if not of.size:
        return []
    fish = np.bincount(of)
    sums = np.zeros(fish.size, dtype=np.uint64)
    digests = _digest(length, mass)
    np.add.at(sums, of, digests)
    # a board of whole centimetres gives the same few lengths again and again: a run says something only by what differs in it
    alike: dict[tuple[int, int], list[int]] = {}
    for place in np.flatnonzero(fish >= SAME_FISH):
        alike.setdefault((int(fish[place]), int(sums[place])), []).append(int(place))
    return [
        (first, second, n)
        for (n, _), runs in alike.items()
        if len(runs) > 1 and np.unique(digests[of == runs[0]]).size >= SAME_FISH
        for first, second in combinations(runs, 2)
    ]


def _digest(length: Floats, mass: Floats) -> NDArray[np.uint64]:
    """A number for each pair of figures, mixed so that sums of many say which they were (the finaliser of SplitMix64: Steele, Lea and Flood
    2014, from memory)."""
    tenths = np.round(length * 10).astype(np.uint64)
    of_mass = np.where(np.isnan(mass), 0, np.round(np.nan_to_num(mass) * 100) + 1).astype(np.uint64)
    mixed = tenths * np.uint64(0x9E3779B97F4A7C15) + of_mass
    for factor, shift in zip(_MIXED, (np.uint64(30), np.uint64(27)), strict=True):
        mixed = (mixed ^ (mixed >> shift)) * factor
    return np.asarray(mixed ^ (mixed >> np.uint64(31)))
