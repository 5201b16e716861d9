"""A programme goes out whole, is valid for a general validator, and comes in whole elsewhere; twice is once."""

from __future__ import annotations

import csv
import io
import json
import zipfile
from collections.abc import Callable
from pathlib import Path
from typing import Any

import frictionless
import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.core.management import CommandError, call_command
from rest_framework.test import APIClient

from nailwright.common.rows import new_id
from nailwright.deck.encounters import rebuild_encounters
from nailwright.deck.models import Capture, CaptureTally, Event, Outing, Release, Run
from nailwright.plan.models import Survey
from nailwright.programmes.models import Change, Membership, Person, Programme
from nailwright.programmes.protocols import decide
from nailwright.programmes.record.audit import Act, apply_change
from nailwright.programmes.record.removal import delete_programme, paths_to_programme
from nailwright.records.archive.tables import LEFT_OUT, all_models, tables
from nailwright.records.archive.writing import rows_of
from nailwright.returns.deciding import decide as decide_report
from nailwright.returns.models import Card, CardPhoto, CardRequest, Return, ReturnPhoto
from nailwright.returns.reporting import take_report
from nailwright.tags.models import Fish, Placement, Scan, Tag

Client = Callable[[str], APIClient]


@pytest.fixture
def full(programme: Programme, run: Run, person_as: Callable[[str], Person]) -> Programme:
    """A programme with something in each corner: fish with marks, a release, a plan, history, odd texts."""
    lead = Membership.objects.filter(role="lead").first()
    person = lead.person if lead else person_as("lead")
    act = Act(new_id(), person, run.started_at, "=cmd|' /C calc'!A0")
    decide(act, programme, {"bins": [{"species": "wal", "bin_mm": 20}]}, 1) if programme.protocols.exists() else None
    fish = Fish.objects.create(programme=programme, species="wal")
    capture = Capture.objects.create(
        programme=programme, run=run, species="wal", length_mm=469.05, length_text="463,05", length_basis="measured",
        note='=1+1, "quoted"\nsecond line \u00e5\u2713', recorder=run.recorder, fish=fish, questions=[{"code": "x", "answer": "kept"}],
    )  # fmt: skip
    Release.objects.create(capture=capture, fate="released", strength=2, reason="study", recorder=run.recorder)
    tag = Tag.objects.create(programme=programme, kind="pit", number="999000000000101")
    Placement.objects.create(tag=tag, fish=fish, capture_id=capture.pk, recorder=run.recorder)
    Scan.objects.create(
        programme=programme, source_id=capture.pk, kind="pit", number=tag.number, result="known", recorder=run.recorder
    )
    apply_change(Act(new_id(), person, run.started_at, "read again"), programme, capture, {"mass_g": 1085.5})
    event = Event.objects.create(outing=run.outing, run=run, capture=capture, kind="found", details={"what": "scrape", "part": "left"}, recorder=person)  # fmt: skip
    apply_change(Act(new_id(), person, run.started_at, "other side"), programme, event, {"details.part": "right"})
    survey = Survey.objects.create(
        programme=programme, water=run.outing.water, person=person, name="Spring", question="size", species=["wal"], gear="angling",
        first="2026-05-01", last="2026-06-01",
    )  # fmt: skip
    survey.outings.add(run.outing)
    Run.objects.create(outing=run.outing, site=run.site, number=2, gear="seine", hauls=3, started_at=run.started_at, recorder=run.recorder)  # fmt: skip
    rebuild_encounters(programme)
    told = {
        "number": tag.number,
        "found_on": run.started_at.date(),
        "length": "18 1/2 in",
        "tag_fate": "removed",
        "contact": {"name": "Orla", "consent": True},
    }
    report, _ = take_report(programme, new_id(), told)
    ReturnPhoto.objects.create(report=report, jpeg=b"\xff\xd8 picture", small=b"small")
    decide_report(Act(new_id(), person, run.started_at, "by telephone"), report, "verified")
    card = Card.objects.create(programme=programme, tagger=person, recorder=person, fish=fish, remarks="dark, =1+1")
    CardPhoto.objects.create(card=card, recorder=person, jpeg=b"\xff\xd8 card", small=b"small")
    CardRequest.objects.create(programme=programme, tagger=person, sender=person, cards=1)
    return programme


def taken(client: APIClient, programme: Programme) -> bytes:
    response = client.get(f"/api/v1/programmes/{programme.pk}/archive.zip")
    assert response.status_code == 200
    return b"".join(response.streaming_content)


