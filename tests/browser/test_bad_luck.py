"""What goes wrong around a record: other tabs, other people, strange answers. Nothing called is lost or taken for another's."""

from __future__ import annotations

import json
import re
from collections.abc import Callable
from typing import Any

import pytest
from playwright.sync_api import BrowserContext, Page, Route, expect

from .conftest import Server
from .test_deck import LINE, all_sent, call, eventually, newest, on_server

SignIn = Callable[..., Page]
PORTAL = "<!doctype html><title>Guest network</title><p>Accept our terms to go on."


def sending(page: Page) -> Any:
    return page.get_by_role("status", name="Sending")


def person(page: Page) -> str:
    return str(page.request.get("/api/v1/session").json()["person"]["name"])


def answer_with(page: Page, where: str, status: int, body: str = PORTAL) -> None:
    def handler(route: Route) -> None:
        route.fulfill(status=status, body=body, content_type="text/html")

    page.context.route(where, handler)


def try_again(page: Page) -> None:
    page.evaluate("window.dispatchEvent(new Event('online'))")


def test_two_tabs_of_one_outing_show_the_same_fish(deck: Page) -> None:
    other = deck.context.new_page()
    other.goto(deck.url)
    expect(other.locator(LINE)).to_be_visible()
    call(deck, "yep 231 140")
    expect(other.locator("tr[data-capture]").first).to_contain_text("231")
    other.bring_to_front()
    other.keyboard.press("Control+z")
    expect(deck.locator("tr[data-capture]").filter(has_text="231")).to_have_count(0)
    all_sent(other)
    assert 231 not in [fish["length_mm"] for fish in on_server(deck)]


@pytest.mark.meddles_with_requests
def test_fish_called_by_one_are_never_sent_by_another(deck: Page) -> None:
    """Somebody signs in in a second tab: the first says who works there now, and the fish wait for who called them."""
    all_sent(deck)
    before = len(on_server(deck))
    crew = person(deck)
    answer_with(deck, "**/sync", 502)
    call(deck, "wal 441")
    expect(sending(deck)).to_contain_text("1 unsent")
    other = deck.context.new_page()
    other.goto("/")
    other.get_by_role("button", name="Sign out").click()
    expect(other.get_by_role("status")).to_contain_text(f"Not sent yet from this device: 1 entry of {crew}")
    other.get_by_role("button", name=re.compile("^viewer", re.IGNORECASE)).click()
    expect(deck.get_by_role("banner")).to_contain_text("viewer")
    deck.context.unroute("**/sync")
    try_again(other)
    expect(sending(other)).to_contain_text("1 of somebody else: they must sign in here")
    assert person(deck) != crew and len(on_server(deck)) == before
    other.get_by_role("button", name="Sign out").click()
    other.get_by_role("button", name=re.compile("^crew", re.IGNORECASE)).click()
    expect(sending(other)).to_have_text("All sent", timeout=20_000)
    eventually(lambda: len(on_server(deck)) == before + 1)
    kept = on_server(deck)[-1]
    assert kept["length_mm"] == 441
    other.goto(f"/deck/{deck.url.rsplit('/', 1)[1]}")
    expect(other.locator("tr[data-capture]").first).to_contain_text("441")


@pytest.mark.meddles_with_requests
@pytest.mark.parametrize("status", [403, 413, 414, 502, 200])
def test_only_our_own_words_refuse_an_entry(deck: Page, status: int) -> None:
    """A firewall, a gateway or a captive portal answers in the server's place."""
    all_sent(deck)
    before = len(on_server(deck))
    answer_with(deck, "**/sync", status)
    call(deck, f"wal 4{status % 100:02d}")
    expect(sending(deck)).to_contain_text("1 unsent")
    deck.wait_for_timeout(700)
    expect(deck.get_by_text("not accepted")).to_have_count(0)
    deck.context.unroute("**/sync")
    try_again(deck)
    all_sent(deck)
    assert len(on_server(deck)) == before + 1


@pytest.mark.meddles_with_requests
@pytest.mark.parametrize("status", [503, 401, 200])
def test_a_kept_deck_opens_whatever_is_answered(deck: Page, status: int) -> None:
    call(deck, "wal 452")
    all_sent(deck)
    answer_with(deck, "**/api/v1/**", status)
    deck.reload()
    expect(deck.locator(LINE)).to_be_visible()
    assert newest(deck)[2:4] == ["wal", "452"]
    expect(deck.get_by_text(re.compile("last knew|kept on this device", re.IGNORECASE)).first).to_be_visible()
    call(deck, "wal 453")
    expect(sending(deck)).to_contain_text("1 unsent")
    deck.context.unroute("**/api/v1/**")
    try_again(deck)
    all_sent(deck)
    assert on_server(deck)[-1]["length_mm"] == 453


def test_a_sign_in_that_ran_out_costs_no_entry(deck: Page, context: BrowserContext) -> None:
    all_sent(deck)
    context.clear_cookies()
    call(deck, "wal 455")
    again = deck.get_by_role("button", name="Sign in again")
    expect(again).to_be_visible()
    expect(sending(deck)).to_contain_text("1 unsent")
    again.click()
    deck.get_by_role("button", name=re.compile("^crew", re.IGNORECASE)).click()
    expect(deck.locator(LINE)).to_be_visible()
    all_sent(deck)
    assert on_server(deck)[-1]["length_mm"] == 455


