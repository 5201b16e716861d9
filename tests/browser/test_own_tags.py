"""A programme of one's own, on its first evening: tags into stock, into fish, met again, on two tablets of which one loses its signal."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Page, expect

from server.tests.databases import manage

from .conftest import Server
from .test_beginning import PASSWORD, device, empty, letters  # noqa: F401 - fixtures among them

SOON_MS = 12_000


@pytest.fixture
def lead(chromium: Browser, empty: Server) -> Iterator[Page]:  # noqa: F811
    """The lead of a programme that has a water, a species and nothing else."""
    code = manage(empty.environment["NAILWRIGHT_DB_NAME"], "first_code").split()[-1]
    page = device(chromium, empty, viewport={"width": 1280, "height": 800})
    page.goto("/")
    for label, text in (
        ("Code that the server printed", code), ("Your name, as", "Ragna Holt"), ("Name to sign in with", "ragna"),
        ("Password", PASSWORD), ("Mail address", "ragna@example.org"), ("Name of the programme", "Tarn study"),
    ):  # fmt: skip
        page.get_by_label(label).fill(text)
    page.get_by_role("button", name="Make the account").click()
    page.get_by_role("button", name="Add waterbody").click()
    sheet = page.get_by_role("dialog")
    sheet.get_by_label("Name", exact=True).fill("Upper Tarn")
    sheet.get_by_label("Latitude").fill("44.91")
    sheet.get_by_label("Longitude").fill("-31.4")
    sheet.get_by_role("button", name="Add waterbody").click()
    page.get_by_role("link", name="Next: Species").click()
    page.get_by_label("Search by name or code").fill("walleye")
    page.get_by_role("button", name="Call walleye").click()
    yield page
    page.context.close()


def call(page: Page, words: str) -> None:
    page.get_by_role("textbox").first.fill(words)
    page.keyboard.press("Enter")


def all_sent(page: Page) -> None:
    expect(page.get_by_role("status", name="Sending")).to_contain_text("All sent", timeout=SOON_MS)


def fish(page: Page, length: int) -> object:
    return page.get_by_role("row").filter(has_text=f"wal{length}").first


def test_from_an_empty_stock_to_a_fish_met_again_on_two_tablets(
    lead: Page,
    chromium: Browser,
    empty: Server,  # noqa: F811
    tmp_path: Path,
) -> None:
    # the stock: what a box says, and numbers out of a file
    lead.get_by_role("link", name="Tags", exact=True).click()
    lead.get_by_role("button", name="Enter tags").click()
    sheet = lead.get_by_role("dialog")
    sheet.get_by_label("Kind").select_option("tbar")
    sheet.get_by_label("Numbers").fill("W1001 - W1050, W1050, ?")
    expect(sheet.get_by_role("status")).to_have_text("50 new, W1001 to W1050; 1 twice; 1 not read")
    numbers = tmp_path / "box.csv"
    numbers.write_text("bag;number\n1;W1001\n1;W1002\n2;W1003\n")
    sheet.get_by_label("From a file").set_input_files(numbers)
    expect(sheet.get_by_role("status")).to_have_text("3 new, W1001 to W1003")
    sheet.get_by_role("button", name="Into the stock").click()
    expect(lead.get_by_role("row").filter(has_text="W1001")).to_contain_text("3")

    # the first tablet: a fish is tagged as it is called, another one afterwards
    lead.get_by_role("link", name="Deck", exact=True).click()
    lead.get_by_role("button", name="Open an outing").first.click()
    lead.get_by_label("Water").select_option(label="Upper Tarn")
    lead.get_by_label("Gear").select_option("angling")
    lead.get_by_role("button", name="Open", exact=True).click()
    expect(lead.get_by_role("region", name="Call line")).to_be_visible()
    lead.keyboard.press("F8")
    lead.get_by_role("dialog").get_by_role("button", name="Start run").click()
    expect(lead.get_by_role("dialog")).not_to_be_visible()
    call(lead, "437 890 none #W1001")
    call(lead, "510")
    call(lead, "last was #W1002 none")
    expect(fish(lead, 510)).to_contain_text("tagged")
    all_sent(lead)

    # the second one sees them without being touched, and knows the tag with no signal
    second = device(chromium, empty, viewport={"width": 1280, "height": 800})
    second.goto("/")
    second.get_by_label("Name", exact=True).fill("ragna")
    second.get_by_label("Password").fill(PASSWORD)
    second.get_by_role("button", name="Sign in").click()
    second.get_by_role("link", name="Deck", exact=True).click()
    second.get_by_text("Work the deck", exact=True).first.click()
    expect(fish(second, 510)).to_be_visible()
    call(lead, "468 none #W1003")
    expect(fish(second, 468)).to_contain_text("tagged", timeout=SOON_MS)
    second.context.set_offline(True)
    second.get_by_role("textbox").first.fill("#W1003 471")
    expect(second.get_by_role("region", name="Marks")).to_contain_text("Met before, once.")
    second.keyboard.press("Enter")
    second.get_by_role("textbox").first.fill("402 none #W7777")
    expect(second.get_by_role("region", name="Marks")).to_contain_text("Unknown tag.")
    second.get_by_role("button", name="Add to our stock").click()
    expect(second.get_by_role("region", name="Marks")).to_contain_text("New placement.")
    second.get_by_role("textbox").first.press("Enter")
    expect(fish(second, 402)).to_contain_text("tagged")

    # the first one ends the run meanwhile; with a signal again they agree, and a late fish asks where it belongs
    lead.keyboard.press("F8")
    second.context.set_offline(False)
    all_sent(second)
    expect(fish(lead, 471)).to_contain_text("recaptured", timeout=SOON_MS)
    expect(fish(lead, 402)).to_contain_text("tagged")
    expect(second.get_by_text("No run in progress.").first).to_be_visible(timeout=SOON_MS)
    call(second, "455")
    second.get_by_role("button", name="It is of run 1, which has ended").click()
    expect(fish(second, 455)).to_be_visible()
    all_sent(second)
    expect(fish(lead, 455)).to_be_visible(timeout=SOON_MS)

    # everything is found at the desk
    lead.get_by_role("button", name="Menu").click()
    lead.get_by_role("link", name="Tags", exact=True).click()
    expect(lead.get_by_role("row").filter(has_text="Taken in on the Deck")).to_contain_text("W7777")
    lead.get_by_role("link", name="Today", exact=True).click()
    lead.get_by_role("searchbox", name="Find a tag by its number").fill("1003")  # from every page
    lead.keyboard.press("Enter")
    lead.get_by_role("button", name="Its fish").click()
    story = lead.get_by_role("dialog")
    expect(story).to_contain_text("walleye: met 2 times")
    expect(story.get_by_role("listitem")).to_have_count(2)
    expect(story).to_contain_text("+3 mm")
    second.context.close()

    # finders get a page, one of them the fish's story, and the lead verifies what they say
    lead.keyboard.press("Escape")
    lead.get_by_role("link", name="Reports of tags").click()
    lead.get_by_role("button", name="Public page").click()
    sheet = lead.get_by_role("dialog")
    sheet.get_by_label("Finders can report on this page").check()
    sheet.get_by_label("Telephone").fill("+00 555 0100")
    sheet.get_by_role("button", name="Save public page").click()
    address = sheet.get_by_role("link", name="/r/tarn-study").get_attribute("href")
    assert address
    phone = device(chromium, empty, viewport={"width": 360, "height": 740}, has_touch=True)
    phone.goto(address)
    phone.get_by_label("Number on the tag").fill("w 1oo1")
    phone.get_by_text("Today", exact=True).click()
    phone.get_by_role("button", name="Send report").click()
    expect(phone.get_by_role("region", name="Thank you!")).to_contain_text("It was 43.7 cm long then.")
    lead.keyboard.press("Escape")
    lead.reload()
    lead.get_by_role("button", name="Verify report").click()
    expect(lead.get_by_text("No report waits.")).to_be_visible()
    phone.reload()
    expect(phone.get_by_text("Your report has been verified.")).to_be_visible()
    phone.context.close()
