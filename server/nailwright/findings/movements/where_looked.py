"""Movement against where people looked: zone to zone, and the scale of movement along a water."""

from __future__ import annotations

from collections import defaultdict
from typing import Any

import numpy as np
from numpy.typing import NDArray

from nailwright.findings.formatting import estimate_row, number
from nailwright.findings.movements.moved_fish import MovedFish
from nailwright_core.common.errors import CoreError
from nailwright_core.deck.gears import RATES
from nailwright_core.movements.kernel import laplace_kernel
from nailwright_core.movements.staying import ZoneMatrix, zone_matrix

#: Cells along a river, km, in which effort is counted for the kernel.
CELL_KM = 2.0


def zones_of(found: MovedFish, at: NDArray[np.int64]) -> dict[str, Any] | None:
    """Zone to zone, of fish that crews met with effort of the most common unit; None where none lies in two zones that are known."""
    unit = _unit(found)
    caught = _met_with(found, at, unit)
    ends = [(found.of.zone_of(int(found.made.start[j])), found.of.zone_of(int(found.made.end[j]))) for j in caught]
    ends = [(a, b) for a, b in ends if a and b]
    by_zone: dict[str, float] = defaultdict(float)
    for key, of_unit, effort in found.effort.values():
        if of_unit == unit and key in found.of.sites and (zone := found.of.zone_name(found.of.sites[key])):
            by_zone[zone] += effort
    if not ends:
        return None
    zones = sorted(
        {each for pair in ends for each in pair} | {name for name, spent in by_zone.items() if spent},
        key=lambda name: _start_of(found, name),
    )
    place = {name: n for n, name in enumerate(zones)}
    told: ZoneMatrix = zone_matrix(
        [place[a] for a, _ in ends], [place[b] for _, b in ends], zones, [by_zone[name] for name in zones]
    )
    divide, per = RATES[unit]
    return {
        "zones": list(told.zones),
        "counts": told.counts.tolist(),
        "effort": (told.effort / divide).tolist(),
        "effort_unit": per,
        "corrected": [[number(100 * float(cell)) for cell in row] for row in told.corrected],
    }


def _met_with(found: MovedFish, at: NDArray[np.int64], unit: str) -> list[int]:
    """Journeys that ended in a run with effort of a unit: fish met otherwise do not belong beside it."""
    occasions = [found.effort.get(str(found.of.occasion[int(found.made.end[j])])) for j in at]
    return [int(j) for j, occasion in zip(at, occasions, strict=True) if occasion and occasion[1] == unit]


def _unit(found: MovedFish) -> str:
    """The unit in which most occasions count their effort: those of several cannot be added."""
    units = [unit for _, unit, _ in found.effort.values()]
    return max(set(units), key=units.count) if units else ""


def _start_of(found: MovedFish, zone: str) -> tuple[float, str]:
    starts = [
        site.zone.start_m
        for site in found.of.sites.values()
        if site.zone and found.of.zone_name(site) == zone and site.zone.start_m is not None
    ]
    return (min(starts) if starts else np.inf, zone)


def scale_of(found: MovedFish, at: NDArray[np.int64]) -> tuple[dict[str, Any] | None, str]:
    """The kernel's scale along the water of most journeys; or why there is none."""
    sites, unit = found.of.sites, _unit(found)
    chosen = [j for j in _met_with(found, at, unit) if not np.isnan(found.up_km[j])]
    waters = [sites[str(found.of.site[int(found.made.start[j])])].water for j in chosen]
    if not waters:
        return None, "No two places lie on one water with kilometres."
    keys = [water.pk for water in waters]
    water = waters[keys.index(max(set(keys), key=keys.count))]
    here = [j for j, key in zip(chosen, keys, strict=True) if key == water.pk]
    km = [site.river_km for site in sites.values() if site.water_id == water.pk and site.river_km is not None]
    first = CELL_KM * np.floor(min(km) / CELL_KM)
    edges = np.arange(first, max(km) + 2 * CELL_KM, CELL_KM)
    effort = np.zeros(edges.size - 1)
    for key, of_unit, spent in found.effort.values():
        site = sites.get(key)
        if of_unit == unit and site and site.water_id == water.pk and site.river_km is not None:
            effort[int((site.river_km - first) // CELL_KM)] += spent
    cells = [int((found.of.met.river_km[int(found.made.end[j])] - first) // CELL_KM) for j in here]
    released = [float(found.of.met.river_km[int(found.made.start[j])]) for j in here]
    try:
        told = laplace_kernel(released, cells, edges, effort)
    except CoreError as error:
        return None, error.message
    return {
        "water": water.name,
        "scale": estimate_row("Mean distance along the water", "km", told.scale),
        "unadjusted": told.unadjusted,
        "unseen": 100 * told.unseen,
    }, ""
