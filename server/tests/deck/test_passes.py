"""Passes at one site while they are fished."""

from __future__ import annotations

from datetime import date
from typing import Any

import pytest
from rest_framework.test import APIClient

from nailwright.deck.models import Capture, Gear, Outing, Run
from nailwright.programmes.models import Person, Programme, ProgrammeSpecies
from nailwright.waters.models import Site
from nailwright_core.common import species
from nailwright_core.common.species_values import species_values
from nailwright_core.findings.abundance import passes_so_far, removal
from server.tests.conftest import BEGAN


def fished(outing: Outing, site: Site, person: Person, number: int, fish: int, seconds: float = 600) -> Run:
    run = Run.objects.create(
        outing=outing, site=site, number=number, gear=Gear.BOAT, started_at=BEGAN, recorder=person, current_on_s=seconds
    )
    Capture.objects.create(programme=outing.programme, run=run, species="wal", count=fish, recorder=person)
    return run


def test_what_passes_say_so_far(crew: APIClient, outing: Outing, site: Site, person_as: Any) -> None:
    person = person_as("crew")
    address = f"/api/v1/outings/{outing.pk}/passes"
    assert crew.get(address).data == []
    fished(outing, site, person, 1, 45)
    (told,) = crew.get(address).data
    assert told["passes"] == 1 and told["species"][0]["words"] == ""
    fished(outing, site, person, 2, 20)
    fished(outing, site, person, 3, 9)
    (told,) = crew.get(address).data
    (walleye,) = told["species"]
    assert walleye["catches"] == [45, 20, 9] and walleye["another"] is True
    assert walleye["words"] == passes_so_far([45, 20, 9]).words and "averaged over" in walleye["words"]


def test_a_protocol_says_how_the_chance_of_capture_falls(
    crew: APIClient, outing: Outing, site: Site, programme: Programme, person_as: Any
) -> None:
    version = programme.protocols.create(number=7, values={"removal_falls": [{"fall": 0, "weight": 1}]})
    Outing.objects.update(protocol=version)
    for number, fish in ((1, 45), (2, 20), (3, 9)):
        fished(outing, site, person_as("crew"), number, fish)
    ((walleye,),) = [each["species"] for each in crew.get(f"/api/v1/outings/{outing.pk}/passes").data]
    alone = removal([45, 20, 9]).n
    assert walleye["another"] is False
    assert walleye["words"].startswith(
        f"{alone.value:.0f} ({alone.lower:.0f} to {alone.upper:.0f}) fish, the chance of"
    )


def test_against_the_last_visit(
    crew: APIClient, outing: Outing, programme: Programme, site: Site, person_as: Any
) -> None:
    person = person_as("crew")
    before = Outing.objects.create(
        programme=programme, water=site.water, name="Before", date=date(2025, 10, 3), gear=Gear.BOAT
    )
    fished(before, site, person, 1, 30, 900)
    fished(outing, site, person, 1, 45, 600)
    (told,) = crew.get(f"/api/v1/outings/{outing.pk}/passes").data
    assert (
        told["before"] == "45 fish in 10 min of current (4.5 a minute); on 2025-10-03 here 30 in 15 min (2.0 a minute)."
    )


@pytest.mark.parametrize("role", ["viewer", "crew"])
def test_species_whose_places_are_hidden(
    client_as: Any, programme: Programme, outing: Outing, site: Site, person_as: Any, role: str
) -> None:
    fished(outing, site, person_as("crew"), 1, 45)
    hidden = {**species_values(species.get("wal")), "places_hidden": True}
    ProgrammeSpecies.objects.filter(programme=programme, code="wal").update(own=hidden)
    Programme.objects.update(species_revision=7)
    told = client_as(role).get(f"/api/v1/outings/{outing.pk}/passes").data
    assert [each["species"] for of in told for each in of["species"]] == ([] if role == "viewer" else ["wal"])
