"""A small programme to work on, and people to work on it."""

from __future__ import annotations

from collections.abc import Callable
from datetime import date, timedelta
from typing import Any

import pytest
from django.conf import settings
from django.db import connection
from django.utils import timezone
from pytest_django import DjangoDbBlocker
from rest_framework.test import APIClient

from nailwright.common.rows import new_id
from nailwright.deck.encounters import renew_occasions
from nailwright.deck.models import Capture, Gear, Outing, Run
from nailwright.plan.models import Unit
from nailwright.programmes.models import Membership, Person, Programme, ProgrammeSpecies, Role
from nailwright.waters.models import Site, Water
from nailwright.waters.zones import zone_called
from server.tests.databases import new_database

BEGAN = timezone.now().replace(microsecond=0) - timedelta(hours=2)


@pytest.fixture(scope="session")
def django_db_setup(django_test_environment: None, django_db_blocker: DjangoDbBlocker) -> None:
    """In place of pytest-django's: a copy of one migrated database for each worker, where it would migrate in each."""
    connection.settings_dict["NAME"] = new_database("tests", "migrate")


@pytest.fixture(scope="session", autouse=True)
def screens_when_asked_for() -> None:
    """Files of the screens are looked for as they are asked for: each client of a test would else list all of them anew, a third of the
    tests' time."""
    settings.WHITENOISE_AUTOREFRESH = True


@pytest.fixture
def programme(db: None) -> Programme:
    programme = Programme.objects.create(name="Tarn study")
    for order, code in enumerate(("wal", "yep", "bur")):
        ProgrammeSpecies.objects.create(programme=programme, code=code, order=order)
    return programme


@pytest.fixture
def site(programme: Programme) -> Site:
    water = Water.objects.create(programme=programme, name="Ketterwick River", kind=Water.Kind.RIVER)
    return Site.objects.create(water=water, name="K15", zone=zone_called(water, "Lower river"), river_km=15)


@pytest.fixture
def outing(programme: Programme, site: Site) -> Outing:
    return Outing.objects.create(
        programme=programme, water=site.water, name="Tonight", date=date(2026, 10, 12), gear=Gear.BOAT
    )


@pytest.fixture
def person_as(programme: Programme) -> Callable[[str], Person]:
    """A member in the given role; "stranger" belongs to no programme."""

    def make(role: str) -> Person:
        person = Person.objects.create(username=f"{role}-{new_id()}", name=role.title())
        if role in Role.values:
            Membership.objects.create(programme=programme, person=person, role=role)
        return person

    return make


@pytest.fixture
def client_as(person_as: Callable[[str], Person]) -> Callable[[str], APIClient]:
    def make(role: str) -> APIClient:
        client = APIClient()
        client.force_authenticate(person_as(role))
        return client

    return make


@pytest.fixture
def crew(client_as: Callable[[str], APIClient]) -> APIClient:
    return client_as("crew")


@pytest.fixture
def lead(client_as: Callable[[str], APIClient]) -> APIClient:
    return client_as("lead")


@pytest.fixture
def unit(programme: Programme) -> Unit:
    return Unit.objects.create(
        programme=programme,
        name="Boat",
        gear="boat_electrofishing",
        max_volts=500,
        max_amps=20,
        max_watts=3000,
        r100_ohm=60,
    )


@pytest.fixture
def run(outing: Outing, site: Site, person_as: Callable[[str], Person]) -> Run:
    made = Run.objects.create(
        outing=outing, site=site, number=1, gear=Gear.BOAT, started_at=BEGAN, recorder=person_as("crew")
    )
    renew_occasions([made.pk])
    return made


@pytest.fixture
def sync(crew: APIClient, programme: Programme) -> Callable[..., Any]:
    """Sends operations as the crew and gives back the response."""

    def send(*operations: dict[str, Any], client: APIClient = crew) -> Any:
        return client.post(f"/api/v1/programmes/{programme.pk}/sync", {"operations": list(operations)}, format="json")

    return send


@pytest.fixture
def called(run: Run) -> Callable[..., dict[str, Any]]:
    """The operation of a called fish; by default a believable walleye."""

    def make(**row: Any) -> dict[str, Any]:
        return operation(
            "capture.record", **{"run": str(run.pk), "species": "wal", "length": "463", "mass": "1085", **row}
        )

    return make


def operation(kind: str, /, **row: Any) -> dict[str, Any]:
    return {"id": str(new_id()), "kind": kind, "device_time": timezone.now().isoformat(), "row": row}


def only_capture() -> Capture:
    return Capture.objects.get()
