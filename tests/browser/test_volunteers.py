"""Volunteers on their phones and those who answer for them: photos with no signal, the tagging course, paper cards in bulk."""

from __future__ import annotations

import io
import re
from collections.abc import Callable, Iterator

import pytest
from PIL import Image
from playwright.sync_api import Browser, Page, expect

from nailwright_core.tags.course import PRACTICE, QUESTIONS

from .conftest import Server

PHONE = {"width": 360, "height": 740}


@pytest.fixture
def volunteer(chromium: Browser, server: Server) -> Iterator[Page]:
    context = chromium.new_context(base_url=server.address, viewport=PHONE, has_touch=True, locale="en-GB")
    people = context.request.get("/api/v1/session").json()["demo_people"]
    who = next(each["username"] for each in people if each["role"] == "volunteer")
    assert context.request.post("/api/v1/session/demo", data={"username": who}).ok
    yield context.new_page()
    context.close()


def picture() -> dict[str, object]:
    out = io.BytesIO()
    Image.new("RGB", (900, 600), (40, 90, 80)).save(out, "JPEG")
    return {"name": "fish.jpg", "mimeType": "image/jpeg", "buffer": out.getvalue()}


def test_a_photo_of_a_card_with_no_signal_is_on_the_fish_s_page(volunteer: Page, sign_in: Callable[..., Page]) -> None:
    volunteer.goto("/kit")
    cards = volunteer.get_by_role("region", name="My cards").get_by_role("listitem")
    tag = (
        cards.filter(has_text=re.compile(r"W\d+ walleye")).first.get_by_role("paragraph").first.inner_text().split()[0]
    )
    first = cards.filter(has_text=tag)
    volunteer.context.set_offline(True)
    first.get_by_role("button", name=f"Photos of card {tag}").tap()
    first.get_by_label(f"Add photo to card {tag}").set_input_files(picture())  # type: ignore[arg-type]
    expect(first.get_by_role("img", name=f"Number 1, card {tag}")).to_be_visible()
    expect(first).to_contain_text("not sent yet")
    assert volunteer.evaluate("document.documentElement.scrollWidth") <= PHONE["width"]
    volunteer.context.set_offline(False)
    expect(first).not_to_contain_text("not sent yet")
    page = sign_in("biologist", "/tags/volunteers")
    fish = page.evaluate(
        """async (tag) => { const s = await (await fetch('/api/v1/session')).json(); const p = s.memberships[0].programme;
           const found = await (await fetch(`/api/v1/programmes/${p}/tags?number=${tag}`)).json();
           return found.find(({ fish }) => fish).fish; }""",
        tag,
    )
    page.goto(f"/fish/{fish}")
    photos = page.get_by_role("region", name="Photos")
    expect(photos.get_by_role("img")).to_have_count(1)
    expect(photos).to_contain_text("Card of a volunteer")
    first.get_by_role("button", name=f"Delete photo 1 of card {tag}").tap()
    expect(first.get_by_role("img")).to_have_count(0)
    volunteer.get_by_role("button", name="Undo").tap()
    expect(first.get_by_role("img")).to_have_count(1)


def test_the_course_is_passed_at_the_second_try(volunteer: Page, sign_in: Callable[..., Page]) -> None:
    volunteer.goto("/kit")
    volunteer.get_by_role("link", name="Tagging course").tap()
    volunteer.get_by_role("button", name="Go to the questions").tap()

    def answer(code: str, choice: str) -> None:
        question = next(each for each in QUESTIONS if each.code == code)
        asked = volunteer.get_by_role("group", name=question.text)
        asked.get_by_role("button", name=dict(question.choices)[choice], exact=True).tap()

    for each in QUESTIONS:
        answer(each.code, "dry" if each.code == "wet" else each.right)
    volunteer.get_by_role("button", name="Go to the practice fish").tap()
    volunteer.get_by_label("Number on the tag").fill(PRACTICE.number.lower())
    volunteer.get_by_label("Length (mm)").fill("387")
    volunteer.get_by_role("button", name="2 swims off slowly").tap()
    assert volunteer.evaluate("document.documentElement.scrollWidth") <= PHONE["width"]
    volunteer.get_by_role("button", name="Hand in answers").tap()
    result = volunteer.get_by_role("status").filter(has_text="questions right")
    expect(result).to_contain_text(f"Not passed yet.{len(QUESTIONS) - 1} of {len(QUESTIONS)} questions right.")
    result.get_by_role("button", name="Show questions").tap()
    expect(volunteer.get_by_text("Right: With wet hands, on a wet board, level.")).to_be_visible()
    answer("wet", "wet")
    volunteer.get_by_role("button", name="Practice fish", exact=True).tap()
    volunteer.get_by_role("button", name="Hand in answers").tap()
    expect(result).to_contain_text("Passed. Thank you!")
    page = sign_in("biologist", "/tags/volunteers")
    expect(page.get_by_role("row", name="Pim Sandwyke")).to_contain_text("passed, valid until")


def test_paper_cards_are_pasted_checked_corrected_and_stored(sign_in: Callable[..., Page]) -> None:
    page = sign_in("biologist", "/tags/volunteers")
    page.get_by_role("link", name="Enter paper cards").click()
    page.get_by_label("Tag number, line 1").focus()
    page.evaluate(
        """(text) => { const data = new DataTransfer(); data.setData('text/plain', text);
           document.activeElement.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true })); }""",
        "\twalleye\t41,5 cm\tm\t2026-10-04\tdawn\told pier\t1\n\tmoonfish\t38 cm\te\t2026-10-04\t\treed\t2\n",
    )
    page.get_by_label("Tagger, where a line names none").select_option(label="Pim Sandwyke (17)")
    page.get_by_role("button", name="Check 2 cards").click()
    expect(page.get_by_text("1 ready, 1 to correct, with the reason below the line.")).to_be_visible()
    expect(page.get_by_label("Species, line 2")).to_have_attribute("aria-invalid", "true")
    page.reload()  # what was typed is kept until it is stored
    page.get_by_label("Species, line 2").fill("nop")
    page.get_by_label("Tagger, where a line names none").select_option(label="Pim Sandwyke (17)")
    page.get_by_role("button", name="Check 2 cards").click()
    page.get_by_role("button", name="Store 2 cards").click()
    expect(page.get_by_text("2 cards stored.", exact=True)).to_be_visible()
    expect(page.get_by_label("Species, line 1")).to_have_value("")
    page.get_by_role("link", name="Volunteers", exact=True).click()
    page.get_by_role("link", name="Pim Sandwyke").click()
    cards = page.get_by_role("region", name="My cards")
    expect(cards).to_contain_text("walleye 41,5 cm")
    expect(cards).to_contain_text("northern pike 38 cm")
