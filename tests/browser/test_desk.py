"""Work at the desk: today, compared findings, cohorts, the register, one fish and its correction."""

from __future__ import annotations

import json
import re
import zipfile
from collections.abc import Callable
from pathlib import Path

from playwright.sync_api import Page, Route, expect

SignIn = Callable[..., Page]
POINT = """() => {
  const points = [...document.querySelectorAll("[role=img] svg")][0].querySelectorAll("path");
  for (const point of points) {
    const box = point.getBoundingClientRect();
    if (box.width > 8 && box.width < 12 && Math.abs(box.width - box.height) < 1.5)
      return [box.x + box.width / 2, box.y + box.height / 2];
  }
}"""


def answered(page: Page) -> str:
    sentence = page.get_by_test_id("sentence")
    expect(sentence).to_be_visible(timeout=30_000)
    return sentence.inner_text()


def test_today_leads_to_the_deck(sign_in: SignIn) -> None:
    page = sign_in("crew", "/")
    outing = page.get_by_role("region", name=re.compile("Ketterwick River"))
    expect(outing).to_contain_text("aboard")
    expect(outing).to_contain_text("walleye measured")
    expect(page.get_by_role("region", name="Needs attention")).to_contain_text("a mark that is not ours")
    outing.get_by_role("link", name="Work the deck").click()
    expect(page.get_by_role("region", name="Call line")).to_be_visible()


def test_the_fall_of_condition_is_found_and_can_be_shared(sign_in: SignIn) -> None:
    """The demo's truth: lower-river walleye lose 12 % of their mass over five years."""
    page = sign_in("biologist", '/findings/condition-compared?species=wal&zone=["Lower river"]&last=2026-11-20')
    sentence = answered(page)
    assert re.search(
        r"most in 2022 \(\d+ g\) and least in 2026 \(\d+ g, -1[0-4] %\); the lines differ in [1-9]", sentence
    )
    other = page.context.new_page()
    other.goto(page.url)
    assert answered(other) == sentence


def test_groups_are_chosen_by_touch_and_stand_in_the_address(sign_in: SignIn) -> None:
    page = sign_in("biologist", "/findings/size-compared?species=nop")
    answered(page)
    page.get_by_text("water", exact=True).click()
    expect(page).to_have_url(re.compile("by=water"))
    expect(page.get_by_role("table").filter(has_text="Median length")).to_contain_text("Lake Ossling")
    page.goto("/findings/size-compared?species=nop&by=gear&last=1999-01-01")
    expect(page.get_by_role("alert")).to_contain_text("choose another grouping or widen the selection")


def test_a_mean_is_dragged_and_the_fit_starts_there(sign_in: SignIn) -> None:
    page = sign_in("biologist", "/findings/cohorts?species=yep&k=2")
    answered(page)
    picture = page.get_by_role("img", name=re.compile("fitted cohorts"))
    box = picture.bounding_box()
    assert box
    handle = page.evaluate("""() => { const text = [...document.querySelectorAll("[role=img] svg text")].find((t) => t.textContent === "2");
        const box = text.getBoundingClientRect(); return [box.x - 12, box.y + 6]; }""")
    page.mouse.move(*handle)
    page.mouse.down()
    page.mouse.move(handle[0] + 60, handle[1], steps=6)
    page.mouse.up()
    expect(page).to_have_url(re.compile("start="))
    answered(page)
    page.get_by_role("button", name="Reset starting values").click()
    expect(page).not_to_have_url(re.compile("start="))


def test_a_point_opens_its_fish_and_a_correction_recomputes(sign_in: SignIn) -> None:
    page = sign_in("biologist", "/findings/condition?species=nop")
    before = answered(page)
    page.wait_for_timeout(500)
    page.mouse.click(*page.evaluate(POINT))
    fish = page.get_by_role("dialog")
    expect(fish).to_contain_text("Not changed since it was recorded")
    fish.get_by_role("button", name="Correct").click()
    expect(fish.get_by_role("alert")).to_contain_text("Nothing was changed")
    fish.get_by_label("Weight as recorded").fill("twelve")
    fish.get_by_role("button", name="Correct").click()
    expect(fish.get_by_text("Say in a few words why")).to_be_visible()
    fish.get_by_label("Reason for the correction").fill("misread on the balance")
    fish.get_by_role("button", name="Correct").click()
    expect(fish.get_by_role("alert")).to_contain_text("'twelve' is no number")
    fish.get_by_label("Weight as recorded").fill("")
    fish.get_by_label("Reason for the correction").fill("misread on the balance")
    fish.get_by_role("button", name="Correct").click()
    expect(fish.get_by_role("region", name="History")).to_contain_text("misread on the balance")
    page.keyboard.press("Escape")
    expect(page.get_by_test_id("sentence")).not_to_have_text(before)


