"""Journeys of a species, with metres along the water, and what was fished."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from nailwright.findings.movements.met_fish import MetFish, met_fish, river_network, sex_of, tag_kinds_of
from nailwright.programmes.models import Programme
from nailwright.programmes.species.known import species_of
from nailwright.tags.models import Occasion
from nailwright_core.common.species import Species
from nailwright_core.movements.journeys import Journeys, homings, journeys
from nailwright_core.waters.network import Network

#: A place farther than this from every drawn river is not on one: its distances are straight.
ON_RIVER_M = 1000.0


@dataclass(frozen=True)
class MovedFish:
    """Journeys of a species.

    ``water_m`` and ``by_water``: metres of each along the rivers' lines, and whether it is along them or straight, shape (m,).
    ``up_km``: kilometres upstream; nan between two waters, whose kilometres begin anew. ``back`` and ``back_m``: from the
    first place of each fish to where it was in the same season of a later year, and metres of that. ``effort``: of each occasion, by its key, the site's key,
    the unit and how much.
    """

    of: MetFish
    made: Journeys
    water_m: NDArray[np.float64]
    by_water: NDArray[np.bool_]
    up_km: NDArray[np.float64]
    back: Journeys
    back_m: NDArray[np.float64]
    sex: dict[str, str]
    tags: dict[str, str]
    effort: dict[str, tuple[str, str, float]]
    kind: Species


def moved_fish(programme: Programme, species: str) -> MovedFish:
    """Every journey of a species."""
    of = met_fish(programme, species)
    made = journeys(of.met)
    network = river_network(programme)
    water_m, by_water = _along_water(network, of, made)
    back = homings(of.met)
    fished = Occasion.objects.filter(programme=programme, effort__gt=0).values_list(
        "pk", "site_id", "effort_unit", "effort"
    )
    return MovedFish(
        of, made, water_m, by_water, _up_km(of, made), back, _along_water(network, of, back)[0], sex_of(programme, species), tag_kinds_of(programme, species),
        {str(key): (str(site), unit, effort) for key, site, unit, effort in fished if effort is not None}, species_of(programme)[species],
    )  # fmt: skip


def _along_water(network: Network | None, of: MetFish, made: Journeys) -> tuple[NDArray[np.float64], NDArray[np.bool_]]:
    """Metres of each journey along the rivers' lines, straight where a place lies on none; and which are along them."""
    metres, along = made.distance_m.copy(), np.zeros(made.days.size, dtype=bool)
    known = np.flatnonzero(~np.isnan(metres))
    if network is None or not known.size:
        return metres, along
    start, end = made.start[known], made.end[known]
    from_lat, from_lon = of.met.begins
    begun = network.locate(from_lon[start], from_lat[start])
    ended = network.locate(of.met.lon[end], of.met.lat[end])
    on = (begun.off_m <= ON_RIVER_M) & (ended.off_m <= ON_RIVER_M)
    far = network.distances_m(begun, ended)
    used = on & np.isfinite(far)
    metres[known[used]] = far[used]
    along[known[used]] = True
    return metres, along


def _up_km(of: MetFish, made: Journeys) -> NDArray[np.float64]:
    water = np.array([str(of.sites[key].water_id) if key in of.sites else "" for key in of.site], dtype=str)
    same = (water[made.start] == water[made.end]) & (water[made.start] != "")
    return np.where(same, made.along_km, np.nan)
