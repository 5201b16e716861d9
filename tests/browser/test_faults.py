"""What happens to a tablet: no room on its disk, a new version of the application, three weeks in a drawer. Nothing is lost or doubled."""

from __future__ import annotations

import json
import re
import shutil
from collections.abc import Callable, Iterator
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Browser, Page, expect
from uuid6 import uuid7

from server.tests.databases import ROOT

from .conftest import Server
from .test_deck import LINE, all_sent, call, eventually, on_server
from .test_handling import close, open_outing, start_run
from .test_waiting import picture

pytestmark = pytest.mark.installed


SignIn = Callable[..., Page]


def sending(page: Page) -> Any:
    return page.get_by_role("status", name="Sending")


def disk_is_full(page: Page, full: bool) -> None:
    """Whether the page's database refuses what is new; the browser's own limit cannot be set from here (it lets small entries by)."""
    page.evaluate(
        """(full) => {
          const kept = (window.addKept ??= IDBObjectStore.prototype.add);
          const refuse = () => { throw new DOMException("The disk is full.", "QuotaExceededError"); };
          IDBObjectStore.prototype.add = full ? refuse : kept;
        }""",
        full,
    )


def test_a_full_disk_is_said_and_fish_are_taken_all_the_same(deck: Page, tmp_path: Path) -> None:
    all_sent(deck)
    before = len(on_server(deck))
    deck.context.set_offline(True)
    disk_is_full(deck, True)
    for length in (431, 432):
        call(deck, f"wal {length}")
    said = deck.get_by_role("alert").filter(has_text="This device has no room")
    expect(said).to_contain_text("2 entries are in the memory of this page alone")
    expect(deck.locator("tr[data-capture]").first).to_contain_text("432")
    with deck.expect_download() as download:
        said.get_by_role("button", name="Save them as a file").click()
    download.value.save_as(tmp_path / "entries.json")
    saved = json.loads((tmp_path / "entries.json").read_text())["operations"]
    assert [each["row"]["length"] for each in saved] == ["431", "432"]
    # a photo is not promised to be kept where it cannot be
    deck.locator("tr[data-capture] button").first.click()
    sheet = deck.get_by_role("dialog")
    sheet.get_by_role("tab", name="Photos").click()
    sheet.get_by_label("Mark or scar", exact=True).set_input_files([picture()])
    expect(sheet.get_by_role("alert")).to_contain_text("fish.jpg: not kept")
    deck.keyboard.press("Escape")
    # another screen of the same page has them still
    deck.get_by_role("button", name="Menu").click()
    deck.get_by_role("link", name="Today").click()
    expect(said).to_contain_text("2 entries are")
    deck.go_back()
    disk_is_full(deck, False)
    expect(said).to_have_count(0, timeout=20_000)  # written by themselves
    expect(sending(deck)).to_contain_text("2 unsent")
    deck.reload()
    expect(deck.locator("tr[data-capture]").first).to_contain_text("432")
    deck.context.set_offline(False)
    all_sent(deck)
    assert [fish["length_mm"] for fish in on_server(deck)[before:]] == [431, 432]


def test_with_a_full_disk_and_a_signal_everything_is_sent(deck: Page) -> None:
    all_sent(deck)
    before = len(on_server(deck))
    disk_is_full(deck, True)
    for length in (433, 434):
        call(deck, f"wal {length}")
    eventually(lambda: [fish["length_mm"] for fish in on_server(deck)[before:]] == [433, 434])
    expect(deck.get_by_role("alert").filter(has_text="no room")).to_have_count(0, timeout=20_000)
    disk_is_full(deck, False)


