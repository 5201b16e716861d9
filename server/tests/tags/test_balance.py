"""Tags that were handed out are accounted for, number by number."""

from __future__ import annotations

from collections.abc import Callable
from datetime import timedelta
from typing import Any

import pytest
from django.utils import timezone
from rest_framework.test import APIClient

from nailwright.common.rows import new_id
from nailwright.deck.models import Outing
from nailwright.programmes.models import Programme
from nailwright.tags.models import Tag, TagBatch, TagIssue
from server.tests.conftest import operation

Send = Callable[..., Any]


@pytest.fixture
def out(crew: APIClient, programme: Programme, outing: Outing) -> str:
    """Ten tags handed out to tonight's outing."""
    batch = TagBatch.objects.create(programme=programme, kind="tbar", name="Yellow")
    Tag.objects.bulk_create(
        [Tag(programme=programme, kind="tbar", number=f"W10{n:02d}", batch=batch) for n in range(12)]
    )
    body = {"id": str(new_id()), "kind": "tbar", "numbers": "W1000-W1009", "outing": str(outing.pk)}
    address = f"/api/v1/programmes/{programme.pk}/tags"
    assert crew.post(f"{address}/hand-out", body, format="json").status_code in (200, 201)
    return address


def told(crew: APIClient, address: str) -> dict[str, Any]:
    (one,) = crew.get(f"{address}/handed-out").data
    assert one["issued"] == one["placed"] + one["damaged"] + one["lost"] + one["returned"] + one["out"]
    return dict(one)


def test_every_number_is_somewhere(crew: APIClient, out: str, sync: Send, called: Send, outing: Outing) -> None:
    fish = called(scanned="none")
    placed = operation("tag.place", capture=fish["id"], kind="tbar", number="W1001")
    sync(fish, placed, operation("tag.spoil", outing=str(outing.pk), kind="tbar", number="W1002"))
    move = {"kind": "tbar", "numbers": "W1003", "state": "lost", "reason": "went overboard"}
    crew.post(f"{out}/move", move, format="json")
    crew.post(
        f"{out}/move", {**move, "numbers": "W1004-W1006", "state": "stock", "reason": "not needed"}, format="json"
    )
    now = told(crew, out)
    assert [now[name] for name in ("placed", "damaged", "lost", "returned", "out")] == [1, 1, 1, 3, 4]
    assert now["missing"] == ["W1000", "W1007", "W1008", "W1009"]


def test_a_placement_that_is_taken_back_is_out_again(crew: APIClient, out: str, sync: Send, called: Send) -> None:
    fish = called(scanned="none")
    sync(fish, operation("tag.place", capture=fish["id"], kind="tbar", number="W1001"))
    assert told(crew, out)["placed"] == 1
    sync(operation("capture.delete", capture=fish["id"]))
    now = told(crew, out)
    assert (now["placed"], now["out"]) == (0, 10)


def test_the_next_day_asks_by_number(crew: APIClient, out: str, programme: Programme) -> None:
    def lines() -> list[str]:
        today = crew.get(f"/api/v1/programmes/{programme.pk}/today").data["waiting"]
        return [each["text"] for each in today if each["code"] == "tags_unbalanced"]

    assert lines() == []  # tonight they are out, as they should be
    TagIssue.objects.update(issued_at=timezone.now() - timedelta(days=1))
    assert lines() == ["10 tags handed out on an earlier day not accounted for: W1000, W1001, W1002, W1003 and 6 more."]
    move = {"kind": "tbar", "numbers": "W1000-W1009", "state": "stock", "reason": "back"}
    crew.post(f"{out}/move", move, format="json")
    assert lines() == [] and told(crew, out)["out"] == 0
