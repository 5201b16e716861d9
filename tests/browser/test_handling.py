"""Whole evenings: fish from net to release through lanes, baths, tagging, surgery, and down again; keys and touches counted."""

from __future__ import annotations

import csv
import re
from collections.abc import Callable
from typing import Any

import pytest
from playwright.sync_api import Browser, Locator, Page, expect

from .conftest import Server
from .test_deck import all_sent, call, eventually

pytestmark = pytest.mark.installed


SignIn = Callable[..., Page]
LAKE = "Lake Ossling"


def deck_of(page: Page) -> dict[str, Any]:
    outing = page.url.rsplit("/", 1)[1]
    return dict(page.request.get(f"/api/v1/outings/{outing}/deck").json())


def details(page: Page, kind: str) -> list[dict[str, Any]]:
    """What the server was told of a kind, as it happened."""
    return [each["details"] for each in deck_of(page)["events"] if each["kind"] == kind]


def lane(page: Page, name: str) -> Locator:
    return page.get_by_role("region", name="Lanes").get_by_role("region", name=name, exact=True)


def on(page: Page, fish: str) -> None:
    """One touch: a fish moves on."""
    page.get_by_role("button", name=re.compile(rf"^{fish}\b.* (on to|goes)")).first.click()


def opened(page: Page, fish: str) -> Locator:
    page.get_by_role("button", name=f"{fish}: all that is said of it").first.click()
    return page.get_by_role("dialog")


def open_outing(page: Page, water: str, gear: str) -> None:
    page.get_by_role("button", name="Open an outing").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("Water").select_option(label=water)
    dialog.get_by_label("Gear").select_option(gear)
    dialog.get_by_role("button", name="Open", exact=True).click()
    expect(page.get_by_role("region", name="Call line")).to_be_visible()


def start_run(page: Page) -> None:
    page.get_by_role("button", name="Start run").first.click()
    page.get_by_role("dialog").get_by_role("button", name="Start run").click()
    expect(page.get_by_role("dialog")).not_to_be_visible()


def new_outing(page: Page, water: str, gear: str) -> None:
    open_outing(page, water, gear)
    start_run(page)


def close(page: Page) -> None:
    page.keyboard.press("F9")
    page.keyboard.press("F8")
    all_sent(page)
    page.get_by_role("button", name="Close outing").click()
    page.get_by_role("button", name="Sign and close").click()
    expect(page.get_by_text("Closed, handed over by")).to_be_visible()


def test_from_net_to_release_with_a_tag_in_six_touches(deck: Page) -> None:
    """Call and Enter, three lanes, and how it goes; a plain call stays one line and one Enter."""
    stock = next(each["number"] for each in deck_of(deck)["marks"]["stock"] if each["kind"] == "pit")
    # all at once: typed digit by digit on a busy machine it may look like a hand's or like a reader's
    line = deck.get_by_role("region", name="Call line").get_by_role("textbox")
    line.fill(f"wal 437 870 none {stock}")
    expect(deck.get_by_role("region", name="Marks")).to_contain_text("New placement.")
    line.press("Enter")
    touches = 1
    for place in ("Bath", "Table", "Recovery"):
        on(deck, "wal 437")
        touches += 1
        expect(lane(deck, place)).to_contain_text("wal 437")
    on(deck, "wal 437")  # out of the boat: how it goes is asked
    deck.get_by_role("dialog").get_by_role("button", name="released 1: swam off strongly").click()
    touches += 2
    expect(deck.get_by_role("dialog")).not_to_be_visible()
    assert touches <= 8
    expect(deck.get_by_label("How wal 437 left")).to_have_value("released|1|")
    all_sent(deck)
    fish = next(each for each in deck_of(deck)["captures"] if each["length_text"] == "437" and each["placed"])
    assert (fish["release"], fish["strength"], fish["placed"][0]["number"]) == ("released", 1, stock)
    lanes = [each["details"]["lane"] for each in deck_of(deck)["events"] if each["capture"] == fish["id"]]
    assert lanes == ["bath", "table", "recovery"]


