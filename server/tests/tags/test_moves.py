"""The ledger of one tag, and what is known of its batch."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import pytest
from rest_framework.test import APIClient

from nailwright.deck.models import Capture
from nailwright.programmes.models import Programme
from nailwright.tags.models import TagBatch
from server.tests.conftest import operation

Send = Callable[..., Any]


@pytest.fixture
def stocked(crew: APIClient, programme: Programme) -> TagBatch:
    batch = {
        "id": "0192a000-0000-7000-8000-000000000001", "kind": "tbar", "name": "Orange", "numbers": "W1201-W1210", "received": "2026-03-02",
        "supplier": "Tagworks", "price_each": 1.2, "reward": 50, "meaning": "females", "colour": "orange",
    }  # fmt: skip
    assert crew.post(f"/api/v1/programmes/{programme.pk}/tags/batches", batch, format="json").status_code == 201
    return TagBatch.objects.get()


@pytest.fixture
def move(crew: APIClient, programme: Programme) -> Send:
    def post(what: str, **told: Any) -> Any:
        return crew.post(
            f"/api/v1/programmes/{programme.pk}/tags/{what}",
            {"kind": "tbar", "numbers": "W1207", **told},
            format="json",
        )

    return post


def ledger(client: APIClient, programme: Programme, number: str = "W1207") -> list[tuple[str, str]]:
    answer = client.get(f"/api/v1/programmes/{programme.pk}/tags/tbar/{number}/moves")
    assert answer.status_code == 200, answer.data
    return [(each["what"], each["details"]) for each in answer.data]


def test_every_move_is_in_it_in_order(crew: APIClient, programme: Programme, stocked: TagBatch, move: Send) -> None:
    move("move", state="lost", reason="not in the box")
    move("move", state="stock", reason="under the seat")
    move("move", state="spoiled", reason="bent")
    move("move", state="destroyed", reason="thrown away")
    assert ledger(crew, programme) == [
        ("received", "Orange, Tagworks"), ("lost", "not in the box"), ("found", "under the seat"), ("spoiled", "bent"),
        ("destroyed", "thrown away"),
    ]  # fmt: skip
    assert ledger(crew, programme, "W1208") == [("received", "Orange, Tagworks")]


def test_a_fish_that_carries_it_is_named(
    crew: APIClient, programme: Programme, stocked: TagBatch, called: Send, sync: Send
) -> None:
    fish = called(scanned="none")
    sync(fish, operation("tag.place", capture=fish["id"], kind="tbar", number="W1207"))
    answer = crew.get(f"/api/v1/programmes/{programme.pk}/tags/tbar/W1207/moves").data
    assert [each["what"] for each in answer] == ["received", "placed"]
    assert str(answer[1]["fish"]) == str(Capture.objects.get().fish_id) and answer[1]["person"]


def test_a_number_that_is_not_there_is_said(crew: APIClient, programme: Programme, stocked: TagBatch) -> None:
    for kind, number, code in (
        ("tbar", "W9999", "tag_not_in_stock"),
        ("string", "W1207", "tag_kind_unknown"),
        ("pit", "12", "pit_length"),
    ):
        answer = crew.get(f"/api/v1/programmes/{programme.pk}/tags/{kind}/{number}/moves")
        assert answer.status_code == 422, (kind, answer.data)
        assert code in (answer.data["code"], "pit_length")


def test_what_is_not_told_of_a_batch_stays(crew: APIClient, programme: Programme, stocked: TagBatch) -> None:
    answer = crew.post(f"/api/v1/tags/batches/{stocked.pk}", {"name": "Orange", "note": "second box"}, format="json")
    assert (answer.data["reward"], answer.data["supplier"], answer.data["note"], answer.data["meaning"]) == (
        50,
        "Tagworks",
        "second box",
        "females",
    )
    gone = crew.post(f"/api/v1/tags/batches/{stocked.pk}", {"name": "Orange", "reward": None}, format="json")
    assert gone.data["reward"] is None and gone.data["price_each"] == 1.2
