"""Takes the pictures of the main views; run by bin/shots, not by the tests."""

from __future__ import annotations

import os
import re
from collections.abc import Callable
from pathlib import Path

import pytest
from playwright.sync_api import BrowserContext, Page, expect

from .test_handling import LAKE, new_outing
from .test_instruments import aboard, boat, chips, play  # noqa: F401 - fixtures among them

FOLDER = Path(__file__).resolve().parents[2] / "docs" / "screenshots"
WANTED = os.environ.get("NAILWRIGHT_SHOTS", "").split()
SignIn = Callable[..., Page]


def shoot(page: Page, name: str) -> None:
    page.wait_for_load_state("networkidle")
    page.wait_for_timeout(400)
    FOLDER.mkdir(parents=True, exist_ok=True)
    page.screenshot(path=FOLDER / f"{name}.png")


@pytest.fixture(autouse=True)
def only_wanted(request: pytest.FixtureRequest) -> None:
    name = request.node.name.removeprefix("test_").replace("_", "-")
    if WANTED and name not in WANTED:
        pytest.skip("not asked for")


def in_theme(context: BrowserContext, theme: str) -> None:
    context.add_init_script(f"if (location.protocol === 'http:') localStorage.setItem('theme', '{theme}')")


def open_deck(sign_in: SignIn) -> Page:
    page = sign_in("crew", "/deck")
    # pictures of before may have opened outings of their own
    page.get_by_role("link").filter(has_text="Ketterwick River, lower river").filter(has_text="Work the deck").click()
    page.get_by_role("textbox").first.wait_for()
    return page


def test_deck_day(sign_in: SignIn) -> None:
    page = open_deck(sign_in)
    page.keyboard.type("wal 437 890 f")
    shoot(page, "deck-day")


def test_deck_night(context: BrowserContext, sign_in: SignIn) -> None:
    in_theme(context, "night")
    page = open_deck(sign_in)
    page.keyboard.type("wal 46 1085")
    page.keyboard.press("Enter")
    shoot(page, "deck-night")


def test_deck_bath(sign_in: SignIn) -> None:
    page = open_deck(sign_in)
    page.get_by_role("region", name="Lanes").get_by_role("button", name="Bath 58 mg/L").click()
    page.get_by_label("Strength wanted (mg/L)").fill("75")
    shoot(page, "deck-bath")


def a_winters_fish(sign_in: SignIn, call: str) -> Page:
    """A fish in hand on the ice-cold lake, with its rig told."""
    page = sign_in("crew", "/deck")
    new_outing(page, LAKE, "angling")
    page.keyboard.press("F3")
    page.keyboard.type(call)
    page.keyboard.press("Enter")
    page.get_by_role("button", name=re.compile(r": all that is said of it$")).first.click()
    page.get_by_role("dialog").wait_for()
    return page


def test_deck_surgery(sign_in: SignIn) -> None:
    page = a_winters_fish(sign_in, "lwf 455 980")
    page.get_by_role("tab", name="Surgery").click()
    page.get_by_label("Surgeon").fill("Maren Oskvold")
    page.get_by_label("Watches gills and colour").fill("Tove Harrowell")
    page.get_by_label("Animal-care protocol or licence").fill("animal care 12")
    page.get_by_role("button", name="Begin").click()
    for _ in range(4):
        page.locator("button.min-h-20\\!").click()
    shoot(page, "deck-surgery")


def test_today(sign_in: SignIn) -> None:
    shoot(sign_in("lead", "/"), "today")


def test_tags(sign_in: SignIn) -> None:
    page = sign_in("lead", "/tags")
    page.get_by_role("searchbox", name="Find a tag: its number").fill("W1")
    page.get_by_role("button", name="Its fish").first.wait_for()
    shoot(page, "tags")


def on_a_phone(context: BrowserContext, path: str) -> Page:
    page = context.new_page()
    page.set_viewport_size({"width": 390, "height": 800})
    page.goto(path)
    return page


def test_returns(sign_in: SignIn) -> None:
    page = sign_in("biologist", "/tags/returns")
    page.get_by_role("list", name="Reports", exact=True).get_by_role("button").filter(
        has_text="another species"
    ).click()
    page.get_by_role("region", name="The fish").wait_for()
    shoot(page, "returns")


