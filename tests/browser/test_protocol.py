"""What a programme decides reaches the Deck; another of the crew takes over the tablet; a programme goes out and comes in."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from server.tests.databases import new_database

from .conftest import Server

pytestmark = pytest.mark.installed


SignIn = Callable[..., Page]


@pytest.fixture(scope="module")
def server() -> Iterator[Server]:
    """A demo of its own: what is decided here would be in the way of other tests."""
    running = Server(new_database("protocol", "migrate", "load_demo"))
    running.start()
    yield running
    running.end()


def turn_to(page: Page, role: str) -> None:
    """Somebody else signs in on this device."""
    page.get_by_role("button", name="Sign out", exact=True).click()
    page.get_by_role("button", name=re.compile(f"^{role}", re.IGNORECASE)).first.click()
    expect(page.get_by_role("navigation", name="Stages of the work")).to_be_visible()


def to_deck(page: Page) -> None:
    page.goto("/deck")
    page.get_by_text("Work the deck", exact=True).first.click()
    expect(page.get_by_role("region", name="Call line")).to_be_visible()


def call(page: Page, line: str) -> None:
    page.get_by_label("Next fish").fill(line)


def test_a_decision_is_the_next_version_and_an_open_outing_goes_by_it_when_somebody_says_so(sign_in: SignIn) -> None:
    page = sign_in("lead", "/settings/protocol")
    page.locator("summary", has_text="Where a fish is handled").click()
    page.get_by_role("button", name="Change where a fish is handled").click()
    sheet = page.get_by_role("dialog")
    sheet.get_by_label("From (mm)").last.fill("800")
    # without a reason nothing is decided, and what was typed stays
    sheet.get_by_role("button", name="Save section").click()
    expect(sheet.get_by_role("alert").first).to_contain_text("Say in a few words why")
    expect(sheet.get_by_label("From (mm)").last).to_have_value("800")
    sheet.get_by_label("Reason").fill("pike from 800 mm stay in the water")
    sheet.get_by_role("button", name="Save section").click()
    expect(page.get_by_text("Version 3 holds from now on.").first).to_be_visible()
    page.goto("/")
    expect(page.get_by_text(re.compile("uses version 2 of the protocol; version 3 is in force"))).to_be_visible()
    to_deck(page)
    call(page, "nop 850")
    expect(page.get_by_test_id("understood")).to_contain_text("850 mm")
    expect(page.get_by_test_id("understood")).not_to_contain_text("alongside")
    page.get_by_role("button", name="Limits").click()
    page.get_by_role("button", name="Go by version 3").click()
    expect(page.get_by_text("Uses version 3 of the protocol.")).to_be_visible()
    page.keyboard.press("Escape")
    call(page, "nop 850")
    expect(page.get_by_test_id("understood")).to_contain_text("alongside")


def test_how_a_fish_left_is_said_in_the_programmes_words(sign_in: SignIn) -> None:
    page = sign_in("crew")
    to_deck(page)
    call(page, "wal 512 r2")
    expect(page.get_by_test_id("understood")).to_contain_text("released 2: swam off slowly")
    page.keyboard.press("Enter")
    left = page.get_by_label("How wal 512 left")
    expect(left).to_have_value("released|2|")
    left.select_option(label="more to say...")
    sheet = page.get_by_role("dialog")
    sheet.get_by_label("Reason for release").select_option("undersized")
    with page.expect_response("**/sync"):  # the line says "All sent" until the entry is on its way
        sheet.get_by_role("button", name="Save").click()
    expect(left).to_have_value("released|2|")  # what was not asked to change has not
    expect(page.get_by_text("All sent")).to_be_visible()
    page.reload()
    expect(page.get_by_label("How wal 512 left")).to_have_value("released|2|")
    page.get_by_label("How wal 512 left").select_option(label="more to say...")
    expect(page.get_by_role("dialog").get_by_label("Reason for release")).to_have_value("undersized")


def test_the_last_fish_is_put_right_as_it_is_called_and_the_ledger_balances(sign_in: SignIn) -> None:
    page = sign_in("crew")
    to_deck(page)
    call(page, "wal 391 520 f")
    page.get_by_role("button", name="Touch pad").click()
    page.get_by_label("sexed by").select_option("pressure")
    page.get_by_label("Next fish").press("Enter")
    call(page, "last was 396")
    expect(page.get_by_label("Correcting")).to_be_visible()
    page.keyboard.press("Enter")
    expect(page.get_by_label("How wal 396 left")).to_be_visible()
    expect(page.get_by_text("All sent")).to_be_visible()
    deck = page.url.rsplit("/", 1)[-1]
    fish = page.request.get(f"/api/v1/outings/{deck}/deck").json()["captures"][-1]
    assert (fish["length_mm"], fish["mass_g"], fish["sex"], fish["sex_evidence"]) == (396, 520, "f", "pressure")
    page.get_by_role("button", name="Daily summary").click()
    sheet = page.get_by_role("dialog")
    expect(sheet.get_by_role("list", name="Deaths")).to_contain_text(re.compile("All species: .* died"))
    expect(sheet.get_by_role("region", name="Not complete")).to_contain_text("1 run has not ended.")
    with page.expect_download() as taken:
        sheet.get_by_role("link", name="The day in plain words (PDF)").click()
    assert taken.value.suggested_filename == "day.pdf"


def test_another_of_the_crew_takes_over_the_tablet_with_no_signal(sign_in: SignIn) -> None:
    page = sign_in("lead", "/settings/account")
    page.get_by_label("4 to 8 figures").fill("2580")
    page.get_by_role("region", name="Short code for shared tablets").get_by_role("button", name="Save").click()
    expect(page.get_by_text("You have one.")).to_be_visible()
    turn_to(page, "crew")
    to_deck(page)
    page.context.set_offline(True)
    page.get_by_role("button", name="Tove calls").click()
    page.get_by_role("button", name="Maren Oskvold").click()
    page.get_by_label("Short code of Maren Oskvold").fill("1111")
    page.keyboard.press("Enter")
    expect(page.get_by_text("This is not the code. Nothing has changed.")).to_be_visible()
    page.get_by_label("Short code of Maren Oskvold").fill("2580")
    page.keyboard.press("Enter")
    expect(page.get_by_role("button", name="Maren calls")).to_be_visible()
    call(page, "wal 478 900")
    page.keyboard.press("Enter")
    page.context.set_offline(False)
    expect(page.get_by_text("All sent")).to_be_visible()
    # closed and opened again the tablet goes on with her, and the record says whose fish it is
    page.reload()
    expect(page.get_by_role("button", name="Maren calls")).to_be_visible()
    deck = page.url.rsplit("/", 1)[-1]
    fish = page.request.get(f"/api/v1/outings/{deck}/deck").json()["captures"][-1]
    assert fish["length_text"] == "478"
    assert page.request.get(f"/api/v1/captures/{fish['id']}").json()["recorder"] == "Maren Oskvold"


def test_site_readings_are_kept_and_put_right(sign_in: SignIn) -> None:
    page = sign_in("crew")
    to_deck(page)
    page.get_by_role("button", name="Site conditions").click()
    sheet = page.get_by_role("dialog")
    sheet.get_by_role("button", name=re.compile("more readings")).click()
    sheet.get_by_label("Depth (m)", exact=True).fill("2.4")
    sheet.get_by_label("Sky").select_option("overcast")
    sheet.get_by_role("button", name="Save").click()
    page.get_by_role("button", name="Site conditions").click()
    newest = page.get_by_role("list", name="Readings so far").get_by_role("listitem").first
    expect(newest).to_contain_text("depth 2.4 m, sky overcast")
    newest.get_by_role("button", name="Correct").click()
    sheet.get_by_label("Depth (m)", exact=True).fill("2.6")
    sheet.get_by_role("button", name="Save correction").click()
    page.get_by_role("button", name="Site conditions").click()
    expect(newest).to_contain_text("depth 2.6 m, sky overcast")


def test_a_programme_goes_out_whole_and_is_there_once(sign_in: SignIn, tmp_path: Path) -> None:
    page = sign_in("lead", "/settings/programme")
    with page.expect_download() as taken:
        page.get_by_role("link", name="Download archive").click()
    path = tmp_path / "programme.zip"
    taken.value.save_as(path)
    assert path.stat().st_size > 100_000
    page.get_by_label("Citation").fill("Ossling basin fish (2026).")
    page.get_by_role("button", name="Save", exact=True).click()
    expect(page.get_by_text("Kept. What it was before stands in the history.").first).to_be_visible()


def test_what_a_number_means_is_one_touch_away(sign_in: SignIn) -> None:
    page = sign_in("biologist", "/findings/size?species=wal")
    page.get_by_role("link", name="Formulas, assumptions and checks in full").click()
    expect(page.get_by_role("heading", name="Size structure", level=1)).to_be_visible()


def test_a_series_stands_beside_a_finding(sign_in: SignIn) -> None:
    page = sign_in("biologist", "/findings/size?species=wal")
    page.get_by_text("Compare with a series").click()
    page.get_by_label("Series").select_option(label="Ketterwick River: Flow (m³/s)")
    expect(page.get_by_role("img", name=re.compile("with the days of the outings marked"))).to_be_visible()
    expect(page.get_by_text("made-up gauge at km 12")).to_be_visible()
