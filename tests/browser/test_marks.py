"""Scanning, placing and releasing on the deck, with a reader that acts as a keyboard."""

from __future__ import annotations

import time
from typing import Any

import pytest
from playwright.sync_api import Page, expect

from .test_deck import LINE, all_sent, call, eventually, on_server


def scan(page: Page, number: str) -> None:
    """A reader sends its digits 4 ms apart, and Enter; the events carry these times however busy this machine is."""
    reader = page.context.new_cdp_session(page)
    began = time.time()
    for place, key in enumerate([*number, "Enter"]):
        pressed = {
            "key": key,
            "windowsVirtualKeyCode": 13 if key == "Enter" else ord(key),
            "timestamp": began + 0.004 * place,
        }
        reader.send("Input.dispatchKeyEvent", {"type": "keyDown", "text": "\r" if key == "Enter" else key, **pressed})
        reader.send("Input.dispatchKeyEvent", {"type": "keyUp", **pressed})
    reader.detach()


def deck_of(page: Page) -> dict[str, Any]:
    outing = page.url.rsplit("/", 1)[1]
    return dict(page.request.get(f"/api/v1/outings/{outing}/deck").json())


def a_known_fish(page: Page) -> tuple[dict[str, Any], str]:
    fish = max(deck_of(page)["marks"]["fish"], key=lambda each: each["times_met"])
    return fish, next(mark["number"] for mark in fish["marks"] if mark["kind"] == "pit")


def test_a_recapture_shows_its_story_at_once(deck: Page) -> None:
    fish, number = a_known_fish(deck)
    scan(deck, number)
    story = deck.get_by_role("region", name="Marks")
    expect(story).to_contain_text("Met before")
    expect(story).to_contain_text(f"It was {fish['last']['length_mm']:g} mm long")
    deck.keyboard.type(f"{fish['last']['length_mm'] + 12:.0f}")
    expect(story).to_contain_text("+12 mm")
    expect(story).to_contain_text("mm a month")
    deck.keyboard.press("Enter")
    expect(deck.locator(LINE)).to_have_value("")
    all_sent(deck)
    kept = on_server(deck)[-1]
    assert (kept["fish"], kept["scanned"], kept["species"]) == (fish["id"], "known", "wal")


def test_a_fish_scanned_twice_on_one_outing_is_noticed(deck: Page) -> None:
    _, number = a_known_fish(deck)
    scan(deck, number)
    deck.keyboard.type("512")
    deck.keyboard.press("Enter")
    all_sent(deck)
    deck.reload()
    expect(deck.locator(LINE)).to_be_visible()
    scan(deck, number)
    expect(deck.get_by_text("already been handled on this outing")).to_be_visible()


def test_the_reader_is_heard_wherever_the_cursor_is(deck: Page) -> None:
    _, number = a_known_fish(deck)
    deck.get_by_role("button", name="Edit").click()
    field = deck.get_by_role("dialog").get_by_label("Volts (V, peak)")
    field.fill("21")
    scan(deck, number)
    expect(field).to_have_value("21")
    deck.keyboard.press("Escape")
    expect(deck.get_by_role("region", name="Marks")).to_contain_text("Met before")


def test_a_tag_from_stock_is_placed_only_after_a_scan(deck: Page) -> None:
    number = next(tag["number"] for tag in deck_of(deck)["marks"]["stock"] if tag["kind"] == "pit")
    deck.keyboard.type("wal 402 ")
    scan(deck, number)
    expect(deck.get_by_role("region", name="Marks")).to_contain_text("New placement")
    deck.keyboard.press("Enter")
    expect(deck.locator(LINE)).not_to_have_value("")
    deck.get_by_role("button", name="Scanned, none found").first.click()
    deck.locator(LINE).press("Enter")
    expect(deck.locator(LINE)).to_have_value("")
    all_sent(deck)
    eventually(lambda: [mark["number"] for mark in on_server(deck)[-1]["placed"]] == [number])
    # met again within the hour: the tablet knows its own placement
    scan(deck, number)
    expect(deck.get_by_role("region", name="Marks")).to_contain_text("Met before, once")


def test_a_mark_of_somebody_else_is_kept(deck: Page) -> None:
    scan(deck, "900000000000042")
    expect(deck.get_by_role("region", name="Marks")).to_contain_text("Unknown tag")
    deck.keyboard.type("wal 388")
    deck.keyboard.press("Enter")
    all_sent(deck)
    assert on_server(deck)[-1]["scanned"] == "foreign"


@pytest.mark.parametrize("number", ["99900000000012", "9990000000001234"])
def test_a_number_of_the_wrong_length_stays_on_the_line(deck: Page, number: str) -> None:
    # all at once: typed digit by digit on a slow machine, the last fifteen alone may look like a reader's
    line = deck.get_by_role("region", name="Call line").get_by_role("textbox")
    line.fill(f"wal 400 {number}")
    line.press("Enter")
    expect(deck.get_by_role("alert")).to_contain_text("A PIT number has 15 digits")


def test_an_outing_closes_only_when_every_fish_is_accounted_for(deck: Page) -> None:
    call(deck, "wal 391 dead")
    all_sent(deck)
    eventually(lambda: on_server(deck)[-1]["release"] == "dead")
    deck.keyboard.press("F8")
    all_sent(deck)
    deck.get_by_role("button", name="Close outing").click()
    deck.get_by_role("button", name="Sign and close").click()
    expect(deck.get_by_role("alert")).to_contain_text("came aboard and have not left")
    deck.keyboard.press("Escape")
    deck.keyboard.press("F9")
    expect(deck.get_by_role("region", name="Live well")).to_contain_text("Live well 0")
    eventually(lambda: all(fish["release"] for fish in on_server(deck)))
