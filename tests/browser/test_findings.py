"""From signing in to a finding and its rows."""

from __future__ import annotations

import csv
import math
import re
from collections.abc import Callable
from pathlib import Path
from urllib.parse import parse_qs, urlparse

import gpxpy
import pytest
from playwright.sync_api import BrowserContext, Page, expect

from .test_deck import all_sent

SignIn = Callable[..., Page]


@pytest.mark.parametrize("role", ["lead", "biologist", "crew", "volunteer", "viewer"])
def test_each_role_by_one_touch(context: BrowserContext, role: str) -> None:
    page = context.new_page()
    page.goto("/")
    page.get_by_role("button", name=re.compile(rf"^{role}", re.IGNORECASE)).first.click()
    expect(page.get_by_role("navigation", name="Stages of the work")).to_be_visible()
    expect(page.get_by_role("banner")).to_contain_text(role)
    findings = page.get_by_role("navigation", name="Stages of the work").get_by_text("Findings")
    assert findings.count() == (0 if role == "volunteer" else 1)


def test_a_wrong_password_is_said_plainly(context: BrowserContext) -> None:
    page = context.new_page()
    page.goto("/")
    page.get_by_role("button", name="Sign in").click()
    expect(page.get_by_text("Expected your name")).to_be_visible()
    page.get_by_label("Name").fill("demo-crew")
    page.get_by_label("Password").fill("wrong")
    page.get_by_role("button", name="Sign in").click()
    expect(page.get_by_role("alert").last).to_contain_text("do not go together")


def test_size_from_selection_to_rows(sign_in: SignIn, tmp_path: Path) -> None:
    page = sign_in("biologist", "/findings/size?species=wal")
    sentence = page.get_by_test_id("sentence")
    expect(sentence).to_contain_text("of stock-length walleye are quality size or longer")
    whole = sentence.inner_text()
    page.get_by_role("button", name="Zones").click()
    page.get_by_label("Lower river").check()
    page.keyboard.press("Escape")
    expect(sentence).not_to_have_text(whole)
    assert parse_qs(urlparse(page.url).query)["zone"] == ['["Lower river"]']
    expect(page.get_by_role("img", name=re.compile("Length-frequency"))).to_be_visible()
    n = int(re.search(r"half of the ([\d,]+) measured", sentence.inner_text()).group(1).replace(",", ""))  # type: ignore[union-attr]
    with page.expect_download() as download:
        page.get_by_text("The rows behind it, as CSV").click()
    download.value.save_as(tmp_path / "rows.csv")
    rows = list(csv.DictReader((tmp_path / "rows.csv").read_text().splitlines()))
    assert {row["zone"] for row in rows} == {"Lower river"} and {row["species"] for row in rows} == {"walleye"}
    # other tests call fish by fork length, which a finding in total lengths leaves out and says so
    assert sum(row["length_basis"] == "measured" and row["length_type"] == "TL" for row in rows) == n


def test_groups_by_what_is_asked_and_a_finding_on_handling(sign_in: SignIn) -> None:
    page = sign_in("biologist", "/findings/size?species=lwf")
    groups = page.get_by_role("navigation", name="Findings")
    expect(page.get_by_role("navigation", name="Size and condition").get_by_text("Cohorts")).to_be_visible()
    groups.get_by_text("Health", exact=True).click()
    expect(page.get_by_test_id("sentence")).to_contain_text("In baths for surgery induction took")
    expect(page.get_by_role("table", name="5 baths of tricaine for surgery").get_by_role("row")).to_have_count(6)
    expect(page.get_by_role("img", name=re.compile("Induction time by temperature, 5 baths"))).to_be_visible()
    page.get_by_role("button", name="Save finding").click()
    expect(page.get_by_text("Finding saved. It is listed under Saved findings.").first).to_be_visible()
    groups.get_by_text("Saved findings", exact=True).click()
    expect(page.get_by_text("Rows unchanged").first).to_be_visible()
    page.get_by_text("Open with current rows").first.click()
    expect(page.get_by_test_id("sentence")).to_contain_text("In baths for surgery")


def test_an_address_shared_shows_the_same_finding(sign_in: SignIn) -> None:
    page = sign_in("biologist", "/findings/size?species=wal")
    of_all = page.get_by_test_id("sentence").inner_text()
    page.get_by_label("First day").fill("2026-01-01")
    expect(page).to_have_url(re.compile("first=2026-01-01"))
    page.get_by_text("50", exact=True).click()
    expect(page).to_have_url(re.compile("bin_mm=50"))
    expect(page.get_by_test_id("sentence")).not_to_have_text(of_all)
    sentence = page.get_by_test_id("sentence").inner_text()
    other = page.context.new_page()
    other.goto(page.url)
    expect(other.get_by_test_id("sentence")).to_have_text(sentence)
    expect(other.get_by_role("radio", name="50")).to_be_checked()


