"""Tokens, throttling, headers, and settings that refuse to be unsafe."""

from __future__ import annotations

import os
import subprocess
import sys
from collections.abc import Callable
from datetime import timedelta
from pathlib import Path
from typing import Any

import pytest
from django.core.exceptions import ImproperlyConfigured
from django.test import Client, RequestFactory
from django.utils import timezone
from rest_framework.test import APIClient

from nailwright.common.address import address_of, read_networks
from nailwright.common.rows import new_id
from nailwright.deck.models import Outing
from nailwright.programmes.models import ApiToken, Membership, Person, Programme, WrongPassword
from server.tests.conftest import operation

ROOT = Path(__file__).resolve().parents[3]


@pytest.fixture
def member(programme: Programme) -> Person:
    person = Person.objects.create_user(username="tove", password="walleye at dusk", name="Tove")
    Membership.objects.create(programme=programme, person=person, role="crew")
    return person


def test_a_token_speaks_for_its_person_until_it_is_ended(member: Person, programme: Programme) -> None:
    client = APIClient()
    client.force_login(member)
    first, second = (
        client.post("/api/v1/tokens", {"name": name}, format="json").data for name in ("Notebook", "Gateway")
    )
    address = f"/api/v1/programmes/{programme.pk}/outings"
    program, other = (APIClient(HTTP_AUTHORIZATION=f"Token {made['token']}") for made in (first, second))
    assert program.get(address).status_code == other.get(address).status_code == 200
    listed = {each["name"]: each for each in client.get("/api/v1/tokens").data}
    assert (
        set(listed) == {"Notebook", "Gateway"}
        and listed["Gateway"]["last_used_at"]
        and "token" not in listed["Gateway"]
    )
    assert client.delete(f"/api/v1/tokens/{first['id']}").status_code == 204
    assert program.get(address).status_code == 401 and other.get(address).status_code == 200
    stranger = APIClient()
    stranger.force_login(Person.objects.create(username="other", name="Other"))
    assert stranger.delete(f"/api/v1/tokens/{second['id']}").status_code == 404
    assert stranger.get("/api/v1/tokens").data == []


def test_a_token_may_no_more_than_its_person(client_as: Callable[[str], APIClient], programme: Programme) -> None:
    token = client_as("viewer").post("/api/v1/tokens", {"scope": "all"}, format="json").data["token"]
    response = APIClient(HTTP_AUTHORIZATION=f"Token {token}").post(
        f"/api/v1/programmes/{programme.pk}/sync",
        {"operations": [operation("water.record", outing=str(new_id()), temperature_c=9)]},
        format="json",
    )
    assert response.data["code"] == "role_may_not"


def test_a_token_may_what_its_scope_says_until_it_ends(member: Person, programme: Programme, outing: Outing) -> None:
    client = APIClient()
    client.force_login(member)
    outings, sync = (f"/api/v1/programmes/{programme.pk}/{each}" for each in ("outings", "sync"))
    opened = {"id": str(new_id()), "water": str(outing.water_id), "date": "2026-10-13", "gear": "angling"}
    reading = {"operations": [operation("water.record", outing=str(outing.pk), temperature_c=9)]}
    may = {"read": (200, 403, 403), "record": (200, 200, 403), "all": (200, 200, 201)}
    for scope, wanted in may.items():
        made = client.post("/api/v1/tokens", {"scope": scope, "days": 7}, format="json").data
        ends_at = ApiToken.objects.get(pk=made["id"]).ends_at
        assert made["scope"] == scope and timedelta(days=6) < ends_at - timezone.now() <= timedelta(days=7)
        program = APIClient(HTTP_AUTHORIZATION=f"Token {made['token']}")
        told = (
            program.get(outings),
            program.post(sync, reading, format="json"),
            program.post(outings, opened, format="json"),
        )
        assert tuple(each.status_code for each in told) == wanted, scope
        assert told[2].status_code == 201 or "may" in told[2].data["message"]
        # a token makes no other one beyond itself
        assert scope == "all" or program.post("/api/v1/tokens", {"scope": "all"}, format="json").status_code == 403
    assert not ApiToken.objects.filter(digest=made["token"]).exists()  # only its digest is kept
    assert all(client.post("/api/v1/tokens").status_code == 201 for _ in range(17))
    assert client.post("/api/v1/tokens").data["code"] == "too_many_tokens"
    ApiToken.objects.update(ends_at=timezone.now() - timedelta(seconds=1))
    assert program.get(outings).status_code == 401
    for wrong in ({"days": 0}, {"days": 5000}, {"scope": "everything"}):
        assert client.post("/api/v1/tokens", wrong, format="json").status_code == 422


