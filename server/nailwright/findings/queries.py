"""From captures to arrays."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import polars as pl
from numpy.typing import NDArray

from nailwright.findings.fish import fish_of
from nailwright.findings.selections import Selection
from nailwright.programmes.models import Programme
from nailwright_core.common import species as species_table


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

    keys: pl.Series
    length_mm: NDArray[np.float64]
    mass_g: NDArray[np.float64]
    left_out: tuple[LeftOut, ...]


def usable_fish(fish: pl.DataFrame, selection: Selection, weighed: bool) -> pl.DataFrame:
    """Those measured in the species' own length type, and weighed where that is asked; judged by eye where it is asked."""
    return fish.filter(_usable(selection, weighed))


def lengths_of(programme: Programme, selection: Selection) -> Lengths:
    """Lengths in the species' own length type."""
    fish = fish_of(programme, selection)
    lengths = usable_fish(fish, selection, weighed=False)["length_mm"].sort().to_numpy()
    return Lengths(lengths, _left_out(fish, selection, weighed=False))


def pairs_of(programme: Programme, selection: Selection) -> Pairs:
    """Weighed and measured fish in the species' own length type."""
    fish = fish_of(programme, selection)
    used = usable_fish(fish, selection, weighed=True)
    lengths, masses = used["length_mm"].to_numpy(), used["mass_g"].to_numpy()
    return Pairs(used["id"], lengths, masses, _left_out(fish, selection, weighed=True))


def _usable(selection: Selection, weighed: bool) -> pl.Expr:
    bases = ("measured", "estimated") if selection.estimated else ("measured",)
    kind = species_table.get(selection.species)
    measured = pl.col("length_mm").is_not_null() & (pl.col("length_type") == kind.length_type)
    used = measured & pl.col("length_basis").is_in(bases)
    return used & pl.col("mass_g").is_not_null() & pl.col("mass_basis").is_in(bases) if weighed else used


def _left_out(fish: pl.DataFrame, selection: Selection, weighed: bool) -> tuple[LeftOut, ...]:
    own = species_table.get(selection.species).length_type
    reason = (
        pl.when(pl.col("length_mm").is_null())
        .then(pl.lit("no length taken"))
        .when(pl.lit(weighed) & pl.col("mass_g").is_null())
        .then(pl.lit("not weighed"))
        .when(pl.col("length_type") != own)
        .then(pl.format(f"measured as {{}}, not {own}", pl.col("length_type")))
        .when(pl.lit(not selection.estimated) & (pl.col("length_basis") == "estimated"))
        .then(pl.lit("length estimated, not measured"))
        .otherwise(pl.lit("mass estimated, not weighed"))
    )
    others = fish.filter(~_usable(selection, weighed)).group_by(reason.alias("reason")).agg(n=pl.col("count").sum())
    return tuple(LeftOut(*row) for row in others.sort("n", "reason", descending=[True, False]).rows())
