"""Fish of a selection in groups: by year, water, zone, site, gear or sex."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np
import polars as pl
from numpy.typing import NDArray

from nailwright.deck.models import Capture, Gear, Run
from nailwright.findings.queries import Derived, LeftOut, sites_and_years, used_of
from nailwright.findings.selections import Selection
from nailwright.programmes.models import Programme
from nailwright.waters.models import Zone
from nailwright_core.common.errors import CoreError
from nailwright_core.common.estimate import Assumption
from nailwright_core.common.species import Species
from nailwright_core.findings.confounders import sampled_alike

#: More panels than this cannot be read, and more pairs say nothing.
MOST_GROUPS = 12

GROUPINGS = ("year", "season", "water", "zone", "site", "gear", "sex")
_SEXES = {str(code): str(label) for code, label in Capture.Sex.choices}


@dataclass(frozen=True)
class Group:
    """Fish of one group: lengths (mm), masses (g, nan where not weighed) and numbers of their sites, each of shape (n,)."""

    length_mm: NDArray[np.float64]
    mass_g: NDArray[np.float64]
    sites: NDArray[np.int64]


@dataclass(frozen=True)
class Order:
    """Where each group stands in an order, in steps of ``per`` ("a year"), and the order in words ("over the years")."""

    at: tuple[float, ...]
    per: str
    along: str


@dataclass(frozen=True)
class GroupedFish:
    """Groups in the order of their names, what was left out, and what is to be said of how they were sampled.

    ``by_site``: whether sites can be told from groups; where each group is one site, they cannot. ``order``: None where they stand in none.
    """

    groups: Mapping[str, Group]
    left_out: tuple[LeftOut, ...]
    kind: Species
    derived: tuple[Derived, ...]
    doubts: tuple[str, ...]
    by_site: bool
    order: Order | None
    alike: tuple[Assumption, ...]


def grouped(programme: Programme, selection: Selection, by: str, weighed: bool) -> GroupedFish:
    """Fish of a selection in groups.

    Raises:
        CoreError: ``too_few_groups``, ``too_many_groups``.
    """
    used = used_of(programme, selection, weighed)
    fish = used.fish.with_columns(site_number=pl.Series(sites_and_years(programme, used.fish)[0]))
    fish = fish.join(_runs(programme), on="run_id", how="left", maintain_order="left").with_columns(
        pl.col("sex").replace_strict(_SEXES, return_dtype=pl.String)
    )
    parts = {str(key[0]): part for key, part in fish.group_by(by, maintain_order=True)}
    if len(parts) < 2:
        raise CoreError(
            "too_few_groups",
            f"All these fish fall into {len(parts)} group; choose another grouping or widen the selection.",
            "by",
        )
    if len(parts) > MOST_GROUPS:
        raise CoreError(
            "too_many_groups",
            f"{len(parts)} groups are more than can be compared at once ({MOST_GROUPS}); narrow the selection.",
            "by",
        )
    parts = dict(sorted(parts.items()))
    by_site = by != "site" and any(part["site_number"].n_unique() > 1 for part in parts.values())
    groups = {
        name: Group(*(part[column].to_numpy() for column in ("length_mm", "mass_g", "site_number")))
        for name, part in parts.items()
    }
    return GroupedFish(
        groups,
        used.left_out,
        used.kind,
        used.derived,
        used.doubts,
        by_site,
        _order(programme, list(parts), by),
        _alike(parts, by),
    )


_SEASONS = ("winter", "spring", "summer", "autumn")


def _order(programme: Programme, names: list[str], by: str) -> Order | None:
    """Years; seasons of one year (of several they rise and fall with it); zones along one water's line."""
    if by == "year":
        return Order(tuple(map(float, names)), "a year", "over the years")
    if by == "season" and len({name.split()[0] for name in names}) == 1:
        return Order(
            tuple(float(_SEASONS.index(name.split()[1])) for name in names), "a season", "over the seasons of the year"
        )
    if by == "zone":
        zones = list(Zone.present.filter(water__programme=programme, kind=Zone.Kind.ZONE, name__in=names))
        at = {
            zone.name: (zone.start_m + zone.end_m) / 2
            for zone in zones
            if zone.start_m is not None and zone.end_m is not None
        }
        if len({zone.water_id for zone in zones}) == 1 and set(at) == set(names):
            return Order(tuple(at[name] / 10_000 for name in names), "10 km upstream", "along the water")
    return None


#: What groups may differ in besides what they are made by; a grouping says as much as those beside it.
_FACTORS = ("time of year", "sex", "gear", "zone")
_SAYS = {"season": {"time of year"}, "site": {"zone"}, "water": {"zone"}}


def _alike(parts: Mapping[str, pl.DataFrame], by: str) -> tuple[Assumption, ...]:
    found = []
    for factor in _FACTORS:
        if factor == by or factor in _SAYS.get(by, ()):
            continue
        counts = {}
        for name, part in parts.items():
            known = part.filter(pl.col(factor) != "Unknown")[factor].value_counts()
            counts[name] = dict(known.rows())
        found.append(sampled_alike(factor, counts))
    return tuple(each for each in found if each)


def _runs(programme: Programme) -> pl.DataFrame:
    """Of each run what groups are made by; those taken out too, since a fish of theirs is still there."""
    told = ("pk", "outing__date", "outing__water__name", "site__zone__name", "site__name", "gear")
    rows = Run.objects.filter(outing__programme=programme).order_by().values_list(*told)
    return pl.DataFrame(
        [
            (str(key), str(day.year), f"{day.year} {season_of(day.month)}", season_of(day.month),
             water or "no name", zone or "no name", site or "no name", str(Gear(gear).label))
            for key, day, water, zone, site, gear in rows
        ],
        schema=["run_id", "year", "season", "time of year", "water", "zone", "site", "gear"],
        orient="row",
    )  # fmt: skip


def season_of(month: int) -> str:
    return {
        12: "winter",
        1: "winter",
        2: "winter",
        3: "spring",
        4: "spring",
        5: "spring",
        6: "summer",
        7: "summer",
        8: "summer",
    }.get(month, "autumn")