def brought(client: APIClient, content: bytes) -> Any:
    body = {"file": SimpleUploadedFile("programme.zip", content)}
    return client.post("/api/v1/programmes/bring-in", body, format="multipart")


def rows_in(content: bytes, name: str) -> list[dict[str, str]]:
    with zipfile.ZipFile(io.BytesIO(content)) as package:
        return list(csv.DictReader(io.StringIO(package.read(f"{name}.csv").decode(), newline="")))


def changed(content: bytes, **pieces: Callable[[str], str]) -> bytes:
    """The archive with some of its pieces rewritten; ``a__csv`` stands for a.csv."""
    sink = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(content)) as before, zipfile.ZipFile(sink, "w") as after:
        for name in before.namelist():
            rewrite = pieces.get(name.replace(".", "__"), lambda text: text)
            after.writestr(name, rewrite(before.read(name).decode()))
    return sink.getvalue()


def everything(programme: Programme) -> dict[str, list[Any]]:
    told = {
        table.name: list(rows_of(table, programme).values(*(field.attname for field in table.fields)))
        for table in tables()
        if not table.model._meta.auto_created
    }
    return told | {"links": list(Survey.outings.through.objects.values_list("survey_id", "outing_id"))}


def test_every_table_is_in_it_or_left_out_with_a_reason() -> None:
    inside = {each.model._meta.label for each in tables() if not each.model._meta.auto_created}
    belong = {model._meta.label for model in paths_to_programme()} | {"programmes.Person"}
    assert inside == belong - set(LEFT_OUT) and set(LEFT_OUT) <= belong
    # what leads to no programme belongs to the installation: accounts and what keeps them safe
    assert {model._meta.label for model in all_models()} - belong == {
        "programmes.ApiToken", "programmes.CarryKey", "programmes.FirstCode", "programmes.ShortCode", "programmes.StreamTicket", "programmes.WrongPassword",
    }  # fmt: skip


def test_it_is_valid_for_a_general_validator(lead: APIClient, full: Programme, tmp_path: Path) -> None:
    """Outside check: the frictionless library, version 5, on the package unpacked."""
    Programme.objects.update(licence="CC-BY-4.0", citation="Tarn study (2026).")
    with zipfile.ZipFile(io.BytesIO(taken(lead, full))) as package:
        package.extractall(tmp_path)
    report = frictionless.validate(str(tmp_path / "datapackage.json"))
    assert report.valid, report.flatten(["name", "rowNumber", "fieldName", "type", "message"])[:5]
    told = json.loads((tmp_path / "datapackage.json").read_text())
    assert told["licenses"][0]["name"] == "CC-BY-4.0" and told["citation"] == "Tarn study (2026)."
    assert {"waters", "sites", "outings", "runs", "readings", "captures", "scans", "tags", "releases", "species", "protocols"} <= {
        each["name"] for each in told["resources"]
    }  # fmt: skip


def test_the_validator_can_fail(lead: APIClient, full: Programme, tmp_path: Path) -> None:
    broken = changed(
        taken(lead, full), captures__csv=lambda text: text.replace(str(Run.objects.get(number=1).pk), str(new_id()))
    )
    with zipfile.ZipFile(io.BytesIO(broken)) as package:
        package.extractall(tmp_path)
    assert not frictionless.validate(str(tmp_path / "datapackage.json")).valid


def test_runs_where_nothing_was_caught_are_in_it_with_their_effort(lead: APIClient, full: Programme) -> None:
    content = taken(lead, full)
    assert [(row["gear"], row["hauls"]) for row in rows_in(content, "runs")] == [
        ("boat_electrofishing", ""),
        ("seine", "3"),
    ]
    assert {row["run_id"] for row in rows_in(content, "captures")} == {str(Run.objects.get(number=1).pk)}


def test_nobodys_secrets_are_in_it(lead: APIClient, full: Programme) -> None:
    Person.objects.update(email="ada@example.org", password="pbkdf2-secret", second_step="KEY")
    content = taken(lead, full)
    with zipfile.ZipFile(io.BytesIO(content)) as package:
        everything_said = b"".join(package.read(name) for name in package.namelist())
    assert not any(word in everything_said for word in (b"ada@example.org", b"pbkdf2-secret", b"KEY"))
    assert set(rows_in(content, "people")[0]) == {"id", "name"}


