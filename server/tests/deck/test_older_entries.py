"""Entries as releases before 0.11 sent them: from a tablet that was not brought up to date, and from one that had them waiting."""

from __future__ import annotations

from collections.abc import Callable
from importlib import import_module
from typing import Any

import pytest
from django.apps import apps

from nailwright.common.rows import new_id
from nailwright.deck.models import Event, Outing
from nailwright.programmes.models import Change, Receipt
from nailwright.programmes.record.operations import kind_named, kinds
from server.tests.conftest import operation

Send = Callable[..., Any]


@pytest.fixture
def fish(called: Send, sync: Send) -> dict[str, Any]:
    entry = called()
    sync(entry)
    return entry


def states(answer: Any) -> list[Any]:
    return [(each["state"], (each["error"] or {}).get("code")) for each in answer.data["results"]]


def test_an_event_under_its_older_name_is_kept_once(fish: dict[str, Any], sync: Send) -> None:
    older = operation("event.say", what="lane", said={"lane": "bath"}, capture=fish["id"])
    assert states(sync(older)) == [("stored", None)] and states(sync(older)) == [("already", None)]
    event = Event.objects.get()
    assert (event.kind, event.details) == ("lane", {"lane": "bath"})
    assert Receipt.objects.get(pk=older["id"]).kind == "event.say"


def test_one_that_was_sent_before_the_server_was_upgraded_is_known_again(fish: dict[str, Any], sync: Send) -> None:
    older = operation("event.say", what="lane", said={"lane": "bath"}, capture=fish["id"])
    sync(older)
    Event.objects.all().delete()
    # whatever became of it since: a receipt of that release answers the same entry, and no other under its key
    assert states(sync(older)) == [("already", None)]
    assert states(sync({**older, "row": {**older["row"], "said": {"lane": "table"}}})) == [("refused", "key_used")]


def test_a_correction_with_the_older_field_name(fish: dict[str, Any], sync: Send) -> None:
    made = operation("event.record", what="found", details={"what": "scrape", "part": "left"}, capture=fish["id"])
    older = operation("event.edit", event=made["id"], said={"part": "right"})
    assert states(sync(made, older)) == [("stored", None)] * 2
    assert Event.objects.get().details == {"what": "scrape", "part": "right"}
    assert Change.objects.get(pk=older["id"]).after == {"details.part": "right"}
    assert states(sync(older)) == [("already", None)]


def test_the_history_of_an_event_is_migrated_there_and_back(fish: dict[str, Any], sync: Send, crew: Any) -> None:
    migration = import_module("nailwright.deck.migrations.0028_details")
    event, other = new_id(), new_id()
    shared = {"programme_id": Outing.objects.get().programme_id, "person": crew.handler._force_user}
    was = {"said.part": "left", "said": {"a": 1}, "device_time": "x", "saidly": 3}
    Change.objects.create(
        **shared, table="event", row=event, before=was, after={"said.part": "right"}, late={"said.part": "top"}
    )
    Change.objects.create(**shared, table="capture", row=other, before={"said.part": "kept"}, after={})

    def told() -> list[Any]:
        rows = Change.objects.filter(row__in=(event, other)).order_by("table")
        return [(each.before, each.after, each.late) for each in rows]

    before = told()
    migration._in_history("said", "details")(apps, None)
    assert told()[1] == (
        {"details.part": "left", "details": {"a": 1}, "device_time": "x", "saidly": 3}, {"details.part": "right"}, {"details.part": "top"},
    )  # fmt: skip
    assert told()[0] == before[0]
    migration._in_history("details", "said")(apps, None)
    assert told() == before


def test_older_names_are_understood_and_not_offered() -> None:
    assert "event.say" not in kinds() and kind_named("event.say") is kinds()["event.record"]
    assert kind_named("event.shout") is None
