"""How a fish left: fate, strength, reason and where to, each changed alone, in any order, from several tablets."""

from __future__ import annotations

from collections.abc import Callable
from datetime import timedelta
from typing import Any

import pytest
from django.utils import timezone

from nailwright.common.rows import new_id
from nailwright.deck.handling.releases import count_aboard
from nailwright.deck.models import Outing, Release
from nailwright.programmes.models import Change
from server.tests.conftest import operation

Send = Callable[..., Any]
Called = Callable[..., dict[str, Any]]


@pytest.fixture
def fish(sync: Send, called: Called) -> str:
    made = called()
    assert sync(made).status_code == 200
    return str(made["id"])


def said(fish: str, minutes_ago: float = 0, **row: Any) -> dict[str, Any]:
    entry = operation("release.set", captures=[fish], **row)
    entry["device_time"] = (timezone.now() - timedelta(minutes=minutes_ago)).isoformat()
    return entry


def left() -> tuple[Any, ...]:
    row = Release.objects.get()
    return row.fate, row.strength, row.reason, row.taken_to, row.word


def test_one_thing_is_changed_and_all_else_stays(sync: Send, fish: str) -> None:
    sync(said(fish, 9, fate="released", strength=2, reason="study"))
    sync(said(fish, 8, strength=3))
    assert left() == ("released", 3, "study", "", "")
    sync(said(fish, 7, reason="undersized"))
    assert left() == ("released", 3, "undersized", "", "")
    sync(said(fish, 6, strength=None))
    assert left() == ("released", None, "undersized", "", "")
    assert [list(each.after) for each in Change.objects.order_by("device_time")] == [
        ["strength"],
        ["reason"],
        ["strength"],
    ]


def test_two_tablets_say_different_things_of_one_fish_in_the_wrong_order(sync: Send, fish: str) -> None:
    sync(said(fish, 9, fate="released"))
    sync(said(fish, 5, reason="closed"))
    sync(said(fish, 7, strength=1))  # said before it, arrives after it
    assert left() == ("released", 1, "closed", "", "")
    # and of two who say the same thing, the later one stands
    sync(said(fish, 2, strength=3))
    sync(said(fish, 4, strength=2))
    assert left()[1] == 3 and Change.objects.exclude(late={}).get().late == {"strength": 2}


def test_another_fate_has_nothing_of_the_one_before(sync: Send, fish: str, outing: Outing) -> None:
    sync(said(fish, 9, fate="released", strength=2, reason="study"))
    sync(said(fish, 8, fate="dead"))
    assert left() == ("dead", None, "", "", "")
    sync(said(fish, 7, fate="taken", taken_to="hatchery"))
    assert left() == ("taken", None, "", "hatchery", "")
    sync(said(fish, 6, fate=None))
    assert count_aboard(outing) == 1
    assert sync(said(fish, 5, strength=1)).data["code"] == "fate_missing"
    sync(said(fish, 4, fate="released"))
    assert left() == ("released", None, "", "", "") and count_aboard(outing) == 0


@pytest.mark.parametrize(
    ("code", "expected"), [("alive", ("released", "alive")), ("weak", ("released", "weak")), ("kept", ("kept", ""))]
)
def test_a_tablet_of_before_is_understood_and_its_word_kept(
    sync: Send, fish: str, code: str, expected: tuple[str, str]
) -> None:
    entry = said(fish, 5, code=code)
    assert [sync(entry).data["results"][0]["state"] for _ in range(2)] == ["stored", "already"]
    row = Release.objects.get()
    assert (row.fate, row.word, row.strength) == (*expected, None)
    sync(said(fish, 4, code=None))
    assert Release.objects.get().deleted_at is not None


@pytest.mark.parametrize(
    ("row", "code", "field"),
    [
        ({"fate": "eaten"}, "release_unknown", "fate"),
        ({"fate": ["released"]}, "release_unknown", "fate"),
        ({"fate": "released", "strength": 5}, "release_unknown", "strength"),
        ({"fate": "released", "strength": True}, "release_unknown", "strength"),
        ({"fate": "released", "strength": 1.0}, "release_unknown", "strength"),
        ({"fate": "dead", "strength": 1}, "fate_does_not_fit", "strength"),
        ({"fate": "kept", "reason": "study"}, "fate_does_not_fit", "reason"),
        ({"fate": "released", "taken_to": "pen"}, "fate_does_not_fit", "taken_to"),
        ({"fate": "released", "reason": "because"}, "release_unknown", "reason"),
        ({"fate": "taken", "taken_to": "moon"}, "release_unknown", "taken_to"),
        ({"fate": "released", "word": "x" * 21}, "text_too_long", "word"),
        ({"strength": 1}, "fate_missing", "fate"),
        ({}, "fate_missing", "fate"),
    ],
)
def test_what_is_refused(sync: Send, fish: str, row: dict[str, Any], code: str, field: str) -> None:
    refused = sync(said(fish, **row)).data
    assert (refused["code"], refused["field"]) == (code, field) and not Release.objects.exists()


def test_said_again_after_the_outing_closed_it_is_done_already(sync: Send, fish: str, outing: Outing) -> None:
    entry = said(fish, fate="released", strength=1)
    sync(entry)
    Outing.objects.filter(pk=outing.pk).update(state="closed")
    assert sync(entry).data["results"][0]["state"] == "already"
    assert sync(said(fish, strength=2)).data["code"] == "outing_closed" and left()[1] == 1


def test_fish_that_have_not_arrived_hold_nobody_up(sync: Send, fish: str) -> None:
    entry = said(fish, fate="released", strength=1)
    entry["row"]["captures"].append(str(new_id()))
    assert sync(entry).data["results"][0]["state"] != "stored" and left()[:2] == ("released", 1)
