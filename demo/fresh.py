"""Tonight's fish are as long aboard as when the demo was made, whenever somebody first looks at them."""

from __future__ import annotations

from datetime import datetime, timedelta
from zoneinfo import ZoneInfo

from django.db import transaction
from django.db.models import F, Max
from django.utils import timezone

from nailwright.deck.encounters import renew_encounters, renew_occasions
from nailwright.deck.models import Capture, Event, Outing, Release, Run, Signature, WaterReading
from nailwright.programmes.models import Programme, Receipt
from nailwright.tags.models import Placement, Scan

#: Sooner than this nobody sees a difference.
_LEAST = timedelta(minutes=1)
#: From the last fish that was called to when the demo was made, as ``load`` has it.
_SINCE_LAST = timedelta(seconds=20)


@transaction.atomic
def freshen(now: datetime | None = None) -> timedelta | None:
    """Move tonight's outing up to now, where nobody has worked on the demo yet.

    Returns:
        By how much; None where it stays.
    """
    programme = Programme.objects.select_for_update().filter(demo=True).first()
    if programme is None or Receipt.objects.filter(programme=programme).exists():
        return None
    tonight = programme.outings.filter(state=Outing.State.OPEN).order_by("-date").first()
    last = Capture.objects.filter(run__outing=tonight).aggregate(last=Max("device_time"))["last"] if tonight else None
    now = now or timezone.now()
    if tonight is None or last is None or now - last - _SINCE_LAST < _LEAST:
        return None
    by = now - last - _SINCE_LAST
    fish = list(Capture.objects.filter(run__outing=tonight).values_list("pk", flat=True))
    runs = list(Run.objects.filter(outing=tonight).values_list("pk", flat=True))
    for rows in (
        Capture.objects.filter(pk__in=fish), Event.objects.filter(outing=tonight), Release.objects.filter(capture__in=fish),
        Scan.objects.filter(source_id__in=fish), Placement.objects.filter(capture_id__in=fish),
        WaterReading.objects.filter(outing=tonight),
    ):  # fmt: skip
        rows.update(device_time=F("device_time") + by, server_time=F("server_time") + by)
    Run.objects.filter(pk__in=runs).update(
        **{name: F(name) + by for name in ("started_at", "ended_at", "device_time", "server_time")}
    )
    Signature.objects.filter(outing=tonight).update(at=F("at") + by)
    day = now.astimezone(ZoneInfo(tonight.water.time_zone)).date()
    Outing.objects.filter(pk=tonight.pk).update(date=max(day, tonight.date))
    renew_occasions(runs)
    renew_encounters(fish)
    return by
