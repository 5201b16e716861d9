"""A file of measured fish comes into the record through the screens."""

from __future__ import annotations

import io
import math
import random
from collections.abc import Callable

import pytest
from openpyxl import Workbook, load_workbook
from playwright.sync_api import Page, expect

SHEET = [
    ["Station", "Sp.", "TL", "Wt", "Caught"],
    ["N1", "WAE", 18.5, 2.45, "05/03/2018"],
    ["N1", "WAE", 16.1, 1.5, "05/13/2018"],
    ["N77", "yellow perch", 8.3, 0.31, "05/13/2018"],
    ["N77", "WAE", "12 x", 0.6, "05/14/2018"],
]


def workbook() -> bytes:
    book = Workbook()
    for row in SHEET:
        book.active.append(row)
    file = io.BytesIO()
    book.save(file)
    assert load_workbook(file).active.max_row == len(SHEET)
    return file.getvalue()


@pytest.fixture
def files(sign_in: Callable[..., Page]) -> Page:
    page = sign_in("biologist", "/records")
    page.get_by_role("link", name="Imports").click()
    return page


def choose(page: Page, name: str, content: bytes) -> None:
    page.get_by_label("File of measured fish").set_input_files(
        {"name": name, "mimeType": "application/octet-stream", "buffer": content}
    )


def test_a_workbook_with_foreign_words_and_units(files: Page) -> None:
    page = files
    content = workbook()  # a workbook saved anew holds another time, and so is another file
    choose(page, "spring 2018.xlsx", content)
    expect(page.get_by_role("heading", name="spring 2018.xlsx")).to_be_visible()
    expect(page.get_by_label("Unit of TL")).to_have_value("in")  # told by the fish themselves
    expect(page.get_by_label("Unit of Wt")).to_have_value("lb")
    page.get_by_label("What Caught is").select_option("date")
    page.get_by_label("Water", exact=True).select_option(label="Lake Ossling")
    page.get_by_label("Gear", exact=True).select_option("angling")
    expect(page.get_by_role("radio", name="month first")).to_be_checked()  # the thirteenth can be no month
    page.get_by_role("button", name="Try it, store nothing").click()
    expect(page.get_by_test_id("outcome")).to_contain_text(
        "1 fish would come in, 3 lines cannot be read", timeout=20_000
    )
    page.get_by_label("WAE").select_option("wal")
    expect(page.get_by_text("Changed since: try it again first.")).to_be_visible()
    page.get_by_role("button", name="Try it again").click()
    expect(page.get_by_test_id("outcome")).to_contain_text(
        "3 fish would come in, 1 line cannot be read", timeout=20_000
    )
    rejects = page.get_by_role("region", name="Lines that cannot be read")
    expect(rejects).to_contain_text("5")
    expect(rejects).to_contain_text("12 x")
    page.get_by_role("button", name="Import 3 fish").click()
    expect(page.get_by_test_id("outcome")).to_contain_text("3 fish came in", timeout=20_000)
    with page.expect_download() as download:
        page.get_by_role("link", name="Reject file").click()
    assert "12 x" in download.value.path().read_text()
    page.get_by_role("link", name="See them in the register").click()
    page.get_by_label("Last day").fill("2018-12-31")
    expect(page.get_by_text("3 captures, from 1")).to_be_visible()
    expect(page.get_by_test_id("register")).to_contain_text("469.9TL")  # 18.5 in

    # the same file again: it is known, its words are remembered, and nothing is added
    page.get_by_role("link", name="Imports").click()
    choose(page, "spring 2018.xlsx", content)
    expect(page.get_by_text("This very file was imported on")).to_be_visible()
    page.get_by_role("button", name="Try it, store nothing").click()
    expect(page.get_by_test_id("outcome")).to_contain_text(
        "0 fish would come in, 3 are in the record already", timeout=20_000
    )
    expect(page.get_by_role("button", name="Import 0 fish")).to_be_disabled()
    page.get_by_role("button", name="Throw the file away").click()

    # and it can be taken back whole
    page.get_by_role("link", name="spring 2018.xlsx").click()
    page.get_by_role("button", name="Take all of it back").click()
    expect(page.get_by_test_id("outcome")).to_contain_text("Taken back")


