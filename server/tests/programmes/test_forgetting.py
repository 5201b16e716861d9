"""What is stored about a person is theirs to have, and to be forgotten: the name goes, the record stays."""

from __future__ import annotations

import json
from typing import Any

import pytest
from django.utils import timezone
from rest_framework.test import APIClient

from nailwright.deck.models import Capture, Photo, PhotoFile, Run, Signature
from nailwright.permits.models import Permit
from nailwright.plan.models import Survey
from nailwright.programmes.models import ApiToken, Change, Membership, Person, Programme
from nailwright.programmes.people.own_data import FORGOTTEN
from server.tests.programmes.test_people import PASSWORD, signed_in


@pytest.fixture
def ragna(programme: Programme) -> Person:
    person = Person.objects.create_user("ragna", "ragna@example.org", PASSWORD, name="Ragna Holt")
    Membership.objects.create(programme=programme, person=person, role="lead")
    return person


@pytest.fixture
def sander(programme: Programme, run: Run) -> Person:
    """One of the crew, whose name stands in every place where names stand."""
    person = Person.objects.create_user("sander", "sander@example.org", PASSWORD, name="Sander Vik")
    Membership.objects.create(programme=programme, person=person, role="crew", number="T-12")
    ApiToken.objects.create(person=person, digest="d", ends_at=timezone.now())
    Capture.objects.create(programme=programme, run=run, species="wal", recorder=person)
    Signature.objects.create(outing=run.outing, checklist="boat", version=1, lines=[], name="sander vik", person=person)
    Permit.objects.create(
        programme=programme,
        kind="certificate",
        name="Leader",
        holder="Sander Vik",
        first="2026-01-01",
        last="2027-01-01",
    )
    Survey.objects.create(
        programme=programme, water=run.outing.water, person=person, name="Spring", question="size", species=["wal"], gear="angling",
        first="2026-05-01", last="2026-06-01", parts={"crew": ["Ragna Holt", "Sander Vik"]},
    )  # fmt: skip
    return person


def told(client: APIClient) -> Any:
    return json.loads(client.get("/api/v1/account/data").content)


def test_a_person_can_have_what_is_stored_about_them(ragna: Person, sander: Person) -> None:
    data = told(signed_in("sander"))
    assert data["account"]["email"] == "sander@example.org" and data["memberships"][0]["number"] == "T-12"
    tables = {each["table"]: each["rows"] for each in data["rows_that_name_you"]}
    assert tables["deck_capture"] == tables["deck_signature"] == tables["plan_survey"] == 1
    # none of the secrets, and nothing of anybody else
    details = json.dumps(data)
    assert "pbkdf2" not in details and "ragna" not in details.lower()


def test_the_name_goes_and_the_record_stays(ragna: Person, sander: Person, programme: Programme) -> None:
    client = signed_in("sander")
    assert (
        client.post("/api/v1/account/forget", {"password": "guessed"}, format="json").data["code"] == "password_wrong"
    )
    assert client.post("/api/v1/account/forget", {"password": PASSWORD}, format="json").data["person"] is None
    sander.refresh_from_db()
    assert (sander.name, sander.email, sander.is_active) == (FORGOTTEN, "", False)
    assert not Person.objects.filter(username="sander").exists() and not ApiToken.objects.exists()
    assert Capture.objects.get().recorder_id == sander.pk
    assert (Signature.objects.get().name, Permit.objects.get().holder) == (FORGOTTEN, FORGOTTEN)
    assert Survey.objects.get().parts["crew"] == ["Ragna Holt", FORGOTTEN]
    member = sander.memberships.get()
    assert (member.number, bool(member.left_at)) == ("", True)
    # nothing of the name is left in the history either
    assert "Sander" not in json.dumps(list(Change.objects.values_list("before", "after", "reason")))
    assert Change.objects.filter(row=sander.pk, after={"forgotten": True}).exists()
    # the way in is shut
    refused = APIClient().post("/api/v1/session", {"username": "sander", "password": PASSWORD}, format="json")
    assert refused.status_code == 422
    assert client.get(f"/api/v1/programmes/{programme.pk}/today").status_code in (401, 403)


def test_the_last_lead_cannot_be_forgotten(ragna: Person, programme: Programme) -> None:
    refused = signed_in("ragna").post("/api/v1/account/forget", {"password": PASSWORD}, format="json")
    assert refused.data["code"] == "last_lead"
    ragna.refresh_from_db()
    assert ragna.name == "Ragna Holt" and ragna.is_active


def test_a_lead_forgets_only_who_has_left_and_is_nowhere_else(
    ragna: Person, sander: Person, programme: Programme
) -> None:
    lead, member = signed_in("ragna"), sander.memberships.get()
    to = f"/api/v1/members/{member.pk}/forget"
    assert lead.post(to).data["code"] == "still_here"
    Membership.objects.filter(pk=member.pk).update(left_at=timezone.now())
    elsewhere = Membership.objects.create(
        programme=Programme.objects.create(name="Other"), person=sander, role="viewer"
    )
    assert lead.post(to).data["code"] == "elsewhere_too"
    elsewhere.delete()
    told = lead.post(to)
    assert told.status_code == 200 and FORGOTTEN in [each["name"] for each in told.data["members"]]
    assert lead.post(to).status_code == 200  # twice is once
    assert Person.objects.filter(name=FORGOTTEN).count() == 1


@pytest.mark.django_db
def test_a_photo_of_a_person_goes_with_them_and_other_photos_stay(ragna: Person, sander: Person, run: Run) -> None:
    made = {}
    for shows, note in (
        ("person", "Sander Vik"),
        ("person", "Ragna Holt, sander vik"),
        ("person", "Ragna Holt"),
        ("place", "Sander Vik"),
        ("fish", "scar"),
    ):
        photo = Photo.objects.create(outing=run.outing, shows=shows, note=note, width=1, height=1, recorder=ragna)
        PhotoFile.objects.create(photo=photo, jpeg=b"jpeg", small=b"jpeg")
        made[shows, note] = photo.pk
    client = signed_in("sander")
    assert client.post("/api/v1/account/forget", {"password": PASSWORD}, format="json").status_code == 200
    left = {(each.shows, each.note): PhotoFile.objects.filter(photo=each).exists() for each in Photo.present.all()}
    assert left == {("person", "Ragna Holt"): True, ("place", FORGOTTEN): True, ("fish", "scar"): True}
    gone = Photo.objects.exclude(deleted_at=None)
    assert gone.count() == 2 and not PhotoFile.objects.filter(photo__in=gone).exists()
    lead = signed_in("ragna")
    assert lead.get(f"/api/v1/photos/{made['person', 'Sander Vik']}.jpg").status_code == 404
