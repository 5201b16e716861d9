"""From an empty installation to the first programme: the printed code, once, and nobody else."""

from __future__ import annotations

import threading
from typing import Any

import pytest
from django.core.management import call_command
from django.db import connection
from rest_framework.test import APIClient

from nailwright.deck.models import Capture, Run
from nailwright.programmes.models import Change, FirstCode, Membership, Person, Programme
from nailwright.programmes.people.beginning import new_first_code
from nailwright.waters.models import Water

PASSWORD = "ice out on the tarn"


def first(code: str | None, **changed: Any) -> dict[str, Any]:
    person = {"username": "ragna", "name": "Ragna Holt", "password": PASSWORD, "email": "ragna@example.org"}
    programme = {"name": "Tarn study", "time_zone": "Europe/Oslo", "length_unit": "cm", "date_language": "nb"}
    return {
        "code": code,
        "person": {**person, **changed.get("person", {})},
        "programme": {**programme, **changed.get("programme", {})},
    }


def caught(run: Run) -> Capture:
    return Capture.objects.create(
        programme=run.outing.programme, run=run, species="wal", length_mm=437, length_type="TL", length_basis="measured",
        recorder=run.recorder,
    )  # fmt: skip


def claim(body: dict[str, Any], client: APIClient | None = None) -> Any:
    return (client or APIClient()).post("/api/v1/first", body, format="json")


def test_whoever_has_the_printed_code_leads_a_programme_of_their_own(
    db: None, capsys: pytest.CaptureFixture[str]
) -> None:
    client = APIClient()
    assert client.get("/api/v1/session").data["claimed"] is False
    call_command("first_code")
    code = capsys.readouterr().out.split()[-1]
    assert claim(first("AAAA-BBBB-CCCC")).data["code"] == "code_wrong" and not Programme.objects.exists()
    session = claim(first(code.lower().replace("-", " ")), client).data  # however it is typed
    assert session["person"]["name"] == "Ragna Holt" and session["claimed"]
    here = session["memberships"][0]
    told = (here["role"], here["programme_name"], here["length_unit"], here["mass_unit"], here["date_language"])
    assert told == ("lead", "Tarn study", "cm", "g", "nb")
    assert client.get("/api/v1/session").data["person"]["username"] == "ragna"
    # the door is shut now, for the same code and a new one
    assert claim(first(code, person={"username": "two"})).data["code"] == "already_claimed"
    assert new_first_code() is None
    call_command("first_code")
    assert capsys.readouterr().out == ""
    signed = APIClient().post("/api/v1/session", {"username": "ragna", "password": PASSWORD}, format="json")
    assert signed.data["person"]["name"] == "Ragna Holt"


def test_a_later_start_prints_another_code_and_the_one_before_is_none(db: None) -> None:
    old, new = new_first_code(), new_first_code()
    assert old != new and FirstCode.objects.get().digest not in (old, new)
    assert claim(first(old)).data["code"] == "code_wrong" and claim(first(new)).status_code == 200


def test_codes_are_not_guessed(db: None) -> None:
    code = new_first_code()
    answers = [claim(first("AAAA-AAAA-AAAA")).data["code"] for _ in range(11)]
    assert answers == ["code_wrong"] * 10 + ["too_many_tries"]
    assert claim(first(code)).data["code"] == "too_many_tries"


@pytest.mark.parametrize(
    ("changed", "code", "field"),
    [
        ({"programme": {"time_zone": "Europe/Atlantis"}}, "time_zone_unknown", "time_zone"),
        ({"programme": {"name": " "}}, "invalid", "programme.name"),
        ({"programme": {"date_language": "xx"}}, "invalid", "programme.date_language"),
        ({"person": {"password": "short"}}, "password_weak", "password"),
        ({"person": {"password": "ragna@example.or"}}, "password_weak", "password"),
        ({"person": {"username": "two words"}}, "invalid", "person.username"),
        ({"person": {"username": "demo-me"}}, "invalid", "person.username"),
        ({"person": {"email": "nowhere"}}, "invalid", "person.email"),
    ],
)
def test_what_is_wrong_is_said_and_nothing_is_half_made(
    db: None, changed: dict[str, Any], code: str, field: str
) -> None:
    printed = new_first_code()
    refused = claim(first(printed, **changed))
    assert (refused.status_code, refused.data["code"], refused.data["field"]) == (422, code, field)
    assert not Person.objects.exists() and not Programme.objects.exists()
    assert claim(first(printed)).status_code == 200  # the code is still good