def test_where_a_fish_was_let_go_by_the_tablets_own_position(deck: Page) -> None:
    deck.context.grant_permissions(["geolocation"])
    deck.context.set_geolocation({"latitude": -12.3456789, "longitude": 45.5, "accuracy": 7.2})
    call(deck, "wal 419 760")
    sheet = opened(deck, "wal 419")
    sheet.get_by_role("tab", name="Release").click()
    sheet.get_by_role("button", name="Where it was let go").click()
    sheet.get_by_label("Place").fill("below the rock")
    sheet.get_by_role("form", name="Where it was let go").get_by_role("button", name="Save").click()
    sheet.get_by_role("button", name="Let go here: the position now").click()
    expect(sheet.get_by_role("region", name="Where it was let go")).to_contain_text("latitude -12.345679 °")
    deck.keyboard.press("Escape")
    all_sent(deck)
    assert details(deck, "let_go")[-1] == {"words": "below the rock", "lat": -12.345679, "lon": 45.5, "within_m": 8.0}


def test_a_batch_a_bath_and_what_was_found(deck: Page) -> None:
    deck.get_by_role("button", name="More of the run").click()
    sheet = deck.get_by_role("dialog")
    sheet.get_by_role("button", name="Batch into the live well").click()
    sheet.get_by_label("Fish", exact=True).fill("12")
    sheet.get_by_role("button", name="Save").click()
    deck.keyboard.press("Escape")
    expect(lane(deck, "Live well")).to_contain_text(re.compile(r"\+ \d+ to call"))
    # the bath: filled anew, dosed by what the sheet says, never twice by one double touch
    lane(deck, "Bath").get_by_role("button", name=re.compile("^Bath")).click()
    sheet = deck.get_by_role("dialog")
    sheet.get_by_role("button", name="Filled", exact=True).click()
    form = sheet.get_by_role("form", name="Filled")
    form.get_by_role("button", name="tricaine").click()
    form.get_by_role("button", name="surgery").click()
    form.get_by_label("Litres (L)").fill("40")
    form.get_by_role("button", name="Save").click()
    expect(sheet).to_contain_text("0.0 mg/L")
    sheet.get_by_label("Strength wanted (mg/L)").fill("200")
    expect(sheet.get_by_role("alert")).to_contain_text("Expected 75 to 150 mg/L")
    sheet.get_by_label("Strength wanted (mg/L)").fill("100")
    sheet.get_by_role("button", name=re.compile("Add 40.0 mL of stock")).dblclick()
    expect(sheet).to_contain_text("100.0 mg/L")
    expect(sheet).to_contain_text("It has what is wanted.")
    sheet.get_by_label("Strength wanted (mg/L)").fill("80")
    expect(sheet.get_by_role("button", name="Exchange 8.0 L for fresh water: done")).to_be_visible()
    deck.keyboard.press("Escape")
    expect(lane(deck, "Bath")).to_contain_text("100 mg/L")
    call(deck, "wal 428 800")
    sheet = opened(deck, "wal 428")
    sheet.get_by_role("tab", name="On arrival").click()
    sheet.get_by_role("button", name="scrape").click()
    sheet.get_by_role("button", name="left side").click()
    sheet.get_by_role("form", name="Injuries").get_by_role("button", name="Save").click()
    expect(sheet.get_by_role("region", name="Injuries")).to_contain_text("scrape, left side")
    sheet.get_by_role("tab", name="Event log").click()
    sheet.get_by_role("listitem").filter(has_text="Injuries").get_by_role("button", name="Correct").click()
    sheet.get_by_role("button", name="heavy").click()
    sheet.get_by_role("button", name="Save correction").click()
    expect(sheet.get_by_role("listitem").filter(has_text="Injuries")).to_contain_text("scrape, left side, heavy")
    deck.keyboard.press("Escape")
    all_sent(deck)
    assert {"what": "scrape", "part": "left", "degree": "heavy"} in details(deck, "found")
    assert [each["ml"] for each in details(deck, "bath_dosed")][-1:] == [40.0]


