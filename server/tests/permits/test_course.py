"""The tagging course: who passes holds a certificate, which stands in a permit's report."""

from __future__ import annotations

from collections.abc import Callable
from datetime import date, timedelta
from typing import Any

import pypdfium2
import pytest
from rest_framework.test import APIClient

from nailwright.permits.models import Allowance, Permit
from nailwright.permits.report import report_on, report_pdf
from nailwright.programmes.models import Change, Programme
from nailwright_core.tags.course import PRACTICE, QUESTIONS, VALID_DAYS

RIGHT = {each.code: each.right for each in QUESTIONS}
CARD = {"number_text": PRACTICE.number, "length": "387 mm", "length_basis": "measured", "condition": PRACTICE.condition}


@pytest.fixture
def volunteer(client_as: Callable[[str], APIClient]) -> APIClient:
    return client_as("volunteer")


def take(client: APIClient, programme: Programme, answers: dict[str, str] | None = None, **card: Any) -> Any:
    body = {"answers": RIGHT if answers is None else answers, "practice": {**CARD, **card}}
    return client.post(f"/api/v1/programmes/{programme.pk}/tagging-course", body, format="json")


def test_the_course_does_not_give_its_answers_away(volunteer: APIClient, programme: Programme) -> None:
    told = volunteer.get(f"/api/v1/programmes/{programme.pk}/tagging-course").data
    assert len(told["questions"]) == len(QUESTIONS) and told["passed"] == []
    assert {"code", "text", "choices", "must"} == set(told["questions"][0])


def test_passed_it_is_a_certificate_and_passed_again_renewed(volunteer: APIClient, programme: Programme) -> None:
    told = take(volunteer, programme).data
    today = date.today()
    assert told["passed"] and told["wrong"] == [] and told["until"] == str(today + timedelta(days=VALID_DAYS))
    certificate = Permit.objects.get()
    assert (certificate.kind, certificate.name, certificate.holder) == ("certificate", "Tagging course", "Volunteer")
    Permit.objects.update(first=today - timedelta(days=700), last=today + timedelta(days=30))
    assert take(volunteer, programme).data["passed"]
    certificate.refresh_from_db()
    assert Permit.objects.count() == 1 and certificate.first == today
    change = Change.objects.get(row=certificate.pk)
    assert change.before["first"] == str(today - timedelta(days=700))


def test_not_passed_it_says_why_and_keeps_nothing(volunteer: APIClient, programme: Programme) -> None:
    told = take(volunteer, programme, {**RIGHT, "wet": "dry"}, length="40 cm").data
    assert (told["passed"], told["missed_must"], told["right"], told["until"]) == (
        False,
        True,
        len(QUESTIONS) - 1,
        None,
    )
    assert told["wrong"][0]["code"] == "wet" and told["wrong"][0]["right"] == "wet" and told["wrong"][0]["why"]
    assert list(told["practice"]) == ["length"] and not Permit.objects.exists()


def test_each_sees_themselves_and_the_crew_everybody(
    volunteer: APIClient, crew: APIClient, client_as: Callable[[str], APIClient], programme: Programme
) -> None:
    Permit.objects.create(
        programme=programme, kind="certificate", name="Tagging course", holder="Somebody else", first=date.today(), last=date.today()
    )  # fmt: skip
    take(volunteer, programme)
    address = f"/api/v1/programmes/{programme.pk}/tagging-course"
    assert [each["holder"] for each in volunteer.get(address).data["passed"]] == ["Volunteer"]
    assert [each["holder"] for each in crew.get(address).data["passed"]] == ["Somebody else", "Volunteer"]
    assert (
        client_as("viewer").get(address).status_code == 403 and take(client_as("viewer"), programme).status_code == 403
    )


def test_who_passed_is_in_the_permits_papers(volunteer: APIClient, programme: Programme) -> None:
    take(volunteer, programme)
    today = date.today()
    span = {"first": today - timedelta(days=10), "last": today + timedelta(days=10)}
    permit = Permit.objects.create(programme=programme, kind="permit", name="Permit 17", **span)
    Allowance.objects.create(permit=permit, species="wal", what="tagged", most=10, **span)
    Permit.objects.create(
        programme=programme, kind="certificate", name="First aid", holder="Long ago", first=today - timedelta(days=900), last=today - timedelta(days=500)
    )  # fmt: skip
    report = report_on(permit)
    assert [(each.holder, each.name) for each in report["people"]] == [("Volunteer", "Tagging course")]
    pages = pypdfium2.PdfDocument(report_pdf(report, "a4", today))
    text = " ".join(page.get_textpage().get_text_range() for page in pages)
    assert "Volunteer" in text and "Tagging course" in text and "Long ago" not in text


@pytest.mark.parametrize(
    "body",
    [
        {},
        {"answers": {"moon": "x"}, "practice": CARD},
        {"answers": {"before": "moon"}, "practice": CARD},
        {"answers": [], "practice": CARD},
        {"answers": RIGHT, "practice": {**CARD, "condition": 7}},
    ],
)
def test_what_is_no_answer_is_refused(volunteer: APIClient, programme: Programme, body: Any) -> None:
    refused = volunteer.post(f"/api/v1/programmes/{programme.pk}/tagging-course", body, format="json")
    assert refused.status_code == 422 and not Permit.objects.exists()
