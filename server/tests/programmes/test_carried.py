"""Entries that somebody else brings in a file: signed ones stay whose they were, the rest stands under whoever brings them."""

from __future__ import annotations

import hmac
import json
from collections.abc import Callable
from typing import Any

import pytest
from rest_framework.test import APIClient

from nailwright.deck.models import Capture
from nailwright.programmes.models import CarryKey, Person, Programme, Receipt
from nailwright.programmes.people.account import sign_out_everywhere

Called = Callable[..., dict[str, Any]]
pytestmark = pytest.mark.django_db


@pytest.fixture
def ada(person_as: Callable[[str], Person]) -> Person:
    return person_as("crew")


@pytest.fixture
def key(ada: Person) -> dict[str, str]:
    """What her tablet was given with her sign-in."""
    client = APIClient()
    client.force_login(ada)
    told = client.get("/api/v1/session").data["carry_key"]
    assert client.get("/api/v1/session").data["carry_key"] == told  # one for a sign-in
    return {"id": str(told["id"]), "secret": told["secret"]}


def carried(entry: dict[str, Any], person: Person, key: dict[str, str] | None, **more: Any) -> dict[str, Any]:
    text = json.dumps({**entry, "person": str(person.pk), **more}, ensure_ascii=False)
    mac = hmac.new(bytes.fromhex(key["secret"]), text.encode(), "sha256").hexdigest() if key else ""
    return {"id": entry["id"], "carried": {"key": key["id"] if key else "", "mac": mac, "text": text}}


@pytest.fixture
def ben(client_as: Callable[[str], APIClient]) -> APIClient:
    return client_as("biologist")


def send(client: APIClient, programme: Programme, *entries: dict[str, Any]) -> Any:
    return client.post(f"/api/v1/programmes/{programme.pk}/sync", {"operations": entries}, format="json")


def test_a_signed_entry_stays_whose_it_was(
    ben: APIClient, ada: Person, key: dict[str, str], called: Called, programme: Programme
) -> None:
    entry = called(note="å✓")
    assert send(ben, programme, carried(entry, ada, key)).data["results"][0]["state"] == "stored"
    fish = Capture.objects.get()
    assert fish.recorder == ada and fish.note == "å✓"
    receipt = Receipt.objects.get()
    assert receipt.caller == ada and receipt.person != ada and receipt.in_name_of is None
    # sent by her own tablet as well, it is in once
    own = APIClient()
    own.force_authenticate(ada)
    assert send(own, programme, entry).data["results"][0]["state"] == "already"
    assert ben.get(f"/api/v1/captures/{fish.pk}").data["in_name_of"] == ""


@pytest.mark.parametrize("how", ["unsigned", "altered", "another key", "guessed key", "shut out"])
def test_what_is_not_signed_stands_under_whoever_brings_it_with_the_name_said(
    how: str, ben: APIClient, ada: Person, key: dict[str, str], called: Called, programme: Programme, person_as: Any
) -> None:
    entry = carried(called(), ada, None if how == "unsigned" else key)
    if how == "altered":
        entry["carried"]["text"] = entry["carried"]["text"].replace('"463"', '"649"')
    if how == "another key":
        other = CarryKey.objects.create(person=person_as("crew"), secret="ab" * 32)
        entry = carried(called(), ada, {"id": str(other.pk), "secret": other.secret})
    if how == "guessed key":
        entry = carried(called(), ada, {"id": key["id"], "secret": "00" * 32})
    if how == "shut out":
        sign_out_everywhere(ada)
    assert send(ben, programme, entry).data["results"][0]["state"] == "stored"
    fish = Capture.objects.get()
    assert fish.recorder != ada and fish.recorder.name == "Biologist"
    told = ben.get(f"/api/v1/captures/{fish.pk}").data
    assert (told["recorder"], told["in_name_of"]) == ("Biologist", "Crew")


def test_a_signed_entry_of_one_who_had_taken_over(
    ben: APIClient, ada: Person, key: dict[str, str], called: Called, programme: Programme, person_as: Any
) -> None:
    tove = person_as("crew")
    send(ben, programme, carried(called(), ada, key, by=str(tove.pk)))
    assert Capture.objects.get().recorder == tove


@pytest.mark.parametrize(
    "wrong", ["x", [], {}, {"key": "", "mac": "", "text": "{"}, {"key": "", "mac": "", "text": "[]"},
              {"key": "", "mac": "", "text": "[" * 5000}, {"key": "", "mac": "", "text": '{"id": "y", "person": "x"}'}],
)  # fmt: skip
def test_what_cannot_be_read_is_said(ben: APIClient, called: Called, programme: Programme, wrong: Any) -> None:
    answer = send(ben, programme, {**called(), "carried": wrong}, called())
    assert [each["state"] for each in answer.data["results"]] == ["refused", "stored"]
    assert answer.data["code"] == "carried_unreadable"


def test_a_name_that_nobody_here_has_is_not_said(ben: APIClient, called: Called, programme: Programme) -> None:
    stranger = Person.objects.create(username="far", name="Far")
    send(ben, programme, carried(called(), stranger, None))
    assert Receipt.objects.get().in_name_of is None and Capture.objects.get().recorder.name == "Biologist"