def test_two_tablets_move_one_fish_at_once(deck: Page, chromium: Browser, server: Server) -> None:
    call(deck, "wal 466 1010")
    all_sent(deck)
    other = chromium.new_context(base_url=server.address)
    second = other.new_page()
    second.goto("/deck")
    second.get_by_role("button", name=re.compile("^crew", re.IGNORECASE)).first.click()
    second.get_by_text("Work the deck", exact=True).first.click()
    expect(lane(second, "Live well")).to_contain_text("wal 466")
    on(second, "wal 466")
    on(deck, "wal 466")
    for page in (deck, second):
        expect(lane(page, "Bath")).to_contain_text("wal 466")
        all_sent(page)
        page.reload()
        expect(lane(page, "Bath")).to_contain_text("wal 466")
    fish = next(each["id"] for each in deck_of(deck)["captures"] if each["length_text"] == "466")
    moved = [each["details"]["lane"] for each in deck_of(deck)["events"] if each["capture"] == fish]
    assert moved == ["bath", "bath"]  # both are kept, and it stands there once
    other.close()


@pytest.mark.meddles_with_requests
def test_a_day_of_fish_from_depth_with_both_ways_down_and_no_signal(sign_in: SignIn) -> None:
    page = sign_in("crew", "/deck")
    new_outing(page, LAKE, "angling")
    page.get_by_role("button", name="More of the run").click()
    sheet = page.get_by_role("dialog")
    sheet.get_by_role("button", name="Rig and bait").click()
    sheet.get_by_label("Depth (m)").fill("40")
    sheet.get_by_role("form", name="Rig and bait").get_by_role("button", name="Save").click()
    page.keyboard.press("Escape")
    all_sent(page)
    opened_once = page.get_by_role("button", name="Bath", exact=True).first
    expect(opened_once).to_be_visible()
    page.context.set_offline(True)
    page.keyboard.press("F3")
    expect(page.get_by_text("fight")).to_be_visible()
    call(page, "bur 520 1250")
    expect(page.get_by_text("fight")).not_to_be_visible()
    sheet = opened(page, "bur 520")
    sheet.get_by_role("tab", name="Barotrauma").click()
    expect(sheet.get_by_label("Caught at (m)")).to_have_value("40")
    sheet.get_by_role("form", name="Capture depth").get_by_role("button", name="Save").click()
    sheet.get_by_role("button", name="Signs").click()
    sheet.get_by_role("button", name="stomach out of the mouth").click()
    sheet.get_by_role("form", name="Signs").get_by_role("button", name="Save").click()
    expect(sheet.get_by_role("list", name="What the signs call for")).to_contain_text("never pierce it")
    down = sheet.get_by_role("region", name="The way down")
    expect(down).to_contain_text("Let go at 30 m")
    needle = sheet.get_by_role("region", name="Needle")
    needle.get_by_label("Trained person").fill("Maren Oskvold")
    for word in ("little", "righted itself", "yes"):
        needle.get_by_role("button", name=word).click()
    needle.get_by_role("button", name="Vented").click()
    down.get_by_label("Bottom here (m)").fill("20")
    expect(down).to_contain_text("too shallow for this fish")
    down.get_by_label("Bottom here (m)").fill("42")
    down.get_by_role("button", name=re.compile("Pressure-triggered clamp goes down")).click()
    expect(sheet.get_by_role("list", name="In this order")).to_have_text(
        re.compile(r"1\s*gas let out.*2\s*sent down", re.DOTALL)
    )
    expect(sheet).to_contain_text("descended after")
    sheet.get_by_role("button", name="swam down").click()
    page.keyboard.press("Escape")
    page.context.set_offline(False)
    all_sent(page)
    (went,) = details(page, "sent_down")
    assert (went["device"], went["let_go_m"], went["bottom_m"]) == ("pressure-clamp", 30.0, 42.0)
    assert [details(page, kind) for kind in ("depth", "way_down")] == [[{"caught_m": 40.0}], [{"outcome": "down"}]]
    close(page)
    page.get_by_role("button", name="Daily summary").click()
    expect(page.get_by_role("dialog")).to_contain_text(
        "1 fish were sent down: 1 swam down; 1 had gas let out by needle"
    )


