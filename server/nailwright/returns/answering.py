"""What a finder is told of the fish: when and where it was tagged, how far it went, how much it grew."""

from __future__ import annotations

import math
from typing import Any

from nailwright.programmes.places import public_places
from nailwright.programmes.species.known import species_of
from nailwright.returns.days import day_of
from nailwright.returns.encounters import encounter_of
from nailwright.returns.models import Card, Return
from nailwright.tags.models import Encounter, Placement
from nailwright.tags.queries import columns_of
from nailwright_core.movements.journeys import journeys

#: A distance below this is not told: where a finder touched the map is no fix.
LEAST_M = 1000.0


def may_be_told(report: Return) -> bool:
    """Whether what the report says fits the fish so far that its story may be told before anybody has looked."""
    if report.fish is None or report.tag is None or report.state == Return.State.REJECTED:
        return False
    return report.species in ("", report.fish.species)


def story_for_finder(report: Return) -> dict[str, Any] | None:
    """The story as the public page tells it; None where the report is of no fish that is known.

    Of a site that is not shown to everybody only the water is named, and no distance is told, from which a place could be worked out.
    """
    fish = report.fish
    if fish is None:
        return None
    kind = species_of(report.programme)[fish.species]
    first = _tagging(report)
    if first is None:
        return None
    met = Encounter.objects.filter(fish=fish).exclude(kind=Encounter.Kind.RETURN, source_id=report.pk)
    site = first.site
    shown = public_places(report.programme).show(first.site_id, fish.species)
    return {
        "species": kind.common_name,
        "scientific": kind.scientific_name,
        "tagged_on": day_of(report.programme, first.at),
        "water": site.water.name if site else "",
        "place": _place(first) if shown else "",
        "length_mm": first.length_mm,
        "times_met": met.count(),
        **_since(report, first, shown),
    }


def _place(first: Encounter) -> str:
    if first.site:
        return first.site.name
    card = Card.objects.filter(pk=first.source_id).first() if first.kind == Encounter.Kind.CARD else None
    return card.place_text if card else ""


def _tagging(report: Return) -> Encounter | None:
    """The meeting at which the tag was placed; the first one where that is not known."""
    met = Encounter.objects.filter(fish=report.fish).exclude(source_id=report.pk).select_related("site__water")
    placed = Placement.present.filter(fish=report.fish, tag=report.tag).order_by("device_time").first()
    if placed:
        here = met.filter(source_id=placed.capture_id).first()
        if here:
            return here
    return met.order_by("at", "id").first()


def _since(report: Return, first: Encounter, shown: bool) -> dict[str, Any]:
    if report.found_on is None:
        return {"days": None, "distance_m": None, "growth_mm": None}
    now = encounter_of(report)
    made = journeys(columns_of([first, now]))
    if len(made.days) == 0 or made.start[0] != 0:
        return {"days": None, "distance_m": None, "growth_mm": None}
    days = (report.found_on - day_of(report.programme, first.at)).days
    distance, growth = float(made.distance_m[0]), float(made.growth_mm[0])
    far = shown and not math.isnan(distance) and distance > max(LEAST_M, float(made.error_m[0]))
    return {
        "days": days,
        "distance_m": round(distance, -2) if far else None,
        "growth_mm": None if math.isnan(growth) else round(growth),
    }
