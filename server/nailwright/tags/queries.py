"""What is known of marked fish."""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime
from typing import Any
from uuid import UUID

import numpy as np
from django.apps import apps
from django.utils import timezone

from nailwright.programmes.models import Programme, Site
from nailwright.tags.models import Fish, Placement, Tag
from nailwright_core.movements.journeys import DAYS_PER_MONTH, SECONDS_PER_DAY, Encounter, Journey, geodesic_m, journeys


def fish_by_number(programme: Programme, kind: str, numbers: Iterable[str]) -> dict[str, UUID]:
    """Which living fish carries each number."""
    placed = Placement.present.filter(tag__programme=programme, tag__kind=kind, tag__number__in=numbers).exclude(
        living_tag=None
    )
    return dict(placed.values_list("tag__number", "fish_id"))


def encounters_of(fish_ids: Iterable[UUID]) -> dict[UUID, list[tuple[Any, Encounter]]]:
    """Captures of each fish in order of time, each with its encounter as core takes it."""
    captures = (
        apps.get_model("deck", "Capture")
        .present.filter(fish__in=fish_ids, run__deleted_at=None)
        .select_related("run__site", "run__outing__water")
        .order_by("device_time")
    )
    found: dict[UUID, list[tuple[Any, Encounter]]] = defaultdict(list)
    for capture in captures:
        found[capture.fish_id].append((capture, _encounter(capture)))
    return found


def _encounter(capture: Any) -> Encounter:
    lat, lon = position_of(capture.run.site)
    return Encounter(
        fish=str(capture.fish_id),
        at=capture.device_time,
        lat=lat,
        lon=lon,
        river_km=capture.run.site.river_km,
        length_mm=capture.length_mm if capture.length_basis == "measured" else None,
        error_m=500.0,  # a site is a stretch, not a point
    )


def position_of(site: Site) -> tuple[float | None, float | None]:
    """Latitude and longitude of a site."""
    if not site.geometry or site.geometry.get("type") != "Point":
        return None, None
    lon, lat = site.geometry["coordinates"][:2]
    return lat, lon


def story_of(fish: Fish) -> dict[str, Any]:
    """A fish's life: marks, encounters, and the journeys between them."""
    met = encounters_of([fish.pk])[fish.pk]
    steps = {(each.end.at, each.end.lat): each for each in journeys([encounter for _, encounter in met])}
    return {
        "id": fish.pk,
        "species": fish.species,
        "marks": [
            {"kind": each.tag.kind, "number": each.tag.number, "placed_at": each.device_time}
            for each in fish.placements.filter(deleted_at=None).select_related("tag").order_by("device_time")
        ],
        "encounters": [
            {
                "capture": capture.pk,
                "at": capture.device_time,
                "time_zone": capture.run.outing.water.time_zone,
                "water": capture.run.outing.water.name,
                "site": capture.run.site.name,
                "river_km": capture.run.site.river_km,
                "length_mm": capture.length_mm,
                "mass_g": capture.mass_g,
                "journey": _step(steps.get((encounter.at, encounter.lat))),
            }
            for capture, encounter in met
        ],
    }


def _step(journey: Journey | None) -> dict[str, Any] | None:
    if journey is None:
        return None
    return {
        "days": round(journey.days, 2),
        "distance_m": _known(journey.distance_m),
        "moved": journey.moved,
        "along_km": _known(journey.along_km),
        "growth_mm": _known(journey.growth_mm),
        "growth_mm_month": _known(journey.growth_mm_month),
    }


def _known(value: float) -> float | None:
    return None if math.isnan(value) else round(value, 3)


def marks_for_deck(programme: Programme) -> dict[str, Any]:
    """Every number a reader may meet: fish with their last encounter, tags in stock, and how far apart sites lie.

    Distances and spans of time are worked out here, so that the tablet only looks them up.
    """
    carried: dict[UUID, list[dict[str, str]]] = defaultdict(list)
    placed = Placement.present.filter(tag__programme=programme).exclude(living_tag=None)
    for fish, kind, number in placed.values_list("fish_id", "tag__kind", "tag__number"):
        carried[fish].append({"kind": kind, "number": number})
    met = _met(programme)
    sites = list(Site.objects.filter(water__programme=programme).select_related("water"))
    return {
        "stock": list(
            programme.tags.filter(state=Tag.State.STOCK).order_by("kind", "number").values("kind", "number", "batch")
        ),
        "fish": [
            {
                "id": fish,
                "species": species,
                "marks": carried[fish],
                "times_met": len(met[fish]),
                "last": _last(met[fish]),
            }
            for fish, species in Fish.objects.filter(pk__in=carried).values_list("pk", "species")
            if met[fish]
        ],
        "sites": [
            {
                "id": site.pk,
                "name": site.name,
                "water": site.water.name,
                "river_km": site.river_km,
                "distances_m": distances,
            }
            for site, distances in zip(sites, _distances(sites), strict=True)
        ],
    }


@dataclass(frozen=True)
class _Met:
    at: datetime
    outing: UUID
    site: UUID
    length_mm: float | None


def _met(programme: Programme) -> dict[UUID, list[_Met]]:
    """Encounters of every marked fish in order of time."""
    captures = (
        apps.get_model("deck", "Capture").present.filter(programme=programme, run__deleted_at=None).exclude(fish=None)
    )
    columns = ("fish_id", "device_time", "run__outing_id", "run__site_id", "length_mm", "length_basis")
    found: dict[UUID, list[_Met]] = defaultdict(list)
    for fish, at, outing, site, length, basis in captures.order_by("device_time").values_list(*columns):
        found[fish].append(_Met(at, outing, site, length if basis == "measured" else None))
    return found


def _last(met: list[_Met]) -> dict[str, Any]:
    last = met[-1]
    measured = next((each for each in reversed(met) if each.length_mm is not None), None)
    return {
        "at": last.at,
        "outing": last.outing,
        "site": last.site,
        "days": round(_days_since(last.at), 2),
        "length_mm": measured.length_mm if measured else None,
        "months": round(_days_since(measured.at) / DAYS_PER_MONTH, 4) if measured else None,
    }


def _days_since(moment: datetime) -> float:
    return (timezone.now() - moment).total_seconds() / SECONDS_PER_DAY


def _distances(sites: list[Site]) -> list[dict[str, float]]:
    """For each site the distance to every site with a position, m."""
    places = [position_of(site) for site in sites]
    known = [place for place, (lat, _) in enumerate(places) if lat is not None]
    lat, lon = np.array([places[place] for place in known], dtype=float).reshape(-1, 2).T
    metres = geodesic_m(lat[:, None], lon[:, None], lat[None, :], lon[None, :]).round(0)
    rows = {
        place: {str(sites[other].pk): value for other, value in zip(known, row, strict=True)}
        for place, row in zip(known, metres.tolist(), strict=True)
    }
    return [rows.get(place, {}) for place in range(len(sites))]
