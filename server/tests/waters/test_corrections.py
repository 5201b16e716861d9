"""A water or site that was entered wrongly: renamed, moved, deleted, and what stands against it."""

from __future__ import annotations

from typing import Any

import pytest
from rest_framework.test import APIClient

from nailwright.deck.models import Outing, Run
from nailwright.programmes.models import Change, Programme
from nailwright.waters.models import Site, Water


@pytest.fixture
def pond(lead: APIClient, programme: Programme) -> Water:
    body = {"name": "Mil Pond", "kind": "lake", "latitude": 44.9, "longitude": -31.5}
    made = lead.post(f"/api/v1/programmes/{programme.pk}/new-water", body, format="json")
    assert made.status_code == 201, made.data
    return Water.objects.get(pk=made.data["id"])


def post(client: APIClient, to: str, **body: Any) -> Any:
    return client.post(f"/api/v1/{to}", body, format="json")


def test_a_water_is_renamed_and_moved_with_its_site_and_each_alone(lead: APIClient, pond: Water) -> None:
    told = post(lead, f"waters/{pond.pk}", name="Mill Pond")
    assert told.status_code == 200 and told.data["name"] == "Mill Pond"
    assert (told.data["latitude"], told.data["longitude"], told.data["kind"]) == (44.9, -31.5, "lake")
    moved = post(lead, f"waters/{pond.pk}", latitude=44.8, longitude=-31.4).data
    assert (moved["name"], moved["latitude"]) == ("Mill Pond", 44.8)
    site = Site.objects.get(water=pond)
    assert site.position == (44.8, -31.4)
    # a site that lies elsewhere stays there
    post(lead, f"sites/{site.pk}", latitude=44.81, longitude=-31.41)
    post(lead, f"waters/{pond.pk}", latitude=44.7, longitude=-31.3)
    site.refresh_from_db()
    assert site.position == (44.81, -31.41)
    assert Change.objects.filter(row=pond.pk).count() == 3


def test_where_fish_were_recorded_the_place_stays_and_another_name_needs_a_reason(
    lead: APIClient, run: Run, outing: Outing
) -> None:
    site, water = run.site, outing.water
    Water.objects.filter(pk=water.pk).update(geometry={"type": "Point", "coordinates": [-31.5, 44.9]})
    assert post(lead, f"sites/{site.pk}", latitude=44.1, longitude=-31.1).data["code"] == "site_fished"
    assert post(lead, f"waters/{water.pk}", latitude=44.1, longitude=-31.1).data["code"] == "water_fished"
    assert post(lead, f"waters/{water.pk}/deleted").data["code"] == "water_in_use"
    before = site.geometry
    assert post(lead, f"sites/{site.pk}", name="Fifteen").data["code"] == "reason_missing"
    assert post(lead, f"sites/{site.pk}", name="Fifteen", reason="misspelt").data["name"] == "Fifteen"
    assert post(lead, f"waters/{water.pk}", name="Long Lake").data["field"] == "reason"
    assert post(lead, f"waters/{water.pk}", name="Long Lake", reason="its name on maps").status_code == 200
    site.refresh_from_db()
    assert site.geometry == before and Run.objects.get(pk=run.pk).site_id == site.pk
    # taken out of use and put back; the run stays where it was
    assert post(lead, f"sites/{site.pk}/deleted", deleted=True).data["deleted"] is True
    assert lead.get(f"/api/v1/waters/{water.pk}/sites").data == []
    assert post(lead, f"sites/{site.pk}/deleted", deleted=False).data["deleted"] is False
    assert [each["name"] for each in lead.get(f"/api/v1/waters/{water.pk}/sites").data] == ["Fifteen"]


def test_names_stay_apart(lead: APIClient, programme: Programme, pond: Water) -> None:
    post(lead, f"programmes/{programme.pk}/new-water", name="Upper Pond", kind="lake")
    assert post(lead, f"waters/{pond.pk}", name="upper pond").data["code"] == "water_there"
    here = post(lead, f"waters/{pond.pk}/sites", name="Ramp").data
    assert post(lead, f"sites/{here['id']}", name="mil pond").data["code"] == "site_there"
    assert post(lead, f"sites/{here['id']}", name="RAMP").status_code == 200  # its own name, in other letters
    post(lead, f"sites/{here['id']}/deleted", deleted=True)
    post(lead, f"waters/{pond.pk}/sites", name="Ramp")
    assert post(lead, f"sites/{here['id']}/deleted", deleted=False).data["code"] == "site_there"
    for wrong in ({"latitude": 44.9}, {"latitude": 99, "longitude": 0}, {"name": ""}, {"kind": "puddle"}):
        assert post(lead, f"waters/{pond.pk}", **wrong).status_code == 422, wrong


def test_a_water_of_nothing_is_deleted_and_the_history_says_what_it_was(
    lead: APIClient, programme: Programme, pond: Water
) -> None:
    key = pond.pk
    left = post(lead, f"waters/{key}/deleted")
    assert left.status_code == 200 and key not in [each["id"] for each in left.data]
    assert not Site.objects.filter(water=key).exists()
    noted = Change.objects.get(row=key)
    assert noted.before["name"] == "Mil Pond" and noted.before["sites"] == ["Mil Pond"]
    assert post(lead, f"waters/{key}/deleted").status_code == 404  # a second touch
