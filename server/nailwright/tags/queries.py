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
from django.db.models import Value
from django.db.models.functions import Coalesce
from django.utils import timezone

from nailwright.programmes.models import Programme
from nailwright.tags.models import Encounter as Met
from nailwright.tags.models import Fish, Placement, TagState
from nailwright.waters.models import Site
from nailwright_core.movements.journeys import DAYS_PER_MONTH, SECONDS_PER_DAY, Encounter, Journey, journeys
from nailwright_core.waters.geodesics import geodesic_m


def encounters_of(fish_ids: Iterable[UUID]) -> dict[UUID, list[tuple[Met, Encounter]]]:
    """Encounters of each fish in order of time, each with itself as core takes it."""
    found: dict[UUID, list[tuple[Met, Encounter]]] = defaultdict(list)
    for met in Met.objects.filter(fish__in=fish_ids).select_related("site__water").order_by("at", "id"):
        found[met.fish_id].append((met, _for_core(met)))
    return found


def _for_core(met: Met) -> Encounter:
    return Encounter(
        fish=str(met.fish_id),
        at=met.at,
        lat=met.lat,
        lon=met.lon,
        river_km=met.site.river_km if met.site else None,
        length_mm=met.length_mm,
        error_m=met.error_m or 0.0,
    )


def story_of(fish: Fish) -> dict[str, Any]:
    """A fish's life: marks, encounters, and the journeys between them."""
    met = encounters_of([fish.pk])[fish.pk]
    steps = {(step.end.at, step.end.lat): step for step in journeys([encounter for _, encounter in met])}
    return {
        "id": fish.pk,
        "species": fish.species,
        "marks": [
            {"kind": each.tag.kind, "number": each.tag.number, "placed_at": each.device_time}
            for each in fish.placements.filter(deleted_at=None).select_related("tag").order_by("device_time")
        ],
        "encounters": [
            {
                "kind": each.kind,
                "source": each.source_id,
                "at": each.at,
                "time_zone": each.site.water.time_zone if each.site else "UTC",
                "water": each.site.water.name if each.site else "",
                "site": each.site.name if each.site else "",
                "river_km": each.site.river_km if each.site else None,
                "length_mm": each.length_mm,
                "mass_g": each.mass_g,
                "journey": _step(steps.get((encounter.at, encounter.lat))),
            }
            for each, encounter in met
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
            programme.tags.filter(state=TagState.STOCK)
            .order_by("kind", "number")
            .values("kind", "number", batch_name=Coalesce("batch__name", Value("")))
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
    outing: UUID | None
    site: UUID | None
    length_mm: float | None


def _met(programme: Programme) -> dict[UUID, list[_Met]]:
    """Encounters of every marked fish in order of time."""
    found: dict[UUID, list[_Met]] = defaultdict(list)
    rows = Met.objects.filter(fish__programme=programme).order_by("at", "id")
    for fish, at, outing, site, length_mm in rows.values_list("fish_id", "at", "outing_id", "site_id", "length_mm"):
        found[fish].append(_Met(at, outing, site, length_mm))
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
    places = [site.position for site in sites]
    known = [place for place, (lat, _) in enumerate(places) if lat is not None]
    lat, lon = np.array([places[place] for place in known], dtype=float).reshape(-1, 2).T
    metres = geodesic_m(lat[:, None], lon[:, None], lat[None, :], lon[None, :]).round(0)
    rows = {
        place: {str(sites[other].pk): value for other, value in zip(known, row, strict=True)}
        for place, row in zip(known, metres.tolist(), strict=True)
    }
    return [rows.get(place, {}) for place in range(len(sites))]