@pytest.mark.django_db(transaction=True)
def test_two_who_open_the_first_page_at_once(db: None) -> None:
    """Two real connections to MariaDB."""
    code, answers, barrier = new_first_code(), [], threading.Barrier(2)

    def come(username: str) -> None:
        try:
            barrier.wait(10)
            answers.append(claim(first(code, person={"username": username})).data.get("code"))
        finally:
            connection.close()

    threads = [threading.Thread(target=come, args=[name]) for name in ("ragna", "sigrun")]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert sorted(answers, key=str) == [None, "already_claimed"]
    assert Person.objects.count() == Programme.objects.count() == Membership.objects.count() == 1


def test_the_demos_people_do_not_own_an_installation(db: None) -> None:
    demo = Person.objects.create(username="demo-lead", name="Maren")
    Membership.objects.create(programme=Programme.objects.create(name="Made up", demo=True), person=demo, role="lead")
    client = APIClient()
    client.force_login(demo)
    assert client.get("/api/v1/session").data["claimed"] is False
    assert client.post("/api/v1/programmes", first("")["programme"], format="json").data["code"] == "demo_person"
    assert claim(first(new_first_code())).status_code == 200  # side by side


def test_a_lead_begins_another_programme_and_others_do_not(db: None, client_as: Any) -> None:
    new = {"name": "Second water", "time_zone": "UTC"}
    lead = client_as("lead")
    session = lead.post("/api/v1/programmes", new, format="json")
    assert session.status_code == 201 and {each["role"] for each in session.data["memberships"]} == {"lead"}
    assert [each["programme_name"] for each in session.data["memberships"]] == ["Tarn study", "Second water"]
    assert lead.post("/api/v1/programmes", new, format="json").data["code"] == "programme_there"
    for role in ("biologist", "stranger"):
        assert client_as(role).post("/api/v1/programmes", new, format="json").data["code"] == "role_may_not"


def test_a_programmes_time_zone_moves_the_waters_that_had_it(client_as: Any, programme: Programme) -> None:
    lead = client_as("lead")
    near, far = (
        Water.objects.create(programme=programme, name=zone, kind="lake", time_zone=zone)
        for zone in ("UTC", "Asia/Tokyo")
    )
    address = f"/api/v1/programmes/{programme.pk}"
    changed = lead.post(address, {"time_zone": "Europe/Oslo"}, format="json").data
    assert (changed["time_zone"], changed["name"], changed["length_unit"]) == ("Europe/Oslo", "Tarn study", "mm")
    near.refresh_from_db()
    far.refresh_from_db()
    assert (near.time_zone, far.time_zone) == ("Europe/Oslo", "Asia/Tokyo")
    assert lead.post(address, {"time_zone": "../etc/passwd"}, format="json").data["code"] == "time_zone_unknown"
    history = Change.objects.get(row=programme.pk)
    assert (history.before, history.after) == ({"time_zone": "UTC"}, {"time_zone": "Europe/Oslo"})


