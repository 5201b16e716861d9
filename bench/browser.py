"""From Enter to the tick painted on the board, in Chromium; and how much script the Deck loads."""

from __future__ import annotations

import gzip
import re
from pathlib import Path
from statistics import quantiles

from django.utils import timezone
from playwright.sync_api import sync_playwright

from bench.server import Server
from bench.size import size
from bench.timing import show
from nailwright.common.below_orm import insert_rows
from nailwright.common.rows import new_id
from nailwright.deck.models import Capture, Event, Run
from nailwright.permits.models import Allowance

DIST = Path(__file__).resolve().parents[1] / "web" / "dist"
CALLS = size(120, 5)
#: Fish of the outing before the first of them.
ABOARD = size(2000, 50)
#: Of those, on their way through bath, table and recovery.
TOKENS = 12

#: Milliseconds from the key going down to the end of the frame in which what it changed is painted: that frame's callback
#: sees the change, and a message posted there comes after the frame.
WATCH = """() => {
  window.taken = [];
  window.addEventListener("keydown", (event) => {
    if (event.key !== "Enter") return;
    const newest = () => document.querySelector("[data-newest]")?.dataset.newest;
    const began = event.timeStamp, before = newest();
    const look = () => {
      if (newest() === before) return requestAnimationFrame(look);
      const channel = new MessageChannel();
      channel.port1.onmessage = () => window.taken.push(performance.now() - began);
      channel.port2.postMessage(0);
    };
    requestAnimationFrame(look);
  }, true);
}"""


def fill_tonight() -> None:
    """So many fish into tonight's run, twelve of them on their way through the lanes, and no permit that they would overdraw: that
    asks for a reason at each."""
    Allowance.objects.all().delete()
    run = Run.objects.get(ended_at=None)
    now = timezone.now()
    insert_rows(Capture, [
        {"id": new_id(), "programme_id": run.outing.programme_id, "run_id": run.pk, "recorder_id": run.recorder_id,
         "device_time": run.started_at, "server_time": now, "species": "wal", "length_mm": 250.0 + place * 7 % 350,
         "length_type": "TL", "length_basis": "measured", "length_text": str(250 + place * 7 % 350), "length_unit": "mm", "sex": "u"}
        for place in range(ABOARD)
    ])  # fmt: skip
    for place, fish in enumerate(Capture.objects.filter(run=run).order_by("-id")[:TOKENS]):
        lane = ("bath", "table", "recovery")[place % 3]
        Event.objects.create(
            outing=run.outing, run=run, capture=fish, kind="lane", details={"lane": lane}, recorder=run.recorder
        )


def measure() -> None:
    fill_tonight()
    server = Server()
    try:
        server.wait()
        _call_fish(f"http://{server.address}")
    finally:
        server.stop()


def _call_fish(address: str) -> None:
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium")
        page = browser.new_page(viewport={"width": 1280, "height": 800}, service_workers="block")
        scripts: set[str] = set()
        page.on("response", lambda response: scripts.add(response.url) if response.url.endswith(".js") else None)
        page.goto(f"{address}/deck")
        page.get_by_role("button", name=re.compile("^crew", re.IGNORECASE)).click()
        page.get_by_text("Work the deck", exact=True).click()
        page.get_by_role("textbox").wait_for()
        page.evaluate(WATCH)
        for place in range(CALLS):
            page.keyboard.type(f"wal {300 + 2 * place}", delay=30)  # faster than fingers
            page.keyboard.press("Enter")
            page.wait_for_function("count => window.taken.length > count", arg=place)
            page.wait_for_timeout(300)  # three fish a second, with the sending of those before going on
        taken = sorted(page.evaluate("window.taken"))
        cut = quantiles(taken, n=20)
        show(f"Enter to tick painted, {ABOARD:,} fish aboard", f"p50 {cut[9]:.0f} ms", f"p95 {cut[18]:.0f} ms")
        names = [DIST / url.removeprefix(f"{address}/") for url in scripts if "/assets/" in url]
        total = sum(len(gzip.compress(name.read_bytes(), 9)) for name in names)
        show(f"JavaScript loaded for Deck, {len(names)} files", f"{total:,} B", "gzip")
        browser.close()
