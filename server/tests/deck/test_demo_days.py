"""The demo on many days of a year: what its evening needs is there on each."""

from __future__ import annotations

from datetime import UTC, datetime
from itertools import cycle, pairwise
from zoneinfo import ZoneInfo

import pytest
import time_machine
from django.db.models import Max, Min

from bench.size import some
from demo.basin import TIME_ZONE
from demo.load import load
from nailwright.deck.encounters import rebuild_encounters
from nailwright.deck.models import Capture, Event, Outing, Release, Run, Signature
from nailwright.deck.outing.ledger import ledger_of
from nailwright.deck.outing.today import today_of
from nailwright.deck.queries import deck_of
from nailwright.permits.counting import allowances_for
from nailwright.permits.models import Permit
from nailwright.plan.models import Survey
from nailwright.programmes.models import Programme
from nailwright.tags.models import Scan

#: Ends of months, the leap day, both changes of the clock in Europe and America; as late, as early and as busy as a day has it.
DAYS = ("01-01", "01-31", "02-29", "03-01", "03-12", "03-26", "04-30", "10-29", "11-05", "12-31")
TIMES = ("00:10", "01:59", "12:00", "23:59")
NOWS = [f"2028-{day}T{at}" for day, at in zip(DAYS, cycle(TIMES), strict=False)]


@pytest.mark.django_db
@pytest.mark.parametrize("at", some(NOWS, 2))
def test_the_demo_of_any_day(at: str) -> None:
    now = datetime.fromisoformat(at).replace(tzinfo=UTC)
    with time_machine.travel(now, tick=True):
        programme = load(now, years=(2027, 2028))
        _check(programme, now)


def _check(programme: Programme, now: datetime) -> None:
    today = now.astimezone(ZoneInfo(TIME_ZONE)).date()
    tonight = Outing.objects.get(state=Outing.State.OPEN)
    assert tonight.date == today
    assert Outing.objects.exclude(pk=tonight.pk).aggregate(last=Max("date"))["last"] < today
    # three runs one after another, the third of them going, with four fish in four lanes
    runs = list(tonight.runs.order_by("number"))
    assert [run.ended_at is None for run in runs] == [False, False, True]
    for before, after in pairwise(runs):
        assert before.started_at < before.ended_at <= after.started_at
    assert Capture.objects.filter(run=runs[-1]).count() == 4
    lanes = Event.objects.filter(outing=tonight, kind="lane").values_list("details__lane", flat=True)
    assert {"bath", "table", "recovery"} <= set(lanes)
    # nothing lies in the future, no fish before its run, and keys stand in the order of their times
    for model in (Capture, Event, Release, Scan):
        assert model.objects.aggregate(last=Max("device_time"))["last"] <= now
    assert Signature.objects.filter(outing=tonight).aggregate(last=Max("at"))["last"] < runs[0].started_at
    for run in Run.objects.annotate(first=Min("captures__device_time")).exclude(first=None):
        assert run.first >= run.started_at
    # a fish of another programme and marked ones of its own are met
    results = set(
        Scan.objects.filter(source_id__in=Capture.objects.filter(run__outing=tonight)).values_list("result", flat=True)
    )
    assert {"foreign", "known"} <= results
    # the plan it goes out by covers today, its permits hold, and it has its orders
    survey = Survey.objects.get(outings=tonight)
    assert survey.first <= today <= survey.last and tonight.orders
    permits = Permit.objects.filter(kind=Permit.Kind.PERMIT)
    assert permits and all(each.first <= today < each.last for each in permits)
    assert all(line["counted"] < line["most"] for line in allowances_for(tonight))
    # the pages that open first
    assert len(today_of(programme)["outings"]) == 1
    deck = deck_of(tonight)
    assert len(deck["captures"]) == Capture.present.filter(run__outing=tonight).count() > 4
    assert any(each["last_visit_groups"] for each in deck["species"])
    assert ledger_of(tonight)
    assert rebuild_encounters() == 0
