"""Working the deck in a real browser."""

from __future__ import annotations

import math
import re
import time
from collections.abc import Callable
from typing import Any

import pytest
from playwright.sync_api import BrowserContext, Page, expect

from nailwright_core.common import species

from .conftest import Server

LINE = "[aria-label='Call line'] input"


def call(page: Page, text: str) -> None:
    page.keyboard.type(text)
    page.keyboard.press("Enter")


def newest(page: Page) -> list[str]:
    """Cells of the newest fish in the list: run, time, species, mm, in, g, sex."""
    return [cell.strip() for cell in page.locator("tr[data-capture]").first.locator("td").all_inner_texts()][:7]


def all_sent(page: Page) -> None:
    """A row is marked unsent from the moment of Enter, and so says the status."""
    expect(page.locator("tr[data-capture]").get_by_text("unsent")).to_have_count(0, timeout=60_000)
    expect(page.get_by_role("status", name="Sending")).to_have_text("All sent", timeout=60_000)


def eventually(holds: Callable[[], bool]) -> None:
    """Waits for what the tablet sends by itself to have arrived."""
    until = time.monotonic() + 15
    while not holds():
        assert time.monotonic() < until, "It did not come about in 15 s."
        time.sleep(0.1)


def on_server(page: Page) -> list[dict[str, Any]]:
    """The outing's fish as the server has them."""
    outing = page.url.rsplit("/", 1)[1]
    response = page.request.get(f"/api/v1/outings/{outing}/deck")
    assert response.ok
    return list(response.json()["captures"])


def test_ten_fish_called_fast(deck: Page) -> None:
    """Typed without a pause, far faster than anybody calls; species and sex are said once."""
    before = len(on_server(deck))
    line = species.get("wal").length_mass
    lengths = [280 + 23 * place for place in range(10)]
    for place, mm in enumerate(lengths):
        mass = round(10 ** (line.log10_a + line.b * math.log10(mm)))
        call(deck, f"wal {mm} {mass} f" if place == 0 else f"{mm} {mass}")
    eventually(lambda: len(on_server(deck)) >= before + 10)
    all_sent(deck)
    kept = on_server(deck)[before:]
    assert [fish["length_mm"] for fish in kept] == lengths
    assert {fish["species"] for fish in kept} == {"wal"}
    assert [fish["sex"] for fish in kept] == ["f"] + ["u"] * 9
    expect(deck.locator(LINE)).to_have_value("")


def test_the_line_shows_what_it_understood_before_enter(deck: Page) -> None:
    deck.keyboard.type("wal 18 1/4 in 2lb 7oz f")
    understood = deck.get_by_test_id("understood")
    expect(understood).to_contain_text("463.6 mm")
    expect(understood).to_contain_text("1,106 g")
    expect(understood).to_contain_text("female")
    expect(understood).to_contain_text("quality")
    deck.keyboard.press("Enter")
    expect(deck.locator(LINE)).to_have_value("")
    assert newest(deck)[2:] == ["wal", "463.6", "18.25", "1,106", "f"]


def test_a_doubt_is_asked_and_repaired_by_one_touch(deck: Page) -> None:
    call(deck, "wal 46.3 1000")
    expect(deck.get_by_role("alert")).to_contain_text("46.3 mm is short for walleye")
    deck.get_by_role("button", name="called in cm").click()
    expect(deck.locator(LINE)).to_have_value("")
    assert newest(deck)[2:6] == ["wal", "463", "18.23", "1,000"]
    all_sent(deck)
    assert on_server(deck)[-1]["questions"][0] == {
        "code": "length_unusual",
        "answer": "length_in_cm",
        "called": "46.3 1000",
    }


def test_a_doubt_never_blocks(deck: Page) -> None:
    call(deck, "wal 463 95")
    expect(deck.get_by_role("alert")).to_contain_text("far too light")
    deck.keyboard.press("Enter")
    deck.keyboard.press("Enter")
    expect(deck.locator(LINE)).to_have_value("")
    all_sent(deck)
    last = on_server(deck)[-1]
    assert last["mass_g"] == 95 and last["questions"] == [{"code": "mass_far_off", "answer": "kept as called"}]


