"""What waits on a tablet: outings fetched ahead, photos after their fish, entries carried by hand by somebody else."""

from __future__ import annotations

import io
from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest
from PIL import Image
from playwright.sync_api import Browser, Page, expect

from .conftest import Server
from .test_deck import LINE, all_sent, call, eventually, on_server

pytestmark = pytest.mark.installed


SignIn = Callable[..., Page]


def picture() -> dict[str, Any]:
    out = io.BytesIO()
    Image.linear_gradient("L").resize((2400, 1600)).convert("RGB").save(out, "JPEG")
    return {"name": "fish.jpg", "mimeType": "image/jpeg", "buffer": out.getvalue()}


def photos(page: Page) -> list[dict[str, Any]]:
    outing = page.url.rsplit("/", 1)[1]
    return list(page.request.get(f"/api/v1/outings/{outing}/deck").json()["photos"])


def test_an_outing_that_was_never_opened_here_opens_with_no_signal(sign_in: SignIn) -> None:
    page = sign_in("crew", "/")
    decks = """() => new Promise((told) => {
        const asked = indexedDB.open("nailwright");
        asked.onsuccess = () => {
            const count = asked.result.transaction("documents").objectStore("documents").count();
            count.onsuccess = () => { asked.result.close(); told(count.result); };
        };
    })"""
    page.goto("/deck")  # the list is known from here on
    expect(page.get_by_text("Work the deck", exact=True).first).to_be_visible()
    ahead = min(4, page.get_by_text("Work the deck", exact=True).count())
    eventually(lambda: page.evaluate(decks) >= ahead)
    page.evaluate("navigator.serviceWorker.ready.then(() => true)")
    page.context.set_offline(True)
    page.reload()
    page.get_by_text("Work the deck", exact=True).first.click()
    expect(page.locator(LINE)).to_be_visible()
    expect(page.get_by_text("No signal: this is the outing as this device last knew it")).to_be_visible()


def test_photos_wait_with_their_fish_and_go_after_it(deck: Page) -> None:
    all_sent(deck)
    before = len(photos(deck))
    deck.context.set_offline(True)
    call(deck, "wal 423 700")
    deck.locator("tr[data-capture] button").first.click()
    sheet = deck.get_by_role("dialog")
    sheet.get_by_role("tab", name="Photos").click()
    sheet.get_by_label("Mark or scar", exact=True).set_input_files([picture()])
    shown = sheet.get_by_role("list", name="Photos").get_by_role("img")
    expect(shown).to_have_count(1)
    expect(sheet).to_contain_text("waits to be sent")
    assert str(shown.get_attribute("src")).startswith("blob:")
    sheet.get_by_label("Fins", exact=True).set_input_files([{**picture(), "buffer": b"no picture"}])
    expect(sheet.get_by_role("alert")).to_contain_text("fish.jpg: not kept")
    deck.keyboard.press("Escape")
    deck.context.set_offline(False)
    all_sent(deck)
    eventually(lambda: len(photos(deck)) == before + 1)
    photo = photos(deck)[-1]
    assert (photo["shows"], photo["capture"]) == ("mark", on_server(deck)[-1]["id"])
    with Image.open(io.BytesIO(deck.request.get(f"/api/v1/photos/{photo['id']}.jpg").body())) as kept:
        assert kept.size == (1600, 1067)
    # taken out and put back
    deck.locator("tr[data-capture] button").first.click()
    sheet.get_by_role("tab", name="Photos").click()
    sheet.get_by_role("button", name="Delete").click()
    eventually(lambda: len(photos(deck)) == before)
    sheet.get_by_role("button", name="Restore").click()
    eventually(lambda: len(photos(deck)) == before + 1)


def test_entries_are_carried_by_hand_by_somebody_else_and_are_once(
    deck: Page, chromium: Browser, server: Server, tmp_path: Path
) -> None:
    all_sent(deck)
    before = len(on_server(deck))
    outing = deck.url
    deck.context.set_offline(True)
    call(deck, "yep 241 180")
    call(deck, "yep 243 185")
    deck.get_by_role("status", name="Sending").get_by_role("link").click()
    expect(deck.get_by_role("heading", name="Waiting to be sent")).to_be_visible()
    expect(deck.get_by_role("main")).to_contain_text("2 entries on this device only. There is no signal")
    expect(deck.get_by_role("main")).to_contain_text("fish yep 241 180")
    with deck.expect_download() as download:
        deck.get_by_role("button", name="Save them as a file").click()
    file = tmp_path / "entries.json"
    download.value.save_as(file)
    other = chromium.new_context(base_url=server.address)
    page = other.new_page()
    page.goto("/")
    page.get_by_role("button", name="Idris Valecroft").or_(page.get_by_role("button", name="biologist")).first.click()
    expect(page.get_by_role("navigation", name="Stages of the work")).to_be_visible()
    page.goto("/waiting")
    bring = page.get_by_label("Import a file of entries")
    bring.set_input_files([{"name": "x.json", "mimeType": "application/json", "buffer": b"{"}])
    expect(page.get_by_role("main")).to_contain_text("! x.json: Expected a file of waiting entries")
    for _ in range(2):  # the second time nothing is new, or all of it went through already
        bring.set_input_files(file)
        expect(page.get_by_role("main")).to_contain_text("imported")
        expect(page.get_by_role("status", name="Sending")).to_have_text("All sent", timeout=20_000)
    assert len(page.request.get(f"/api/v1/outings/{outing.rsplit('/', 1)[1]}/deck").json()["captures"]) == before + 2
    deck.context.set_offline(False)
    expect(deck.get_by_role("status", name="Sending")).to_have_text("All sent", timeout=30_000)
    deck.goto(outing)
    expect(deck.locator(LINE)).to_be_visible()
    fish = on_server(deck)
    assert len(fish) == before + 2
    row = deck.request.get(f"/api/v1/captures/{fish[-1]['id']}").json()
    assert row["recorder"] == "Tove Harrowell"  # whoever carried it, it is hers
    other.close()
