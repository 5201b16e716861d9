"""A tablet is switched on where there is no network: from opening the address to a Deck that takes the next call, in Chromium."""

from __future__ import annotations

import re
import tempfile
import time
from statistics import quantiles

from playwright.sync_api import Playwright, sync_playwright

from bench.browser import ABOARD, fill_tonight
from bench.server import Server
from bench.size import size
from bench.timing import show

STARTS = size(10, 2)


def measure() -> None:
    fill_tonight()
    server = Server()
    try:
        server.wait()
        with sync_playwright() as playwright, tempfile.TemporaryDirectory() as profile:
            deck = _fetch(playwright, profile, f"http://{server.address}")
            server.stop()
            taken = [_start(playwright, profile, deck) for _ in range(STARTS)]
    finally:
        server.stop()
    cut = quantiles(taken, n=20)
    show(
        f"cold start without a network, {ABOARD:,} fish aboard",
        f"p50 {cut[9]:,.0f} ms",
        f"p95 {cut[18]:,.0f} ms, the browser's own start not counted",
    )


def _fetch(playwright: Playwright, profile: str, address: str) -> str:
    """Tonight's Deck opened once where there is a network; its address."""
    browser = playwright.chromium.launch_persistent_context(profile, executable_path="/usr/bin/chromium")
    page = browser.pages[0]
    page.goto(f"{address}/deck")
    page.get_by_role("button", name=re.compile("^crew", re.IGNORECASE)).click()
    page.get_by_text("Work the deck", exact=True).click()
    page.get_by_role("textbox").wait_for()
    page.evaluate("navigator.serviceWorker.ready.then(() => true)")
    page.wait_for_timeout(2000)  # what is fetched ahead is on the disk
    deck = page.url
    browser.close()
    return deck


def _start(playwright: Playwright, profile: str, deck: str) -> float:
    """Milliseconds from a new browser's first address to a fish called and shown."""
    browser = playwright.chromium.launch_persistent_context(profile, executable_path="/usr/bin/chromium")
    page = browser.pages[0]
    began = time.monotonic()
    page.goto(deck)
    page.get_by_role("textbox").wait_for()
    taken = (time.monotonic() - began) * 1000
    page.keyboard.type("wal 437")
    page.keyboard.press("Enter")
    page.locator("tr[data-capture]").get_by_text("437").first.wait_for()
    browser.close()
    return taken
