"""From captures to arrays."""

from __future__ import annotations

from dataclasses import dataclass
from uuid import UUID

import numpy as np
import polars as pl
from numpy.typing import NDArray

from nailwright.common.below_orm import read_rows
from nailwright.deck.models import Capture, Run
from nailwright.findings.fish import fish_of
from nailwright.findings.selections import Selection
from nailwright.programmes.models import Programme
from nailwright.programmes.species.known import species_of
from nailwright_core.common.species import Species
from nailwright_core.findings.slips import same_runs, unit_slips

#: Pairs of runs that came in twice that are named.
MOST_TWICE = 3


@dataclass(frozen=True)
class LeftOut:
    """How many fish of the selection a finding could not use, and why."""

    reason: str
    n: int


@dataclass(frozen=True)
class Derived:
    """How many lengths were measured as another type and turned into the species' own, and how far they are to be trusted."""

    from_type: str
    n: int
    sd_mm: float
    source: str


@dataclass(frozen=True)
class Lengths:
    """``length_mm``, ``sites`` (by number) and ``years`` of the fish, each of shape (n,); and what was left out."""

    length_mm: NDArray[np.float64]
    sites: NDArray[np.int64]
    years: NDArray[np.int64]
    left_out: tuple[LeftOut, ...]
    kind: Species
    derived: tuple[Derived, ...]
    doubts: tuple[str, ...]


@dataclass(frozen=True)
class Pairs:
    """Keys, lengths, masses, sites and years of weighed fish, each of shape (n,); and what was left out."""

    keys: pl.Series
    length_mm: NDArray[np.float64]
    mass_g: NDArray[np.float64]
    sites: NDArray[np.int64]
    years: NDArray[np.int64]
    left_out: tuple[LeftOut, ...]
    kind: Species
    derived: tuple[Derived, ...]
    doubts: tuple[str, ...]


@dataclass(frozen=True)
class Used:
    """The fish of a selection that a finding can use, what was left out, and what is to be said of them before any answer."""

    fish: pl.DataFrame
    left_out: tuple[LeftOut, ...]
    kind: Species
    derived: tuple[Derived, ...]
    doubts: tuple[str, ...]


def used_of(programme: Programme, selection: Selection, weighed: bool) -> Used:
    """Those measured in the species' own length type or in one that is turned into it, and weighed where that is asked; judged
    by eye where it is asked."""
    kind = species_of(programme)[selection.species]
    fish = _in_own_type(fish_of(programme, selection), kind)
    used = fish.filter(_usable(kind, selection, weighed))
    left_out = _left_out(fish, kind, selection, weighed)
    if selection.once:
        whole = used.height
        used = used.filter(~pl.col("id").is_in(_caught_again(programme, selection, used)))
        if used.height < whole:
            left_out = (*left_out, LeftOut("caught again later", whole - used.height))
    return Used(used, left_out, kind, _derived_in(used, kind), _doubts(programme, used, kind))


def _doubts(programme: Programme, used: pl.DataFrame, kind: Species) -> tuple[str, ...]:
    """Slips that many fish share: a unit mistaken, length and mass exchanged, runs that came in twice."""
    if used.is_empty():
        return ()
    runs = used["run_id"].rle().struct.unnest()
    length, mass = used["length_mm"].to_numpy(), used["mass_g"].to_numpy()
    twice = same_runs(length, mass, np.repeat(np.arange(runs.height), runs["len"].to_numpy()))
    keys = sorted({runs["value"][place] for first, second, _ in twice for place in (first, second)})
    known = Run.objects.filter(pk__in=[UUID(key) for key in keys]).select_related("outing")
    names = {str(run.pk): f"{run.outing.name}, run {run.number} ({run.outing.date:%d %b %Y})" for run in known}
    told = [
        f"{names[runs['value'][first]]} and {names[runs['value'][second]]} hold the same {n} fish to the last figure"
        for first, second, n in twice[:MOST_TWICE]
    ]
    more = f", and {len(twice) - MOST_TWICE} more such pairs" if len(twice) > MOST_TWICE else ""
    same = (f"The same fish twice? {'; '.join(told)}{more}. Take one of them out first.",) if told else ()
    return (*unit_slips(kind, length, mass), *same)


def lengths_of(programme: Programme, selection: Selection) -> Lengths:
    """Lengths in the species' own length type."""
    return lengths_from(programme, used_of(programme, selection, weighed=False))