def test_steps_before_the_first_outing(client_as: Any, db: None) -> None:
    session = claim(first(new_first_code()), lead := APIClient())
    programme = session.data["memberships"][0]["programme"]
    base = f"/api/v1/programmes/{programme}"

    def missing() -> list[str]:
        return [each["code"] for each in lead.get(f"{base}/today").data["steps"] if not each["done"]]

    later = ["protocol", "permit", "plan", "tags", "outing"]
    assert missing() == ["water", "species", "people", *later]
    lead.post(f"{base}/species", {"codes": ["yep", "wal"]}, format="json")
    lead.post(f"{base}/invitations", {"name": "Sander", "role": "crew"}, format="json")
    assert missing() == ["water", *later]
    river = lead.post(f"{base}/new-water", {"name": "Beck", "kind": "river"}, format="json").data
    assert missing() == ["water", *later]  # nobody can fish there yet: it has no site
    lead.post(f"/api/v1/waters/{river['id']}/sites", {"name": "Ford"}, format="json")
    permit = {
        "kind": "permit",
        "name": "Collecting",
        "holder": "",
        "number": "7",
        "gears": [],
        "first": "2026-01-01",
        "last": "2027-01-01",
    }
    assert lead.post(f"{base}/permits", permit, format="json").status_code == 201
    assert missing() == ["protocol", "plan", "tags", "outing"]
    opened = {"water": river["id"], "date": "2026-10-13", "gear": "angling", "length_unit": "cm"}
    assert (
        lead.post(
            f"{base}/outings", {"id": str(Person.objects.get().pk)[:-2] + "00", **opened}, format="json"
        ).status_code
        == 201
    )
    assert missing() == [] and lead.get(f"{base}/today").data["steps"] == []


def test_a_water_that_is_a_point_can_be_fished_at_once(client_as: Any, programme: Programme) -> None:
    lead, base = client_as("lead"), f"/api/v1/programmes/{programme.pk}"
    place = {"name": "Upper Tarn", "kind": "lake", "latitude": 61.2, "longitude": 8.4}
    water = lead.post(f"{base}/new-water", place, format="json").data
    assert water["shape"] == "Point"
    sites = lead.get(f"/api/v1/waters/{water['id']}/sites").data
    assert [each["name"] for each in sites] == ["Upper Tarn"]
    assert lead.get(f"{base}/layers").data == []  # a point is no line of a map
    half = {"name": "x", "kind": "lake", "latitude": 61.2}
    assert lead.post(f"{base}/new-water", half, format="json").data["field"] == "latitude"
    key = str(Water.objects.get(name="Upper Tarn").pk)[:-2] + "00"
    site, twice = ({"id": key, "name": "Inlet"}, {"name": " inlet "})
    assert lead.post(f"/api/v1/waters/{water['id']}/sites", site, format="json").status_code == 201
    assert lead.post(f"/api/v1/waters/{water['id']}/sites", site, format="json").data["id"] == key  # a second touch
    assert lead.post(f"/api/v1/waters/{water['id']}/sites", twice, format="json").data["code"] == "site_there"
    listed = {each["name"]: each["n_sites"] for each in lead.get(f"{base}/waters").data}
    assert listed["Upper Tarn"] == 2


def test_a_species_that_is_not_called_any_more_keeps_its_fish(client_as: Any, programme: Programme, run: Run) -> None:
    lead, base = client_as("lead"), f"/api/v1/programmes/{programme.pk}"
    caught(run)
    told = lead.post(f"{base}/species", {"codes": ["nop", "yep"]}, format="json").data
    assert (told["listed"], told["retired"]) == (["nop", "yep"], ["wal", "bur"])
    deck = lead.get(f"/api/v1/outings/{run.outing_id}/deck").data
    assert {each["code"] for each in deck["species"]} == {"nop", "yep", "wal", "other"}  # wal was caught in this outing
    assert lead.get(f"{base}/findings/size?species=wal").status_code == 200
    back = lead.post(f"{base}/species", {"codes": ["wal", "nop", "yep"]}, format="json").data
    assert (back["listed"], back["retired"]) == (["wal", "nop", "yep"], ["bur"])
    assert lead.post(f"{base}/species", {"codes": ["wal", "wal"]}, format="json").data["code"] == "species_twice"
    assert lead.post(f"{base}/species", {"codes": ["elf"]}, format="json").data["code"] == "species_unknown"
    assert {each["code"] for each in back["known"]} >= {"wal", "nop"}
