"""Sites as fixed ground: a new place is a new site with a name of its own."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import count
from typing import Any

from nailwright.programmes.record.audit import Act, apply_change
from nailwright.waters.models import Site, Water, Zone


def point_of(point: tuple[float, float]) -> dict[str, Any]:
    """A point (longitude, latitude) as GeoJSON, to a decimetre."""
    return {"type": "Point", "coordinates": [round(point[0], 6), round(point[1], 6)]}


def is_at(site: Site, river_km: float, geometry: dict[str, Any]) -> bool:
    """Whether a site that is in use lies just there."""
    return site.retired_at is None and site.river_km == river_km and site.geometry == geometry


def make_site(water: Water, name: str, zone: Zone | None, river_km: float, geometry: dict[str, Any]) -> Site:
    """A new site. Where the name is in use on this water, or fish were recorded under it, a letter is added."""
    taken = {each.lower() for each in water.sites.values_list("name", flat=True)}
    free = next(each for each in _names(name) if each.lower() not in taken)
    return Site.objects.create(water=water, name=free, zone=zone, river_km=river_km, geometry=geometry)


def retire(act: Act, site: Site) -> None:
    """Nobody goes to a site any more. One where nothing was ever recorded goes altogether; else it stays with its past."""
    if not site.runs.exists():
        site.delete()
    else:
        apply_change(act.part(site.pk), site.water.programme, site, {"retired_at": act.device_time})


def _names(name: str) -> Iterator[str]:
    yield name
    for letter in "bcdefghijklmnopqrstuvwxyz":
        yield f"{name[:58]}{letter}"
    for number in count(2):
        yield f"{name[:52]} {number}"