def tries(n: int, name: str = "tove", **headers: str) -> list[str]:
    client = APIClient()
    body = {"username": name, "password": "guess"}
    return [client.post("/api/v1/session", body, format="json", **headers).data["code"] for _ in range(n)]


def test_wrong_passwords_are_slowed_for_that_name_at_that_address(member: Person) -> None:
    assert tries(11) == ["sign_in_failed"] * 10 + ["too_many_tries"]
    right = {"username": "tove", "password": "walleye at dusk"}
    client = APIClient()
    refused = client.post("/api/v1/session", right, format="json")
    assert (refused.status_code, refused.data["code"]) == (403, "too_many_tries")
    # others at the same address, and the same person elsewhere, go on
    Person.objects.create_user(username="idris", password="perch at dawn", name="Idris")
    other = {"username": "idris", "password": "perch at dawn"}
    assert client.post("/api/v1/session", other, format="json").status_code == 200
    assert APIClient().post("/api/v1/session", right, format="json", REMOTE_ADDR="192.0.2.7").status_code == 200
    WrongPassword.objects.update(at=timezone.now() - timedelta(minutes=16))
    assert client.post("/api/v1/session", right, format="json").status_code == 200


def test_a_mistyped_password_is_forgiven_by_the_right_one(member: Person) -> None:
    tries(9)
    right = {"username": "tove", "password": "walleye at dusk"}
    assert APIClient().post("/api/v1/session", right, format="json").status_code == 200
    assert tries(2) == ["sign_in_failed"] * 2


def test_one_password_over_many_names_is_slowed_by_its_address(member: Person) -> None:
    told = [tries(1, name=f"person{n}")[0] for n in range(60)]
    assert told == ["sign_in_failed"] * 40 + ["too_many_tries"] * 20
    assert tries(1, REMOTE_ADDR="192.0.2.7") == ["sign_in_failed"]


def test_one_name_from_everywhere_is_slowed_at_last(member: Person) -> None:
    made = [WrongPassword(name="tove", address=f"198.51.100.{n}") for n in range(200)]
    WrongPassword.objects.bulk_create(made[:199])
    assert tries(2, REMOTE_ADDR="192.0.2.7") == ["sign_in_failed", "too_many_tries"]


def test_the_sender_is_told_by_trusted_proxies_only(rf: RequestFactory, settings: Any) -> None:
    def address(here: str, told: str = "") -> str:
        return address_of(rf.get("/", REMOTE_ADDR=here, **({"HTTP_X_FORWARDED_FOR": told} if told else {})))

    assert address("203.0.113.9", "192.0.2.1") == "203.0.113.9"  # nobody is trusted where nothing is said
    settings.TRUSTED_PROXIES = read_networks("10.0.0.0/8, 127.0.0.1")
    assert address("203.0.113.9", "192.0.2.1") == "203.0.113.9"
    assert address("127.0.0.1", "192.0.2.1") == "192.0.2.1"
    assert (
        address("10.1.2.3", "6.6.6.6, 192.0.2.1, 10.9.9.9") == "192.0.2.1"
    )  # what the sender wrote itself is not believed
    assert address("10.1.2.3") == "10.1.2.3" and address("10.1.2.3", "nonsense") == "nonsense"