def test_an_angling_day_with_a_keep_net_and_a_surgery(sign_in: SignIn) -> None:
    page = sign_in("crew", "/deck")
    new_outing(page, LAKE, "angling")
    page.get_by_role("button", name="More of the run").click()
    page.get_by_role("dialog").get_by_role("button", name="Groundbaiting").click()
    page.get_by_role("form", name="Groundbaiting").get_by_role("button", name="Save").click()
    page.keyboard.press("Escape")
    expect(page.get_by_role("button", name=re.compile("Fed; next in 4:5|Fed; next in 5:00"))).to_be_visible()
    page.keyboard.press("F3")
    page.get_by_role("button", name="Came off").click()
    expect(page.get_by_text("fight")).not_to_be_visible()
    page.get_by_role("button", name="More of the run").click()
    page.get_by_role("dialog").get_by_role("button", name="Who fishes").click()
    page.get_by_label("Names, with commas between").fill("Ida Fell, Tove Harrowell")
    page.get_by_role("form", name="Who fishes").get_by_role("button", name="Save").click()
    # what was said is put right where it stands
    page.get_by_role("list", name="Events of this run").get_by_role("button", name="Correct").first.click()
    page.get_by_label("Names, with commas between").fill("Ida Fell, Maren Oskvold")
    page.get_by_role("button", name="Save correction").click()
    page.keyboard.press("Escape")
    page.get_by_role("button", name="Ida Fell: fish on").click()
    call(page, "lwf 455 980")
    sheet = opened(page, "lwf 455")
    sheet.get_by_role("button", name="Keep net").click()
    page.keyboard.press("Escape")
    expect(lane(page, "Keep net")).to_contain_text("lwf 455")
    # surgery: one-handed, a step at a time, the skipped one with its reason
    sheet = opened(page, "lwf 455")
    sheet.get_by_role("tab", name="Surgery").click()
    expect(sheet).to_contain_text("trained, licensed hands")
    sheet.get_by_label("Surgeon").fill("Maren Oskvold")
    sheet.get_by_label("Watches gills and colour").fill("Tove Harrowell")
    sheet.get_by_role("button", name="Begin").click()
    expect(sheet.get_by_role("alert")).to_contain_text("Animal-care protocol or licence")
    sheet.get_by_label("Animal-care protocol or licence").fill("animal care 12")
    sheet.get_by_role("button", name="Begin").click()
    sheet.get_by_role("button", name="Anaesthetised: balance lost, gills still beat").click()
    sheet.get_by_role("button", name="Skip this step").click()
    sheet.get_by_role("button", name="Skipped", exact=True).click()
    expect(sheet.get_by_label("Why")).to_be_visible()
    sheet.get_by_label("Why").fill("in the trough instead")
    sheet.get_by_role("button", name="Skipped", exact=True).click()
    sheet.get_by_label("Beats (1/min)").fill("58")
    sheet.get_by_role("button", name="red").click()
    sheet.get_by_role("button", name="Gills seen").click()
    expect(sheet).to_contain_text("58/min")
    expect(sheet.get_by_role("list", name="Steps")).to_contain_text("! skipped On its back in the wet sling")
    page.keyboard.press("Escape")
    all_sent(page)
    steps = details(page, "step")
    assert [(each["step"], each["done"]) for each in steps] == [("anaesthetised", "done"), ("sling", "skipped")]
    page.get_by_role("button", name="Daily summary").click()
    cards = page.get_by_role("region", name="Anglers' own cards")
    expect(cards).to_contain_text("Maren Oskvold")
    with page.expect_download() as download:
        cards.get_by_role("link", name="Fish of Ida Fell (CSV)").click()
    (fish,) = csv.DictReader(download.value.path().open(encoding="utf-8"))
    assert (fish["angler"], fish["species"], fish["length_mm"]) == ("Ida Fell", "lake whitefish", "455.0")
    page.keyboard.press("Escape")
    close(page)