def test_finder(context: BrowserContext) -> None:
    page = on_a_phone(context, "/r/ossling")
    page.get_by_label("Number on the tag").fill("W1012")
    page.get_by_text("Today", exact=True).click()
    page.get_by_role("button", name="Send report").click()
    page.get_by_role("heading", name="The story of your fish").wait_for()
    shoot(page, "finder")


def test_kit(context: BrowserContext, sign_in: SignIn) -> None:
    context.grant_permissions(["geolocation"])
    context.set_geolocation({"latitude": 44.93, "longitude": -31.52, "accuracy": 9})
    sign_in("volunteer", "/")
    page = on_a_phone(context, "/kit")
    page.get_by_text("Position taken").wait_for()
    for key in "43":
        page.get_by_role("button", name=key, exact=True).click()
    shoot(page, "kit")


def test_register(sign_in: SignIn) -> None:
    shoot(sign_in("biologist", "/records"), "register")


def test_file(sign_in: SignIn) -> None:
    lines = [
        "Lake,Station,Date,Sp.,TL,Wt,Sex,PIT,Remarks",
        *(f"Lake Ossling,N{1 + n % 4},{1 + n % 28:02}/05/2019,WAE,{12 + n % 90 / 10},{0.62 + n % 90 / 50},F,," for n in range(900)),
        "Lake Ossling,N2,14/05/2019,yellow perch,8.3,0.31,,,",
        "Lake Ossling,N2,05/14/2019,walleye,16.1,1.5,M,,",
        "Lake Ossling,N2,14/05/2019,walleye,161,1.5,M,,",
        "Loch Ossling,N2,14/05/2019,walleye,16.1,1.5,M,90000000000000,scar",
    ]  # fmt: skip
    page = sign_in("biologist", "/records/files")
    page.get_by_label("File of measured fish").set_input_files(
        {"name": "ossling-spring-2019.csv", "mimeType": "text/csv", "buffer": "\n".join(lines).encode()}
    )
    page.get_by_label("Gear", exact=True).select_option("boat_electrofishing")
    page.get_by_text("day first", exact=True).click()
    page.get_by_role("button", name="Try it, store nothing").click()
    page.get_by_test_id("outcome").wait_for(timeout=20_000)
    page.get_by_label("WAE").select_option("wal")
    page.get_by_role("button", name="Try it again").click()
    page.get_by_role("button", name="Import 9").wait_for(timeout=20_000)
    page.evaluate("document.activeElement.blur()")
    shoot(page, "file")


def test_settings_protocol(sign_in: SignIn) -> None:
    page = sign_in("lead", "/settings/protocol")
    page.locator("summary", has_text="Where a fish is handled").click()
    page.locator("summary", has_text="Limits for fish in hand").click()
    shoot(page, "settings-protocol")


def open_part(sign_in: SignIn, part: str) -> Page:
    page = sign_in("lead", "/plan")
    page.get_by_role("link", name="Walleye by marks").click()
    page.get_by_role("navigation", name="Parts of the survey").get_by_role("link", name=part).click()
    return page


def test_plan_sites(sign_in: SignIn) -> None:
    shoot(open_part(sign_in, "Reach and sites"), "plan-sites")


def test_plan_rehearsal(sign_in: SignIn) -> None:
    page = open_part(sign_in, "Rehearsal")
    for name in ("Rehearse", "Sweep"):
        page.get_by_role("button", name=name, exact=True).click()
        page.get_by_role("button", name=name, exact=True).is_enabled()
        page.get_by_text("surveys at each of" if name == "Sweep" else "95 of 100").first.wait_for(timeout=60_000)
    shoot(page, "plan-rehearsal")


@pytest.mark.parametrize("kind", ["size", "condition", "catch-rate", "where-met"])
def test_findings(sign_in: SignIn, kind: str) -> None:
    page = sign_in("biologist", f'/findings/{kind}?species=wal&zone=["Lower river"]')
    page.get_by_test_id("sentence").wait_for(timeout=30_000)
    shoot(page, f"findings-{kind}")


def test_deck_instruments(aboard: Page) -> None:  # noqa: F811
    play(aboard, do="length", value=437)
    play(aboard, do="mass", value=890)
    expect(chips(aboard)).to_contain_text("890 g")
    shoot_still(aboard, "deck-instruments")


def shoot_still(page: Page, name: str) -> None:
    """Where a stream stays open the network is never idle."""
    page.wait_for_timeout(800)
    page.screenshot(path=FOLDER / f"{name}.png")
