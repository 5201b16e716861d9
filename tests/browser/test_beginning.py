"""From an empty installation to the first fish: the walk of a lead on their first afternoon, and of whom they invite."""

from __future__ import annotations

import email
import os
import re
import signal
import socket
import subprocess
import sys
import time
from collections.abc import Iterator
from email.policy import default
from pathlib import Path

import pyotp
import pytest
from playwright.sync_api import Browser, Page, expect

from server.tests.databases import ROOT, manage, new_database

from .conftest import Server

PASSWORD = "ice out on the tarn"


@pytest.fixture(scope="module")
def letters(tmp_path_factory: pytest.TempPathFactory) -> Iterator[tuple[Path, int]]:
    """The mail stand-in, as bin/start runs it: its folder and port."""
    folder = tmp_path_factory.mktemp("mail")
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
    process = subprocess.Popen([sys.executable, "-m", "standins.mail", str(port), str(folder)], cwd=ROOT, env={**os.environ, "PYTHONPATH": str(ROOT)})  # fmt: skip
    for _ in range(100):
        with socket.socket() as probe:
            if probe.connect_ex(("127.0.0.1", port)) == 0:
                break
        time.sleep(0.1)
    yield folder, port
    process.send_signal(signal.SIGTERM)
    process.wait(20)


@pytest.fixture(scope="module")
def empty(letters: tuple[Path, int]) -> Iterator[Server]:
    database = new_database("empty", "migrate")
    server = Server(database, NAILWRIGHT_MAIL_HOST="127.0.0.1", NAILWRIGHT_MAIL_PORT=str(letters[1]))
    server.start()
    yield server
    server.end()


def device(chromium: Browser, server: Server, **more: object) -> Page:
    return chromium.new_context(base_url=server.address, timezone_id="Europe/Oslo", **more).new_page()  # type: ignore[arg-type]


def link_in(folder: Path) -> str:
    """The link of the newest letter."""
    newest = max(folder.glob("*.eml"))
    body = email.message_from_bytes(newest.read_bytes(), policy=default).get_body()
    assert body
    found = re.search(r"https?://\S+", body.get_content())
    assert found
    return found[0]


