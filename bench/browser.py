"""From Enter to the tick painted on the board, in Chromium; and how much script the Deck loads."""

from __future__ import annotations

import gzip
import os
import re
import socket
import subprocess
import sys
import time
from pathlib import Path
from statistics import quantiles

from playwright.sync_api import sync_playwright

from bench.timing import show

DIST = Path(__file__).resolve().parents[1] / "web" / "dist"
CALLS = 120

#: Milliseconds from the key going down to the second frame after it, when what it changed has been painted.
WATCH = """() => {
  window.taken = [];
  window.addEventListener("keydown", (event) => {
    if (event.key !== "Enter") return;
    const began = event.timeStamp, bricks = document.querySelectorAll("[data-fish]").length;
    const look = () => {
      if (document.querySelectorAll("[data-fish]").length > bricks)
        requestAnimationFrame(() => { const channel = new MessageChannel();
          channel.port1.onmessage = () => window.taken.push(performance.now() - began); channel.port2.postMessage(0); });
      else requestAnimationFrame(look);
    };
    look();
  }, true);
}"""


def measure() -> None:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
    command = [sys.executable, "-m", "gunicorn", "nailwright.config.wsgi", "--bind", f"127.0.0.1:{port}", "-k", "gthread",
               "--threads", "4", "--log-level", "warning"]  # fmt: skip
    server = subprocess.Popen(command, env=dict(os.environ))
    try:
        while True:
            try:
                socket.create_connection(("127.0.0.1", port), 1).close()
                break
            except OSError:
                time.sleep(0.1)
        _call_fish(f"http://127.0.0.1:{port}")
    finally:
        server.terminate()
        server.wait()


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
            page.keyboard.type(f"wal {300 + 2 * place}")
            page.keyboard.press("Enter")
            page.wait_for_function("count => window.taken.length > count", arg=place)
            page.wait_for_timeout(300)  # three fish a second, with the sending of those before going on
        taken = sorted(page.evaluate("window.taken"))
        cut = quantiles(taken, n=20)
        show(f"Enter to tick painted, {len(taken)} fish", f"p50 {cut[9]:.0f} ms", f"p95 {cut[18]:.0f} ms")
        names = [DIST / url.removeprefix(f"{address}/") for url in scripts if "/assets/" in url]
        total = sum(len(gzip.compress(name.read_bytes(), 9)) for name in names)
        show(f"JavaScript loaded for Deck, {len(names)} files", f"{total:,} B", "gzip")
        browser.close()