def test_an_impossible_length_is_kept_without_it(deck: Page) -> None:
    call(deck, "wal 9000")
    deck.get_by_role("button", name="Save without length").click()
    all_sent(deck)
    last = on_server(deck)[-1]
    assert last["length_mm"] is None and last["note"] == "called 9000"


@pytest.mark.parametrize("line", ["wal twelve", "wal -3", "wal 0", "wal 12 13 14", "wal 1e400", "wal 300 18in"])
def test_what_cannot_be_read_stays_on_the_line_with_a_reason(deck: Page, line: str) -> None:
    count = len(on_server(deck))
    call(deck, line)
    expect(deck.get_by_role("alert")).to_be_visible()
    expect(deck.locator(LINE)).to_have_value(line)
    all_sent(deck)
    assert len(on_server(deck)) == count


def test_correct_and_undo_the_last_fish(deck: Page) -> None:
    call(deck, "yep 200 95")
    deck.keyboard.press("ArrowUp")
    expect(deck.locator(LINE)).to_have_value("yep 200 95")
    deck.locator(LINE).fill("yep 210 110")
    deck.keyboard.press("Enter")
    assert newest(deck)[2:6] == ["yep", "210", "8.27", "110"]
    eventually(lambda: on_server(deck)[-1]["length_mm"] == 210)
    count = len(on_server(deck))
    deck.keyboard.press("Control+z")
    expect(deck.get_by_text("Took out yep 210.", exact=True)).to_be_visible()
    eventually(lambda: len(on_server(deck)) == count - 1)
    deck.get_by_role("button", name="Undo").click()
    eventually(lambda: len(on_server(deck)) == count)


def test_a_fish_by_touch_alone(deck: Page) -> None:
    pad = deck.get_by_role("region", name="Touch pad")
    expect(pad).to_have_count(0)  # a keyboard is there; a device remembers what was asked for
    deck.get_by_role("button", name="Touch pad").click()
    pad.get_by_role("button", name="burbot", exact=True).click()
    for key in "512":
        pad.get_by_role("button", name=key, exact=True).click()
    pad.get_by_role("button", name="next", exact=True).click()
    for key in "870":
        pad.get_by_role("button", name=key, exact=True).click()
    pad.get_by_role("button", name="female", exact=True).click()
    pad.get_by_role("button", name="Save", exact=True).click()
    assert newest(deck)[2:] == ["bur", "512", "20.16", "870", "f"]


def test_a_fish_by_one_hand_from_scan_to_release(deck: Page) -> None:
    deck.get_by_role("button", name="One hand").click()
    sheet = deck.get_by_role("dialog", name="One hand")
    sheet.get_by_role("button", name="burbot", exact=True).click()
    sheet.get_by_role("button", name="Scanned, none found").click()
    for key in "4889":
        sheet.get_by_role("button", name=key, exact=True).click()
    sheet.get_by_role("button", name="Erase last digit").click()
    expect(sheet.get_by_label("Length")).to_have_text("488")
    sheet.get_by_role("button", name=re.compile("^released 2")).click()
    sheet.get_by_role("button", name="Save fish").click()
    expect(sheet.get_by_label("Length")).to_have_text("-")  # ready for the next one
    deck.keyboard.press("Escape")
    assert newest(deck)[2:4] == ["bur", "488"]
    expect(deck.get_by_role("combobox", name="How bur 488 left")).to_have_value("released|2|")


def test_the_pedal_clock_counts_and_survives_the_closing_of_the_tablet(deck: Page) -> None:
    deck.keyboard.press("F2")
    pedal = deck.get_by_role("button", name="Current ON")
    expect(pedal).to_have_attribute("aria-pressed", "true")
    deck.wait_for_timeout(1500)
    deck.reload()
    expect(pedal).to_be_visible()
    deck.keyboard.press("F2")
    expect(deck.get_by_role("button", name="Current off")).to_be_visible()
    outing = deck.url.rsplit("/", 1)[1]

    def seconds() -> float:
        runs = deck.request.get(f"/api/v1/outings/{outing}/deck").json()["runs"]
        return float(runs[-1]["current_on_s"])

    # until it has arrived: "All sent" may still be said of what was sent before it
    eventually(lambda: seconds() >= 96 + 1.5)