def test_from_nothing_to_the_first_fish(chromium: Browser, empty: Server, letters: tuple[Path, int]) -> None:
    code = manage(empty.environment["NAILWRIGHT_DB_NAME"], "first_code").split()[-1]
    lead = device(chromium, empty)
    lead.goto("/")
    expect(lead.get_by_role("heading", name="Begin your own programme")).to_be_visible()
    lead.get_by_label("Code that the server printed").fill("AAAA-BBBB-CCCC")
    lead.get_by_label("Your name, as").fill("Ragna Holt")
    lead.get_by_label("Name to sign in with").fill("ragna")
    lead.get_by_label("Password").fill(PASSWORD)
    lead.get_by_label("Mail address").fill("ragna@example.org")
    lead.get_by_label("Name of the programme").fill("Tarn study")
    expect(lead.get_by_label("Time zone")).to_have_value("Europe/Oslo")
    lead.get_by_label("Length unit").select_option("cm")
    lead.get_by_label("Dates are written in").select_option("de")
    lead.get_by_role("button", name="Make the account").click()
    expect(lead.get_by_role("alert")).to_contain_text("not the code that the server printed")
    lead.get_by_label("Code that the server printed").fill(code)
    lead.get_by_role("button", name="Make the account").click()

    # the walk: water, species, people; nothing that was typed is asked again
    expect(lead.get_by_role("heading", name="Waters and sites")).to_be_visible()
    lead.get_by_role("button", name="Add waterbody").click()
    sheet = lead.get_by_role("dialog")
    sheet.get_by_label("Name", exact=True).fill("Upper Tarn")
    sheet.get_by_label("Latitude").fill("44.91")
    sheet.get_by_role("button", name="Add waterbody").click()
    expect(sheet).to_contain_text("both or none")
    sheet.get_by_label("Longitude").fill("-31.4")
    sheet.get_by_role("button", name="Add waterbody").click()
    expect(lead.get_by_role("button", name=re.compile("^Upper Tarn"))).to_contain_text("1 site")
    lead.get_by_label("Site name").fill("Inlet")
    lead.get_by_role("button", name="Add site").click()
    expect(lead.get_by_role("button", name=re.compile("^Upper Tarn"))).to_contain_text("2 sites")
    lead.get_by_role("link", name="Next: Species").click()
    lead.get_by_label("Search by name or code").fill("perch")
    lead.get_by_role("button", name="Call yellow perch").click()
    lead.get_by_label("Search by name or code").fill("esox luc")
    lead.get_by_role("button", name="Call northern pike").click()
    lead.get_by_role("button", name="northern pike first").click()
    expect(lead.get_by_role("listitem").filter(has_text="nop").first).to_contain_text("Esox lucius")
    lead.get_by_role("link", name="Next: People").click()
    lead.get_by_role("button", name="Invite somebody").click()
    lead.get_by_role("dialog").get_by_label("Name", exact=True).fill("Sander Vik")
    lead.get_by_role("dialog").get_by_label("Mail address").fill("sander@example.org")
    lead.get_by_role("button", name="Make the invitation").click()
    expect(lead.get_by_role("dialog")).to_contain_text("A letter is on its way")
    lead.keyboard.press("Escape")
    expect(lead.get_by_role("region", name="Invited, not here yet")).to_contain_text("Sander Vik, as crew")
    lead.get_by_role("link", name="Today").click()
    expect(
        lead.get_by_role("region", name="Before the first outing").get_by_role("link", name="Open one")
    ).to_be_visible()

    # who is invited comes in on a phone, opens the outing and calls a fish
    crew = device(chromium, empty, viewport={"width": 390, "height": 844})
    crew.goto(link_in(letters[0]))
    expect(crew.get_by_role("heading", name="Ragna Holt invites you to Tarn study")).to_be_visible()
    crew.get_by_label("Name to sign in with").fill("ragna")
    crew.get_by_label("Password").fill(PASSWORD)
    crew.get_by_role("button", name="Come in").click()
    expect(crew.get_by_text("Somebody signs in as 'ragna' already").first).to_be_visible()
    crew.get_by_label("Name to sign in with").fill("sander")
    crew.get_by_role("button", name="Come in").click()
    crew.get_by_role("link", name="Open one").click()
    crew.get_by_role("button", name="Open an outing").first.click()
    crew.get_by_label("Water").select_option(label="Upper Tarn")
    crew.get_by_label("Gear").select_option("angling")
    expect(crew.get_by_label("Length unit")).to_have_value("cm")
    crew.get_by_role("button", name="Open", exact=True).click()
    expect(crew.get_by_role("region", name="Call line")).to_be_visible()
    crew.keyboard.press("F8")
    crew.get_by_role("dialog").get_by_label("Site").select_option(label="Inlet")
    crew.get_by_role("dialog").get_by_role("button", name="Start run").click()
    line = crew.get_by_role("textbox", name=re.compile("fish", re.IGNORECASE)).first
    line.fill("nop 61.5")
    line.press("Enter")
    expect(crew.get_by_text("615").first).to_be_visible()
    expect(crew.get_by_role("status", name="Sending")).to_contain_text("All sent")

    # it stands on the lead's Today, with the day as the programme writes it; the steps are gone
    lead.reload()
    outing = lead.get_by_role("region", name=re.compile("Upper Tarn"))
    expect(outing).to_contain_text("1 fish")
    months = "Jan.|Feb.|März|Apr.|Mai|Juni|Juli|Aug.|Sept.|Okt.|Nov.|Dez."
    expect(outing).to_contain_text(re.compile(rf"\d+\. ({months}) 20\d\d"))
    expect(lead.get_by_role("region", name="Before the first outing")).to_have_count(0)
    again = device(chromium, empty)
    again.goto(link_in(letters[0]))
    expect(again.get_by_role("alert")).to_contain_text("has been used")


