"""Captures of known fish as encounters."""

from __future__ import annotations

from collections.abc import Iterable
from uuid import UUID

from nailwright.deck.models import Capture
from nailwright.tags.encounters import replace_encounters
from nailwright.tags.models import Encounter

#: A site is a stretch, not a point.
SITE_ERROR_M = 500.0


def renew_encounters(captures: Iterable[UUID]) -> int:
    """Make the encounters of these captures true; returns how many rows that took."""
    keys = list(captures)
    known = Capture.present.filter(pk__in=keys, run__deleted_at=None).exclude(fish=None)
    now = [_encounter(each) for each in known.select_related("run__site")]
    return replace_encounters(Encounter.Kind.CAPTURE, keys, now)


def rebuild_encounters(batch: int = 2000) -> int:
    """Make all encounters of captures true; returns how many rows were not. 0 over a true table."""
    wrong = 0
    keys: list[UUID] = []
    of_fish = set(Capture.objects.exclude(fish=None).values_list("pk", flat=True))
    told = set(Encounter.objects.filter(kind=Encounter.Kind.CAPTURE).values_list("source_id", flat=True))
    for key in sorted(of_fish | told, key=str):
        keys.append(key)
        if len(keys) == batch:
            wrong += renew_encounters(keys)
            keys.clear()
    return wrong + renew_encounters(keys)


def _encounter(capture: Capture) -> Encounter:
    lat, lon = capture.run.site.position
    measured = Capture.Basis.MEASURED
    assert capture.fish_id is not None
    return Encounter(
        fish_id=capture.fish_id,
        kind=Encounter.Kind.CAPTURE,
        source_id=capture.pk,
        outing_id=capture.run.outing_id,
        at=capture.device_time,
        site_id=capture.run.site_id,
        lat=lat,
        lon=lon,
        error_m=SITE_ERROR_M,
        length_mm=capture.length_mm if capture.length_basis == measured else None,
        mass_g=capture.mass_g if capture.mass_basis == measured else None,
    )