def test_condition_shows_residuals_and_wr_by_category(sign_in: SignIn) -> None:
    page = sign_in("biologist", "/findings/condition?species=wal")
    expect(page.get_by_test_id("sentence")).to_contain_text("Walleye weigh")
    for name in ("Relative weight", "Mass against length", "residuals"):
        expect(page.get_by_role("img", name=re.compile(name, re.IGNORECASE)).first).to_be_visible()
    table = page.get_by_role("table").filter(has_text="Mean relative weight")
    expect(table).to_contain_text("S-Q")
    assumptions = page.get_by_role("region", name="Assumptions")
    expect(assumptions).to_contain_text("The line is straight on log axes")


def test_a_selection_with_no_fish_says_what_to_do(sign_in: SignIn) -> None:
    page = sign_in("biologist", "/findings/size?species=wal&last=1999-01-01")
    expect(page.get_by_role("alert")).to_contain_text("Widen the selection")


def test_a_fish_called_now_is_in_the_finding_at_once(deck: Page, sign_in: SignIn) -> None:
    deck.keyboard.type("bur 555 1150")
    deck.keyboard.press("Enter")
    all_sent(deck)
    outing = deck.url.rsplit("/", 1)[1]
    deck.goto(f'/findings/size?species=bur&outing=["{outing}"]')
    expect(deck.get_by_test_id("sentence")).to_contain_text("burbot")
    programme = deck.request.get(f"/api/v1/outings/{outing}/deck").json()["outing"]["programme"]
    rows = deck.request.get(f"/api/v1/programmes/{programme}/captures.csv?species=bur&outing={outing}").text()
    assert ",555.0,TL,measured,555,mm,1150.0," in rows


def test_a_fish_is_followed_on_the_map_through_time(sign_in: SignIn, tmp_path: Path) -> None:
    page = sign_in("biologist", "/findings/where-met?species=wal")
    shown, slider = page.get_by_test_id("shown"), page.get_by_role("slider", name="Until the day")
    expect(page.get_by_test_id("sentence")).to_contain_text("walleye were met", timeout=30_000)
    all_of_them = int(shown.inner_text().split()[0].replace(",", ""))
    assert all_of_them > 1000
    slider.focus()
    page.keyboard.press("Home")
    expect(shown).not_to_contain_text(f"{all_of_them:,}")
    page.get_by_role("button", name="Play").click()
    expect(page.get_by_role("button", name="Pause")).to_be_visible()
    expect(page.get_by_role("button", name="Play")).to_be_visible(timeout=40_000)
    expect(shown).to_contain_text(f"{all_of_them:,} encounters")

    # the place of a fish that went somewhere, by the same sums as the map's
    found = page.evaluate("async () => await (await fetch(performance.getEntriesByType('resource').find((each) => each.name.includes('/findings/where-met')).name)).json()")  # fmt: skip
    lon, lat = (found["points"][name] for name in ("lon", "lat"))
    canvas = page.get_by_role("application")
    canvas.scroll_into_view_if_needed()
    box = canvas.bounding_box()
    assert box
    squeeze = math.cos(math.radians((min(lat) + max(lat)) / 2))
    scale = min((box["width"] - 56) / ((max(lon) - min(lon)) * squeeze), (box["height"] - 104) / (max(lat) - min(lat)))
    north = lat.index(max(lat))
    x = box["width"] / 2 + (lon[north] - (max(lon) + min(lon)) / 2) * squeeze * scale
    canvas.click(position={"x": x, "y": (box["height"] + 24) / 2 - (max(lat) - min(lat)) / 2 * scale})
    followed = page.get_by_role("region", name="Fish followed")
    expect(followed).to_contain_text(re.compile("Met [2-9] times"))
    first = followed.inner_text()
    canvas.click(position={"x": x, "y": (box["height"] + 24) / 2 - (max(lat) - min(lat)) / 2 * scale})
    expect(followed).not_to_have_text(first)  # another of that place
    with page.expect_download() as download:
        page.get_by_role("button", name="SVG").click()
    download.value.save_as(tmp_path / "map.svg")
    assert (tmp_path / "map.svg").read_text().count("<text") >= 3
    with page.expect_download() as download:
        page.get_by_role("link", name="GPX").click()
    download.value.save_as(tmp_path / "met.gpx")
    assert len(gpxpy.parse((tmp_path / "met.gpx").read_text()).waypoints) == all_of_them
    followed.get_by_role("link", name="All of this fish").click()
    expect(page.get_by_role("region", name="Meetings")).to_be_visible()