def test_a_phone_as_second_step_and_a_forgotten_password(
    chromium: Browser, empty: Server, letters: tuple[Path, int]
) -> None:
    lead = device(chromium, empty)

    def sign_in(password: str) -> None:
        lead.goto("/")
        lead.get_by_label("Name", exact=True).fill("ragna")
        lead.get_by_label("Password").fill(password)
        lead.get_by_role("button", name="Sign in").click()

    sign_in(PASSWORD)
    lead.get_by_role("button", name=re.compile("Ragna Holt")).click()
    lead.get_by_role("link", name=re.compile("My account")).click()
    lead.get_by_role("button", name="Begin with codes").click()
    lead.get_by_role("button", name="Show me the key").click()
    phone = pyotp.TOTP(lead.get_by_role("dialog").locator("code").inner_text())
    expect(lead.get_by_role("img", name=re.compile("square of dots"))).to_be_visible()
    lead.get_by_label("Code that the phone shows now").fill(phone.now())
    lead.get_by_label("Your password").fill(PASSWORD)
    lead.get_by_role("button", name="Begin", exact=True).click()
    expect(lead.get_by_role("button", name="I have them")).to_be_visible()
    spare = lead.get_by_role("dialog").get_by_role("listitem").all_inner_texts()
    assert len(spare) == 8
    lead.get_by_role("button", name="I have them").click()
    expect(lead.get_by_text("8 written codes left")).to_be_visible()
    lead.get_by_role("button", name="Sign out everywhere").click()
    expect(lead.get_by_role("button", name="Sign in")).to_be_visible()
    sign_in(PASSWORD)
    lead.get_by_label("Code from your phone").fill(spare[0].lower())
    lead.get_by_role("button", name="Sign in").click()
    expect(lead.get_by_role("navigation", name="Stages of the work")).to_be_visible()
    lead.get_by_role("button", name="Sign out").first.click()

    before = len(list(letters[0].glob("*.eml")))
    lead.get_by_label("Name", exact=True).fill("ragna")
    lead.get_by_role("button", name="I have forgotten my password").click()
    expect(lead.get_by_text("a letter is on its way")).to_be_visible()
    for _ in range(50):
        if len(list(letters[0].glob("*.eml"))) > before:
            break
        time.sleep(0.1)
    lead.goto(link_in(letters[0]))
    lead.get_by_label("New password").fill("burbot under the ice")
    lead.get_by_role("button", name="Set it").click()
    sign_in("burbot under the ice")  # the second step is still asked for
    lead.get_by_label("Code from your phone").fill(spare[1])
    lead.get_by_role("button", name="Sign in").click()
    expect(lead.get_by_role("navigation", name="Stages of the work")).to_be_visible()


def only_a_password(server: Server) -> None:
    """Whatever the test before did: the lead signs in with the password alone."""
    lines = (
        "from nailwright.programmes.models import Person",
        "lead = Person.objects.get(username='ragna')",
        f"lead.set_password('{PASSWORD}')",
        "lead.second_step = ''",
        "lead.save()",
    )
    manage(server.environment["NAILWRIGHT_DB_NAME"], "shell", "-c", "; ".join(lines))


def sign_in_as(page: Page, name: str, password: str) -> None:
    page.goto("/")
    page.get_by_label("Name", exact=True).fill(name)
    page.get_by_label("Password").fill(password)
    page.get_by_role("button", name="Sign in").click()
    expect(page.get_by_role("navigation", name="Stages of the work")).to_be_visible()


