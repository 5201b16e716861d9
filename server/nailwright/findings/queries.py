"""From captures to arrays.

Reads through Django's connection below the ORM: for 200,000 fish, building model values took three times as long as
all the rest of the finding (bin/bench).
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from django.db.models import Count, Q, QuerySet, Sum
from numpy.typing import NDArray

from nailwright.common.below_orm import read_rows
from nailwright.deck.models import Capture
from nailwright_core.common.species import Species


@dataclass(frozen=True)
class LeftOut:
    """How many fish of the selection a finding could not use, and why."""

    reason: str
    n: int


@dataclass(frozen=True)
class Lengths:
    """``length_mm`` of shape (n,), sorted; and what was left out."""

    length_mm: NDArray[np.float64]
    left_out: tuple[LeftOut, ...]


@dataclass(frozen=True)
class Pairs:
    """Keys, lengths and masses of weighed fish, each of shape (n,); and what was left out."""

    keys: tuple[str, ...]
    length_mm: NDArray[np.float64]
    mass_g: NDArray[np.float64]
    left_out: tuple[LeftOut, ...]


def lengths_of(captures: QuerySet[Capture], kind: Species, estimated: bool) -> Lengths:
    """Lengths in the species' own length type. The database counts equal lengths: a board gives few different ones."""
    groups = captures.values_list("length_basis", "length_type", "length_mm").annotate(
        rows=Count("pk"), fish=Sum("count")
    )
    used: dict[float, int] = {}
    left: dict[str, int] = {}
    for basis, length_type, length_mm, rows, fish in groups:
        reason = _why_not(basis, length_type, kind, estimated) if length_mm is not None else "no length taken"
        if reason:
            left[reason] = left.get(reason, 0) + int(fish)
        else:
            used[length_mm] = used.get(length_mm, 0) + rows
    values = np.array(sorted(used), dtype=float)
    counts = np.array([used[value] for value in values], dtype=int)
    return Lengths(np.repeat(values, counts), _left_out(left))


def pairs_of(captures: QuerySet[Capture], kind: Species, estimated: bool) -> Pairs:
    """Weighed and measured fish in the species' own length type."""
    bases = ("measured", "estimated") if estimated else ("measured",)
    usable = Q(length_type=kind.length_type, length_basis__in=bases, mass_basis__in=bases)
    wanted = captures.filter(usable).values_list("id", "length_mm", "mass_g")
    rows = read_rows(wanted)
    keys, lengths, masses = zip(*rows, strict=True) if rows else ((), (), ())
    left: dict[str, int] = {}
    others = captures.exclude(usable & Q(length_mm__isnull=False, mass_g__isnull=False))
    for length_basis, length_type, mass_basis, fish in others.values_list(
        "length_basis", "length_type", "mass_basis"
    ).annotate(fish=Sum("count")):
        if not length_basis:
            reason = "no length taken"
        elif not mass_basis:
            reason = "not weighed"
        else:
            reason = _why_not(length_basis, length_type, kind, estimated) or "mass estimated, not weighed"
        left[reason] = left.get(reason, 0) + int(fish)
    return Pairs(keys, np.array(lengths, dtype=float), np.array(masses, dtype=float), _left_out(left))


def _why_not(basis: str, length_type: str, kind: Species, estimated: bool) -> str | None:
    if length_type != kind.length_type:
        return f"measured as {length_type}, not {kind.length_type}"
    if basis == "estimated" and not estimated:
        return "length estimated, not measured"
    return None


def _left_out(left: dict[str, int]) -> tuple[LeftOut, ...]:
    return tuple(LeftOut(reason, n) for reason, n in sorted(left.items(), key=lambda item: -item[1]))
