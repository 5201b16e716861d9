"""Letters that ask volunteers for what their cards do not say."""

from __future__ import annotations

from collections.abc import Callable
from datetime import timedelta
from typing import Any

import pytest
from django.core import mail
from django_tasks_db.models import DBTaskResult
from rest_framework.test import APIClient

from nailwright.programmes.models import Membership, Person
from nailwright.returns.models import Card, CardRequest
from nailwright.returns.volunteers.letters import send_card_letter
from server.tests.conftest import operation

Send = Callable[..., Any]


@pytest.fixture(autouse=True)
def _mail_goes_out(settings: Any) -> None:
    settings.EMAIL_HOST = "mail.example.org"


@pytest.fixture
def kit(client_as: Callable[[str], APIClient], sync: Send) -> Membership:
    """A volunteer with one complete card without a tag, one without its place, one without nearly everything."""
    volunteer = client_as("volunteer")
    mine = Membership.objects.get(person=volunteer.handler._force_user)  # type: ignore[attr-defined]
    Membership.objects.filter(pk=mine.pk).update(number="17")
    Person.objects.filter(pk=mine.person_id).update(email="vera@example.org")
    whole = {"tagger": str(mine.pk), "species": "wal", "length": "41 cm", "condition": 1, "place_text": "old pier"}
    cards = [
        operation("card.record", **whole),
        operation("card.record", **{**whole, "place_text": "", "number_text": "W9"}),
        operation("card.record", tagger=str(mine.pk), channel="paper", number_text="W10"),
    ]
    assert {each["state"] for each in sync(*cards, client=volunteer).data["results"]} == {"stored"}
    return Membership.objects.get(pk=mine.pk)


def test_it_names_each_card_with_what_is_missing(crew: APIClient, kit: Membership) -> None:
    letter = crew.get(f"/api/v1/kits/{kit.pk}/letter").data
    assert (letter["to"], letter["by_mail"], letter["cards"], letter["asked_at"]) == ("vera@example.org", True, 2, None)
    text = letter["text"]
    assert "W9, walleye," in text and "the place, in words or as a position" in text
    assert "- W10: the species, the length, and whether it was measured, the date, the time of day" in text
    assert "/kit" in text and not mail.outbox


def test_in_the_language_of_the_volunteer(crew: APIClient, kit: Membership) -> None:
    Person.objects.filter(pk=kit.person_id).update(date_language="fr")
    letter = crew.get(f"/api/v1/kits/{kit.pk}/letter").data
    assert letter["subject"] == "Merci de compléter vos fiches de marquage"
    assert "l'espèce" in letter["text"] and "the species" not in letter["text"]


def test_it_is_sent_once_a_day_and_noted(crew: APIClient, kit: Membership) -> None:
    address = f"/api/v1/kits/{kit.pk}/letter"
    sent = crew.post(address, {"by_mail": True}, format="json")
    assert sent.status_code == 200 and sent.data["asked_at"]
    (queued,) = DBTaskResult.objects.all()
    assert send_card_letter.call(*queued.args_kwargs["args"]) is True
    assert [each.to for each in mail.outbox] == [["vera@example.org"]] and "W10" in mail.outbox[0].body
    again = crew.post(address, {"by_mail": True}, format="json")
    assert (again.status_code, again.data["code"]) == (422, "asked_already") and len(mail.outbox) == 1
    listed = crew.get(f"/api/v1/programmes/{kit.programme_id}/kits").data
    assert listed[0]["asked_at"] and listed[0]["incomplete"] == 2
    CardRequest.objects.update(sent_at=CardRequest.objects.get().sent_at - timedelta(hours=21))
    assert crew.post(address, {"by_mail": True}, format="json").status_code == 200
    assert DBTaskResult.objects.count() == 2 and CardRequest.objects.count() == 2


def test_who_has_no_address_any_more_is_not_written_to(crew: APIClient, kit: Membership) -> None:
    crew.post(f"/api/v1/kits/{kit.pk}/letter", {"by_mail": True}, format="json")
    Person.objects.filter(pk=kit.person_id).update(email="")
    assert send_card_letter.call(*DBTaskResult.objects.get().args_kwargs["args"]) is False and not mail.outbox


@pytest.mark.parametrize(
    ("host", "to", "code"), [("", "vera@example.org", "mail_not_set"), ("mail.example.org", "", "address_missing")]
)
def test_where_no_mail_can_go_it_is_handed_over_otherwise(
    crew: APIClient, kit: Membership, settings: Any, host: str, to: str, code: str
) -> None:
    settings.EMAIL_HOST = host
    Person.objects.filter(pk=kit.person_id).update(email=to)
    address = f"/api/v1/kits/{kit.pk}/letter"
    assert crew.get(address).data["by_mail"] is False
    refused = crew.post(address, {"by_mail": True}, format="json")
    assert (refused.status_code, refused.data["code"]) == (422, code) and not CardRequest.objects.exists()
    assert crew.post(address, {"by_mail": False}, format="json").status_code == 200
    assert CardRequest.objects.count() == 1 and not mail.outbox


def test_with_nothing_missing_there_is_no_letter(crew: APIClient, kit: Membership) -> None:
    Card.objects.exclude(place_text="old pier").update(deleted_at="2026-01-01T00:00Z")
    refused = crew.get(f"/api/v1/kits/{kit.pk}/letter")
    assert (refused.status_code, refused.data["code"]) == (422, "nothing_missing")


def test_a_volunteer_writes_to_nobody(client_as: Callable[[str], APIClient], kit: Membership) -> None:
    for client in (client_as("volunteer"), client_as("viewer")):
        assert client.get(f"/api/v1/kits/{kit.pk}/letter").status_code == 403
        assert client.post(f"/api/v1/kits/{kit.pk}/letter", {"by_mail": True}, format="json").status_code == 403
    own = APIClient()
    own.force_authenticate(kit.person)
    assert own.get(f"/api/v1/kits/{kit.pk}/letter").status_code == 403
