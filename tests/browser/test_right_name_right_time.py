"""Under whose name and at what time entries stand, whatever stands between a tablet and the server; and what no text may do."""

from __future__ import annotations

import json
import re
from collections.abc import Callable, Iterator
from datetime import UTC, datetime, timedelta
from typing import Any

import pytest
from playwright.sync_api import Browser, BrowserContext, Page, Route, expect

from .conftest import Server
from .test_bad_luck import sending, try_again
from .test_deck import LINE, all_sent, call, eventually, on_server

SignIn = Callable[..., Page]
CODE = "4713"


def post(page: Page, path: str, body: Any) -> Any:
    token = next(each["value"] for each in page.context.cookies() if each["name"] == "csrftoken")
    return page.request.post(path, data=body, headers={"X-CSRFToken": token})


def recorder(page: Page) -> str:
    return str(page.request.get(f"/api/v1/captures/{on_server(page)[-1]['id']}").json()["recorder"])


def shifted(by: timedelta) -> str:
    """A script that sets the page's clock so far from where it is."""
    ms = by.total_seconds() * 1000
    return (
        f"(() => {{ const shift = {ms}; globalThis.Date = new Proxy(Date, {{"
        "construct: (real, given, made) => Reflect.construct(real, given.length ? given : [real.now() + shift], made),"
        "get: (real, name) => (name === 'now' ? () => real.now() + shift : real[name]) }); })();"
    )


def test_who_took_over_ends_with_the_sign_in_and_each_change_is_shown(
    deck: Page, chromium: Browser, server: Server
) -> None:
    all_sent(deck)
    lead_context = chromium.new_context(base_url=server.address)
    lead = lead_context.new_page()
    lead.goto("/")
    lead.get_by_role("button", name=re.compile("^lead", re.IGNORECASE)).first.click()
    expect(lead.get_by_role("navigation", name="Stages of the work")).to_be_visible()
    assert post(lead, "/api/v1/account/short-code", {"code": CODE}).status == 200
    deck.reload()
    deck.get_by_role("button", name="Tove calls").click()
    sheet = deck.get_by_role("dialog")
    sheet.get_by_role("button", name="Maren Oskvold").click()
    sheet.get_by_label("Short code of Maren Oskvold").fill(CODE)
    sheet.get_by_role("button", name="Take over").click()
    expect(
        deck.get_by_text("Maren Oskvold records on this tablet from now on; before, it was Tove Harrowell.", exact=True)
    ).to_be_visible()
    call(deck, "wal 431")
    all_sent(deck)
    assert recorder(deck) == "Maren Oskvold"
    # the tablet is closed and opened: she still calls; then somebody else signs in
    deck.reload()
    expect(deck.get_by_role("button", name="Maren calls")).to_be_visible()
    deck.get_by_role("button", name="Menu").click()
    deck.get_by_role("button", name="Sign out").click()
    deck.get_by_role("button", name=re.compile("^biologist", re.IGNORECASE)).click()
    expect(
        deck.get_by_text(
            "Idris Valecroft records on this tablet from now on; before, it was Maren Oskvold.", exact=True
        )
    ).to_be_visible()
    expect(deck.get_by_role("button", name="Idris calls")).to_be_visible()
    call(deck, "wal 433")
    all_sent(deck)
    assert recorder(deck) == "Idris Valecroft"
    post(lead, "/api/v1/account/short-code", {"code": ""})
    lead_context.close()


@pytest.mark.meddles_with_requests
def test_a_network_that_never_answers_does_not_shut_the_deck(deck: Page) -> None:
    call(deck, "wal 452")
    all_sent(deck)
    held: list[Route] = []
    deck.context.route("**/api/**", lambda route: held.append(route))  # taken, and never answered
    deck.reload()
    expect(deck.locator(LINE)).to_be_visible(timeout=5000)
    call(deck, "wal 453")
    expect(sending(deck)).to_contain_text("1 unsent")
    assert held
    deck.context.unroute("**/api/**")
    try_again(deck)
    all_sent(deck)
    assert on_server(deck)[-1]["length_mm"] == 453


@pytest.mark.meddles_with_requests
@pytest.mark.parametrize("status", [200, 401])
def test_json_of_a_portal_is_a_bad_signal(deck: Page, status: int) -> None:
    """No sign-in that ran out, no clock of 2015, nobody signed out."""
    call(deck, "wal 462")
    all_sent(deck)
    told = {"person": None, "memberships": [], "code": "sign_in", "results": [], "server_time": "2015-06-01T12:00:00Z"}

    def portal(route: Route) -> None:
        headers = {"Content-Type": "application/json", "Date": "Mon, 01 Jun 2015 12:00:00 GMT"}
        route.fulfill(status=status, body=json.dumps(told), headers=headers)

    deck.context.route("**/api/v1/**", portal)
    deck.reload()
    expect(deck.locator(LINE)).to_be_visible()
    call(deck, "wal 463")
    expect(sending(deck)).to_contain_text("1 unsent no signal, kept here")
    expect(deck.get_by_text("run out")).to_have_count(0)
    expect(deck.get_by_role("region", name="Clock of this device")).to_have_count(0)
    deck.context.unroute("**/api/v1/**")
    try_again(deck)
    all_sent(deck)
    kept = on_server(deck)[-1]
    assert kept["length_mm"] == 463
    assert abs(datetime.fromisoformat(kept["device_time"]) - datetime.now(UTC)) < timedelta(minutes=5)