@pytest.fixture
def updated(
    demo_database: str, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> Iterator[tuple[Server, Callable[[], None]]]:
    """A server with screens of its own, and what puts a new version in their place."""
    screens = tmp_path / "dist"
    shutil.copytree(ROOT / "web" / "dist", screens)
    (tmp_path / "own_screens.py").write_text(
        "from nailwright.config.settings.test import *\n"
        f"from pathlib import Path\nWEB_DIST = WHITENOISE_ROOT = Path({str(screens)!r})\n"
    )
    server = Server(demo_database, jobs=False)
    server.environment |= {
        "DJANGO_SETTINGS_MODULE": "own_screens", "PYTHONPATH": f"{tmp_path}:{server.environment['PYTHONPATH']}",
    }  # fmt: skip
    server.start()

    def renew() -> None:
        """Every part by another name, as a build does; the old names are gone."""
        server.stop()
        names = {each.name for each in (screens / "assets").iterdir() if not each.name.endswith((".gz", ".br"))}
        for file in [each for each in screens.rglob("*") if each.name.endswith((".gz", ".br"))]:
            file.unlink()
        for file in [*screens.rglob("*.js"), *screens.rglob("*.css"), screens / "index.html"]:
            text = file.read_text()
            for name in names:
                text = text.replace(name, f"new-{name}")
            file.write_text(text)
        for name in names:
            (screens / "assets" / name).rename(screens / "assets" / f"new-{name}")
        page = (screens / "index.html").read_text()
        (screens / "index.html").write_text(page.replace("</head>", '<meta name="version" content="new"></head>'))
        worker = (screens / "sw.js").read_text()
        (screens / "sw.js").write_text(re.sub(r'(url:"index.html",revision:")', r"\1new", worker))
        server.start()

    yield server, renew
    server.end()


def own_outing(page: Page) -> None:
    """An outing of this test's own, which the tests after it do not meet; the service worker has the page from here on."""
    page.goto("/deck")
    open_outing(page, "Skarn Beck", "angling")
    all_sent(page)
    page.evaluate("navigator.serviceWorker.ready.then(() => true)")
    page.reload()
    expect(page.get_by_role("region", name="Call line")).to_be_visible()


#: Entries that wait: more than go in one batch of the sender's.
MANY = 60


def test_an_update_waits_while_many_entries_do(chromium: Browser, updated: tuple[Server, Callable[[], None]]) -> None:
    server, renew = updated
    context = chromium.new_context(base_url=server.address, viewport={"width": 1280, "height": 800})
    page = context.new_page()
    page.goto("/")
    page.get_by_role("button", name=re.compile("^crew", re.IGNORECASE)).first.click()
    expect(page.get_by_role("navigation", name="Stages of the work")).to_be_visible()
    own_outing(page)
    start_run(page)
    all_sent(page)
    server.stop()
    line = page.locator(LINE)
    for n in range(MANY):
        line.fill(f"yep {150 + n % 100}")
        line.press("Enter")
    expect(sending(page)).to_contain_text(f"{MANY} unsent", timeout=60_000)
    renew()
    context.set_offline(True)
    context.set_offline(False)
    page.evaluate("async () => { await (await navigator.serviceWorker.ready).update(); }")
    load = page.get_by_role("button", name="New version: load it")
    expect(load).to_be_visible(timeout=20_000)
    # the version at work goes on whole, also with parts that it has not opened before and that the server has no more
    context.set_offline(True)
    page.locator("tr[data-capture] button").first.click()
    expect(page.get_by_role("dialog").get_by_role("tab", name="Photos")).to_be_visible()
    page.keyboard.press("Escape")
    assert page.locator('meta[name="version"]').count() == 0
    load.click()
    expect(page.locator('meta[name="version"]')).to_have_count(1)
    expect(page.locator(LINE)).to_be_visible()
    expect(page.locator("tr[data-capture]").first).to_contain_text(str(150 + (MANY - 1) % 100))
    context.set_offline(False)
    all_sent(page)
    assert [fish["length_mm"] for fish in on_server(page)] == [150 + n % 100 for n in range(MANY)]
    expect(load).to_have_count(0)
    close(page)
    context.close()


AGED = """(days) => new Promise((done, failed) => {
  const asked = indexedDB.open("nailwright");
  asked.onerror = failed;
  asked.onsuccess = () => {
    const changing = asked.result.transaction("operations", "readwrite");
    changing.objectStore("operations").openCursor().onsuccess = ({ target: { result: at } }) => {
      if (!at) return;
      const made = new Date(Date.parse(at.value.device_time) - days * 86_400_000).toISOString();
      at.update({ ...at.value, device_time: made });
      at.continue();
    };
    changing.oncomplete = () => { asked.result.close(); done(); };
  };
})"""


def test_a_tablet_comes_back_after_three_weeks(sign_in: SignIn, chromium: Browser, server: Server) -> None:
    """Its sign-in has run out, its outing was closed meanwhile: everything waits, is said, and goes in as it was made."""
    page = sign_in("crew", "/deck")
    own_outing(page)
    address, outing = page.url, page.url.rsplit("/", 1)[1]
    server.stop()
    start_run(page)
    for length in (231, 232):
        call(page, f"yep {length}")
    expect(sending(page)).to_contain_text("3 unsent")
    page.evaluate(AGED, 21)
    page.goto("about:blank")  # it is switched off
    server.start()

    lead = chromium.new_context(base_url=server.address)
    desk = lead.new_page()
    desk.goto("/")
    desk.get_by_role("button", name=re.compile("^lead", re.IGNORECASE)).first.click()
    expect(desk.get_by_role("navigation", name="Stages of the work")).to_be_visible()

    def turn(state: str) -> None:
        token = next(each["value"] for each in lead.cookies() if each["name"] == "csrftoken")
        change = {"id": str(uuid7()), "state": state, "reason": "nobody knew where the tablet was"}
        headers = {"X-CSRFToken": token, "Referer": server.address}
        done = desk.request.post(f"/api/v1/outings/{outing}/state", headers=headers, data=change)
        assert done.ok, done.text()

    turn("closed")
    page.context.clear_cookies()
    page.goto(address)
    page.get_by_role("button", name="Sign in again").click()
    page.get_by_role("button", name=re.compile("^crew", re.IGNORECASE)).first.click()
    refused = page.get_by_role("region", name="Not accepted")
    expect(refused).to_contain_text("closed", timeout=20_000)
    expect(page.locator("tr[data-capture]")).to_have_count(2)
    assert on_server(page) == []
    turn("open")
    page.reload()
    refused.get_by_role("button", name=re.compile("again$")).first.click()
    all_sent(page)
    expect(refused).to_have_count(0)
    kept = on_server(page)
    assert [fish["length_mm"] for fish in kept] == [231, 232]
    since = datetime.now(UTC) - datetime.fromisoformat(kept[0]["device_time"])
    assert timedelta(days=20, hours=23) < since < timedelta(days=21, hours=1)
    lead.close()
    expect(page.locator(LINE)).to_be_visible()  # it has heard that its outing is open again: before, keys do nothing
    expect(page.get_by_role("region", name="Lanes").get_by_title(re.compile("over its time"))).to_have_count(2)
    page.get_by_role("button", name="Release all").click()  # three weeks in a live well are asked about
    page.get_by_role("dialog").get_by_role("button", name="Release all of them").click()
    close(page)
