"""Tablets on one outing see each other: whether it changed since a tablet last read it, at little cost."""

from __future__ import annotations

import hashlib

from django.db.models import Count, Sum

from nailwright.common.row_sums import BitXor, sum_over
from nailwright.deck.models import Capture, CaptureTally, Event, Outing, Photo, Release
from nailwright.tags.models import Placement, Scan

#: Seconds after which a tablet asks again; of an outing of very many fish less often, since every answer holds them all.
AGAIN_S, SELDOM_S, MANY_FISH = 4, 30, 1_500


def mark_of(outing: Outing) -> tuple[str, int]:
    """A mark that differs as soon as anything of the outing did that others can change, and how many fish it has.

    By sums over what the rows hold, not by times: of two entries that arrive together the later one may say the earlier time.
    """
    runs = outing.runs.order_by()
    tally = CaptureTally.objects.filter(programme_id=outing.programme_id, run_id__in=runs.values("pk"))
    fish = tally.aggregate(n=Sum("present"), sum=Sum("touch"), mark=BitXor("touch"), rows=Count("slot"))
    captures = Capture.objects.filter(run__outing=outing).order_by()
    gone = "deleted_at"
    told = (
        fish,
        sum_over(
            Outing.objects.filter(pk=outing.pk), ("state", "orders", "protocol_id", "checklists", "more_gears", "name")
        ),
        sum_over(runs, [field.attname for field in runs.model._meta.concrete_fields]),
        sum_over(
            Release.objects.filter(capture__run__outing=outing),
            ("id", "fate", "strength", "reason", "taken_to", "word", "device_time", gone),
        ),
        sum_over(
            Placement.objects.filter(capture_id__in=captures.values("pk")),
            ("id", "body_site", "quality", "living_tag", gone),
        ),
        sum_over(Scan.objects.filter(source_id__in=captures.values("pk")).order_by(), ("id", "number", "result", gone)),
        sum_over(
            Event.objects.filter(outing=outing), ("id", "kind", "details", "device_time", "capture_id", "run_id", gone)
        ),
        sum_over(
            outing.water_readings.order_by(), [f.attname for f in outing.water_readings.model._meta.concrete_fields]
        ),
        sum_over(Photo.objects.filter(outing=outing).order_by(), ("id", "shows", "note", "capture_id", gone)),
        sum_over(outing.signatures.order_by(), ("id",)),
        sum_over(outing.handovers.order_by(), ("id",)),
        sum_over(outing.targets.order_by(), ("id", "wanted", "from_mm", "zone_id")),
    )
    return hashlib.sha256(repr(told).encode()).hexdigest()[:32], int(fish["n"] or 0)


def again_after(fish: int) -> int:
    """Seconds after which a tablet is to ask again."""
    return SELDOM_S if fish > MANY_FISH else AGAIN_S