def test_a_permit_and_a_species_of_ones_own_on_the_deck(chromium: Browser, empty: Server) -> None:
    only_a_password(empty)
    lead, crew = device(chromium, empty), device(chromium, empty)
    sign_in_as(lead, "ragna", PASSWORD)
    lead.goto("/plan")
    lead.get_by_role("button", name="Add permit or certificate").click()
    lead.get_by_label("Name").fill("Permit 4")
    lead.get_by_label("Valid from").fill("2026-01-01")
    lead.get_by_label("Valid to").fill("2026-12-31")
    lead.get_by_role("button", name="Save").click()
    lead.get_by_role("button", name="Add allowance").click()
    lead.get_by_role("dialog").get_by_label("Species").select_option(label="northern pike")
    lead.get_by_label("At most (fish)").fill("2")
    lead.get_by_role("button", name="Save").click()
    expect(lead.get_by_role("region", name="Allowances of permits")).to_contain_text("1 of 2 fish")
    lead.goto("/settings/species")
    lead.get_by_role("button", name="Describe one that is not here").click()
    sheet = lead.get_by_role("dialog")
    sheet.get_by_label("Code it is called by").fill("none")
    sheet.get_by_label("Name", exact=True).fill("Tarn char")
    sheet.get_by_role("button", name="Save for this programme").click()
    expect(sheet.get_by_text("means something else on the call line").first).to_be_visible()
    sheet.get_by_label("Code it is called by").fill("tch")
    sheet.get_by_text("Regulations and tagging").click()
    sheet.get_by_text("there is a legal size or bag").click()
    sheet.get_by_label("may be kept from (mm)").fill("250")
    sheet.get_by_role("group").filter(has_text="may be kept from").get_by_label("Source").fill("local rule")
    sheet.get_by_role("button", name="Save for this programme").click()
    expect(sheet).to_have_count(0)
    expect(lead.get_by_role("listitem").filter(has_text="Tarn char").first).to_contain_text(
        "as this programme describes it"
    )

    sign_in_as(crew, "sander", PASSWORD)
    crew.get_by_role("link", name="Work the deck").click()
    line = crew.get_by_role("textbox", name=re.compile("fish", re.IGNORECASE)).first
    line.fill("tch 23.1")
    expect(crew.get_by_test_id("understood")).to_contain_text("under the legal 250 mm")
    line.press("Enter")
    line.fill("nop 55")
    expect(crew.get_by_test_id("understood")).to_contain_text("1 of 2")
    line.press("Enter")
    expect(crew.get_by_text("The last of 2 northern pike captured that Permit 4 allows.")).to_be_visible()
    line.press("Enter")
    expect(line).to_have_value("")
    line.fill("nop 48")
    line.press("Enter")
    expect(crew.get_by_role("alert")).to_contain_text("Say why after a semicolon")
    line.fill("nop 48 ; dead when the net came up")
    line.press("Enter")
    expect(crew.get_by_role("alert")).to_contain_text("allows 2 northern pike captured; 2 are counted")
    line.press("Enter")
    expect(line).to_have_value("")
    line.fill("other 11")
    line.press("Enter")
    expect(crew.get_by_role("alert")).to_contain_text("Say which species it is")
    line.fill("other 11 ; stone loach")
    line.press("Enter")
    expect(line).to_have_value("")
    expect(crew.get_by_role("status", name="Sending")).to_contain_text("All sent")

    lead.goto("/")
    waits = lead.get_by_role("region", name="Needs attention")
    expect(waits).to_contain_text("Permit 4: 3 of 2 northern pike captured")
    expect(waits).to_contain_text("1 fish beyond a permit, each with its reason")
    lead.goto("/settings/species")
    others = lead.get_by_role("region", name="Called as other")
    expect(others).to_contain_text("stone loach 1 fish")
    others.get_by_label("Species").select_option(label="Tarn char")
    others.get_by_role("button", name="Say so").click()
    expect(lead.get_by_text("1 call got the species").first).to_be_visible()
    expect(others).to_have_count(0)


def test_people_change_and_a_lost_tablet_is_shut_out(chromium: Browser, empty: Server) -> None:
    tablet, lead = device(chromium, empty), device(chromium, empty)
    only_a_password(empty)
    sign_in_as(tablet, "sander", PASSWORD)
    sign_in_as(lead, "ragna", PASSWORD)
    lead.goto("/settings/people")
    lead.get_by_role("button", name="Change Ragna Holt").click()
    lead.get_by_role("button", name="Leave this programme").click()
    expect(lead.get_by_role("alert")).to_contain_text("the only lead")
    lead.keyboard.press("Escape")
    lead.get_by_role("button", name="Change Sander Vik").click()
    lead.get_by_label("Role").select_option("biologist")
    lead.get_by_label("Number as a tagger").fill("T-17")
    lead.get_by_role("dialog").get_by_role("button", name="Save").click()
    expect(lead.get_by_role("dialog").get_by_role("button", name="Save")).to_be_disabled()
    lead.get_by_role("button", name="Lost tablet").click()
    expect(lead.get_by_text("signed out on every device").first).to_be_visible()
    tablet.reload()
    expect(tablet.get_by_text("Your sign-in has run out")).to_be_visible()  # the Deck goes on; nothing is sent
    lead.get_by_role("button", name="Has left").click()
    expect(lead.get_by_role("row", name=re.compile("Sander Vik.*was biologist, left"))).to_be_visible()
    lead.get_by_role("button", name="Undo").click()
    expect(lead.get_by_role("row", name=re.compile("Sander Vik.*biologist T-17"))).to_be_visible()
