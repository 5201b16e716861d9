"""Where the fish stand that are aboard now: how many, how many of them in the live well, how many netted and not called yet."""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from uuid import UUID

from django.db.models import Sum

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
    aboard = aboard_of(outings)
    for outing, fish in aboard.order_by().values_list("run__outing").annotate(fish=Sum("count")):
        found[outing].fish = fish
    moved = _moved(outings)
    # an outing may hold thousands of fish, and few of them were put anywhere but where all of them come first
    told = aboard.filter(pk__in=moved).values_list("pk", "run__outing", "device_time", "count")
    elsewhere = {outing.pk: [each for each in told if each[1] == outing.pk] for outing in outings}
    for outing in outings:
        here, lanes = found[outing.pk], lanes_of(protocol_in(outing.protocol))
        first = stand_of(0.0, (), math.inf, lanes).lane == WELL
        here.in_well = here.fish if first else 0
        for pk, _, came, count in elsewhere[outing.pk]:
            now = stand_of(came.timestamp(), moved[pk], math.inf, lanes).lane == WELL
            here.in_well += count * (int(now) - int(first))
    for outing, waiting in _to_call(outings).items():
        found[outing].to_call = waiting
    return found


def _moved(outings: Sequence[Outing]) -> dict[UUID, list[Moment]]:
    """When fish of these outings were put into which lane."""
    moved: dict[UUID, list[Moment]] = defaultdict(list)
    events = Event.present.filter(outing__in=outings, kind="lane").exclude(capture=None)
    for capture, kind, fields, at in events.values_list("capture", "kind", "details", "device_time"):
        if moment := moment_of(FishEvent(at.timestamp(), kind, fields)):
            moved[capture].append(moment)
    return moved


def _to_call(outings: Sequence[Outing]) -> dict[UUID, int]:
    batches: dict[UUID, list[Batch]] = defaultdict(list)
    events = Event.present.filter(outing__in=outings, kind="batch", run__deleted_at=None)
    for outing, fields, at in events.values_list("outing", "details", "device_time"):
        batches[outing].append(Batch(at.timestamp(), int(fields["n"])))
    calls: dict[UUID, dict[str, tuple[float, int]]] = defaultdict(dict)
    fish = Capture.present.filter(run__outing__in=batches, run__deleted_at=None)
    for pk, outing, at, count in fish.values_list("pk", "run__outing", "device_time", "count"):
        calls[outing][str(pk)] = (at.timestamp(), count)
    return {outing: sum(share_batches(each, calls[outing])[1]) for outing, each in batches.items()}