@pytest.mark.meddles_with_requests
def test_a_refused_fish_is_called_again_where_it_stands(deck: Page) -> None:
    all_sent(deck)
    before = len(on_server(deck))

    def spoil(route: Route) -> None:
        """What a tablet of an older version might let through."""
        body = json.loads(route.request.post_data or "{}")
        for each in body["operations"]:
            if each["kind"] == "capture.record":
                each["row"]["length"] = "43799"
        route.continue_(post_data=json.dumps(body))

    deck.context.route("**/sync", spoil)
    call(deck, "wal 461 905 m; scar")
    refused = deck.get_by_role("region", name="Not accepted")
    expect(refused).to_contain_text("wal 461")
    deck.context.unroute("**/sync")
    assert len(on_server(deck)) == before
    refused.get_by_role("button", name="Call it again").click()
    expect(deck.locator(LINE)).to_have_value("wal 461 905 m ; scar")
    deck.keyboard.press("Enter")
    expect(refused).to_have_count(0)
    all_sent(deck)
    kept = on_server(deck)[-1]
    assert (kept["length_mm"], kept["mass_g"], kept["sex"], kept["note"]) == (461, 905, "m", "scar")


def test_a_note_that_is_too_long_is_said_before_it_is_kept(deck: Page) -> None:
    count = len(on_server(deck))
    deck.locator(LINE).fill(f"wal 462; {'scar ' * 45}")
    expect(deck.get_by_text("A note has at most 200 characters; this one has 224.")).to_be_visible()
    deck.keyboard.press("Enter")
    expect(deck.get_by_role("alert")).to_contain_text("Shorten it")
    expect(deck.locator(LINE)).not_to_have_value("")
    assert len(on_server(deck)) == count


def test_correcting_on_the_deck_keeps_unit_and_kind_of_length(deck: Page) -> None:
    call(deck, "wal 18 1/4 in FL 2lb 7oz f")
    all_sent(deck)
    before = on_server(deck)[-1]
    assert before["length_type"] == "FL"
    deck.keyboard.press("ArrowUp")
    line = deck.locator(LINE)
    expect(line).to_have_value(re.compile(" fl "))
    expect(line).to_have_value(re.compile("2lb 7oz"))
    line.fill(f"{line.input_value()}; torn fin")
    deck.keyboard.press("Enter")
    eventually(lambda: on_server(deck)[-1]["note"] == "torn fin")
    after = on_server(deck)[-1]
    kept = ("length_mm", "length_type", "length_basis", "length_text", "mass_g", "mass_text", "sex")
    assert [after[key] for key in kept] == [before[key] for key in kept]
    deck.keyboard.press("Control+z")  # findings count total lengths: the demo's record stays as it was found
    all_sent(deck)


def test_a_fish_called_in_inches_is_corrected_in_one_field_at_the_desk(deck: Page, server: Server) -> None:
    """Its note only: length, unit, how it was measured and the doubt that was kept stay."""
    call(deck, "wal ~19in 95")
    expect(deck.get_by_role("alert")).to_contain_text("far too light")
    deck.keyboard.press("Enter")
    deck.keyboard.press("Enter")
    expect(deck.locator(LINE)).to_have_value("")
    all_sent(deck)
    before = on_server(deck)[-1]
    lead = deck.context.browser.new_context(base_url=server.address).new_page()  # type: ignore[union-attr]
    lead.goto("/")
    lead.get_by_role("button", name=re.compile("^lead", re.IGNORECASE)).click()
    expect(lead.get_by_role("navigation", name="Stages of the work")).to_be_visible()
    lead.goto("/records")
    lead.locator("[data-row='0'] button").first.click()
    sheet = lead.get_by_role("dialog")
    expect(sheet).to_contain_text("estimated")
    sheet.get_by_label("Note").fill("left pectoral torn")
    sheet.get_by_label("Reason for the correction").fill("forgotten on the boat")
    sheet.get_by_role("button", name="Correct").click()
    history = sheet.get_by_role("region", name="History")
    expect(history).to_contain_text("forgotten on the boat")
    after = on_server(deck)[-1]
    assert after["note"] == "left pectoral torn"
    assert {**after, "note": ""} == {**before, "note": ""}
    lead.context.close()


def test_one_double_touch_opens_one_outing(sign_in: SignIn) -> None:
    page = sign_in("crew", "/deck")
    page.get_by_role("button", name="Open an outing").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("Water").select_option(label="Skarn Beck")
    dialog.get_by_label("Gear").select_option("angling")
    programme = page.request.get("/api/v1/session").json()["memberships"][0]["programme"]
    listed = f"/api/v1/programmes/{programme}/outings"
    before = len(page.request.get(listed).json())
    dialog.get_by_role("button", name="Open", exact=True).dblclick()
    expect(page.get_by_role("region", name="Call line")).to_be_visible()
    all_sent(page)
    assert len(page.request.get(listed).json()) == before + 1
    page.get_by_role("button", name="Close outing").click()
    page.get_by_role("button", name="Sign and close").click()
    expect(page.get_by_text("Closed, handed over by")).to_be_visible()
