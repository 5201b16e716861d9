"""Signing in and out."""

from __future__ import annotations

from collections.abc import Callable

import pytest
from django.test import override_settings
from rest_framework.test import APIClient

from nailwright.programmes.models import Membership, Person, Programme


@pytest.fixture
def member(programme: Programme) -> Person:
    person = Person.objects.create_user(username="demo-crew", password="walleye at dusk", name="Tove")
    Membership.objects.create(programme=programme, person=person, role="crew")
    return person


def test_sign_in_and_out(member: Person) -> None:
    client = APIClient()
    assert client.get("/api/v1/session").data["person"] is None
    signed = client.post(
        "/api/v1/session", {"username": "demo-crew", "password": "walleye at dusk"}, format="json"
    ).data
    assert signed["person"]["name"] == "Tove"
    assert signed["memberships"][0]["role"] == "crew" and "work_deck" in signed["memberships"][0]["may"]
    assert client.get("/api/v1/session").data["person"]["username"] == "demo-crew"
    assert client.delete("/api/v1/session").data["person"] is None


@pytest.mark.parametrize(
    "body", [{"username": "demo-crew", "password": "wrong"}, {"username": "nobody", "password": "walleye at dusk"}]
)
def test_a_wrong_name_and_a_wrong_password_read_alike(member: Person, body: dict[str, str]) -> None:
    response = APIClient().post("/api/v1/session", body, format="json")
    assert (response.status_code, response.data["code"], response.data["field"]) == (422, "sign_in_failed", "password")


@pytest.mark.parametrize("body", [{}, {"username": ""}, {"username": "x" * 200, "password": "y"}])
def test_a_sign_in_with_nothing_is_refused(db: None, body: dict[str, str]) -> None:
    response = APIClient().post("/api/v1/session", body, format="json")
    assert (response.status_code, response.data["code"]) == (422, "invalid") and response.data["field"]


def test_one_touch_sign_in_only_in_the_demo(member: Person) -> None:
    client = APIClient()
    with override_settings(DEMO=False):
        assert client.get("/api/v1/session").data["demo_people"] == []
        response = client.post("/api/v1/session/demo", {"username": "demo-crew"}, format="json")
        assert (response.status_code, response.data["code"]) == (403, "no_demo")
    assert client.post("/api/v1/session/demo", {"username": "demo-crew"}, format="json").status_code == 200


def test_one_touch_sign_in_is_for_demo_people_only(member: Person) -> None:
    Person.objects.create(username="real", name="Real")
    assert (
        APIClient().post("/api/v1/session/demo", {"username": "real"}, format="json").data["code"] == "no_such_person"
    )


def test_a_write_without_its_token_is_refused(
    member: Person, client_as: Callable[[str], APIClient], programme: Programme
) -> None:
    client = APIClient(enforce_csrf_checks=True)
    client.force_login(member)
    response = client.post(f"/api/v1/programmes/{programme.pk}/sync", {"operations": []}, format="json")
    assert response.status_code == 403


def test_unknown_addresses(db: None) -> None:
    assert APIClient().get("/api/v1/nothing").json()["code"] == "not_found"
    assert APIClient().get("/assets/gone-12345678.js").status_code == 404
