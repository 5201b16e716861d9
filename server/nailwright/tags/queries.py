"""What is known of marked fish."""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Iterable, Sequence
from datetime import UTC, datetime
from typing import Any, NamedTuple
from uuid import UUID

import numpy as np
from django.db.models import Q, QuerySet
from django.utils import timezone
from numpy.typing import NDArray

from nailwright.common.below_orm import read_rows
from nailwright.programmes.models import Programme
from nailwright.programmes.places import EVERYWHERE, Places
from nailwright.tags.exchange import whose_marks
from nailwright.tags.models import Encounter as Met
from nailwright.tags.models import Fish, Placement, Scan, Tag, TagIssue, TagState
from nailwright.tags.one_fish import joined_with
from nailwright.waters.models import Site, Water
from nailwright_core.movements.journeys import DAYS_PER_MONTH, SECONDS_PER_DAY, Encounters, Journeys, journeys
from nailwright_core.waters.geodesics import local_plane


def columns_of(met: Sequence[Met]) -> Encounters:
    """Encounters, saved or not, as core takes them."""

    def numbers(values: Iterable[float | None]) -> NDArray[np.float64]:
        return np.array(list(values), dtype=np.float64)  # what is not known becomes nan

    return Encounters(
        fish=np.array([str(each.fish_id) for each in met], dtype=str),
        at=np.array([each.at.astimezone(UTC).replace(tzinfo=None) for each in met], dtype="datetime64[us]"),
        lat=numbers(each.lat for each in met),
        lon=numbers(each.lon for each in met),
        river_km=numbers(each.site.river_km if each.site else None for each in met),
        length_mm=numbers(each.length_mm for each in met),
        error_m=numbers(each.error_m or 0.0 for each in met),
        left_lat=numbers(each.let_go_lat for each in met),
        left_lon=numbers(each.let_go_lon for each in met),
        left_error_m=numbers(each.let_go_error_m for each in met),
        gone=np.array([each.disposition in Met.LOSSES for each in met], dtype=bool),
    )


def story_of(fish: Fish, places: Places = EVERYWHERE) -> dict[str, Any]:
    """A fish's life: marks, encounters, and the journeys between them; without the sites that are not to be shown."""
    met = list(Met.objects.filter(fish=fish).select_related("site__water").order_by("at", "id"))
    made = journeys(columns_of(met))
    steps = {int(end): place for place, end in enumerate(made.end)}
    shown = [places.show(each.site_id, fish.species) for each in met]
    return {
        "id": fish.pk,
        "species": fish.species,
        "joined": list(joined_with(fish)),
        "whose": whose_marks(
            fish.programme, {(kind, number) for _, kind, number in _unknown_numbers(fish.programme).filter(fish=fish)}
        ),
        "marks": [
            {
                "kind": each.tag.kind,
                "number": each.tag.number,
                "placed_at": each.device_time,
                "state": each.tag.state,
                "body_site": each.body_site,
                "quality": each.quality,
            }
            for each in fish.placements.filter(deleted_at=None).select_related("tag").order_by("device_time")
        ]
        + [
            {
                "kind": kind,
                "number": number,
                "placed_at": None,
                "state": TagState.ELSEWHERE,
                "body_site": "",
                "quality": "",
            }
            for _, kind, number in _unknown_numbers(fish.programme).filter(fish=fish)
        ],
        "encounters": [
            {
                "kind": each.kind,
                "source": each.source_id,
                "at": each.at,
                "time_zone": each.site.water.time_zone if each.site else "UTC",
                "water": each.site.water.name if each.site else "",
                "site": places.name(each.site.pk, each.site.name, fish.species) if each.site else "",
                "river_km": each.site.river_km if each.site and shown[place] else None,
                "lat": each.lat if shown[place] else None,
                "lon": each.lon if shown[place] else None,
                "length_mm": each.length_mm,
                "mass_g": each.mass_g,
                "disposition": each.disposition,
                "let_go_at": each.let_go_at,
                "journey": _step(made, steps[place], shown[place] and shown[place - 1]) if place in steps else None,
            }
            for place, each in enumerate(met)
        ],
    }


def _step(made: Journeys, place: int, shown: bool) -> dict[str, Any]:
    return {
        "days": round(float(made.days[place]), 2),
        "distance_m": _known(made.distance_m[place]) if shown else None,
        "moved": str(made.moved[place]),
        "along_km": _known(made.along_km[place]) if shown else None,
        "growth_mm": _known(made.growth_mm[place]),
        "growth_mm_month": _known(made.growth_mm_month[place]),
    }


def _known(value: float) -> float | None:
    return None if math.isnan(value) else round(float(value), 3)


#: As many tags in stock, and fish, go to every tablet; of more only what was handed out, and fish of the water.
MOST_STOCK, MOST_FISH = 5_000, 30_000


