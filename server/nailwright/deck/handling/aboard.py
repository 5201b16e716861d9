"""Where the fish stand that are aboard now: how many, how many of them in the live well, how many netted and not called yet."""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from uuid import UUID

from nailwright.deck.handling.releases import aboard_of
from nailwright.deck.models import Capture, Event, Outing
from nailwright.programmes.protocols import protocol_in
from nailwright_core.deck.handled import FishEvent, moment_of
from nailwright_core.deck.lanes import Batch, Moment, share_batches, stand_of
from nailwright_core.protocol import lanes_of

WELL = "well"


@dataclass
class Aboard:
    """Fish of an outing that were called and have not left, how many of them are in the live well, and netted ones to call."""

    fish: int = 0
    in_well: int = 0
    to_call: int = 0


def aboard_now(outings: Sequence[Outing]) -> dict[UUID, Aboard]:
    """Where the fish of open outings stand, by outing."""
    found = {outing.pk: Aboard() for outing in outings}
    lanes = {outing.pk: lanes_of(protocol_in(outing.protocol)) for outing in outings}
    called = list(aboard_of(outings).values_list("pk", "run__outing", "device_time", "count"))
    moved = _moved([pk for pk, *_ in called])
    for pk, outing, came, count in called:
        found[outing].fish += count
        stand = stand_of(came.timestamp(), moved.get(pk, ()), math.inf, lanes[outing])
        found[outing].in_well += count if stand.lane == WELL else 0
    for outing, waiting in _to_call(outings).items():
        found[outing].to_call = waiting
    return found


def _moved(fish: list[UUID]) -> dict[UUID, list[Moment]]:
    moved: dict[UUID, list[Moment]] = defaultdict(list)
    said = Event.present.filter(capture__in=fish, kind="lane").values_list("capture", "kind", "said", "device_time")
    for capture, kind, fields, at in said:
        if moment := moment_of(FishEvent(at.timestamp(), kind, fields)):
            moved[capture].append(moment)
    return moved


def _to_call(outings: Sequence[Outing]) -> dict[UUID, int]:
    batches: dict[UUID, list[Batch]] = defaultdict(list)
    said = Event.present.filter(outing__in=outings, kind="batch", run__deleted_at=None)
    for outing, fields, at in said.values_list("outing", "said", "device_time"):
        batches[outing].append(Batch(at.timestamp(), int(fields["n"])))
    calls: dict[UUID, dict[str, tuple[float, int]]] = defaultdict(dict)
    fish = Capture.present.filter(run__outing__in=batches, run__deleted_at=None)
    for pk, outing, at, count in fish.values_list("pk", "run__outing", "device_time", "count"):
        calls[outing][str(pk)] = (at.timestamp(), count)
    return {outing: sum(share_batches(each, calls[outing])[1]) for outing, each in batches.items()}
