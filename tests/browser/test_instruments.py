"""Instruments on cables, played by the stand-ins: their readings wait beside the call line, and a pulled plug changes nothing else."""

from __future__ import annotations

import os
import re
import subprocess
import sys
from collections.abc import Callable, Iterator
from typing import Any

import pytest
from playwright.sync_api import Browser, Page, expect

from server.tests.databases import ROOT
from standins.instruments import checked, pit_frame

from .conftest import Server
from .test_accessible import problems
from .test_deck import LINE, all_sent, eventually, on_server
from .test_marks import scan

NAMES = ("pit", "board", "balance", "gps", "probe")


def free_ports(n: int) -> int:
    found = subprocess.run(
        ["bash", "-c", f'source "$0"; free_ports {n} {21_000 + os.getpid() % 8000}', ROOT / "bin" / "common.sh"],
        check=True, stdout=subprocess.PIPE, text=True,
    )  # fmt: skip
    return int(found.stdout)


@pytest.fixture(scope="module")
def boat(demo_database: str) -> Iterator[Server]:
    """A server of its own with stand-ins and gateway, as bin/start sets them up."""
    first = free_ports(7)
    server = Server(demo_database, jobs=False)
    server.environment |= {
        "NAILWRIGHT_GATEWAY_URL": f"http://127.0.0.1:{first + 6}",
        "NAILWRIGHT_GATEWAY_ORIGINS": server.address,
        "NAILWRIGHT_STANDINS": str(first + 5),
        "NAILWRIGHT_INSTRUMENTS": ",".join(f"{name}=127.0.0.1:{first + n}" for n, name in enumerate(NAMES)),
    }
    commands = (["standins.instruments", str(first)], ["nailwright.gateway", str(first + 6)])
    beside = [subprocess.Popen([sys.executable, "-m", *each], env=server.environment, cwd=ROOT) for each in commands]
    server.start()
    yield server
    server.end()
    for each in beside:
        each.terminate()
    for each in beside:
        each.wait(10)


@pytest.fixture
def aboard(chromium: Browser, boat: Server) -> Iterator[Page]:
    """Tonight's Deck, where instruments are heard."""
    context = chromium.new_context(base_url=boat.address, viewport={"width": 1280, "height": 800})
    page = context.new_page()
    page.goto("/")
    page.get_by_role("button", name="crew").first.click()
    expect(page.get_by_role("navigation", name="Stages of the work")).to_be_visible()
    page.goto("/deck")
    page.get_by_text("Work the deck", exact=True).first.click()
    expect(page.locator(LINE)).to_be_visible()
    if page.get_by_text("No run in progress.").first.is_visible():
        page.keyboard.press("F8")
        page.get_by_role("dialog").get_by_role("button", name="Start run").click()
    expect(page.get_by_role("region", name="Instruments")).to_contain_text(
        "5 simulated instruments connected", timeout=20_000
    )
    yield page
    context.close()


def play(page: Page, **deed: Any) -> None:
    outing = page.url.rsplit("/", 1)[1]
    told = page.request.get(f"/api/v1/outings/{outing}/instruments").json()
    assert page.request.post(told["play"], data=deed).ok


def chips(page: Page) -> Any:
    return page.get_by_role("list", name="Waiting to be taken")


def test_a_fish_measured_weighed_and_read_by_instruments(aboard: Page) -> None:
    number = next(
        each["number"] for each in page_deck(aboard)["marks"]["stock"] if each["kind"] == "pit"
    )  # fmt: skip
    play(aboard, do="length", value=437)
    play(aboard, do="mass", value=890)
    play(aboard, do="pit", number=number)
    for words in ("437 mm", "890 g", f"PIT {number[:3]}"):
        expect(chips(aboard)).to_contain_text(words)
    aboard.keyboard.type("wal none ")
    aboard.keyboard.press("PageDown")
    expect(aboard.locator(LINE)).to_have_value(f"wal none 437mm 890g {number} ")
    expect(chips(aboard)).not_to_contain_text("437 mm")
    aboard.keyboard.press("Enter")
    all_sent(aboard)
    fish = on_server(aboard)[-1]
    assert (fish["length_mm"], fish["mass_g"]) == (437, 890)
    assert [each["number"] for each in fish["placed"]] == [number]


def test_what_was_called_by_hand_is_taken_from_the_chips(aboard: Page) -> None:
    play(aboard, do="length", value=388)
    expect(chips(aboard)).to_contain_text("388 mm")
    aboard.keyboard.type("wal 388 610")
    aboard.keyboard.press("Enter")
    expect(chips(aboard)).not_to_contain_text("388 mm")
    play(aboard, do="length", value=391)
    aboard.get_by_role("button", name="Not 391 mm").click()  # a reading that nobody wants
    expect(chips(aboard)).not_to_contain_text("391 mm")
    all_sent(aboard)