def _stock_for_deck(programme: Programme, outing_id: UUID | None) -> QuerySet[Tag]:
    """Tags that a crew may have with it: those handed out to the outing, or to a person or a boat, who may be on it; and the stock
    itself where it is small, so that nobody has to hand out anything on a first evening."""
    elsewhere = TagIssue.objects.filter(returned_at=None).exclude(outing_id=None).exclude(outing_id=outing_id)
    issued = programme.tags.filter(state=TagState.ISSUED).exclude(issues__in=elsewhere)
    in_stock = programme.tags.filter(state=TagState.STOCK)
    if in_stock[: MOST_STOCK + 1].count() > MOST_STOCK:
        return issued
    return programme.tags.filter(Q(pk__in=issued.values("pk")) | Q(state=TagState.STOCK))


def marks_for_deck(programme: Programme, water: Water, outing_id: UUID | None = None) -> dict[str, Any]:
    """Every number a reader may meet: fish with their last encounter, tags that may be placed, and the sites that this may need.

    Spans of time are worked out here; of the outing's own water the sites' places are told, so that the tablet has their
    distances, and of other waters only the names of sites where a fish was last met. Plain values, as
    ``DeckMarksSerializer`` has them: a programme may have many thousands of marked fish (bin/bench).
    """
    carried: dict[str, list[dict[str, Any]]] = defaultdict(list)
    placed = Placement.present.filter(tag__programme=programme).exclude(living_tag=None)
    for fish, kind, number in read_rows(placed.values_list("fish_id", "tag__kind", "tag__number").order_by()):
        carried[fish].append({"kind": kind, "number": number, "unknown": False})
    for fish, kind, number in read_rows(_unknown_numbers(programme)):
        carried[fish].append({"kind": kind, "number": number, "unknown": True})
    met = _met(programme)
    if len(met) > MOST_FISH:
        here = {str(key) for key in Site.objects.filter(water=water).values_list("pk", flat=True)}
        met = {fish: times for fish, times in met.items() if any(each.site in here for each in times)}
    now = timezone.now()
    fish_told = [
        {
            "id": fish,
            "species": species,
            "marks": carried[fish],
            "times_met": len(met[fish]),
            "last": _last(met[fish], now),
        }
        for fish, species in read_rows(Fish.objects.filter(programme=programme).values_list("id", "species"))
        if fish in carried and fish in met
    ]
    there = {each["last"]["site"] for each in fish_told}
    sites = Site.objects.filter(water__programme=programme).select_related("water")
    return {
        "stock": [
            {"kind": kind, "number": number, "batch": batch or ""}
            for kind, number, batch in _stock_for_deck(programme, outing_id)
            .order_by("kind", "number")
            .values_list("kind", "number", "batch__name")
        ],
        "fish": fish_told,
        "sites": _sites([each for each in sites if each.water_id == water.pk or str(each.pk) in there], water),
    }


def _unknown_numbers(programme: Programme) -> QuerySet[Scan, tuple[UUID, str, str]]:
    """Numbers that nobody here placed, of fish that are known by them."""
    read = Scan.present.filter(programme=programme, result=Scan.Result.FOREIGN).exclude(fish=None)
    return read.order_by().values_list("fish_id", "kind", "number").distinct()


def _sites(sites: list[Site], water: Water) -> list[dict[str, Any]]:
    """Sites as the deck wants them; those of ``water`` with metres east and north in a plane of its own."""
    here = [site for site in sites if site.water_id == water.pk and site.position[0] is not None]
    at: dict[UUID, tuple[float, float]] = {}
    if here:
        east, north = local_plane(*zip(*(site.position for site in here), strict=True))
        at = {site.pk: (round(x), round(y)) for site, x, y in zip(here, east, north, strict=True)}
    return [
        {
            "id": str(site.pk),
            "name": site.name,
            "water": site.water.name,
            "river_km": site.river_km,
            "east_m": at[site.pk][0] if site.pk in at else None,
            "north_m": at[site.pk][1] if site.pk in at else None,
        }
        for site in sites
    ]


class _Met(NamedTuple):
    at: datetime  # in UTC, without saying so
    outing: str | None
    site: str | None
    length_mm: float | None


def _met(programme: Programme) -> dict[str, list[_Met]]:
    """Encounters of every marked fish in order of time, by the fish's key."""
    found: dict[str, list[_Met]] = defaultdict(list)
    rows = Met.objects.filter(fish__programme=programme).order_by("at", "id")
    for fish, at, outing, site, length_mm in read_rows(
        rows.values_list("fish_id", "at", "outing_id", "site_id", "length_mm")
    ):
        found[fish].append(_Met(at, outing, site, length_mm))
    return found


def _last(met: list[_Met], now: datetime) -> dict[str, Any]:
    last = met[-1]
    measured = last if last.length_mm is not None else None
    if measured is None:
        measured = next((each for each in reversed(met) if each.length_mm is not None), None)
    return {
        "at": f"{last.at.isoformat()}Z",
        "outing": last.outing,
        "site": last.site,
        "days": round(_days_since(last.at, now), 2),
        "length_mm": measured.length_mm if measured else None,
        "months": round(_days_since(measured.at, now) / DAYS_PER_MONTH, 4) if measured else None,
    }


def _days_since(moment: datetime, now: datetime) -> float:
    return (now.replace(tzinfo=None) - moment).total_seconds() / SECONDS_PER_DAY
