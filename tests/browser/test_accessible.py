"""Every screen in every theme against WCAG 2.2 AA, by axe; and keys."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from playwright.sync_api import BrowserContext, Page, expect

from server.tests.databases import ROOT

AXE = ROOT / "web" / "node_modules" / "axe-core" / "axe.min.js"
RULES = ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"]
#: All that another theme can change.
CONTRAST = {"type": "rule", "values": ["color-contrast"]}
FILE = b"date,water,site,gear,species,length\n2024-05-03,Lake Ossling,N1,angling,walleye,463\n2024-05-03,Lake Ossling,N1,angling,zzz,463\n"
#: Parts of a survey, and words that show that a part has its answer.
PARTS = {
    "Reach and sites": "Thornweir dam",
    "Settings": "Start-up settings",
    "How much is enough": "Download",
    "Rehearsal": "Sweep over",
    "Baths and tags": "Kinds side by side",
    "People, sheet, outing": "Field sheet (PDF, A4)",
}
SCREENS = {
    "today": "/",
    "outings": "/deck",
    "size": "/findings/size?species=wal",
    "condition": "/findings/condition?species=wal",
    "size compared": "/findings/size-compared?species=nop",
    "condition compared": "/findings/condition-compared?species=nop",
    "cohorts": "/findings/cohorts?species=yep&k=2",
    "induction time": "/findings/induction?species=lwf",
    "tags kept": "/findings/retention?species=wal",
    "tags reported": "/findings/return-rate?species=wal",
    "catch rate": "/findings/catch-rate?species=wal",
    "fish by marks": "/findings/abundance-marks?species=wal&first=2026-09-01",
    "fish by passes": "/findings/abundance-removal?species=bur",
    "movement": "/findings/movement?species=wal",
    "where met": "/findings/where-met?species=wal",
    "growth of marked fish": "/findings/recapture-growth?species=wal",
    "saved findings": "/findings/saved",
    "plan": "/plan",
    "reports of tags": "/tags/returns",
    "volunteers": "/tags/volunteers",
    "paper cards": "/tags/volunteers/paper",
    "tagging course": "/kit/course",
    "kit": "/kit",
    "register": "/records",
    "files": "/records/files",
}


def problems(page: Page, rules: Any = RULES) -> list[str]:
    if not page.evaluate("() => 'axe' in window"):
        page.evaluate(AXE.read_text(encoding="utf-8"))  # as a tool would: the page's own policy lets no script in
    # what passes is not written down: finding a selector for each of its nodes takes longer than the rules
    found = page.evaluate(
        "async (rules) => (await axe.run(document, { runOnly: rules, resultTypes: ['violations'] })).violations", rules
    )
    return [f"{each['id']}: {node['target']} {node['failureSummary']}" for each in found for node in each["nodes"][:3]]


def in_every_theme(page: Page) -> dict[str, list[str]]:
    """Problems of the screen as it stands, by theme: all rules by day, and in the others what a theme can change."""
    page.wait_for_load_state("networkidle")
    found = {"day": problems(page)}
    for theme in ("glare", "night", "day"):
        # as the switch does it; a sheet may lie over that
        page.evaluate("(theme) => { document.documentElement.dataset.theme = theme; }", theme)
        if theme != "day":
            found[theme] = problems(page, CONTRAST)
    return {theme: each for theme, each in found.items() if each}


def test_every_screen_in_every_theme(sign_in: Callable[..., Page]) -> None:
    page = sign_in("biologist", "/")
    found: dict[str, Any] = {}
    for name, path in SCREENS.items():
        page.goto(path)
        if path.startswith("/findings/") and name != "saved findings":
            expect(page.get_by_test_id("sentence")).to_be_visible(timeout=30_000)
        found[name] = in_every_theme(page)
    page.goto("/tags/returns?box=verified")
    page.get_by_role("article").get_by_role("heading", level=2).wait_for()
    found["verified report"] = in_every_theme(page)
    fish = page.evaluate("async () => { const s = await (await fetch('/api/v1/session')).json(); const p = s.memberships[0].programme; "
                         "const b = await (await fetch(`/api/v1/programmes/${p}/returns?state=verified`)).json(); return b.reports[0].fish; }")  # fmt: skip
    page.goto(f"/fish/{fish}")
    page.get_by_role("region", name="Meetings").wait_for()
    found["fish"] = in_every_theme(page)
    page.goto("/r/ossling")
    page.get_by_role("button", name="Send report").wait_for()
    found["finder"] = in_every_theme(page)
    page.goto("/records/files")
    page.get_by_label("File of measured fish").set_input_files(
        {"name": "fish.csv", "mimeType": "text/csv", "buffer": FILE}
    )
    page.get_by_role("button", name="Try it, store nothing").click()
    expect(page.get_by_test_id("outcome")).to_be_visible(timeout=20_000)
    found["file"] = in_every_theme(page)
    page.get_by_role("button", name="Throw the file away").click()
    page.goto("/plan")
    page.get_by_role("link", name="Walleye by marks").click()
    for part, shown in PARTS.items():
        page.get_by_role("navigation", name="Parts of the survey").get_by_role("link", name=part).click()
        expect(page.get_by_text(shown).first).to_be_visible(timeout=20_000)
        found[part] = in_every_theme(page)
    page.goto("/deck")
    page.get_by_text("Work the deck", exact=True).first.click()
    expect(page.get_by_role("region", name="Call line")).to_be_visible()
    page.keyboard.type("wal 46 1000")
    page.keyboard.press("Enter")
    found["deck"] = in_every_theme(page)
    page.keyboard.press("F8" if page.get_by_text("No run in progress.").first.is_visible() else "F1")
    expect(page.get_by_role("dialog")).to_be_visible()
    found["sheet"] = in_every_theme(page)
    assert not {name: each for name, each in found.items() if each}


def test_sign_in_screen(context: BrowserContext) -> None:
    page = context.new_page()
    page.goto("/")
    expect(page.get_by_role("button", name="Sign in")).to_be_visible()
    page.wait_for_load_state("networkidle")
    assert problems(page) == []


def test_help_is_one_key_away_and_focus_is_seen(sign_in: Callable[..., Page]) -> None:
    page = sign_in("crew", "/deck")
    page.keyboard.press("F1")
    expect(page.get_by_role("dialog")).to_contain_text("pedal clock on and off")
    page.keyboard.press("Escape")
    expect(page.get_by_role("dialog")).not_to_be_visible()
    page.keyboard.press("Tab")
    outline = page.evaluate("getComputedStyle(document.activeElement).outlineWidth")
    assert outline == "3px"