def test_files_that_are_no_tables_are_refused_in_words(files: Page) -> None:
    choose(files, "fish.png", b"\x89PNG\r\n\x1a\n" + bytes(400))
    expect(files.get_by_role("alert")).to_contain_text("This file is a PNG picture")
    choose(files, "fish.csv", b'a,b\n1,"open\n2,3\n')
    expect(files.get_by_role("alert")).to_contain_text("Line 2 has a quotation mark")


def test_a_large_file_shows_how_far_it_is_and_can_be_stopped(files: Page) -> None:
    lines = [f"Lake Ossling,N1,angling,wal,{200 + n % 400},2017-05-{1 + n % 28:02}" for n in range(60_000)]
    choose(files, "large.csv", ("water,site,gear,species,length_mm,date\n" + "\n".join(lines)).encode())
    files.get_by_role("button", name="Try it, store nothing").click()
    expect(files.get_by_role("status").filter(has_text="lines")).to_contain_text("of 60,00", timeout=20_000)
    files.get_by_role("button", name="Stop").click()
    expect(files.get_by_text("Stopped. Nothing of it was stored.")).to_be_visible(timeout=20_000)
    files.get_by_role("button", name="Throw the file away").click()
    expect(files.get_by_role("button", name="Choose a file of measured fish")).to_be_visible()


def test_crew_and_viewers_bring_in_nothing(sign_in: Callable[..., Page]) -> None:
    page = sign_in("viewer", "/records")
    page.goto("/records")
    expect(page.get_by_role("navigation", name="Records")).to_be_visible()
    expect(page.get_by_role("link", name="Imports")).not_to_be_visible()


def legacy(n: int = 500) -> bytes:
    """Five hundred fish as an office kept them: foreign headings, commas, dashes, years of two digits, a species of its own."""
    random_ = random.Random(11)
    lines = ["Fangdatum;Probestelle;Fischart;L\u00e4nge (cm);Gewicht;Bemerkung"]
    for place in range(n):
        cm = random_.uniform(26, 62)
        grams = 10 ** (-5.2 + 3.18 * math.log10(cm * 10)) * random_.uniform(0.93, 1.07)
        mass = {0: "k.A.", 1: "unbek."}.get(place % 11, f"{grams:.1f}".replace(".", ","))
        day = f"{place % 27 + 1:02d}.0{place % 4 + 5}.{('97', '98', '03')[place % 3]}"
        kind = "Aalquappe" if place % 25 == 0 else "walleye"
        lines.append(f"{day};N1;{kind};{f'{cm:.1f}'.replace('.', ',')};{mass};")
    return "\n".join(lines).encode("latin-1")


def test_a_legacy_file_of_five_hundred_fish_with_five_answers(files: Page) -> None:
    page, answers = files, 0

    def answer(do: Callable[[], object]) -> None:
        nonlocal answers
        do()
        answers += 1

    choose(page, "alt.csv", legacy())
    expect(page.get_by_label("What Fangdatum is")).to_have_value("date")
    expect(page.get_by_label("What Fischart is")).to_have_value("species")
    expect(page.get_by_label("Unit of Gewicht")).to_have_value("g")
    answer(lambda: page.get_by_label("Water", exact=True).select_option(label="Lake Ossling"))
    answer(lambda: page.get_by_label("Gear", exact=True).select_option("gill_net"))
    expect(page.get_by_text("Years have two digits. Choose their century.")).to_be_visible()
    answer(lambda: page.get_by_text("1927 to 2026", exact=True).click())
    page.get_by_role("button", name="Try it, store nothing").click()
    expect(page.get_by_test_id("outcome")).to_contain_text(
        "436 fish would come in, 64 lines cannot be read", timeout=30_000
    )
    answer(lambda: page.get_by_label("Aalquappe").select_option("bur"))
    answer(lambda: page.get_by_role("button", name="Treat unbek. as no value").click())
    page.get_by_role("button", name="Try it again").click()
    expect(page.get_by_test_id("outcome")).to_contain_text("500 fish would come in.", timeout=30_000)
    page.get_by_text("Saved mappings", exact=True).click()
    page.get_by_label("Save this mapping as").fill("Old office")
    page.get_by_role("button", name="Save mapping").click()
    expect(page.get_by_text("Mapping saved as Old office.").first).to_be_visible()
    page.get_by_role("button", name="Import 500 fish").click()
    expect(page.get_by_test_id("outcome")).to_contain_text("500 fish came in", timeout=60_000)
    assert answers <= 5
    page.get_by_role("button", name="Take all of it back").click()
    expect(page.get_by_test_id("outcome")).to_contain_text("Taken back", timeout=60_000)
