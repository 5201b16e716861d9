"""Tokens, throttling, headers, and settings that refuse to be unsafe."""

from __future__ import annotations

import os
import subprocess
import sys
from collections.abc import Callable
from pathlib import Path

import pytest
from django.test import Client
from rest_framework.test import APIClient

from nailwright.common.rows import new_id
from nailwright.programmes.models import Membership, Person, Programme

from .conftest import operation

ROOT = Path(__file__).resolve().parents[2]


@pytest.fixture
def member(programme: Programme) -> Person:
    person = Person.objects.create_user(username="tove", password="walleye at dusk", name="Tove")
    Membership.objects.create(programme=programme, person=person, role="crew")
    return person


def test_a_token_speaks_for_its_person_until_it_is_ended(member: Person, programme: Programme) -> None:
    client = APIClient()
    client.force_login(member)
    first = client.post("/api/v1/token").data["token"]
    second = client.post("/api/v1/token").data["token"]
    address = f"/api/v1/programmes/{programme.pk}/outings"
    program = APIClient(HTTP_AUTHORIZATION=f"Token {second}")
    assert program.get(address).status_code == 200
    assert APIClient(HTTP_AUTHORIZATION=f"Token {first}").get(address).status_code == 401
    client.delete("/api/v1/token")
    assert program.get(address).status_code == 401


def test_a_token_may_no_more_than_its_person(client_as: Callable[[str], APIClient], programme: Programme) -> None:
    token = client_as("viewer").post("/api/v1/token").data["token"]
    response = APIClient(HTTP_AUTHORIZATION=f"Token {token}").post(
        f"/api/v1/programmes/{programme.pk}/sync",
        {"operations": [operation("water.record", outing=str(new_id()), temperature_c=9)]},
        format="json",
    )
    assert response.data["code"] == "role_may_not"


def test_wrong_passwords_are_throttled_for_that_name_only(member: Person) -> None:
    client = APIClient()
    codes = [
        client.post("/api/v1/session", {"username": "tove", "password": "guess"}, format="json").data["code"]
        for _ in range(11)
    ]
    assert codes[0] == "sign_in_failed" and codes[-1] == "too_many_tries"
    right = client.post("/api/v1/session", {"username": "tove", "password": "walleye at dusk"}, format="json")
    assert (right.status_code, right.data["code"]) == (403, "too_many_tries")
    Person.objects.create_user(username="idris", password="perch at dawn", name="Idris")
    assert (
        client.post("/api/v1/session", {"username": "idris", "password": "perch at dawn"}, format="json").status_code
        == 200
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
    ],
)
def test_unsafe_settings_are_refused(change: dict[str, str], named: str) -> None:
    done = check(change)
    assert done.returncode != 0 and named in done.stderr


def test_safe_settings_are_taken() -> None:
    done = check({})
    assert done.returncode == 0, done.stderr
