"""Captures of known fish as encounters, and runs as occasions."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from typing import Any
from uuid import UUID

from django.db.models import QuerySet

from nailwright.deck.models import Capture, Event, Release, Run
from nailwright.deck.runs.effort import effort_of_run
from nailwright.programmes.models import Programme
from nailwright.tags.actions import unknown_fish
from nailwright.tags.encounters import replace_encounters, replace_occasions
from nailwright.tags.models import Encounter, Occasion, Scan
from nailwright.tags.scans import Read

#: A site is a stretch, not a point.
SITE_ERROR_M = 500.0
#: A position that does not say how near it is (common practice, no source).
POSITION_ERROR_M = 20.0
#: Events that say where or how a meeting ended.
HOW_IT_ENDED = ("let_go", "way_down")
_AT_ONCE = 2000
#: How a fish that left stands in its history. One that escaped before its release swims on as a released one does.
_DISPOSITIONS = {
    Release.Fate.RELEASED: Encounter.Disposition.RELEASED,
    Release.Fate.ESCAPED: Encounter.Disposition.RELEASED,
    Release.Fate.DEAD: Encounter.Disposition.DEAD,
    Release.Fate.KEPT: Encounter.Disposition.RETAINED,
    Release.Fate.TAKEN: Encounter.Disposition.RETAINED,
}


def renew_encounters(captures: Iterable[UUID]) -> int:
    """Make the encounters of these captures true; returns how many rows that took."""
    keys = list(captures)
    known = Capture.present.filter(pk__in=keys, run__deleted_at=None).exclude(fish=None)
    met = list(known.select_related("run__site", "release"))
    recorded: dict[UUID | None, dict[str, dict[str, Any]]] = {each.pk: {} for each in met}
    events = Event.present.filter(capture__in=met, kind__in=HOW_IT_ENDED).order_by("device_time", "id")
    for event in events:  # the last of each kind stands
        recorded[event.capture_id][event.kind] = event.details
    now = [_encounter(each, recorded[each.pk]) for each in met]
    return replace_encounters(Encounter.Kind.CAPTURE, keys, now)


def renew_occasions(runs: Iterable[UUID]) -> int:
    """Make the occasions of these runs true; returns how many rows that took."""
    keys = list(runs)
    there = Run.present.filter(pk__in=keys).select_related("outing__water")
    return replace_occasions(Occasion.Kind.RUN, keys, [_occasion(each) for each in there])


def rebuild_encounters(programme: Programme | None = None) -> int:
    """Make the encounters of captures and the occasions of runs true, of one programme or of all.

    Returns:
        How many rows were not; 0 over true tables.
    """

    def keys(rows: QuerySet, of_programme: str, column: str = "pk") -> set[UUID]:
        return set((rows.filter(**{of_programme: programme}) if programme else rows).values_list(column, flat=True))

    of_fish = keys(Capture.objects.exclude(fish=None), "programme")
    told = keys(Encounter.objects.filter(kind=Encounter.Kind.CAPTURE), "fish__programme", "source_id")
    fished = keys(Run.objects.all(), "outing__programme")
    noted = keys(Occasion.objects.filter(kind=Occasion.Kind.RUN), "programme")
    return _in_turn(of_fish | told, renew_encounters) + _in_turn(fished | noted, renew_occasions)


def link_unknown_tags(programme: Programme | None = None) -> int:
    """Give captures with another programme's tag the fish that carries it: those of before 0.10 had none. How many that were."""
    bare = Capture.present.filter(scanned=Capture.Scanned.FOREIGN, fish=None).order_by("device_time", "id")
    linked = 0
    for capture in (bare.filter(programme=programme) if programme else bare).select_related("programme"):
        scans = list(Scan.present.filter(source_id=capture.pk, result=Scan.Result.FOREIGN, fish=None))
        if not scans:
            continue
        reads = [Read(each.kind, each.number) for each in scans]
        (fish,) = unknown_fish(capture.programme, [(reads, capture.species)])
        Scan.objects.filter(pk__in=[each.pk for each in scans]).update(fish=fish)
        Capture.objects.filter(pk=capture.pk).update(fish=fish)
        renew_encounters([capture.pk])
        linked += 1
    return linked


def _in_turn(keys: set[UUID], renew: Callable[[Iterable[UUID]], int]) -> int:
    ordered = sorted(keys, key=str)
    return sum(renew(ordered[start : start + _AT_ONCE]) for start in range(0, len(ordered), _AT_ONCE))


def _encounter(capture: Capture, recorded: dict[str, dict[str, Any]]) -> Encounter:
    lat, lon = capture.run.site.position
    measured = Capture.Basis.MEASURED
    assert capture.fish_id is not None
    return Encounter(
        fish_id=capture.fish_id,
        kind=Encounter.Kind.CAPTURE,
        source_id=capture.pk,
        outing_id=capture.run.outing_id,
        occasion_id=capture.run_id,
        at=capture.device_time,
        site_id=capture.run.site_id,
        lat=lat,
        lon=lon,
        error_m=SITE_ERROR_M,
        length_mm=capture.length_mm if capture.length_basis == measured else None,
        mass_g=capture.mass_g if capture.mass_basis == measured else None,
        **_left(capture, recorded, lat, lon),
    )


def _left(
    capture: Capture, recorded: dict[str, dict[str, Any]], lat: float | None, lon: float | None
) -> dict[str, Any]:
    """How the meeting ended. A boat lets go where it fishes, within the site, unless a position was said."""
    release = getattr(capture, "release", None)
    if release is None or release.deleted_at:
        return {}
    disposition = _DISPOSITIONS[Release.Fate(release.fate)]
    if recorded.get("way_down", {}).get("outcome") == "predator":
        disposition = Encounter.Disposition.DEAD
    place = recorded.get("let_go", {})
    if disposition != Encounter.Disposition.RELEASED:
        return {"disposition": disposition}
    return {
        "disposition": disposition,
        "let_go_at": release.device_time,
        "let_go_lat": place.get("lat", lat),
        "let_go_lon": place.get("lon", lon),
        "let_go_error_m": place.get("within_m", POSITION_ERROR_M) if "lat" in place else SITE_ERROR_M,
    }


def _occasion(run: Run) -> Occasion:
    effort = effort_of_run(run)
    return Occasion(
        id=run.pk,
        programme_id=run.outing.programme_id,
        kind=Occasion.Kind.RUN,
        outing_id=run.outing_id,
        site_id=run.site_id,
        gear=run.gear,
        day=run.outing.date,
        began_at=run.started_at,
        ended_at=run.ended_at,
        effort=effort.value,
        effort_unit=effort.unit,
        distance_m=run.distance_m,
    )