def test_a_plug_is_pulled_in_the_middle_of_a_fish(aboard: Page) -> None:
    play(aboard, do="length", value=402)
    expect(chips(aboard)).to_contain_text("402 mm")
    aboard.keyboard.type("wal 4")
    play(aboard, do="unplug", of="board")
    instruments = aboard.get_by_role("region", name="Instruments")
    expect(instruments).to_contain_text("! Measuring board is not there")
    expect(aboard.locator(LINE)).to_have_value("wal 4")  # what was typed and what was read both stay
    expect(chips(aboard)).to_contain_text("402 mm")
    play(aboard, do="garble", of="pit")
    expect(instruments).to_contain_text("PIT reader is garbled")
    play(aboard, do="never settle", value=700)
    expect(chips(aboard).get_by_role("button", name="settling").first).to_be_disabled()
    play(aboard, do="plug", of="board")
    expect(instruments).not_to_contain_text("Measuring board is not there", timeout=20_000)
    aboard.keyboard.press("Escape")
    aboard.get_by_role("button", name="Not 402 mm").click()


def test_the_bench_plays_an_evening(aboard: Page) -> None:
    deck = aboard.url
    aboard.get_by_role("region", name="Instruments").get_by_role("link", name="bench").click()
    expect(aboard.get_by_role("region", name="By the gateway")).to_contain_text("○ connected")
    aboard.get_by_label("A fish every (s)").fill("1")
    aboard.get_by_role("button", name="Play it").click()
    heard = aboard.get_by_role("list", name="Last readings")
    expect(heard).to_contain_text("board: ")
    expect(heard).to_contain_text("balance: ")
    aboard.get_by_role("button", name="Stop").click()
    assert not problems(aboard)
    aboard.goto(deck)
    expect(aboard.get_by_role("region", name="Instruments")).to_contain_text("instruments connected", timeout=20_000)
    assert not problems(aboard)


def test_the_gateway_is_gone_and_fish_are_called_by_hand(aboard: Page, boat: Server) -> None:
    aboard.route("**/stream?**", lambda route: route.abort())
    aboard.reload()
    expect(aboard.locator(LINE)).to_be_visible()
    aboard.locator(LINE).fill("wal 366 500")
    aboard.keyboard.press("Enter")
    all_sent(aboard)
    eventually(lambda: on_server(aboard)[-1]["length_mm"] == 366)


def page_deck(page: Page) -> dict[str, Any]:
    return page_deck_of(page, page.url)


def page_deck_of(page: Page, address: str) -> dict[str, Any]:
    return dict(page.request.get(f"/api/v1/outings/{address.rsplit('/', 1)[1]}/deck").json())


def test_practice_leaves_no_trace(aboard: Page) -> None:
    all_sent(aboard)
    deck, before = aboard.url, len(on_server(aboard))
    aboard.goto("/practice")
    expect(aboard.get_by_role("region", name="Practice")).to_contain_text("nothing here enters the record")
    aboard.get_by_label("A fish every (s)").fill("600")
    aboard.get_by_role("button", name="Call fish to me").click()
    # the first of the outing's own species; the stand-ins say the same
    species = page_deck_of(aboard, deck)["species"][0]
    expect(aboard.get_by_role("region", name="Practice")).to_contain_text(f'"{species["name"]}, ')
    expect(chips(aboard)).to_contain_text(" mm", timeout=20_000)
    expect(chips(aboard).get_by_role("button", name=re.compile(r"^\d+ g\b"))).to_be_enabled()  # it settled
    aboard.locator(LINE).fill(f"{species['code']} f ")
    aboard.keyboard.press("PageDown")
    aboard.keyboard.press("Enter")
    expect(aboard.locator("tr[data-capture]")).to_have_count(1)
    aboard.locator(LINE).fill("wal 290 210")
    aboard.keyboard.press("Enter")
    aboard.get_by_role("button", name="Stop and compare").click()
    expect(aboard.get_by_text("1 of 1 fish kept as they were called.")).to_be_visible()
    expect(aboard.get_by_text("Kept and not called so: wal 290 mm 210 g.")).to_be_visible()
    assert not problems(aboard)
    expect(aboard.get_by_role("status", name="Sending")).to_have_text("All sent")
    aboard.reload()
    expect(aboard.get_by_role("region", name="Practice")).to_be_visible()
    expect(aboard.locator("tr[data-capture]")).to_have_count(0)
    aboard.goto(deck)
    expect(aboard.locator(LINE)).to_be_visible()
    assert len(on_server(aboard)) == before


def test_practice_with_no_gateway_and_a_reader_that_types(sign_in: Callable[..., Page]) -> None:
    page = sign_in("crew", "/deck")
    page.get_by_role("link", name="Practice").click()
    expect(page.locator(LINE)).to_be_visible()
    outing = page.request.get("/api/v1/session").json()["memberships"][0]["programme"]
    listed = page.request.get(f"/api/v1/programmes/{outing}/outings").json()
    open_now = next(each["id"] for each in listed if each["state"] == "open")
    deck = page_deck_of(page, f"/{open_now}")
    number = next(each["number"] for each in deck["marks"]["stock"] if each["kind"] == "pit")
    page.get_by_label("A fish every (s)").fill("600")
    page.get_by_role("button", name="Call fish to me").click()
    page.locator(LINE).fill("wal 392 580 f none ")
    scan(page, number)
    expect(page.get_by_role("region", name="Marks")).to_contain_text("New placement")
    page.locator(LINE).press("Enter")
    expect(page.locator("tr[data-capture]")).to_have_count(1)
    page.get_by_role("button", name="Stop and compare").click()
    expect(page.get_by_role("region", name="Practice")).to_contain_text("of 1 fish kept as they were called")
    assert len(page_deck_of(page, f"/{open_now}")["captures"]) == len(deck["captures"])


