"""Another of the crew takes over a shared tablet: what they call is theirs, whoever's sign-in sends it."""

from __future__ import annotations

import json
from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest
from django.utils import timezone
from rest_framework.test import APIClient

from nailwright.deck.models import Capture, Outing
from nailwright.programmes.models import Membership, Person, Programme, Receipt, ShortCode
from nailwright.programmes.people.short_codes import digest_of, set_short_code

Send = Callable[..., Any]
Called = Callable[..., dict[str, Any]]


@pytest.fixture
def tove(programme: Programme) -> Person:
    person = Person.objects.create(username="tove", name="Tove Harrow")
    Membership.objects.create(programme=programme, person=person, role="crew")
    set_short_code(person, "4711")
    return person


def test_the_digest_is_that_of_the_standard_and_of_the_tablet() -> None:
    shared = json.loads((Path(__file__).parents[3] / "tests/shared/short-code.json").read_text())
    assert digest_of(shared["code"], shared["salt"], shared["rounds"]) == shared["digest"]


def test_the_deck_tells_whom_it_may_be_taken_over_by(
    tove: Person, crew: APIClient, client_as: Any, outing: Outing
) -> None:
    to = f"/api/v1/outings/{outing.pk}/deck"
    (told,) = crew.get(to).json()["crew"]
    assert told["name"] == "Tove Harrow" and digest_of("4711", told["salt"], told["rounds"]) == told["digest"]
    assert client_as("viewer").get(to).json()["crew"] == []
    Membership.objects.filter(person=tove).update(left_at=timezone.now())
    assert crew.get(to).json()["crew"] == []


def test_what_they_call_is_theirs_and_the_receipt_tells_who_sent_it(tove: Person, sync: Send, called: Called) -> None:
    entries = [called() | {"by": str(tove.pk)}, called() | {"by": str(tove.pk)}, called()]
    assert sync(*entries).status_code == 200
    by = [Capture.objects.get(pk=each["id"]).recorder.name for each in entries]
    assert by == ["Tove Harrow", "Tove Harrow", "Crew"]
    receipts = [Receipt.objects.select_related("person", "caller").get(pk=each["id"]) for each in entries]
    assert [(each.person.name, each.caller and each.caller.name) for each in receipts] == [
        ("Crew", "Tove Harrow"), ("Crew", "Tove Harrow"), ("Crew", None),
    ]  # fmt: skip
    # sent again it is done already, whoever has left meanwhile
    Membership.objects.filter(person=tove).update(left_at=timezone.now())
    assert [each["state"] for each in sync(*entries).data["results"]] == ["already"] * 3
    late = called() | {"by": str(tove.pk)}
    assert sync(late).status_code == 200  # called before they left, sent after it


def test_neither_may_do_more_than_each_alone(tove: Person, sync: Send, called: Called, client_as: Any) -> None:
    viewer = client_as("viewer")
    entry = called() | {"by": str(tove.pk)}
    assert sync(entry, client=viewer).data["code"] == "role_may_not"
    Membership.objects.filter(person=tove).update(role="viewer")
    refused = sync(entry).data
    assert refused["code"] == "role_may_not" and "Tove Harrow" in refused["message"]


@pytest.mark.parametrize(
    "by", ["01a21975-8f0a-7d94-b389-53cd73406420", "me", 7, ["x"], "00000000-0000-0000-0000-000000000000"]
)
def test_a_stranger_calls_nothing(tove: Person, sync: Send, called: Called, by: Any) -> None:
    good = called()
    told = sync(called() | {"by": by}, good).data
    assert told["results"][0]["error"]["code"] == "caller_unknown" and told["results"][1]["state"] == "stored"


def test_a_code_is_set_changed_and_taken_away(crew: APIClient) -> None:
    def put(code: str) -> Any:
        return crew.post("/api/v1/account/short-code", {"code": code}, format="json")

    for weak in ("1234", "4321", "7777", "12", "12ab", "123456789"):
        assert put(weak).status_code in (400, 422), weak
    assert put("2580").data["has_short_code"] and put("2581").data["has_short_code"]
    assert ShortCode.objects.count() == 1
    assert not put("").data["has_short_code"] and not ShortCode.objects.exists()