def lengths_from(programme: Programme, used: Used) -> Lengths:
    at, years = sites_and_years(programme, used.fish)
    return Lengths(used.fish["length_mm"].to_numpy(), at, years, used.left_out, used.kind, used.derived, used.doubts)


def pairs_of(programme: Programme, selection: Selection) -> Pairs:
    """Weighed and measured fish in the species' own length type."""
    used = used_of(programme, selection, weighed=True)
    lengths, masses = used.fish["length_mm"].to_numpy(), used.fish["mass_g"].to_numpy()
    at, years = sites_and_years(programme, used.fish)
    return Pairs(used.fish["id"], lengths, masses, at, years, used.left_out, used.kind, used.derived, used.doubts)


def sites_and_years(programme: Programme, fish: pl.DataFrame) -> tuple[NDArray[np.int64], NDArray[np.int64]]:
    """A number for the site of each fish, and the year of its outing; fish stand in order of their runs."""
    rows = Run.objects.filter(outing__programme=programme).order_by()
    at = {run: (site, year) for run, site, year in read_rows(rows.values_list("pk", "site_id", "outing__date__year"))}
    runs = fish["run_id"].rle().struct.unnest()
    numbers: dict[str, int] = {}
    each = [(numbers.setdefault(site, len(numbers)), year) for site, year in (at[run] for run in runs["value"])]
    site, year = np.repeat(np.array(each, dtype=np.int64).reshape(-1, 2), runs["len"].to_numpy(), axis=0).T
    return site, year


def _caught_again(programme: Programme, selection: Selection, used: pl.DataFrame) -> pl.Series:
    """Keys of captures of a fish that was caught later once more, among those that are used."""
    marked = Capture.present.filter(programme=programme, species=selection.species, fish__isnull=False).order_by()
    rows = read_rows(marked.values_list("id", "fish_id", "device_time"))
    known = pl.DataFrame(rows, schema=["id", "fish", "at"], orient="row", infer_schema_length=None)
    if known.is_empty():
        return pl.Series([], dtype=pl.String)
    among = known.join(used.select("id"), on="id").sort("at", "id")
    return among.filter(pl.col("fish").is_duplicated() & ~pl.col("fish").is_last_distinct())["id"]


def _in_own_type(fish: pl.DataFrame, kind: Species) -> pl.DataFrame:
    """Lengths of another type turned into the species' own, where the programme knows how; ``derived`` says from which."""
    if not kind.conversions:
        return fish
    is_from = {
        each: (pl.col("length_type") == each.from_type) & pl.col("length_mm").is_not_null() for each in kind.conversions
    }
    length, came = pl.col("length_mm"), pl.lit(None, pl.String)
    for each, when in is_from.items():
        length = pl.when(when).then(each.intercept_mm + each.slope * pl.col("length_mm")).otherwise(length)
        came = pl.when(when).then(pl.lit(each.from_type)).otherwise(came)
    own = pl.when(came.is_not_null()).then(pl.lit(kind.length_type)).otherwise(pl.col("length_type"))
    return fish.with_columns(length_mm=length, length_type=own, derived=came)


def _derived_in(used: pl.DataFrame, kind: Species) -> tuple[Derived, ...]:
    if "derived" not in used.columns:
        return ()
    counts = dict(used["derived"].drop_nulls().value_counts().rows())
    return tuple(
        Derived(each.from_type, counts[each.from_type], each.residual_sd_mm, each.source)
        for each in kind.conversions
        if each.from_type in counts
    )


def _usable(kind: Species, selection: Selection, weighed: bool) -> pl.Expr:
    bases = ("measured", "estimated") if selection.estimated else ("measured",)
    measured = pl.col("length_mm").is_not_null() & (pl.col("length_type") == kind.length_type)
    used = measured & pl.col("length_basis").is_in(bases)
    return used & pl.col("mass_g").is_not_null() & pl.col("mass_basis").is_in(bases) if weighed else used


def _left_out(fish: pl.DataFrame, kind: Species, selection: Selection, weighed: bool) -> tuple[LeftOut, ...]:
    own = kind.length_type
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
    others = (
        fish.filter(~_usable(kind, selection, weighed)).group_by(reason.alias("reason")).agg(n=pl.col("count").sum())
    )
    return tuple(LeftOut(*row) for row in others.sort("n", "reason", descending=[True, False]).rows())
