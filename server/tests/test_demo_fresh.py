"""Tonight's fish of the demo are fresh for whoever looks first, and stay as they are once somebody has worked."""

from __future__ import annotations

from datetime import timedelta

import pytest
from django.db.models import Max
from django.utils import timezone

from demo.fresh import freshen
from demo.load import load
from nailwright.common.rows import new_id
from nailwright.deck.encounters import rebuild_encounters
from nailwright.deck.models import Capture, Event, Outing, Run
from nailwright.programmes.models import Person, Receipt


@pytest.mark.django_db
def test_tonight_moves_up_to_now_until_somebody_works() -> None:
    programme = load(timezone.now().replace(microsecond=0) - timedelta(hours=3), years=(2025,))
    tonight = Outing.objects.get(state=Outing.State.OPEN)
    before = list(Event.objects.filter(outing=tonight).order_by("pk").values_list("device_time", flat=True))
    earlier = Capture.objects.exclude(run__outing=tonight).aggregate(last=Max("device_time"))["last"]
    assert programme.surveys.filter(rehearsals__result__isnull=False).exists()
    by = freshen()
    assert by is not None and timedelta(hours=2.9) < by < timedelta(hours=3.2)
    last = Capture.objects.filter(run__outing=tonight).aggregate(last=Max("device_time"))["last"]
    assert timedelta(0) <= timezone.now() - last < timedelta(minutes=2)
    after = list(Event.objects.filter(outing=tonight).order_by("pk").values_list("device_time", flat=True))
    assert [now - then for now, then in zip(after, before, strict=True)] == [by] * len(before)
    assert Run.objects.filter(outing=tonight, ended_at__gt=timezone.now()).count() == 0
    assert Capture.objects.exclude(run__outing=tonight).aggregate(last=Max("device_time"))["last"] == earlier
    assert rebuild_encounters(programme) == 0
    assert freshen() is None  # it is fresh
    later = timezone.now() + timedelta(hours=1)
    Receipt.objects.create(
        id=new_id(), programme=programme, person=Person.objects.first(), kind="run.edit", digest="0" * 64
    )
    assert freshen(later) is None  # somebody has worked on it
