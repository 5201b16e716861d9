"""A finder on a phone, from the code on the notice to the certificate; and those who decide what they say."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator
from pathlib import Path

import pytest
from PIL import Image
from playwright.sync_api import Browser, BrowserContext, Page, expect

from bench.fresh import client

from .conftest import Server

Open = Callable[..., Page]


@pytest.fixture
def phone(chromium: Browser, server: Server) -> Iterator[Page]:
    """A phone of 360 px in somebody's hand who has no account."""
    context = chromium.new_context(
        base_url=server.address, viewport={"width": 360, "height": 740}, has_touch=True, locale="en-GB",
        geolocation={"latitude": 44.93, "longitude": -31.52, "accuracy": 12}, permissions=["geolocation"],
    )  # fmt: skip
    yield context.new_page()
    context.close()


def numbers(server: Server, state: str) -> list[str]:
    """Some T-bar numbers of the demo in a state."""
    asked = (
        "SELECT number FROM tags_tag LEFT JOIN returns_return ON returns_return.tag_id = tags_tag.id "
        f"WHERE tags_tag.kind = 'tbar' AND tags_tag.state = '{state}' AND returns_return.id IS NULL ORDER BY number LIMIT 9"
    )
    return client("mariadb", "-N", server.environment["NAILWRIGHT_DB_NAME"], "-e", asked).decode().split()


def no_wider_than_it_is(page: Page) -> None:
    assert page.evaluate("document.documentElement.scrollWidth") <= 360


def test_from_the_code_to_the_certificate_in_nine_touches(phone: Page, server: Server, tmp_path: Path) -> None:
    number = numbers(server, "placed")[0]
    phone.goto("/r/ossling")
    no_wider_than_it_is(phone)
    touches = 0

    def touch(what: str) -> None:
        nonlocal touches
        phone.get_by_text(what, exact=True).first.tap()
        touches += 1

    phone.get_by_label("Number on the tag").tap()
    touches += 1
    phone.keyboard.type(number.lower())
    for each in ("walleye", "Today", "I am there now: use my position"):
        touch(each)
    expect(phone.get_by_text("Position taken, good to 12 m.")).to_be_visible()
    for each in ("Released alive", "Still in the fish", "Send report"):
        touch(each)
    story = phone.get_by_role("region", name="Thank you!")
    expect(story).to_contain_text("The story of your fish")
    expect(story).to_contain_text("Ketterwick River")
    with phone.expect_download() as download:
        touch("Save the certificate as a picture")
    picture = tmp_path / "certificate.png"
    download.value.save_as(picture)
    assert Image.open(picture).size == (2400, 1600)
    assert touches <= 9
    no_wider_than_it_is(phone)
    # the address leads to the answer again, in the other language too
    phone.reload()
    expect(phone.get_by_role("heading", name="The story of your fish")).to_be_visible()
    phone.get_by_label("Language").select_option("fr")
    expect(phone.get_by_role("heading", name="L'histoire de votre poisson")).to_be_visible()


def test_without_a_signal_the_report_stays_on_the_phone(phone: Page, server: Server) -> None:
    phone.goto("/r/ossling")
    phone.get_by_label("Number on the tag").fill("Z0000")
    phone.get_by_text("Another day", exact=True).tap()
    phone.get_by_label("Day", exact=True).fill("2026-10-02")
    phone.get_by_label("The place in words").fill("old ferry landing")
    phone.context.set_offline(True)
    phone.get_by_role("button", name="Send report").tap()
    expect(phone.get_by_text("The report could not be sent")).to_be_visible()
    phone.context.set_offline(False)
    phone.reload()
    expect(phone.get_by_label("Number on the tag")).to_have_value("Z0000")
    expect(phone.get_by_label("The place in words")).to_have_value("old ferry landing")
    phone.get_by_role("button", name="Send report").tap()
    expect(phone.get_by_text("A person will look at your report.")).to_be_visible()
    phone.get_by_role("button", name="Report another tag").tap()
    expect(phone.get_by_label("Number on the tag")).to_have_value("")


def test_a_slip_is_said_at_its_field_in_the_finders_language(phone: Page) -> None:
    phone.goto("/r/ossling")
    phone.get_by_label("Language").select_option("fr")
    phone.get_by_role("button", name="Envoyer").tap()
    expect(phone.get_by_text("Merci d'indiquer le numéro de la marque, ou d'en joindre une photo.")).to_be_visible()
    phone.get_by_label("Numéro de la marque").fill("W1")
    phone.get_by_text("Longueur, poids et mode de capture").tap()
    phone.get_by_label("Longueur", exact=True).fill("long")
    phone.get_by_role("button", name="Envoyer").tap()
    expect(phone.get_by_text("Merci d'indiquer la longueur en chiffres")).to_be_visible()


def test_a_page_that_is_not_there_says_so(phone: Page) -> None:
    phone.goto("/r/nowhere")
    expect(phone.get_by_text("There is no open page at this address.")).to_be_visible()


