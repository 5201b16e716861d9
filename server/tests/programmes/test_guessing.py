"""Guessing the second step, and what a mailed link for a new password opens."""

from __future__ import annotations

import re
from datetime import timedelta
from typing import Any

import pyotp
import pytest
from django.core import mail
from django.utils import timezone
from rest_framework.test import APIClient

from nailwright.programmes.models import ApiToken, Membership, Person, Programme, WrongPassword

pytestmark = pytest.mark.django_db
PASSWORD = "walleye at dusk"


@pytest.fixture
def tove(programme: Programme) -> Person:
    person = Person.objects.create_user("tove", "tove@example.org", PASSWORD, name="Tove")
    person.second_step = pyotp.random_base32()
    person.save()
    Membership.objects.create(programme=programme, person=person, role="crew")
    return person


def try_code(code: str, address: str = "192.0.2.1", password: str = PASSWORD) -> Any:
    body = {"username": "tove", "password": password, "code": code}
    return APIClient().post("/api/v1/session", body, format="json", REMOTE_ADDR=address)


def test_codes_are_not_guessed_from_many_addresses(tove: Person) -> None:
    """Who knows the password tries codes from a new address each time: after ten nobody's code is looked at, not even the right one."""
    wrong = "000000" if pyotp.TOTP(tove.second_step).now() != "000000" else "000001"
    told = [try_code(wrong, f"192.0.2.{n}").data["code"] for n in range(1, 16)]
    assert told == ["one_time_code_wrong"] * 10 + ["too_many_tries"] * 5
    assert try_code(pyotp.TOTP(tove.second_step).at(timezone.now()), "198.51.100.7").data["code"] == "too_many_tries"
    # without the password nobody gets so far, and shuts nobody out
    WrongPassword.objects.all().delete()
    for n in range(1, 16):
        try_code(wrong, f"192.0.2.{n}", "guess")
    assert try_code(pyotp.TOTP(tove.second_step).at(timezone.now()), "198.51.100.7").status_code == 200


def test_a_code_is_good_once(tove: Person) -> None:
    code = pyotp.TOTP(tove.second_step).at(timezone.now())
    assert try_code(code).status_code == 200
    assert try_code(code).data["code"] == "one_time_code_wrong"


def link(address: str = "testserver") -> tuple[str, str]:
    mail.outbox.clear()
    asked = APIClient().post("/api/v1/password/forgotten", {"username": "tove"}, format="json", HTTP_HOST=address)
    assert asked.status_code == 204
    found = re.search(r"(https?://\S+)/password#(\S+?)[.](\S+)", mail.outbox[0].body)
    assert found
    return found[2], found[3]


def reset(person: str, token: str, password: str = "perch before dawn") -> Any:
    body = {"person": person, "token": token, "password": password}
    return APIClient().post("/api/v1/password/reset", body, format="json")


def test_a_mailed_link_is_good_once_and_ends_all_that_was_open(tove: Person, settings: Any) -> None:
    settings.EMAIL_HOST = "localhost"
    ApiToken.objects.create(person=tove, digest="d", ends_at=timezone.now() + timedelta(days=9))
    before = APIClient()
    before.force_login(tove)
    person, token = link()
    second = link()
    answer = reset(person, token)
    assert answer.status_code == 200 and answer.data["person"] is None  # the second step is still to be said
    assert reset(person, token).data["code"] == reset(*second).data["code"] == "link_spent"
    assert before.get("/api/v1/session").data["person"] is None and not ApiToken.objects.exists()
    assert try_code(pyotp.TOTP(tove.second_step).at(timezone.now()), password="perch before dawn").status_code == 200


def test_links_are_not_guessed_nor_led_elsewhere(tove: Person, settings: Any) -> None:
    settings.EMAIL_HOST = "localhost"
    told = [reset(str(tove.pk), f"c0ffee-{n:032x}").data["code"] for n in range(12)]
    assert told[:10] == ["link_spent"] * 10 and told[-1] == "too_many_tries"
    settings.ALLOWED_HOSTS = ["testserver"]
    poisoned = APIClient().post(
        "/api/v1/password/forgotten", {"username": "tove"}, format="json", HTTP_HOST="evil.example"
    )
    assert poisoned.status_code == 400 and not mail.outbox
    # nobody is told whether there is such a person
    answers = [
        APIClient().post("/api/v1/password/forgotten", {"username": name}, format="json") for name in ("tove", "nobody")
    ]
    assert [(each.status_code, each.content) for each in answers] == [(204, b"")] * 2