def test_it_comes_in_whole_where_it_was_not_with_keys_and_twice_is_once(lead: APIClient, full: Programme) -> None:
    key, content, before = full.pk, taken(lead, full), everything(full)
    delete_programme(full)
    assert not Capture.objects.exists() and brought(lead, content).status_code == 403  # leads nothing here any more
    mine = Programme.objects.create(name="My own")
    Membership.objects.create(programme=mine, person=Person.objects.get(name="Lead"), role="lead")
    first = brought(lead, content)
    assert first.status_code == 201 and first.data["there"] > 0  # the people are still here
    after = everything(Programme.objects.get(pk=key))
    for name in before:
        if name != "memberships":
            assert after[name] == before[name], name
    assert CaptureTally.objects.filter(programme_id=key).values_list("present", flat=True).get() == 1
    again = brought(lead, content).data
    assert again["new"] == 0 and everything(Programme.objects.get(pk=key)) == after
    # only whoever brought it in may do something there; the others are invited like anybody else
    present = Membership.present.filter(programme=key)
    assert [each.person.name for each in present] == ["Lead"]


@pytest.mark.parametrize(
    ("form", "without"),
    [
        (2, ("returns", "finders", "return_photos", "cards", "card_photos", "card_requests")),
        (3, ("card_photos", "card_requests")),
    ],
    ids=["before there were reports", "before cards had photos"],
)
def test_one_of_an_earlier_form_comes_in(lead: APIClient, full: Programme, form: int, without: tuple[str, ...]) -> None:
    content = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(taken(lead, full))) as package, zipfile.ZipFile(content, "w") as older:
        for name in package.namelist():
            if name.removesuffix(".csv") not in without:
                told = package.read(name).replace(b'"archive_format": 4', f'"archive_format": {form}'.encode())
                if name in ("events.csv", "changes.csv"):  # what an event records was called otherwise
                    told = told.replace(b"details", b"said")
                older.writestr(name, told)
    fish = Capture.objects.count()
    delete_programme(full)
    mine = Programme.objects.create(name="My own")
    Membership.objects.create(programme=mine, person=Person.objects.get(name="Lead"), role="lead")
    answer = brought(lead, content.getvalue())
    assert answer.status_code == 201, answer.data
    assert Capture.objects.count() == fish and Return.objects.exists() == (form == 3) and not CardPhoto.objects.exists()
    assert Event.objects.get().details == {"what": "scrape", "part": "right"}
    change = Change.objects.get(table="event")
    assert (change.before, change.after) == ({"details.part": "left"}, {"details.part": "right"})


def test_what_was_changed_here_stays_when_the_archive_comes_again(lead: APIClient, full: Programme) -> None:
    content = taken(lead, full)
    Capture.objects.update(length_mm=470)
    Outing.objects.update(state="closed")
    assert brought(lead, content).data["new"] == 0
    assert Capture.objects.get().length_mm == 470 and Outing.objects.get().state == "closed"


def test_people_come_as_names_without_an_account(lead: APIClient, full: Programme) -> None:
    content, stranger = taken(lead, full), new_id()
    crew = str(Run.objects.get(number=1).recorder_id)
    replaced = changed(content, **{f"{name}__csv": lambda text: text.replace(crew, str(stranger)) for name in (
        "people", "runs", "captures", "releases", "placements", "scans", "memberships", "readings")})  # fmt: skip
    delete_programme(full)
    Membership.objects.create(
        programme=Programme.objects.create(name="Own"), person=Person.objects.get(name="Lead"), role="lead"
    )
    assert brought(lead, replaced).status_code == 201
    person = Person.objects.get(pk=stranger)
    assert (person.name, person.is_active, person.has_usable_password(), person.email) == ("Crew", False, False, "")


def poisoned(old: str, new: str) -> Callable[[str], str]:
    def rewrite(text: str) -> str:
        assert old in text
        return text.replace(old, new, 1)

    return rewrite


