"""Which captures were given a tag, and how many of a zone and length against the protocol's quotas."""

from __future__ import annotations

from typing import Any

from django.db.models import Exists, OuterRef, QuerySet

from nailwright.deck.models import Capture, Outing
from nailwright.programmes.protocols import protocol_in
from nailwright.tags.models import Placement
from nailwright_core.common.field import Cell


def marked() -> Exists:
    """A condition on captures: a tag was placed, and that stands."""
    return Exists(Placement.present.filter(capture_id=OuterRef("pk")))


def quotas_of(outing: Outing) -> list[dict[str, Any]]:
    """The quotas that an outing goes by, each with the fish tagged in other outings of its year."""
    elsewhere = (
        Capture.present.filter(programme=outing.programme_id, run__outing__date__year=outing.date.year)
        .exclude(run__outing=outing)
        .exclude(run__deleted_at__isnull=False)
    )
    rows = protocol_in(outing.protocol).rows("quotas")
    return [
        {
            **row,
            "placed": in_quota(elsewhere, row["species"], row["zone"], row["from_mm"], row["to_mm"]).count(),
        }
        for row in rows
    ]


def in_quota(captures: QuerySet[Capture], species: Cell, zone: Cell, from_mm: Cell, to_mm: Cell) -> QuerySet[Capture]:
    """Those that count within a quota: core's ``deck.counted.within_quota``."""
    fish = captures.filter(marked())
    if from_mm:
        fish = fish.filter(length_mm__gte=from_mm)
    if species:
        fish = fish.filter(species=species)
    if zone:
        fish = fish.filter(run__site__zone__name__iexact=zone)
    return fish if to_mm is None else fish.filter(length_mm__lt=to_mm)