def test_ten_wrong_tries_behind_a_proxy_lock_out_nobody_else(member: Person, settings: Any) -> None:
    settings.TRUSTED_PROXIES = read_networks("127.0.0.1")
    assert tries(11, HTTP_X_FORWARDED_FOR="198.51.100.5")[-1] == "too_many_tries"
    right = {"username": "tove", "password": "walleye at dusk"}
    assert (
        APIClient().post("/api/v1/session", right, format="json", HTTP_X_FORWARDED_FOR="192.0.2.7").status_code == 200
    )


@pytest.mark.parametrize("path", ["/", "/api/v1/session"])
def test_every_answer_carries_the_headers(db: None, path: str) -> None:
    headers = Client().get(path).headers
    policy = headers["Content-Security-Policy"]
    assert "default-src 'self'" in policy and "frame-ancestors 'none'" in policy and "unsafe-eval" not in policy
    assert "script-src" not in policy  # so scripts fall under default-src: our own only, none inline
    assert headers["X-Content-Type-Options"] == "nosniff" and headers["X-Frame-Options"] == "DENY"
    assert headers["Referrer-Policy"] == "same-origin"


SAFE = {
    "DJANGO_SETTINGS_MODULE": "nailwright.config.settings.production",
    "NAILWRIGHT_SECRET_KEY": "k" * 30 + "ABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789",
    "NAILWRIGHT_HOSTS": "fish.example.org",
    "NAILWRIGHT_DB_PASSWORD": "long enough a password",
}


def check(change: dict[str, str]) -> subprocess.CompletedProcess[str]:
    environment = {
        "PATH": os.environ["PATH"],
        "PYTHONPATH": os.environ.get("PYTHONPATH", f"{ROOT}/core:{ROOT}/server:{ROOT}"),
        **SAFE,
        **change,
    }
    return subprocess.run(
        [sys.executable, "server/manage.py", "check", "--deploy", "--fail-level", "ERROR"],
        env=environment, cwd=ROOT, capture_output=True, text=True,
    )  # fmt: skip


@pytest.mark.parametrize(
    ("change", "named"),
    [
        ({"NAILWRIGHT_SECRET_KEY": ""}, "NAILWRIGHT_SECRET_KEY"),
        ({"NAILWRIGHT_SECRET_KEY": "short"}, "NAILWRIGHT_SECRET_KEY"),
        ({"NAILWRIGHT_HOSTS": ""}, "NAILWRIGHT_HOSTS"),
        ({"NAILWRIGHT_HOSTS": "*"}, "NAILWRIGHT_HOSTS"),
        ({"NAILWRIGHT_DB_PASSWORD": "nailwright"}, "NAILWRIGHT_DB_PASSWORD"),
        ({"NAILWRIGHT_SECRET_KEY": "a" * 50}, "NAILWRIGHT_SECRET_KEY"),
        ({"NAILWRIGHT_HOSTS": ".com"}, "NAILWRIGHT_HOSTS"),
        ({"NAILWRIGHT_HOSTS": "fish.example.org,https://fish.example.org"}, "NAILWRIGHT_HOSTS"),
        ({"NAILWRIGHT_HOSTS": "fish.example.org:8000"}, "NAILWRIGHT_HOSTS"),
        ({"NAILWRIGHT_DB_PASSWORD": "a" * 12}, "NAILWRIGHT_DB_PASSWORD"),
        ({"NAILWRIGHT_DB_USER": "root"}, "NAILWRIGHT_DB_USER"),
    ],
)
def test_unsafe_settings_are_refused(change: dict[str, str], named: str) -> None:
    done = check(change)
    assert done.returncode != 0 and named in done.stderr


def test_safe_settings_are_taken() -> None:
    done = check({})
    assert done.returncode == 0, done.stderr


def test_a_proxy_that_is_none_is_named() -> None:
    with pytest.raises(ImproperlyConfigured, match=r"holds '10.0.0.300': expected addresses or networks"):
        read_networks("10.0.0.2, 10.0.0.300")
