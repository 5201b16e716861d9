"""Tags with a battery: activated, implanted, expected to be heard until a day."""

from __future__ import annotations

from datetime import UTC, date, datetime, timedelta
from typing import Any

import pytest
from django.utils import timezone
from rest_framework.test import APIClient

from nailwright.common.rows import new_id
from nailwright.deck.models import Run
from nailwright.programmes.models import Change, Programme
from nailwright.tags.models import Fish, Placement, Tag, TagBatch

TODAY = timezone.now().date()


@pytest.fixture
def batch(programme: Programme) -> TagBatch:
    made = TagBatch.objects.create(programme=programme, kind="acoustic", name="V9", battery_days=100)
    Tag.objects.bulk_create(
        [Tag(programme=programme, kind="acoustic", number=f"A{n}", batch=made) for n in range(1001, 1005)]
    )
    return made


def implant(run: Run, number: str, days_ago: int) -> Placement:
    tag = Tag.objects.get(number=number)
    at = datetime.combine(TODAY - timedelta(days=days_ago), datetime.min.time(), UTC) + timedelta(hours=12)
    fish = Fish.objects.create(programme=tag.programme, species="wal")
    Tag.objects.filter(pk=tag.pk).update(state="placed")
    return Placement.objects.create(
        tag=tag, fish=fish, capture_id=new_id(), living_tag=tag.pk, recorder=run.recorder, device_time=at
    )


def ask(client: APIClient, programme: Programme) -> list[Any]:
    return list(client.get(f"/api/v1/programmes/{programme.pk}/transmitters").data)


def activate(client: APIClient, programme: Programme, numbers: str, day: date | None, kind: str = "acoustic") -> Any:
    body = {"kind": kind, "numbers": numbers, "day": day and day.isoformat()}
    return client.post(f"/api/v1/programmes/{programme.pk}/transmitters", body, format="json")


def test_life_from_implanting_where_nobody_noted_the_activation(
    crew: APIClient, programme: Programme, batch: TagBatch, run: Run
) -> None:
    implant(run, "A1001", 10)
    implant(run, "A1002", 50)
    implant(run, "A1003", 120)
    told = ask(crew, programme)
    assert [(each["number"], each["life"], each["activated"]) for each in told] == [
        ("A1003", "over", False), ("A1002", "soon", False), ("A1001", "sending", False),
    ]  # fmt: skip
    assert told[2]["until"] == (TODAY + timedelta(days=90)).isoformat()
    today = crew.get(f"/api/v1/programmes/{programme.pk}/today").data
    line = next(each for each in today["waiting"] if each["code"] == "batteries_end")
    assert line["text"] == "1 transmitter expected to fall silent within 60 days: A1002."


def test_noted_corrected_and_taken_back(crew: APIClient, programme: Programme, batch: TagBatch, run: Run) -> None:
    implant(run, "A1001", 10)
    day = TODAY - timedelta(days=30)
    assert activate(crew, programme, "A1001-A1002", day).data == {"moved": 2, "refused": []}
    told = {each["number"]: each for each in ask(crew, programme)}
    assert told["A1001"]["until"] == (day + timedelta(days=100)).isoformat() and told["A1001"]["activated"]
    assert told["A1002"]["fish"] is None and told["A1002"]["state"] == "stock"
    assert activate(crew, programme, "A1001", day).data["moved"] == 0
    assert activate(crew, programme, "A1001", None).data["moved"] == 1
    told = {each["number"]: each for each in ask(crew, programme)}
    assert not told["A1001"]["activated"] and told["A1001"]["until"] == (TODAY + timedelta(days=90)).isoformat()
    assert Change.objects.filter(table="tag").count() == 3
    assert Tag.objects.get(number="A1002").activated_on == day


def test_what_cannot_be_is_refused_and_holds_up_no_other(
    crew: APIClient, programme: Programme, batch: TagBatch, run: Run
) -> None:
    implant(run, "A1001", 10)
    answer = activate(crew, programme, "A1001, A1002, A9999", TODAY - timedelta(days=3)).data
    assert answer["moved"] == 1
    assert [each["text"] for each in answer["refused"]] == ["A1001", "A9999"]
    assert "it was implanted on" in answer["refused"][0]["why"]
    late = activate(crew, programme, "A1002", TODAY + timedelta(days=30))
    assert (late.status_code, late.data["code"]) == (422, "day_impossible")
    pit = activate(crew, programme, "999000000000101", TODAY, kind="pit")
    assert (pit.status_code, pit.data["code"]) == (422, "tag_without_battery")


def test_without_a_battery_s_life_nobody_knows_until_when(
    crew: APIClient, programme: Programme, batch: TagBatch, run: Run
) -> None:
    implant(run, "A1001", 10)
    TagBatch.objects.update(battery_days=None)
    (told,) = ask(crew, programme)
    assert (told["life"], told["until"], told["battery_days"]) == ("unknown", None, None)