@pytest.fixture
def wrong_clock(chromium: Browser, server: Server) -> Iterator[Callable[[timedelta], Page]]:
    """Tonight's deck on a tablet whose clock is so far from the true time."""
    contexts: list[BrowserContext] = []

    def open_deck(by: timedelta) -> Page:
        context = chromium.new_context(base_url=server.address, viewport={"width": 1280, "height": 800})
        context.add_init_script(shifted(by))
        contexts.append(context)
        page = context.new_page()
        page.goto("/deck")
        page.get_by_role("button", name=re.compile("^crew", re.IGNORECASE)).first.click()
        page.get_by_text("Work the deck", exact=True).first.click()
        expect(page.locator(LINE)).to_be_visible()
        return page

    yield open_deck
    for each in contexts:
        each.close()


def since(page: Page, mm: int) -> timedelta:
    """How long ago the fish of this length was called, by the record."""
    (fish,) = [each for each in on_server(page) if each["length_mm"] == mm]
    return abs(datetime.now(UTC) - datetime.fromisoformat(fish["device_time"]))


def test_a_clock_that_jumped_is_asked_about(deck: Page, wrong_clock: Callable[[timedelta], Page]) -> None:
    page = wrong_clock(timedelta(hours=-3))
    question = page.get_by_role("region", name="Clock of this device")
    expect(question).to_contain_text("3 hours behind")
    question.get_by_role("button", name="Use server time").click()
    expect(question).to_have_count(0)
    call(page, "wal 471.5")
    all_sent(page)
    eventually(lambda: 471.5 in [each["length_mm"] for each in on_server(page)])
    assert since(page, 471.5) < timedelta(minutes=2)


def test_a_clock_that_lost_its_time_loses_no_fish(deck: Page, wrong_clock: Callable[[timedelta], Page]) -> None:
    """Somebody leaves the wrong clock: its fish are held for a person, who says when they were."""
    page = wrong_clock(timedelta(days=-11 * 365))
    page.get_by_role("button", name="Keep this device's time").click()
    before = len(on_server(page))
    call(page, "wal 481.5")
    call(page, "wal 482.5")
    held = page.get_by_role("region", name="Not accepted")
    expect(held).to_contain_text("have a time that cannot be right", timeout=20_000)
    assert len(on_server(page)) == before
    # what is offered is the server's time, not this device's
    expect(held.get_by_label("Day of first entry")).to_have_value(re.compile(f" {datetime.now(UTC).year}$"))
    local = page.evaluate("(ms) => { const at = new Date(ms); return [at.getFullYear(), at.getMonth() + 1, at.getDate(), at.getHours(), at.getMinutes()] }",
                          datetime.now(UTC).timestamp() * 1000)  # fmt: skip
    held.get_by_label("Day of first entry").fill(f"{local[0]}-{local[1]:02d}-{local[2]:02d}")
    held.get_by_label("Time of day (HH:MM)").fill(f"{local[3]}:{local[4]:02d}")
    # by the wrong clock that moment lies in the future: the server's counts
    held.get_by_role("button", name=re.compile("^Set time of")).click()
    all_sent(page)
    eventually(lambda: len(on_server(page)) == before + 2)
    assert since(page, 481.5) < timedelta(minutes=3) and since(page, 482.5) < timedelta(minutes=3)


def test_a_lost_cookie_is_fetched_anew_for_every_write(deck: Page) -> None:
    all_sent(deck)
    deck.context.clear_cookies(name="csrftoken")
    call(deck, "wal 491")
    all_sent(deck)
    assert on_server(deck)[-1]["length_mm"] == 491
    deck.context.clear_cookies(name="csrftoken")
    deck.goto("/settings/account")
    deck.get_by_label("Mail address").fill("tove@example.org")
    deck.context.clear_cookies(name="csrftoken")
    deck.get_by_role("button", name="Save", exact=True).first.click()
    eventually(lambda: deck.request.get("/api/v1/account").json()["email"] == "tove@example.org")


SCRIPT = "<img src=x onerror=window.hit=1><script>window.hit=1</script>"


def test_no_text_is_run_as_a_script(deck: Page) -> None:
    """A script in a fish's note, a site, an outing, a plan, a permit: shown as it was typed, on every page and on paper."""
    call(deck, f"yep 233; {SCRIPT[:60]}")
    all_sent(deck)
    programme = deck.request.get("/api/v1/session").json()["memberships"][0]["programme"]
    waters = deck.request.get(f"/api/v1/programmes/{programme}/waters").json()
    water = waters[0]["id"]
    assert (
        post(deck, f"/api/v1/waters/{water}/sites", {"name": SCRIPT[:60], "latitude": 44.95, "longitude": -31.4}).status
        == 201
    )
    outing = deck.url.rsplit("/", 1)[1]
    for path in (f"/deck/{outing}", "/", "/deck", "/plan", "/records", "/findings/size", "/settings/waters"):
        deck.goto(path)
        expect(deck.get_by_role("banner")).to_be_visible()
        deck.wait_for_timeout(300)
        assert deck.evaluate("window.hit") is None, path
    paper = deck.request.get(f"/api/v1/outings/{outing}/day.pdf")
    assert paper.status == 200 and paper.body().startswith(b"%PDF")
