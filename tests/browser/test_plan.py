"""From the reach to the outing, as a lead walks through it; and the printed sheet."""

from __future__ import annotations

import re
from collections.abc import Callable

import pypdfium2
import pytest
from playwright.sync_api import Page, expect


@pytest.fixture
def survey(sign_in: Callable[..., Page]) -> Page:
    page = sign_in("lead", "/plan")
    page.goto("/plan")
    page.get_by_role("link", name="Walleye by marks, lower river").click()
    expect(page.get_by_role("heading", name="Walleye by marks")).to_be_visible()
    return page


def part(page: Page, name: str) -> None:
    page.get_by_role("navigation", name="Parts of the survey").get_by_role("link", name=name).click()


def test_reach_sites_settings_rehearsal_outing(survey: Page) -> None:
    page = survey
    # sites: another layout, laid out anew, one moved with a reason
    page.get_by_label("How", exact=True).select_option("regular")
    page.get_by_label("Gap between sites (m)").fill("4000")
    page.get_by_label("Gap between sites (m)").press("Enter")
    page.get_by_role("button", name="Lay the sites out").click()
    expect(page.get_by_text("7 sites. The same seed")).to_be_visible()
    page.get_by_role("button", name=re.compile("^2 km 4.70 to 5.40")).click()
    page.get_by_label("Start it at (km)").fill("5.4")
    page.get_by_role("button", name="Move the site").click()
    expect(page.get_by_role("alert")).to_contain_text("Say in a few words why")
    page.get_by_label("Reason for the move").fill("log jam at the landing")
    page.get_by_role("button", name="Move the site").click()
    expect(page.get_by_role("button", name=re.compile("^2 km 5.40 to 6.10"))).to_contain_text("moved")

    # settings: the water of today, and one that is too much for the unit
    part(page, "Settings")
    expect(page.get_by_test_id("goal")).to_contain_text("Today at 178 µS/cm: 241 V, 11.3 A")
    page.get_by_label("Conductivity (µS/cm)").fill("900")
    page.get_by_label("Conductivity (µS/cm)").press("Enter")
    expect(page.get_by_text(re.compile(r"A above 16 A"))).to_be_visible()
    page.get_by_label("Conductivity (µS/cm)").fill("0")
    page.get_by_label("Conductivity (µS/cm)").press("Enter")
    expect(page.get_by_role("alert").first).to_contain_text("Expected a conductivity from 1 to 60,000 µS/cm; got 0")
    page.get_by_label("Conductivity (µS/cm)").fill("178")
    page.get_by_label("Conductivity (µS/cm)").press("Enter")
    expect(page.get_by_test_id("goal")).to_contain_text("178")

    # rehearsal, in the worker
    part(page, "Rehearsal")
    page.get_by_label("Times").fill("300")
    page.get_by_role("button", name="Rehearse", exact=True).click()
    expect(page.get_by_test_id("rehearsed").first).to_contain_text("95 of 100 such surveys", timeout=40_000)
    page.get_by_role("button", name="Sweep", exact=True).click()
    expect(page.get_by_test_id("rehearsed").first).to_contain_text(
        re.compile("From fish marked|None of these"), timeout=60_000
    )

    # outing: one of the crew has a certificate that expired, so a reason is asked for
    part(page, "People, sheet, outing")
    page.get_by_role("button", name="Make the outing").click()
    expect(page.get_by_role("alert")).to_contain_text("First aid and CPR")
    page.get_by_label("Reason to go out anyway").fill("course booked, second first-aider aboard")
    page.get_by_role("button", name="Make the outing").click()
    expect(page.get_by_text(re.compile(r"\d checklists to sign on the Deck"))).to_be_visible()

    # Deck knows its sites and targets
    page.get_by_role("link", name=re.compile(r"^Walleye by marks, lower river, \d\d")).click()
    expect(page.get_by_text("No run in progress.")).to_be_visible()
    page.keyboard.press("F8")
    sites = page.get_by_role("dialog").get_by_label("Site").locator("option")
    expect(sites.filter(has_text="Walleye by marks, lower river 2")).to_have_count(1)
    run_sheet = page.get_by_role("dialog")
    expect(run_sheet).to_contain_text("The plan at about 178 µS/cm: up to 241 V, about 11.3 A")
    run_sheet.get_by_label("Volts").fill("700")
    expect(run_sheet.get_by_role("alert")).to_contain_text("at most 600 V")
    run_sheet.get_by_label("Volts").fill("240")
    run_sheet.get_by_role("button", name="Start run").click()
    expect(run_sheet).not_to_be_visible()

    # no current before the checklists are signed: each by name, the last passed over with a reason
    page.keyboard.press("F2")
    dialog = page.get_by_role("dialog")
    wanted = int(re.findall(r"first of (\d+)", dialog.inner_text())[0])
    assert wanted >= 5
    for _ in range(wanted - 1):
        title = dialog.get_by_role("heading").inner_text()
        if title == "Near a dam":
            dialog.get_by_label("Operator's name").fill("Vik, 18:20, two gates")
        dialog.get_by_label("Name", exact=True).fill("Maren Oskvold")
        dialog.get_by_role("button", name="Sign", exact=True).click()
        expect(dialog.get_by_role("heading", name=title, exact=True)).not_to_be_visible()
    expect(page.get_by_text("Current off")).to_be_visible()  # behind the sheet
    dialog.get_by_role("button", name="Go on without signing").click()
    dialog.get_by_label("Why the outing goes on without").fill("no lifting tonight")
    dialog.get_by_role("button", name="Go on with this list unsigned").click()
    expect(dialog).not_to_be_visible()
    page.keyboard.press("F2")
    expect(page.get_by_role("button", name="Current ON")).to_be_visible()
    page.keyboard.press("F2")
    page.get_by_role("button", name="Limits").click()
    expect(dialog).to_contain_text("passed over by Maren Oskvold")
    expect(dialog).to_contain_text("walleye marked, from 250 mm")
    expect(dialog).to_contain_text("Keep clear of Thornweir dam: km 30.60 to 31.40")
    page.keyboard.press("Escape")
    page.keyboard.press("F8")
    expect(page.get_by_text("No run in progress.")).to_be_visible()
    expect(page.get_by_role("status", name="Sending")).to_contain_text(
        "All sent"
    )  # a page that is left at once may not have it on the disk
    page.goto("/")
    expect(page.get_by_text("0 of 100")).to_be_visible()
    page.go_back()
    page.get_by_role("button", name="Close outing").click()  # the tests after this one want tonight's
    page.get_by_role("button", name="Sign and close").click()
    expect(page.get_by_text("Closed, handed over by")).to_be_visible()


