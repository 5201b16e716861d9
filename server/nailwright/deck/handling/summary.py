"""The row that sums up what was done to each fish: kept true beside its events, which stay what was recorded."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable
from dataclasses import asdict
from typing import Any
from uuid import UUID

from nailwright.deck.models import Capture, Event, Handling
from nailwright.programmes.models import Programme
from nailwright.programmes.protocols import protocol_in
from nailwright_core.deck.handled import FishEvent, handled
from nailwright_core.protocol import lanes_of

_AT_ONCE = 2000
_FIELDS = [field.attname for field in Handling._meta.concrete_fields if not field.primary_key]


def renew_handling(captures: Iterable[UUID]) -> int:
    """Make the sums of these captures true; returns how many rows that took."""
    keys = list(captures)
    # two tablets that say something of one fish at once wait for each other here, so that the later sum holds both
    list(Capture.objects.select_for_update().filter(pk__in=keys).order_by("pk").values_list("pk"))
    recorded: dict[UUID, list[FishEvent]] = defaultdict(list)
    events = Event.present.filter(capture__in=keys, capture__deleted_at=None, capture__run__deleted_at=None)
    for capture, kind, fields, at in events.values_list("capture_id", "kind", "details", "device_time"):
        recorded[capture].append(FishEvent(at.timestamp(), kind, fields))
    there = {row.pk: row for row in Handling.objects.filter(pk__in=keys)}
    gone = there.keys() - recorded.keys()
    if not recorded and not gone:
        return 0
    fish = Capture.objects.filter(pk__in=recorded).select_related("release", "run__outing__protocol")
    now = [_summed(each, recorded[each.pk]) for each in fish]
    made = [row for row in now if row.pk not in there]
    changed = [row for row in now if row.pk in there and _cells(row) != _cells(there[row.pk])]
    Handling.objects.filter(pk__in=gone).delete()
    Handling.objects.bulk_create(made)
    if changed:
        Handling.objects.bulk_update(changed, _FIELDS)
    return len(gone) + len(made) + len(changed)


def rebuild_handling(programme: Programme | None = None) -> int:
    """Make the sums of a programme's fish, or of all, true.

    Returns:
        How many were not; 0 over true rows.
    """
    events, rows = Event.objects.exclude(capture=None), Handling.objects.all()
    if programme:
        events, rows = events.filter(capture__programme=programme), rows.filter(capture__programme=programme)
    keys = {*events.order_by().values_list("capture_id", flat=True).distinct(), *rows.values_list("pk", flat=True)}
    ordered = sorted(keys, key=str)
    return sum(renew_handling(ordered[start : start + _AT_ONCE]) for start in range(0, len(ordered), _AT_ONCE))


def _summed(capture: Capture, recorded: list[FishEvent]) -> Handling:
    release = getattr(capture, "release", None)
    left = release if release and release.deleted_at is None else None
    lanes = lanes_of(protocol_in(capture.run.outing.protocol))
    found = handled(capture.device_time.timestamp(), recorded, left and left.device_time.timestamp(), lanes)
    cells = {name: list(value) if isinstance(value, tuple) else value for name, value in asdict(found).items()}
    return Handling(
        capture=capture, **cells, disposition=left.fate if left else "", condition=left.strength if left else None
    )


def _cells(row: Handling) -> list[Any]:
    """A double goes to the database and back without loss, but a sum of times may differ in its last digits by their order."""
    cells = (getattr(row, name) for name in _FIELDS)
    return [round(cell, 6) if isinstance(cell, float) else cell for cell in cells]
