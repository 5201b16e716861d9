"""Which captures were given a tag, and how many of a zone and length against the protocol's quotas."""

from __future__ import annotations

from typing import Any

from django.db.models import Exists, OuterRef

from nailwright.deck.models import Capture, Outing
from nailwright.programmes.protocols import protocol_in
from nailwright.tags.models import Placement


def marked() -> Exists:
    """A condition on captures: a tag was placed, and that stands."""
    return Exists(Placement.present.filter(capture_id=OuterRef("pk")))


def quotas_of(outing: Outing) -> list[dict[str, Any]]:
    """The quotas that an outing goes by, each with the fish tagged in other outings of its year."""
    elsewhere = (
        Capture.present.filter(marked(), programme=outing.programme_id, run__outing__date__year=outing.date.year)
        .exclude(run__outing=outing)
        .exclude(run__deleted_at__isnull=False)
    )
    found = []
    for row in protocol_in(outing.protocol).rows("quotas"):
        fish = elsewhere.filter(species=row["species"]) if row["species"] else elsewhere
        if row["zone"]:
            fish = fish.filter(run__site__reach__iexact=row["zone"])
        if row["from_mm"]:
            fish = fish.filter(length_mm__gte=row["from_mm"])
        if row["to_mm"] is not None:
            fish = fish.filter(length_mm__lt=row["to_mm"])
        found.append({**row, "placed": fish.count()})
    return found
