"""Where protected fish are found is told by role: reach and water to all, sites to crew, biologists and leads."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import pytest
from rest_framework.test import APIClient

from nailwright.deck.models import Capture, Run
from nailwright.programmes.models import Programme, ProgrammeSpecies
from nailwright.programmes.places import HIDDEN
from nailwright.tags.models import Encounter, Fish
from nailwright.waters.models import Series, Site
from nailwright_core.common import species
from nailwright_core.common.species_values import species_values

Client = Callable[[str], APIClient]


@pytest.fixture
def fish(programme: Programme, run: Run) -> Capture:
    """A burbot, whose places are hidden, and a walleye, whose are not; both at K15."""
    hidden = {**species_values(species.get("bur")), "places_hidden": True}
    ProgrammeSpecies.objects.filter(programme=programme, code="bur").update(own=hidden)
    Programme.objects.update(species_revision=7)
    known = Fish.objects.create(programme=programme, species="bur")
    rows = [
        Capture.objects.create(
            programme=programme, run=run, species=code, length_mm=400 + n, length_type="TL", length_basis="measured",
            recorder=run.recorder, fish=known if code == "bur" else None,
        )
        for n, code in enumerate(("bur", "wal"))
    ]  # fmt: skip
    Encounter.objects.create(fish=known, kind="capture", source_id=rows[0].pk, at=rows[0].device_time, site=run.site)
    return rows[0]


def sites(client: APIClient, programme: Programme) -> dict[str, Any]:
    told = client.get(f"/api/v1/programmes/{programme.pk}/register").data
    at = {column["key"]: place for place, column in enumerate(told["columns"])}
    return {row["cells"][at["species"]]: row["cells"][at["site"]] for row in told["rows"]}


def test_the_register_shows_sites_by_role(client_as: Client, fish: Capture, programme: Programme) -> None:
    assert sites(client_as("biologist"), programme) == {"bur": "K15", "wal": "K15"}
    # the other fish of the site as well: they were caught in the very same run
    assert sites(client_as("viewer"), programme) == {"bur": HIDDEN, "wal": HIDDEN}


def test_nor_do_a_single_fish_its_story_and_the_deck_tell(client_as: Client, fish: Capture, run: Run) -> None:
    viewer, crew = client_as("viewer"), client_as("crew")
    for client, site, n in ((viewer, HIDDEN, 0), (crew, "K15", 2)):
        assert client.get(f"/api/v1/captures/{fish.pk}").data["site"] == site
        story = client.get(f"/api/v1/fish/{fish.fish_id}").data
        assert [each["site"] for each in story["encounters"]] == [site]
        assert len(client.get(f"/api/v1/outings/{run.outing_id}/deck").json()["captures"]) == n
    assert viewer.get(f"/api/v1/fish/{fish.fish_id}").data["encounters"][0]["river_km"] is None


def test_nor_does_a_question_by_site(client_as: Client, fish: Capture, run: Run, programme: Programme) -> None:
    viewer, to = client_as("viewer"), f"/api/v1/programmes/{programme.pk}"
    flow = Series.objects.create(water=run.outing.water, name="Flow", unit="m3/s", source="gauge", person=run.recorder)
    asked = (
        f"{to}/findings/size?species=bur&site={run.site_id}",
        f"{to}/findings/size-compared?species=bur&by=site",
        f"{to}/register?species=bur&site={run.site_id}",
        f"{to}/register?site={run.site_id}",
        f"/api/v1/series/{flow.pk}/overlay?species=bur&site={run.site_id}",
    )
    for address in asked:
        refused = viewer.get(address)
        assert (refused.status_code, refused.data["code"]) == (403, "places_hidden"), address
        assert client_as("biologist").get(address).data.get("code") != "places_hidden"
    # nor of the other fish of that site: by them it would be known
    assert viewer.get(f"{to}/findings/size?species=wal&site={run.site_id}").data["code"] == "places_hidden"
    # of other sites, and by reach, everybody may ask
    other = Site.objects.create(water=run.outing.water, name="K16")
    refused = viewer.get(f"{to}/findings/size?species=wal&site={other.pk}")
    assert refused.data["code"] != "places_hidden"
    assert viewer.get(f"{to}/findings/size?species=bur&zone=Lower river").status_code == 200
