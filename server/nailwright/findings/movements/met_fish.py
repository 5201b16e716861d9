"""Encounters of a species as columns, with the places and the fish that they are of."""

from __future__ import annotations

from collections import Counter, defaultdict
from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np
from numpy.typing import NDArray

from nailwright.common.below_orm import read_rows
from nailwright.deck.models import Capture
from nailwright.programmes.models import Programme
from nailwright.tags.models import Encounter, Placement, TagKind
from nailwright.waters.models import Site, Water
from nailwright_core.movements.journeys import Encounters
from nailwright_core.waters.network import Network

_COLUMNS = (
    "fish_id", "kind", "source_id", "occasion_id", "at", "site_id", "lat", "lon", "error_m", "length_mm", "disposition",
    "let_go_lat", "let_go_lon", "let_go_error_m",
)  # fmt: skip


@dataclass(frozen=True)
class MetFish:
    """Encounters in order of time; ``kind``, ``source`` (key of the row that says so), ``occasion`` and ``site`` (keys, empty where at none)
    of each, shape (n,)."""

    met: Encounters
    kind: NDArray[np.str_]
    source: NDArray[np.str_]
    occasion: NDArray[np.str_]
    site: NDArray[np.str_]
    sites: dict[str, Site]

    def zone_of(self, place: int) -> str:
        """Name of the zone of an encounter; empty where it was in none."""
        site = self.sites.get(str(self.site[place]))
        return self.zone_name(site) if site else ""

    def zone_name(self, site: Site) -> str:
        """Of a site's zone, with its water where another water has a zone of that name; empty where it is in none."""
        return f"{site.zone_name}, {site.water.name}" if site.zone_name in self.names_twice else site.zone_name

    @cached_property
    def names_twice(self) -> frozenset[str]:
        """Names that zones of several waters have."""
        there = {(site.zone_name, site.water_id) for site in self.sites.values() if site.zone}
        names = Counter(name for name, _ in there)
        return frozenset(name for name, n in names.items() if n > 1)


def met_fish(programme: Programme, species: str) -> MetFish:
    """Every encounter of a species."""
    rows = read_rows(
        Encounter.objects.filter(fish__programme=programme, fish__species=species)
        .order_by("at", "id")
        .values_list(*_COLUMNS)
    )
    sites = {
        str(site.pk): site for site in Site.objects.filter(water__programme=programme).select_related("zone", "water")
    }
    table: list[list[Any]] = [list(column) for column in zip(*rows, strict=True)] or [[] for _ in _COLUMNS]
    of = dict(zip(_COLUMNS, table, strict=True))

    def numbers(name: str) -> NDArray[np.float64]:
        return np.array(of[name], dtype=np.float64)  # what is not known becomes nan

    at_site = [str(key) if key else "" for key in of["site_id"]]
    km = [site.river_km if (site := sites.get(key)) else None for key in at_site]
    met = Encounters(
        fish=np.array([str(key) for key in of["fish_id"]], dtype=str),
        at=np.array(of["at"], dtype="datetime64[us]"),
        lat=numbers("lat"),
        lon=numbers("lon"),
        river_km=np.array(km, dtype=np.float64),
        length_mm=numbers("length_mm"),
        error_m=np.nan_to_num(numbers("error_m")),
        left_lat=numbers("let_go_lat"),
        left_lon=numbers("let_go_lon"),
        left_error_m=numbers("let_go_error_m"),
        gone=np.isin(np.array(of["disposition"], dtype=str), Encounter.LOSSES),
    )
    return MetFish(
        met,
        np.array(of["kind"], dtype=str),
        np.array([str(key) for key in of["source_id"]], dtype=str),
        np.array([str(key or "") for key in of["occasion_id"]], dtype=str),
        np.array(at_site, dtype=str),
        sites,
    )


def tag_kinds_of(programme: Programme, species: str) -> dict[str, str]:
    """What each fish carries or carried, in words, by its key."""
    found: dict[str, set[str]] = defaultdict(set)
    placed = Placement.present.filter(fish__programme=programme, fish__species=species).order_by()
    for fish, kind in read_rows(placed.values_list("fish_id", "tag__kind")):
        found[str(fish)].add(str(TagKind(kind).label))
    return {fish: " and ".join(sorted(kinds)) for fish, kinds in found.items()}


def sex_of(programme: Programme, species: str) -> dict[str, str]:
    """Sex of each fish as it was last told, by its key; those of unknown sex are not in it."""
    told = (
        Capture.present.filter(programme=programme, species=species).exclude(fish=None).exclude(sex=Capture.Sex.UNKNOWN)
    )
    rows = read_rows(told.order_by("device_time", "id").values_list("fish_id", "sex"))
    return {str(fish): str(Capture.Sex(sex).label).lower() for fish, sex in rows}


def measured_as(programme: Programme, species: str, length_type: str) -> set[str]:
    """Keys of the captures of known fish that were measured in a length type."""
    measured = Capture.present.filter(programme=programme, species=species, length_type=length_type).exclude(fish=None)
    return {str(key) for (key,) in read_rows(measured.order_by().values_list("id"))}


def river_network(programme: Programme) -> Network | None:
    """The programme's rivers as one network; None where no line of one is drawn."""
    rivers = Water.objects.filter(programme=programme, kind=Water.Kind.RIVER).exclude(geometry=None)
    lines = [
        each.geometry["coordinates"] for each in rivers if each.geometry and each.geometry.get("type") == "LineString"
    ]
    return Network(lines) if lines else None