def test_where_a_fish_was_let_go_by_the_gps_on_the_cable(aboard: Page) -> None:
    aboard.locator(LINE).fill("wal 377 520")
    aboard.keyboard.press("Enter")
    all_sent(aboard)
    expect(aboard.get_by_role("region", name="Instruments")).to_contain_text("44.9")
    aboard.locator("tr[data-capture] button").first.click()
    sheet = aboard.get_by_role("dialog")
    sheet.get_by_role("tab", name="Release").click()
    sheet.get_by_role("button", name="Let go here: the position now").click()
    eventually(lambda: any(each["kind"] == "let_go" for each in page_deck(aboard)["events"]))
    details = next(each["details"] for each in reversed(page_deck(aboard)["events"]) if each["kind"] == "let_go")
    assert (details["lat"], details["lon"]) == (pytest.approx(44.9725, abs=0.01), pytest.approx(-31.4555, abs=0.01))
    assert details["within_m"] == 5


def test_the_runs_line_by_the_gps_on_the_cable(aboard: Page) -> None:
    aboard.get_by_role("button", name="More of the run").click()
    sheet = aboard.get_by_role("dialog")
    sheet.get_by_label("Record the track of runs").check()
    aboard.wait_for_timeout(7000)  # three positions, two seconds apart
    sheet.get_by_label("Record the track of runs").uncheck()
    outing = aboard.url.rsplit("/", 1)[1]
    eventually(lambda: aboard.request.get(f"/api/v1/outings/{outing}/tracks").json())
    (track, *_) = aboard.request.get(f"/api/v1/outings/{outing}/tracks").json()
    assert track["pieces"][0][0] == [pytest.approx(44.9725, abs=0.01), pytest.approx(-31.4555, abs=0.01)]
    aboard.keyboard.press("Escape")
    aboard.get_by_role("button", name="More of the run").click()
    expect(aboard.get_by_role("region", name="Track").get_by_role("img")).to_be_visible()


#: What a browser that offers Web Serial has, with a port whose bytes the test sends: nothing here chooses a real one.
SERIAL = """
(() => {
  let control, allowed = sessionStorage.getItem("allowed");
  const connect = [];
  const port = {
    readable: null,
    async open() { this.readable = new ReadableStream({ start: (given) => { control = given; } }); },
    async close() { this.readable = null; },
    async forget() { sessionStorage.removeItem("allowed"); },
  };
  const serial = {
    async getPorts() { return allowed ? [port] : []; },
    async requestPort() { sessionStorage.setItem("allowed", "yes"); return port; },
    addEventListener(kind, listener) { if (kind === "connect") connect.push(listener); },
  };
  Object.defineProperty(navigator, "serial", { value: serial });
  window.wire = {
    say: (text) => control.enqueue(new TextEncoder().encode(text)),
    pull: () => { port.readable = null; control.error(new Error("lost")); },
    plug: () => connect.forEach((listener) => listener({ target: port })),
  };
})();
"""


def test_a_device_on_the_tablets_own_cable_needs_no_gateway(sign_in: Callable[..., Page]) -> None:
    page = sign_in()
    page.context.add_init_script(SERIAL)
    page.goto("/deck")
    page.get_by_role("link", name="instruments").click()
    cables = page.get_by_role("region", name="On this tablet's own cable")
    page.reload()
    cables.get_by_role("button", name="Choose a device").click()
    expect(cables).to_contain_text("Device on cable 1")
    say = "(line) => window.wire.say(line)"
    page.evaluate(say, f"{checked('LEN = 437 mm')}\r\n")
    expect(cables).to_contain_text("Measuring board")
    expect(page.get_by_role("list", name="Last readings")).to_contain_text("board: 437 mm")
    assert not problems(page)
    page.goto("/deck")
    page.get_by_text("Work the deck", exact=True).first.click()
    instruments = page.get_by_role("region", name="Instruments")
    expect(instruments).to_contain_text("1 instrument connected")  # it is opened again by itself
    page.evaluate(say, f"{pit_frame('999000000120001')}\r\n")
    expect(chips(page)).to_contain_text("PIT 999 000000120001")
    page.locator(LINE).fill("wal 4")
    page.evaluate("() => window.wire.pull()")
    expect(instruments).to_contain_text("! PIT reader is not there")
    expect(page.locator(LINE)).to_have_value("wal 4")
    page.evaluate("() => window.wire.plug()")
    expect(instruments).to_contain_text("1 instrument connected")
    page.evaluate(say, "F 0123\r\n")
    expect(instruments).to_contain_text("! PIT reader is garbled: read again")
    page.goto("/instruments")
    cables.get_by_role("button", name="Let go of").click()
    expect(cables.get_by_role("table")).to_have_count(0)