def test_the_bath_that_is_too_strong_is_refused_with_its_range(survey: Page) -> None:
    part(survey, "Baths and tags")
    expect(survey.get_by_test_id("recipe")).to_contain_text("28.6 mL of stock into 100 L gives 30 mg/L")
    survey.get_by_label("Target (mg/L)").fill("200")
    survey.get_by_label("Target (mg/L)").press("Enter")
    expect(survey.get_by_text("20 to 60 mg/L; got 200 mg/L")).to_be_visible()
    survey.get_by_label("Target (mg/L)").fill("30")
    survey.get_by_label("Target (mg/L)").press("Enter")
    expect(survey.get_by_test_id("recipe")).to_be_visible()


def test_the_sheet_has_ink_on_two_pages(survey: Page, tmp_path_factory: pytest.TempPathFactory) -> None:
    part(survey, "People, sheet, outing")
    with survey.expect_download() as download:
        survey.get_by_role("link", name="Field sheet (PDF, A4)").click()
    document = pypdfium2.PdfDocument(download.value.path())
    assert len(document) == 2
    for page in document:
        picture = page.render(scale=1).to_pil().convert("L")
        dark = sum(picture.histogram()[:128]) / (picture.width * picture.height)
        assert 0.01 < dark < 0.3
        left, top, right, bottom = picture.point(lambda value: 255 if value < 128 else 0).getbbox()
        assert (
            left > 20 and top > 20 and right < picture.width - 20 and bottom < picture.height - 10
        )  # nothing is cut off


def test_a_certificate_is_renewed_and_no_longer_stands_in_the_way(sign_in: Callable[..., Page]) -> None:
    page = sign_in("lead", "/")
    expect(page.get_by_text("First aid and CPR of Tove Harrowell expired")).to_be_visible()  # on Today
    page.goto("/plan")
    page.get_by_role("button", name="Change First aid and CPR").click()
    page.get_by_label("Valid to").fill("2020-01-01")
    page.get_by_role("button", name="Save").click()
    expect(page.get_by_role("alert")).to_contain_text("first day before the last")
    page.get_by_label("Valid to").fill("2039-01-01")
    page.get_by_role("button", name="Save").click()
    expect(page.get_by_role("row", name=re.compile("First aid and CPR.*valid"))).to_be_visible()
    page.get_by_role("link", name="Walleye by marks, lower river").click()
    part(page, "People, sheet, outing")
    expect(page.get_by_text("First aid and CPR to 1 Jan 2039")).to_be_visible()
    expect(page.get_by_text("expired on")).not_to_be_visible()


def test_a_survey_is_begun_and_a_line_brought_in(sign_in: Callable[..., Page]) -> None:
    page = sign_in("biologist", "/plan")
    page.goto("/plan")
    page.get_by_role("button", name="Plan a survey").click()
    page.get_by_label("Name").fill("Perch in the beck")
    page.get_by_label("Water").select_option(label="Skarn Beck")
    page.get_by_label("Gear").select_option("backpack_electrofishing")
    page.get_by_label("First day").fill("2027-08-01")
    page.get_by_label("Last day").fill("2027-08-20")
    page.get_by_role("button", name="Create plan").click()
    expect(page.get_by_role("heading", name="Perch in the beck")).to_be_visible()
    page.get_by_label("Site (m)").fill("100")
    page.get_by_label("Site (m)").press("Enter")
    page.get_by_label("Gap between sites (m)").fill("900")
    page.get_by_label("Gap between sites (m)").press("Enter")
    page.get_by_role("button", name="Lay the sites out").click()
    expect(page.get_by_text(re.compile(r"^([2-9]|1\d) sites"))).to_be_visible()
    page.get_by_text("The water: its line").click()
    page.get_by_label("File with the water's line").set_input_files(
        {"name": "beck.kml", "mimeType": "text/xml", "buffer": b"<kml><nothing/></kml>"}
    )
    expect(page.get_by_role("alert")).to_contain_text("the KML holds no track, route or line")