def test_end_a_run_and_start_the_next(deck: Page) -> None:
    deck.keyboard.press("F8")
    expect(deck.get_by_text("No run in progress.")).to_be_visible()
    call(deck, "wal 400 600")
    expect(deck.get_by_role("alert")).to_contain_text("Start a run")
    deck.get_by_role("region", name="Call line").get_by_role("button", name="Start run").click()
    dialog = deck.get_by_role("dialog")
    dialog.get_by_label("Volts (V, peak)").fill("lots")
    dialog.get_by_role("button", name="Start run").click()
    expect(dialog.get_by_role("alert")).to_contain_text("Expected 0 to 2000 V; got 'lots'")
    dialog.get_by_label("Volts (V, peak)").fill("210")
    dialog.get_by_role("button", name="Start run").click()
    expect(deck.get_by_text("210 V")).to_be_visible()
    expect(dialog).not_to_be_visible()
    deck.keyboard.press("Enter")  # the fish is still on the line
    expect(deck.locator(LINE)).to_have_value("")
    outing = deck.url.rsplit("/", 1)[1]

    def fish_is_in_the_new_run() -> bool:
        answer = deck.request.get(f"/api/v1/outings/{outing}/deck").json()
        return bool(answer["captures"][-1]["run"] == answer["runs"][-1]["id"] and answer["runs"][-1]["volts"] == 210)

    eventually(fish_is_in_the_new_run)


@pytest.mark.installed
def test_server_stopped_and_back_loses_and_doubles_nothing(deck: Page, server: Server, context: BrowserContext) -> None:
    all_sent(deck)
    before = len(on_server(deck))
    server.stop()
    for mm in range(400, 412):
        call(deck, f"wal {mm}")
    expect(deck.get_by_role("status", name="Sending")).to_contain_text("12 unsent")
    # the tablet is closed and opened again, still with no server: the page comes from what the browser kept
    address = deck.url
    deck.close()
    again = context.new_page()
    again.goto(address)
    expect(again.get_by_role("status", name="Sending")).to_contain_text("12 unsent", timeout=20_000)
    expect(again.locator("tr[data-capture]").first).to_contain_text("411")  # the bar may be there before the list
    assert newest(again)[2:4] == ["wal", "411"]
    call(again, "wal 412")
    server.start()
    all_sent(again)
    lengths = [fish["length_mm"] for fish in on_server(again)][before:]
    assert lengths == [float(mm) for mm in range(400, 413)]


@pytest.mark.installed
def test_checklists_are_signed_with_no_server_before_current_flows(
    sign_in: Callable[..., Page], server: Server
) -> None:
    page = sign_in("crew", "/deck")
    page.get_by_role("button", name="Open an outing").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("Water").select_option(label="Skarn Beck")
    dialog.get_by_label("Gear").select_option("backpack_electrofishing")
    dialog.get_by_role("button", name="Open", exact=True).click()
    expect(page.get_by_role("button", name="1 checklist to sign")).to_be_visible()
    server.stop()
    page.keyboard.press("F8")
    dialog.get_by_role("button", name="Start run").click()
    expect(dialog).not_to_be_visible()
    page.keyboard.press("F2")
    expect(dialog).to_contain_text("Nobody works alone; two of us can do CPR.")
    page.keyboard.press("Escape")
    expect(page.get_by_role("button", name="Current off")).to_be_visible()  # a closed sheet signs nothing
    page.keyboard.press("F2")
    dialog.get_by_label("Name").fill("Tove Harrowell")
    dialog.get_by_role("button", name="Sign", exact=True).click()
    expect(dialog).not_to_be_visible()
    expect(page.get_by_role("button", name="checklist to sign")).not_to_be_visible()
    page.keyboard.press("F2")
    expect(page.get_by_role("button", name="Current ON")).to_be_visible()
    page.wait_for_timeout(400)
    page.keyboard.press("F2")
    expect(page.get_by_role("button", name="Current off")).to_be_visible()
    page.keyboard.press("F8")
    server.start()
    all_sent(page)
    outing = page.url.rsplit("/", 1)[1]
    deck = page.request.get(f"/api/v1/outings/{outing}/deck").json()
    assert [(each["code"], each["signature"]["name"]) for each in deck["checklists"]] == [
        ("electrofishing", "Tove Harrowell")
    ]
    assert deck["runs"][0]["current_on_s"] > 0 and deck["runs"][0]["ended_at"]
    page.get_by_role("button", name="Close outing").click()  # the tests after this one want tonight's
    page.get_by_role("button", name="Sign and close").click()
    expect(page.get_by_text("Closed, handed over by")).to_be_visible()