def test_the_register_scrolls_sorts_opens_and_is_taken_home(sign_in: SignIn, tmp_path: Path) -> None:
    page = sign_in("lead", "/records")
    table = page.get_by_role("table", name="Captures")
    expect(table.get_by_role("row").nth(3)).to_contain_text("Ketterwick River")
    page.get_by_role("button", name="Length (mm)").click()
    expect(page).to_have_url(re.compile("sort=-length"))
    first = table.locator("[data-row='0']")
    expect(first).to_contain_text("nop")
    longest = first.inner_text()
    page.get_by_test_id("register").evaluate("(frame) => { frame.scrollTop = 200000; }")
    expect(table.locator("[data-row='6260']")).to_contain_text("TL")
    page.get_by_test_id("register").evaluate("(frame) => { frame.scrollTop = 0; }")
    expect(first).to_have_text(re.compile(re.escape(longest.split("\n")[0])))
    first.get_by_role("button").click()
    page.get_by_label("Reason for the correction").fill("two fish called as one")
    page.get_by_role("button", name="Delete fish").click()
    expect(page.get_by_role("button", name="Restore")).to_be_visible()
    page.get_by_label("Reason for the correction").fill("it was one after all")
    page.get_by_role("button", name="Restore").click()
    expect(page.get_by_role("button", name="Delete fish")).to_be_visible()
    page.keyboard.press("Escape")
    page.get_by_role("button", name="Export").click()
    with page.expect_download() as download:
        page.get_by_role("link", name="Captures Data Package").click()
    download.value.save_as(tmp_path / "captures.zip")
    with zipfile.ZipFile(tmp_path / "captures.zip") as package:
        assert json.loads(package.read("datapackage.json"))["resources"][0]["path"] == "captures.csv"
        assert package.read("captures.csv").count(b"\n") > 12_000


def test_pictures_are_taken_home(sign_in: SignIn, tmp_path: Path) -> None:
    page = sign_in("viewer", "/findings/size?species=bur")
    answered(page)
    for kind, begins in (("SVG", b"<svg"), ("PNG", b"\x89PNG"), ("data (CSV)", b"from (mm),to (mm),fish")):
        with page.expect_download() as download:
            page.get_by_role("button", name=kind).click()
        download.value.save_as(tmp_path / "picture")
        content = (tmp_path / "picture").read_bytes()
        assert content.startswith(begins) and len(content) > 100


def test_a_token_is_made_and_shown_once(sign_in: SignIn) -> None:
    page = sign_in("biologist", "/")
    page.get_by_role("button", name=re.compile("biologist")).click()
    page.get_by_role("link", name=re.compile("My account")).click()
    page.get_by_label("Purpose").fill("Notebook")
    page.get_by_role("button", name="Make a token").click()
    expect(page.get_by_role("listitem").filter(has_text="Notebook")).to_contain_text("may read")
    token = page.locator("code").inner_text()
    programme = page.request.get("/api/v1/session").json()["memberships"][0]["programme"]
    page.context.clear_cookies()
    address = f"/api/v1/programmes/{programme}/outings"
    assert page.request.get(address).status == 401
    assert page.request.get(address, headers={"Authorization": f"Token {token}"}).ok


def test_a_finding_is_kept_and_marked_when_its_rows_change(sign_in: SignIn) -> None:
    page = sign_in("biologist", "/findings/size?species=lwf")
    sentence = answered(page)
    page.get_by_role("button", name="Save finding").click()
    expect(page.get_by_text("Finding saved. It is listed under Saved findings.", exact=True)).to_be_visible()
    page.get_by_role("link", name="Saved findings").click()
    row = page.get_by_role("listitem").filter(has_text=sentence)
    expect(row).to_contain_text("Rows unchanged")
    programme = page.request.get("/api/v1/session").json()["memberships"][0]["programme"]
    fish = page.request.get(f"/api/v1/programmes/{programme}/register?species=lwf&sort=-length").json()["rows"][0]
    token = next(cookie["value"] for cookie in page.context.cookies() if cookie["name"] == "csrftoken")
    change = {"id": "01999999-0000-7000-8000-00000000eeee", "reason": "misread", "length": "333"}
    headers = {"X-CSRFToken": token, "Referer": page.url}
    assert page.request.post(f"/api/v1/captures/{fish['id']}", data=change, headers=headers).ok
    page.reload()
    expect(row).to_contain_text("have changed since")
    row.get_by_role("link", name="Open with current rows").click()
    expect(page).to_have_url(re.compile("/findings/size.*species=lwf"))


def test_a_closed_outing_is_corrected_whole_from_the_register(sign_in: SignIn) -> None:
    page = sign_in("biologist", "/records?species=wal")
    page.get_by_role("table", name="Captures").locator("[data-row='0']").get_by_role("button").click()
    sheet = page.get_by_role("dialog")
    time = sheet.get_by_label("Caught at (local time)")
    expect(time).to_have_value(re.compile(r"^\d\d:\d\d$"))
    time.fill("soon")
    sheet.get_by_label("Reason for the correction").fill("read again")
    sheet.get_by_role("button", name="Correct", exact=True).click()
    expect(sheet.get_by_text("Write it as 21:40.")).to_be_visible()
    sheet.get_by_role("link", name=re.compile("Open this fish in its outing")).click()
    expect(page).to_have_url(re.compile("/deck/.*fish="))


def test_a_form_does_not_move_under_a_press_when_the_list_above_it_is_read(sign_in: SignIn) -> None:
    """It moved by the height of its own button: a press at that moment hit nothing, and no site was added."""
    page = sign_in("lead", "/settings/waters")
    held: list[Route] = []
    page.route("**/sites", lambda route: held.append(route))
    page.get_by_role("button", name=re.compile("^Skarn Beck")).click()
    add = page.get_by_role("button", name="Add site")
    expect(page.get_by_text("Reading the sites...")).to_be_visible()
    before = add.bounding_box()
    assert held
    for route in held:
        route.continue_()
    expect(page.get_by_role("button", name=re.compile("^Edit site S"))).not_to_have_count(0)
    assert add.bounding_box() == before
