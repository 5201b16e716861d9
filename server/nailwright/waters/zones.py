"""Zones by their names."""

from __future__ import annotations

from uuid import UUID, uuid5

from nailwright.waters.models import Water, Zone


def zone_called(water: Water, name: str) -> Zone | None:
    """The zone of a water that is so called; made, without a place along the line, where there is none yet. None for no name."""
    name = name.strip()
    if not name:
        return None
    known = Zone.present.filter(water=water, kind=Zone.Kind.ZONE, name__iexact=name).order_by("start_m", "pk").last()
    return known or Zone.objects.create(water=water, name=name)


def key_of_named_zone(water: UUID, name: str) -> UUID:
    """Key of a zone that only its sites named (before version 0.10): the same each time, so that an archive imported twice, or
    beside the migrated programme, adds it once."""
    return uuid5(water, f"zone {name.strip().lower()}")