@pytest.mark.meddles_with_requests
def test_an_answer_lost_on_the_way_doubles_nothing(deck: Page) -> None:
    """The server stores the fish, but its answer never arrives; the tablet sends again."""
    all_sent(deck)
    before = len(on_server(deck))
    lost = []

    def lose_first_answer(route: Any) -> None:
        if lost:
            return route.continue_()
        lost.append(route.fetch().status)
        return route.abort("connectionreset")

    deck.context.route("**/sync", lose_first_answer)
    call(deck, "wal 433")
    eventually(lambda: len(on_server(deck)) > before)
    all_sent(deck)
    assert lost == [200]
    assert [fish["length_mm"] for fish in on_server(deck)][before:] == [433]


@pytest.mark.meddles_with_requests
def test_a_fish_for_a_closed_outing_waits_with_its_reason(
    deck: Page, sign_in: Callable[..., Page], server: Server
) -> None:
    all_sent(deck)
    outing = deck.url.rsplit("/", 1)[1]
    deck.context.route("**/sync", lambda route: route.abort())
    call(deck, "wal 444")
    expect(deck.get_by_role("status", name="Sending")).to_contain_text("1 unsent")
    token = next(cookie["value"] for cookie in deck.context.cookies() if cookie["name"] == "csrftoken")
    headers = {"X-CSRFToken": token, "Referer": server.address}
    # somebody else ends the run, releases the fish and closes the outing meanwhile
    runs = deck.request.get(f"/api/v1/outings/{outing}/deck").json()
    running = next(run for run in runs["runs"] if run["ended_at"] is None)
    end = {
        "id": "01999999-0000-7000-8000-00000000abcd",
        "kind": "run.edit",
        "row": {"run": running["id"], "ended_at": "2099-01-01T00:00:00Z"},
    }
    programme = runs["outing"]["programme"]
    left = {"captures": [fish["id"] for fish in runs["captures"]], "code": "alive"}
    release = {"id": "01999999-0000-7000-8000-00000000abcf", "kind": "release.set", "row": left}
    operations = {"operations": [end, release]}
    assert deck.request.post(f"/api/v1/programmes/{programme}/sync", data=operations, headers=headers).ok
    close = {"id": "01999999-0000-7000-8000-00000000abce", "state": "closed"}
    assert deck.request.post(f"/api/v1/outings/{outing}/state", data=close, headers=headers).ok
    deck.context.unroute("**/sync")
    deck.evaluate("window.dispatchEvent(new Event('online'))")
    expect(deck.get_by_text("1 entry not accepted")).to_be_visible(timeout=20_000)
    expect(deck.get_by_text(re.compile("is closed. A lead or biologist can open it again")).first).to_be_visible()
    lead = sign_in_in_new_context(deck, server, "lead")
    lead.goto(f"/deck/{outing}")
    lead.get_by_role("button", name="Open again").click()
    expect(lead.get_by_role("button", name="Close outing")).to_be_visible()
    lead.context.close()
    deck.get_by_role("button", name="Send again").click()
    all_sent(deck)
    assert on_server(deck)[-1]["length_mm"] == 444


def sign_in_in_new_context(page: Page, server: Server, role: str) -> Page:
    context = page.context.browser.new_context(base_url=server.address)  # type: ignore[union-attr]
    other = context.new_page()
    other.goto("/")
    other.get_by_role("button", name=re.compile(f"^{role}", re.IGNORECASE)).click()
    expect(other.get_by_role("navigation", name="Stages of the work")).to_be_visible()
    return other


def test_every_target_on_deck_is_large_enough_for_a_glove(deck: Page) -> None:
    """44 px, as our own rule for Deck says."""
    deck.get_by_role("button", name="Touch pad").click()
    for region in ("Touch pad", "Call line"):
        for button in deck.get_by_role("region", name=region).get_by_role("button").all():
            box = button.bounding_box()
            assert box and box["height"] >= 44 and box["width"] >= 44, button.inner_text()