@pytest.mark.parametrize(
    ("piece", "old", "new", "words"),
    [
        ("datapackage__json", '"archive_format": 4', '"archive_format": 9', "another release"),
        ("datapackage__json", "{", "[", "no JSON"),
        ("captures__csv", "469.05", "nan", "length_mm"),
        ("captures__csv", "469.05", "1e999", "length_mm"),
        ("captures__csv", ",wal,", ",walleye-of-the-north,", "species"),
        ("captures__csv", "species", "kind", "'kind'"),
        ("captures__csv", "id,", "id,x,", "column 'x'"),
        ("runs__csv", "boat_electrofishing", "spear", "expected one of"),
        ("runs__csv", "Z,", ",", "zone"),
        ("releases__csv", ",2,study", ",-7,study", "strength"),
        ("species__csv", "wal,0,", 'wal,0,"{""line"": 3}"', "species.csv, line"),
        ("programmes__csv", "id,", "id,,", "column"),
    ],
)
def test_a_damaged_archive_is_refused_by_place_and_nothing_is_stored(
    lead: APIClient, full: Programme, piece: str, old: str, new: str, words: str
) -> None:
    content = taken(lead, full)
    delete_programme(full)
    Membership.objects.create(
        programme=Programme.objects.create(name="Own"), person=Person.objects.get(name="Lead"), role="lead"
    )
    refused = brought(lead, changed(content, **{piece: poisoned(old, new)}))
    assert (refused.status_code, refused.data["code"]) == (422, "archive_unreadable"), refused.data
    assert words in refused.data["message"] and not Capture.objects.exists() and Programme.objects.count() == 1


def test_rows_of_another_programme_are_out_of_reach(lead: APIClient, full: Programme, client_as: Client) -> None:
    """An archive that names keys of somebody else's programme, guessed or known, neither changes nor reads it."""
    content = taken(lead, full)
    other = Programme.objects.create(name="Somebody else's")
    owner = Person.objects.create(username="owner", name="Owner")
    Membership.objects.create(programme=other, person=owner, role="lead")
    mine = str(full.pk)
    # the whole archive as if it were theirs
    assert brought(lead, changed(content, **{f"{t.name}__csv": lambda text: text.replace(mine, str(other.pk)) for t in tables()},
                                 datapackage__json=poisoned(mine, str(other.pk)))).status_code == 404  # fmt: skip
    # one water under another programme
    refused = brought(lead, changed(content, waters__csv=lambda text: text.replace(mine, str(other.pk))))
    assert refused.data["code"] == "archive_unreadable" and not other.waters.exists()
    # their key for one of my rows
    theirs = Fish.objects.create(programme=other, species="wal")
    key = str(Fish.objects.get(programme=full).pk)
    swapped = {
        f"{name}__csv": lambda text: text.replace(key, str(theirs.pk))
        for name in ("fish", "captures", "placements", "encounters")
    }
    refused = brought(lead, changed(content, **swapped))
    assert refused.data["code"] == "archive_unreadable" and "another programme" in refused.data["message"]


def test_files_that_are_no_archive(lead: APIClient, full: Programme) -> None:
    sink = io.BytesIO()
    with zipfile.ZipFile(sink, "w") as package:
        package.writestr("datapackage.json", json.dumps({"resources": []}))
    for content, code in ((b"species,length\nwal,463\n", "zip_unreadable"), (sink.getvalue(), "archive_unreadable")):
        assert brought(lead, content).data["code"] == code
    assert lead.post("/api/v1/programmes/bring-in", {}, format="multipart").data["code"] == "file_missing"


def test_a_large_one_comes_in_by_command(lead: APIClient, full: Programme, tmp_path: Path, capsys: Any) -> None:
    path = tmp_path / "programme.zip"
    path.write_bytes(taken(lead, full))
    person = Person.objects.get(name="Lead")
    call_command("bring_programme", str(path), lead=person.username)
    assert "0 rows came in" in capsys.readouterr().out
    for given, words in (
        ({"lead": "nobody"}, "Nobody here"),
        ({"lead": Person.objects.get(name="Crew").username}, "leads one here"),
    ):
        with pytest.raises(CommandError, match=words):
            call_command("bring_programme", str(path), **given)


def test_licence_and_citation_stand_in_every_line(lead: APIClient, full: Programme) -> None:
    plain = b"".join(lead.get(f"/api/v1/programmes/{full.pk}/captures.csv").streaming_content).decode()
    assert "licence" not in plain.splitlines()[0]
    body = {"licence": "CC-BY-4.0", "citation": "Tarn study (2026). Fish of the tarn."}
    assert lead.post(f"/api/v1/programmes/{full.pk}", body, format="json").status_code == 200
    lines = list(csv.DictReader(io.StringIO(b"".join(lead.get(f"/api/v1/programmes/{full.pk}/captures.csv").streaming_content).decode())))  # fmt: skip
    assert [(line["licence"], line["citation"]) for line in lines] == [tuple(body.values())]
    assert Change.objects.filter(table="programme").count() == 1
