"""Two records that are one fish, a tag's ledger, a reward, and everything taken home: as those at the desk do it."""

from __future__ import annotations

import re
import zipfile
from collections.abc import Callable
from pathlib import Path
from typing import Any

from playwright.sync_api import Page, expect
from uuid6 import uuid7

Open = Callable[..., Page]


def get(page: Page, path: str) -> Any:
    answer = page.request.get(f"/api/v1/{path}")
    assert answer.ok, answer.text()
    return answer.json()


def post(page: Page, path: str, body: dict[str, Any]) -> Any:
    token = next(each["value"] for each in page.context.cookies() if each["name"] == "csrftoken")
    answer = page.request.post(f"/api/v1/{path}", data=body, headers={"X-CSRFToken": token, "Referer": page.url})
    assert answer.ok, answer.text()
    return answer.json()


def programme_of(page: Page) -> str:
    key: str = get(page, "session")["memberships"][0]["programme"]
    return key


def test_merged_split_and_taken_back(sign_in: Open) -> None:
    page = sign_in("biologist", "/tags")
    tags = [each for each in get(page, f"programmes/{programme_of(page)}/tags?number=W10") if each["fish"]]
    lives = {each["number"]: get(page, f"fish/{each['fish']}") for each in tags[:30]}
    lone = [number for number, life in lives.items() if len(life["encounters"]) == 1]
    one, other = lone[0], lone[1]
    page.goto(f"/fish/{lives[one]['id']}")
    tags_of = page.get_by_role("region", name="Tags", exact=True)
    expect(tags_of).not_to_contain_text(other)
    page.get_by_role("button", name="It is the same fish as another").click()
    page.get_by_label("A tag of the other fish: its number or part of it").fill(other)
    page.get_by_role("button", name=f"T-bar {other}").click()
    page.get_by_label("How is it known").fill("both tags were read on it")
    page.get_by_role("button", name="Merge", exact=True).click()
    expect(tags_of).to_contain_text(other)
    expect(page.get_by_text("Another record was merged into it")).to_be_visible()
    page.goto(f"/fish/{lives[other]['id']}")  # its old address leads to what it is now
    expect(tags_of).to_contain_text(one)
    page.get_by_role("button", name="Undo", exact=True).click()
    page.get_by_label("Reason").fill("they were two after all")
    page.get_by_role("button", name="They are two fish").click()
    expect(tags_of).not_to_contain_text(one)
    page.goto(f"/fish/{lives[one]['id']}")
    expect(tags_of).to_contain_text(one)
    expect(tags_of).not_to_contain_text(other)
    # one of several meetings was of another fish
    many = next(life for life in lives.values() if len(life["encounters"]) > 1)
    page.goto(f"/fish/{many['id']}")
    page.get_by_role("button", name="It is two fish").click()
    page.get_by_role("dialog").get_by_role("checkbox").last.check()
    page.get_by_label("How is it known").fill("it was much shorter than before")
    page.get_by_role("button", name="Split", exact=True).click()
    expect(page.get_by_text("It was split from another fish")).to_be_visible()
    expect(page).not_to_have_url(re.compile(many["id"]))
    page.get_by_role("button", name="Undo", exact=True).click()
    page.get_by_label("Reason").fill("it was measured wrong")
    page.get_by_role("button", name="They are one fish").click()
    expect(page).to_have_url(re.compile(many["id"]))
    expect(page.get_by_text(f"Met {len(many['encounters'])} times")).to_be_visible()


def test_a_ledger_a_reward_paid_and_what_it_costs(sign_in: Open) -> None:
    page = sign_in("biologist", "/tags")
    programme = programme_of(page)
    tag = next(each for each in get(page, f"programmes/{programme}/tags?number=W12") if each["fish"])
    batch = next(each for each in get(page, f"programmes/{programme}/tags/batches") if each["name"] == tag["batch"])
    page.get_by_role("button", name=f"Add to or change {batch['name']}").click()
    page.get_by_text("Supplier, price, reward, what the colour means").click()
    page.get_by_label("Reward promised on the tag").fill("50")
    page.get_by_label("Supplier").fill("Tagworks")
    page.get_by_role("button", name="Keep it").click()
    expect(page.get_by_text("reward 50").first).to_be_visible()
    page.get_by_role("region", name="Find a tag").get_by_role("searchbox").fill(tag["number"])
    page.get_by_role("button", name=f"T-bar {tag['number']}").click()
    moves = page.get_by_role("dialog").get_by_role("row")
    expect(moves.nth(1)).to_contain_text("received")
    expect(moves.nth(1)).to_contain_text("Tagworks")
    expect(moves.nth(2)).to_contain_text("placed")
    page.keyboard.press("Escape")
    report = {
        "id": str(uuid7()), "channel": "telephone", "number": tag["number"], "species": "wal", "found_on": "2026-11-16", "fish_fate": "kept",
        "tag_fate": "removed", "contact": {"name": "Orla Venn", "telephone": "555 0100", "consent": True},
    }  # fmt: skip
    key = post(page, f"programmes/{programme}/returns", report)["id"]
    post(page, f"programmes/{programme}/returns/decisions", {"reports": [key], "state": "verified"})
    page.goto("/tags/returns?box=verified")
    page.get_by_role("button", name="Rewards", exact=True).click()
    sheet = page.get_by_role("dialog")
    expect(sheet.get_by_role("row", name="Promised, to be paid")).to_contain_text("50")
    sheet.get_by_role("button").filter(has_text=tag["number"]).click()
    reward = page.get_by_role("region", name="Reward")
    expect(reward).to_contain_text("not paid yet")
    reward.get_by_label("Proof").fill("transfer 1207")
    reward.get_by_role("button", name="Paid").click()
    expect(reward).to_contain_text("transfer 1207")
    reward.get_by_label("Why it was not paid").fill("the transfer came back")
    reward.get_by_role("button", name="Take the payment back").click()
    expect(reward).to_contain_text("not paid yet")


def test_everything_is_taken_home(sign_in: Open, tmp_path: Path) -> None:
    page = sign_in("biologist", "/records")
    page.get_by_role("button", name="Export", exact=True).click()
    for link, name, holds in (
        (
            "Darwin Core archive",
            "darwin-core.zip",
            {"meta.xml", "eml.xml", "event.csv", "occurrence.csv", "measurement.csv"},
        ),
        ("Encounters and reports, Data Package", "marks.zip", {"datapackage.json", "encounters.csv", "returns.csv"}),
    ):
        with page.expect_download() as download:
            page.get_by_role("link", name=link).click()
        download.value.save_as(tmp_path / name)
        with zipfile.ZipFile(tmp_path / name) as archive:
            assert set(archive.namelist()) == holds
