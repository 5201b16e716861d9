"""The public page's settings, its notice, its certificates and its words."""

from __future__ import annotations

import re
from collections.abc import Callable
from typing import Any

import pypdfium2
import pytest
from fluent.syntax import FluentParser, ast
from rest_framework.test import APIClient

from nailwright.deck.models import Capture
from nailwright.programmes.models import Change, Programme
from nailwright.returns.models import PublicPage
from nailwright.returns.wording import FOLDER, languages, nearest, say
from server.tests.returns.conftest import later

Send = Callable[..., Any]
SETTINGS = {"address": "tarn-study", "open": True, "telephone": "+00 555 0100", "email": "", "greeting": "Hello.", "answers_at_once": True, "contact_days": 90}  # fmt: skip


def pdf_text(content: bytes) -> str:
    return " ".join(page.get_textpage().get_text_bounded() for page in pypdfium2.PdfDocument(content))


def test_a_lead_sets_it_up(lead: APIClient, programme: Programme, finder: APIClient) -> None:
    address = f"/api/v1/programmes/{programme.pk}/public-page"
    proposed = lead.get(address).data
    assert (proposed["address"], proposed["open"]) == ("tarn-study", False)
    assert finder.get("/api/v1/public/pages/tarn-study").status_code == 404
    assert lead.post(address, SETTINGS, format="json").status_code == 200
    assert finder.get("/api/v1/public/pages/tarn-study").data["greeting"] == "Hello."
    assert lead.post(address, {**SETTINGS, "greeting": "Welcome."}, format="json").data["greeting"] == "Welcome."
    change = Change.objects.filter(table="publicpage").latest("server_time")
    assert (change.before, change.after) == ({"greeting": "Hello."}, {"greeting": "Welcome."})


@pytest.mark.parametrize(
    ("told", "code"),
    [
        ({"address": "ab"}, "address_unusable"),
        ({"address": "-abc"}, "address_unusable"),
        ({"telephone": " "}, "page_without_contact"),
        ({"address": "taken"}, "address_taken"),
    ],
)
def test_what_cannot_be_set_is_said(lead: APIClient, programme: Programme, told: dict[str, Any], code: str) -> None:
    PublicPage.objects.create(programme=Programme.objects.create(name="Other"), address="taken")
    answer = lead.post(f"/api/v1/programmes/{programme.pk}/public-page", {**SETTINGS, **told}, format="json")
    assert (answer.status_code, answer.data["code"]) == (422, code)


def test_the_notice_leads_to_the_page(crew: APIClient, page: PublicPage, programme: Programme) -> None:
    address = f"/api/v1/programmes/{programme.pk}/public-page/notice.pdf"
    for language in languages():
        text = pdf_text(crew.get(address, {"language": language, "paper": "letter"}).content)
        assert "/r/tarn" in text and "Tarn study" in text and "+00 555 0100" in text
        assert say(language, "notice-title")[:12] in text.replace("\r\n", " ")
    PublicPage.objects.update(open=False)
    assert crew.get(address).data["code"] == "page_closed"


@pytest.mark.parametrize("language", languages())
def test_the_certificate(send: Send, finder: APIClient, tagged: Capture, language: str) -> None:
    key = send(found_on=str(later(1)), lat=44.99, lon=-31.6).data["key"]
    address = f"/api/v1/public/reports/{key}/certificate"
    svg = finder.get(f"{address}.svg", {"language": language})
    assert svg["Content-Type"].startswith("image/svg") and b"W1207" in svg.content and b"walleye" in svg.content
    assert not re.search(rb"""(href|src)=["']http""", svg.content)
    text = pdf_text(finder.get(f"{address}.pdf", {"language": language}).content)
    assert "W1207" in text and "Tarn study" in text


def test_no_certificate_of_a_story_that_was_not_told(send: Send, finder: APIClient, tagged: Capture) -> None:
    key = send(number="Z9999").data["key"]
    answer = finder.get(f"/api/v1/public/reports/{key}/certificate.svg")
    assert (answer.status_code, answer.data["code"]) == (422, "no_story")


def messages(language: str) -> dict[str, set[str]]:
    """Texts of a catalogue, each with the values that it wants."""
    tree = FluentParser().parse((FOLDER / f"{language}.ftl").read_text(encoding="utf-8"))
    assert not [each for each in tree.body if isinstance(each, ast.Junk)]
    found = [each for each in tree.body if isinstance(each, ast.Message)]
    assert len(found) == len({each.id.name for each in found})
    return {each.id.name: set(re.findall(r"\$([a-z]+)", str(each.to_json()))) | _variables(each) for each in found}


def _variables(node: Any) -> set[str]:
    if isinstance(node, ast.VariableReference):
        return {node.id.name}
    parts = [value for value in vars(node).values() if isinstance(value, ast.BaseNode | list)]
    nodes = [each for part in parts for each in (part if isinstance(part, list) else [part])]
    return {name for each in nodes if isinstance(each, ast.BaseNode) for name in _variables(each)}


@pytest.mark.parametrize("language", languages()[1:])
def test_each_language_says_all_that_english_says(language: str) -> None:
    assert messages(language) == messages("en")


def test_languages_are_found_by_their_file_and_asked_for_loosely() -> None:
    assert languages()[0] == "en" and set(languages()) == {each.stem for each in FOLDER.glob("*.ftl")}
    assert (nearest("fr-CA"), nearest("tlh"), nearest("en-GB")) == ("fr", "en", "en")


def test_plurals_and_dates_are_of_the_language() -> None:
    assert say("fr", "story-days", days=1).endswith("1 jour plus tard.")
    assert say("en", "story-days", days=2) == "You met it 2 days later."
    assert "juin" in say("fr", "certificate-found", date=later(0).replace(month=6))