def test_the_in_box_matches_verifies_and_takes_back(
    sign_in: Open, chromium: Browser, server: Server, context: BrowserContext
) -> None:
    page = sign_in("biologist", "/tags/returns")
    box = page.get_by_role("list", name="Reports", exact=True)
    # a number misread by one sign: the near one is chosen
    box.get_by_role("button").filter(has_text=re.compile(r"W\d{5}.*Received")).first.click()
    panel = page.get_by_role("article")
    panel.get_by_role("button", name="in a fish").first.click()
    expect(panel.get_by_role("heading", level=2)).to_contain_text("matched")
    panel.get_by_role("button", name="Verify report").click()
    expect(panel.get_by_role("heading", level=2)).to_contain_text("verified")
    page.get_by_role("button", name="Undo").click()
    expect(panel.get_by_role("heading", level=2)).to_contain_text("matched")
    # another person decides the same report meanwhile
    other = chromium.new_context(base_url=server.address, viewport={"width": 1280, "height": 800})
    who = context.request.get("/api/v1/session").json()["demo_people"]
    lead = next(each["username"] for each in who if each["role"] == "lead")
    assert other.request.post("/api/v1/session/demo", data={"username": lead}).ok
    second = other.new_page()
    second.goto(page.url)
    second.get_by_role("button", name="Verify report").wait_for()
    second.keyboard.press("v")
    expect(second.get_by_text("Report verified.").first).to_be_visible()
    panel.get_by_role("button", name="Reject...").click()
    panel.get_by_label("Why it is rejected").fill("no such fish")
    panel.get_by_role("button", name="Reject report").click()
    expect(page.get_by_text("Somebody else has marked this report 'verified' meanwhile.").first).to_be_visible()
    other.close()


def test_staff_enter_a_call_and_correct_one_field(sign_in: Open, server: Server) -> None:
    number = numbers(server, "placed")[3]
    page = sign_in("biologist", "/tags/returns")
    page.get_by_role("button", name="Enter report").click()
    sheet = page.get_by_role("dialog")
    sheet.get_by_label("Number on the tag").fill(number)
    sheet.get_by_label("Found on").fill("3 Oct 2026")
    sheet.get_by_label("Latitude").fill("44° 56' N")
    sheet.get_by_label("Longitude").fill("31,5 W")
    sheet.get_by_label("Length with unit").fill("18 1/2 in")
    sheet.get_by_role("button", name="Save report").click()
    panel = page.get_by_role("article", name=f"Report of T-bar {number}")
    expect(panel).to_contain_text("44.9333, -31.5000")
    panel.get_by_role("button", name="Correct").click()
    sheet.get_by_label("Place in words").fill("below the weir")
    sheet.get_by_role("button", name="Save correction").click()
    expect(panel).to_contain_text("below the weir")
    expect(panel).to_contain_text("18 1/2 in")
    expect(panel.get_by_role("region", name="History")).to_contain_text("place none → below the weir")


@pytest.fixture
def volunteer(chromium: Browser, server: Server) -> Iterator[Page]:
    """The demo's volunteer with their phone on the water."""
    context = chromium.new_context(
        base_url=server.address, viewport={"width": 360, "height": 740}, has_touch=True, locale="en-GB",
        geolocation={"latitude": 44.93, "longitude": -31.52, "accuracy": 9}, permissions=["geolocation"],
    )  # fmt: skip
    people = context.request.get("/api/v1/session").json()["demo_people"]
    who = next(each["username"] for each in people if each["role"] == "volunteer")
    assert context.request.post("/api/v1/session/demo", data={"username": who}).ok
    page = context.new_page()
    page.goto("/kit")
    expect(page.get_by_text("Position taken, good to 9 m.")).to_be_visible()
    yield page
    context.close()


def test_five_touches_with_no_signal_and_a_finder_is_answered(volunteer: Page, phone: Page) -> None:
    tag = volunteer.get_by_label("Tag in the applicator").input_value()
    volunteer.context.set_offline(True)
    fish = volunteer.get_by_role("region", name="Fish")
    fish.get_by_role("button", name="walleye").tap()
    for digit in "436":
        fish.get_by_role("button", name=digit, exact=True).tap()
    fish.get_by_role("button", name="1 swam off strongly").tap()
    fish.get_by_role("button", name=f"Save {tag}").tap()
    cards = volunteer.get_by_role("region", name="My cards")
    expect(cards.get_by_role("listitem").first).to_contain_text(f"{tag} walleye 436 mm")
    expect(cards.get_by_role("listitem").first).to_contain_text("not sent yet")
    assert volunteer.get_by_label("Tag in the applicator").input_value() != tag  # the next one is loaded
    no_wider_than_it_is(volunteer)
    volunteer.context.set_offline(False)
    expect(cards.get_by_role("listitem").first).not_to_contain_text("not sent yet", timeout=20_000)
    phone.goto("/r/ossling")
    phone.get_by_label("Number on the tag").fill(tag)
    phone.get_by_role("button", name="Send report").tap()
    expect(phone.get_by_role("region", name="Thank you!")).to_contain_text("It was 43.6 cm long then.")


def test_a_card_is_put_right_and_taken_back(volunteer: Page) -> None:
    fish = volunteer.get_by_role("region", name="Fish")
    fish.get_by_role("button", name="walleye").tap()
    for digit in "9100":
        fish.get_by_role("button", name=digit, exact=True).tap()
    expect(volunteer.get_by_role("alert")).to_contain_text("No walleye is 9100 mm long")
    fish.get_by_role("button", name="Delete last digit").tap()
    fish.get_by_role("button", name="2 swam off slowly").tap()
    volunteer.get_by_label("Tag in the applicator").select_option("none")
    fish.get_by_role("button", name="Save fish without a tag").tap()
    first = volunteer.get_by_role("region", name="My cards").get_by_role("listitem").first
    expect(first).to_contain_text("No tag walleye 910 mm")
    first.get_by_role("button", name="Change card without a tag").tap()
    volunteer.get_by_role("dialog").get_by_label("Length with unit").fill("41,0 cm")
    volunteer.get_by_role("dialog").get_by_role("button", name="Save card").tap()
    expect(first).to_contain_text("41,0 cm")
    first.get_by_role("button", name="Delete card without a tag").tap()
    expect(first).not_to_contain_text("41,0 cm")
    volunteer.get_by_role("button", name="Undo").tap()
    expect(first).to_contain_text("41,0 cm")
    expect(first).not_to_contain_text("not sent yet", timeout=20_000)