def test_a_new_water_is_drawn_on_the_map(sign_in: Callable[..., Page]) -> None:
    page = sign_in("biologist", "/plan")
    page.goto("/plan")
    page.get_by_role("button", name="Plan a survey").click()
    page.get_by_label("Name", exact=True).fill("Pike in the tarn")
    page.get_by_label("Water").select_option(label="a new water...")
    page.get_by_label("Name of the water").fill("Fell Tarn")
    page.get_by_label("Kind of water").select_option("lake")
    page.get_by_label("First day").fill("2027-06-01")
    page.get_by_label("Last day").fill("2027-06-03")
    page.get_by_role("button", name="Create plan").click()
    expect(page.get_by_text("Fell Tarn has no line yet")).to_be_visible()
    page.get_by_role("button", name="Draw it").click()
    drawing = page.get_by_role("img", name="Drawing")
    page.get_by_role("button", name="Nearer").click()
    page.get_by_role("button", name="Nearer").click()
    box = drawing.bounding_box()
    assert box
    for x, y in ((0.5, 0.3), (0.6, 0.4), (0.55, 0.6), (0.4, 0.55), (0.58, 0.3)):
        drawing.click(position={"x": box["width"] * x, "y": box["height"] * y})
    # the last click made the shore cross itself: refused, and nothing is lost
    page.get_by_role("button", name="Keep it as the line").click()
    expect(page.get_by_role("alert").filter(has_text="crosses or touches itself")).to_be_visible()
    last = page.locator("[data-point='5']")
    at, box = last.bounding_box(), drawing.bounding_box()  # the page may have been scrolled
    assert at and box
    page.mouse.move(at["x"] + 7, at["y"] + 7)
    page.mouse.down()
    page.mouse.move(box["x"] + box["width"] * 0.41, box["y"] + box["height"] * 0.35, steps=4)
    page.mouse.up()
    expect(drawing).to_have_attribute("aria-label", "Drawing, 5 points")
    page.get_by_role("button", name="Keep it as the line").click()
    expect(page.get_by_role("img", name=re.compile("^Map of Fell Tarn"))).to_be_visible()
    expect(page.get_by_role("img", name=re.compile(r"^Fell Tarn pulled straight, \d+\.\d km"))).to_be_visible()


def test_a_survey_is_planned_again_and_taken_out_with_a_way_back(survey: Page) -> None:
    page = survey
    page.get_by_role("button", name="Repeat survey").click()
    page.get_by_label("First day").fill("2031-05-20")
    page.get_by_role("button", name="Create plan").click()
    expect(page.get_by_role("heading", name="Walleye by marks, lower river, 2031")).to_be_visible()
    part(page, "Question and targets")
    page.get_by_label("Last day").focus()
    page.keyboard.press("Control+A")
    page.keyboard.type("18 Jun 2032", delay=40)  # key by key, as a person does: the year passes through 2, 20, 203
    expect(page.get_by_text("to 18 Jun 2032")).to_be_visible()
    expect(page.get_by_role("alert")).not_to_be_visible()
    page.get_by_label("Name", exact=True).fill("Walleye again")
    page.get_by_label("Name", exact=True).press("Tab")
    expect(page.get_by_role("heading", name="Walleye again")).to_be_visible()
    page.get_by_role("button", name="Delete survey").click()
    expect(page.get_by_text("Walleye again is out of the plans; its outings stay.", exact=True)).to_be_visible()
    expect(page.get_by_role("link", name="Walleye again")).not_to_be_visible()
    page.get_by_role("button", name=re.compile("Undo")).click()
    expect(page.get_by_role("link", name="Walleye again")).to_be_visible()
    page.get_by_role("link", name="Walleye again").click()
    page.get_by_role("button", name="Delete survey").click()
    expect(page.get_by_role("link", name="Walleye again")).not_to_be_visible()  # the tests after this one want one only


def test_a_viewer_reads_plans_and_changes_none(sign_in: Callable[..., Page]) -> None:
    page = sign_in("viewer", "/plan")
    page.goto("/plan")
    expect(page.get_by_role("link", name="Walleye by marks")).to_be_visible()
    expect(page.get_by_role("button", name="Plan a survey")).not_to_be_visible()
    page.get_by_role("link", name="Walleye by marks").click()
    expect(page.get_by_role("button", name="Lay the sites out")).not_to_be_visible()
