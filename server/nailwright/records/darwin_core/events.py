"""Where and how was sampled: outings, their runs, and where a marked fish was met by a volunteer or a finder."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import UTC
from typing import Any
from uuid import UUID, uuid5

from nailwright.deck.encounters import SITE_ERROR_M
from nailwright.deck.models import Gear, Outing, Run
from nailwright.programmes.models import Programme
from nailwright.programmes.places import Places
from nailwright.records.csv_rows import utc_text
from nailwright.tags.models import Encounter, Occasion

#: How a fish was met that no run of ours met.
_MET = {Encounter.Kind.CARD: "volunteer's card, rod and line", Encounter.Kind.RETURN: "report by whoever found the tag"}
_WITHHELD = "Place and time of day: a species whose places are protected was caught here"
_WITHHELD_SPECIES = "Place: the places of this species are protected"


@dataclass(frozen=True)
class Events:
    """Attributes:
    rows: of the core, by the names of their columns. runs: of each run its event's key. met: of each card's or report's row its event's key.
    """

    rows: list[dict[str, Any]]
    runs: dict[UUID, str]
    met: dict[UUID, str]


def events_of(programme: Programme, places: Places) -> Events:
    """Every event of a programme, as everybody may see it: what is secret has a key of its own, since ours tell the time."""
    stands = {"license": programme.licence, "bibliographicCitation": programme.citation}
    rows = [_outing(each) for each in programme.outings.select_related("water")]
    runs, met = {}, {}
    effort = {each.pk: each for each in Occasion.objects.filter(programme=programme, kind=Occasion.Kind.RUN)}
    for run in Run.present.filter(outing__programme=programme).select_related("outing__water", "site"):
        shown = places.show(run.site_id)
        runs[run.pk] = str(run.pk if shown else hidden_key(programme, run.pk))
        rows.append({"eventID": runs[run.pk], **_run(run, effort.get(run.pk), shown)})
    others = Encounter.objects.filter(fish__programme=programme, kind__in=_MET).select_related("fish")
    for each in others:
        shown = places.show(None, each.fish.species)
        met[each.source_id] = str(each.source_id if shown else hidden_key(programme, each.source_id))
        rows.append({"eventID": met[each.source_id], **_meeting(each, shown)})
    # not in the order in which they were made: that would tell between which others a secret one was
    rows.sort(key=lambda row: (row["eventDate"][:10], row["eventID"]))
    return Events([{**row, **stands} for row in rows], runs, met)


def hidden_key(programme: Programme, key: UUID) -> UUID:
    """A key in place of one of ours, which begin with the moment in which they were made."""
    return uuid5(programme.pk, str(key))


def _outing(outing: Outing) -> dict[str, Any]:
    return {
        "eventID": str(outing.pk),
        "eventDate": outing.date.isoformat(),
        "samplingProtocol": str(Gear(outing.gear).label),
        "waterBody": outing.water.name,
    }


def _run(run: Run, occasion: Occasion | None, shown: bool) -> dict[str, Any]:
    told = {
        "parentEventID": str(run.outing_id),
        "samplingProtocol": str(Gear(run.gear).label),
        "samplingEffort": f"{occasion.effort:g} {occasion.effort_unit}" if occasion and occasion.effort else "",
        "waterBody": run.outing.water.name,
    }
    if run.distance_m:
        told |= {"sampleSizeValue": f"{run.distance_m:g}", "sampleSizeUnit": "metre"}
    if not shown:
        return {**told, "eventDate": run.outing.date.isoformat(), "informationWithheld": _WITHHELD}
    return {
        **told,
        "eventDate": "/".join(utc_text(each) for each in (run.started_at, run.ended_at) if each),
        "locality": run.site.name,
        **_position(*run.site.position, SITE_ERROR_M),
    }


def _meeting(each: Encounter, shown: bool) -> dict[str, Any]:
    told = {
        "eventDate": each.at.astimezone(UTC).date().isoformat(),
        "samplingProtocol": _MET[Encounter.Kind(each.kind)],
    }
    return {
        **told,
        **(_position(each.lat, each.lon, each.error_m) if shown else {"informationWithheld": _WITHHELD_SPECIES}),
    }


def _position(lat: float | None, lon: float | None, error_m: float | None) -> dict[str, Any]:
    if lat is None or lon is None:
        return {}
    told = {"decimalLatitude": f"{lat:.6f}", "decimalLongitude": f"{lon:.6f}", "geodeticDatum": "EPSG:4326"}
    return {**told, **({"coordinateUncertaintyInMeters": f"{error_m:.0f}"} if error_m else {})}