def test_a_tag_that_was_spoiled_leaves_the_stock(deck: Page) -> None:
    call(deck, "wal 402 640")
    number = next(each["number"] for each in deck_of(deck)["marks"]["stock"] if each["kind"] == "pit")
    sheet = opened(deck, "wal 402")
    sheet.get_by_role("tab", name="Tag").click()
    typed = sheet.get_by_label("A tag was spoiled: its last digits")
    typed.fill(number)
    sheet.get_by_role("button", name="spoiled").click()
    expect(sheet).to_contain_text("is out of stock: spoiled")
    eventually(lambda: number not in [each["number"] for each in deck_of(deck)["marks"]["stock"]])
    sheet.get_by_role("button", name="Usable after all").click()
    eventually(lambda: number in [each["number"] for each in deck_of(deck)["marks"]["stock"]])


def test_a_second_call_and_the_last_digits(deck: Page) -> None:
    call(deck, "wal 431 820 f")
    before = len(deck_of(deck)["captures"])
    call(deck, "again")
    deck.keyboard.press("Enter")  # the same again is asked about
    all_sent(deck)
    assert len(deck_of(deck)["captures"]) >= before
    newest = deck_of(deck)["captures"][-1]
    assert (newest["length_mm"], newest["mass_g"], newest["sex"]) == (431, 820, "f")
    stock = [each["number"] for each in deck_of(deck)["marks"]["stock"] if each["kind"] == "pit"]
    number = next(each for each in stock if sum(other.endswith(each[-5:]) for other in stock) == 1)
    deck.keyboard.type(f"wal 433 830 none t{number[-5:]}")
    expect(deck.get_by_role("region", name="Marks")).to_contain_text("New placement.")
    deck.keyboard.press("Enter")
    all_sent(deck)
    assert deck_of(deck)["captures"][-1]["placed"][0]["number"] == number
    deck.keyboard.press("F10")
    expect(deck.get_by_role("region", name="Call line")).to_contain_text("yellow perch")
    deck.keyboard.press("Shift+F10")
    expect(deck.get_by_role("region", name="Call line")).to_contain_text("walleye")


def test_all_fish_of_a_lane_at_once_and_the_deep_one_is_asked_about(sign_in: SignIn) -> None:
    page = sign_in("crew", "/deck")
    new_outing(page, LAKE, "angling")
    line = page.get_by_role("region", name="Call line").get_by_role("textbox")
    line.fill("none")
    line.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text(
        "which fish?"
    )  # it is not the next one of the species that stands
    page.keyboard.press("Escape")
    for length in (201, 202, 203):
        call(page, f"yep {length}")
    lane(page, "Live well").get_by_role("button", name="Record for all of Live well").click()
    page.get_by_role("dialog").get_by_role("button", name="belly up").click()
    expect(page.get_by_text("Recorded for 3 entries.", exact=True)).to_be_visible()
    page.get_by_role("dialog").get_by_role("button", name="Esc: close").click()  # the key would take the notice first
    expect(page.get_by_role("dialog")).to_have_count(0)
    sheet = opened(page, "yep 202")
    sheet.get_by_role("tab", name="Barotrauma").click()
    sheet.get_by_label("Caught at (m)").fill("25")
    sheet.get_by_role("form", name="Capture depth").get_by_role("button", name="Save").click()
    page.keyboard.press("Escape")
    page.keyboard.press("F9")
    asked = page.get_by_role("dialog")
    expect(asked.get_by_role("list", name="To be looked at first")).to_have_text("yep 202, Live well: came from depth")
    asked.get_by_role("button", name="Release the others: 2 fish from Live well").click()
    expect(lane(page, "Live well")).to_contain_text("yep 202")
    all_sent(page)
    assert [each["posture"] for each in details(page, "posture")] == ["belly"] * 3
    assert sorted(each["release"] for each in deck_of(page)["captures"]) == ["", "released", "released"]
    page.keyboard.press("F9")
    page.get_by_role("dialog").get_by_role("button", name="Release all of them").click()
    close(page)
