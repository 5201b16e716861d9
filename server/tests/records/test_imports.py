"""Files of measured fish: read in any order and unit, tried first, all or nothing, and never twice."""

from __future__ import annotations

import csv
import gzip
import io
import json
import random
import zipfile
from collections.abc import Callable
from datetime import date, timedelta
from typing import Any

import pytest
from django.core.management import call_command
from django.utils import timezone
from openpyxl import Workbook
from rest_framework.test import APIClient

from nailwright.common.rows import new_id
from nailwright.deck.encounters import rebuild_encounters
from nailwright.deck.models import Capture, Outing, Run
from nailwright.jobs.models import Job
from nailwright.programmes.models import Programme
from nailwright.records.models import Import
from nailwright.tags.models import Encounter, Placement, Scan, Tag, TagState
from nailwright.waters.models import Site

pytestmark = pytest.mark.django_db(transaction=True)

PLAIN = """date,water,site,gear,species,length_mm,mass_g,sex
2024-05-03,Ketterwick River,K15,angling,walleye,463,1085,f
2024-05-03,Ketterwick River,K15,angling,walleye,410,640,m
2024-05-03,Ketterwick River,K15,angling,walleye,410,640,m
2024-05-04,Ketterwick River,K22,boat_electrofishing,yep,212,110,
"""


def bring(upload: Callable[..., Any], go: Callable[..., Any], content: str | bytes, **answers: Any) -> Any:
    taken = upload(content)
    assert taken.status_code == 201, taken.data
    tried = go(taken.data, **answers)
    assert tried.status_code == 200 and tried.data["job"]["state"] == "done", tried.data
    brought = go(taken.data, "bring-in")
    assert brought.status_code == 200, brought.data
    return brought.data


def test_a_plain_file_comes_in_and_its_sites_outings_and_runs_with_it(
    upload: Callable[..., Any], go: Callable[..., Any], programme: Programme
) -> None:
    taken = upload(PLAIN).data
    assert [(each["key"], each["unit"]) for each in taken["answers"]["columns"]][4:7] == [
        ("species", None), ("length", "mm"), ("mass", "g"),
    ]  # fmt: skip
    tried = go(taken).data
    assert (tried["result"]["good"], tried["result"]["bad"]) == (4, 0)
    assert tried["result"]["new"] == {"sites": 1, "outings": 2, "runs": 2, "fish": 0}
    assert Capture.objects.count() == 0 and Outing.objects.count() == 0  # a try stores nothing
    brought = go(taken, "bring-in").data
    assert (brought["state"], brought["result"]["good"]) == ("in", 4)
    fish = Capture.objects.get(length_mm=463)
    assert (fish.species, fish.mass_g, fish.sex, fish.length_text) == ("wal", 1085, "f", "463 mm")
    assert (fish.run.site.name, fish.run.outing.date, fish.run.gear) == ("K15", date(2024, 5, 3), "angling")
    assert fish.device_time.hour == 12 and fish.run.outing.state == Outing.State.CLOSED
    assert Capture.objects.filter(length_mm=410).count() == 2  # two fish of one size are two fish


def test_the_same_file_twice_adds_nothing_and_a_longer_one_only_what_is_new(
    upload: Callable[..., Any], go: Callable[..., Any]
) -> None:
    bring(upload, go, PLAIN)
    again = bring(upload, go, PLAIN)
    assert (again["result"]["good"], again["result"]["there"], Capture.objects.count()) == (0, 4, 4)
    assert "imported on" in again["preview"]["notices"][0]
    rows = PLAIN.splitlines()
    mixed = "\n".join([rows[0], rows[4], *rows[1:4], rows[2], "2024-05-04,Ketterwick River,K22,angling,wal,300,230,u"])
    longer = bring(upload, go, mixed)
    assert (longer["result"]["good"], longer["result"]["there"]) == (2, 4)  # other order, a third fish of 410 mm
    assert Outing.objects.count() == 3 and Run.objects.count() == 3


def test_taken_back_and_in_again(upload: Callable[..., Any], go: Callable[..., Any]) -> None:
    taken = bring(upload, go, PLAIN)
    back = go(taken, "take-back")
    assert back.data["state"] == "back" and Capture.present.count() == 0 and Capture.objects.count() == 4
    assert bring(upload, go, PLAIN)["result"]["good"] == 4
    assert Capture.present.count() == 4


def test_what_the_desk_did_to_a_fish_outlasts_taking_its_file_back(
    upload: Callable[..., Any], go: Callable[..., Any], biologist: APIClient
) -> None:
    taken = bring(upload, go, PLAIN)
    corrected, out, restored, _ = Capture.objects.order_by("pk")

    def desk(fish: Capture, path: str, **body: object) -> None:
        answer = biologist.post(
            f"/api/v1/captures/{fish.pk}{path}", {"id": str(new_id()), "reason": "desk check", **body}, format="json"
        )
        assert answer.status_code == 200, answer.data

    desk(corrected, "", length="333")
    desk(out, "/deleted", deleted=True)
    desk(restored, "/deleted", deleted=True)
    desk(restored, "/deleted", deleted=False)
    go(taken, "take-back")
    assert Capture.present.count() == 0
    tried = go(upload(PLAIN).data)
    assert (tried.data["result"]["good"], tried.data["result"]["there"]) == (3, 1)
    assert (
        Capture.objects.get(pk=corrected.pk).length_mm == 333 and Capture.present.count() == 0
    )  # a try stores nothing
    again = bring(upload, go, PLAIN)
    assert (again["result"]["good"], again["result"]["there"]) == (3, 1)
    assert Capture.present.count() == 3 and not Capture.present.filter(pk=out.pk).exists()
    assert Capture.present.get(pk=corrected.pk).length_mm == 333
    # and the file that brought them last takes them back again
    go(again, "take-back")
    assert Capture.present.count() == 0 and Capture.objects.count() == 4


def test_bad_lines_are_named_and_wait_in_a_reject_file(
    upload: Callable[..., Any], go: Callable[..., Any], biologist: APIClient
) -> None:
    content = (
        PLAIN
        + """2024-05-04,Ketterwick River,K22,angling,coelacanth,300,230,f
2024-02-30,Ketterwick River,K22,angling,walleye,300,230,f
2024-05-04,Ketterwick River,K22,angling,walleye,three,230,f
2024-05-04,Loch Elsewhere,K22,angling,walleye,300,230,f
2024-05-04,Ketterwick River,K22,angling,walleye,301,230,f,extra
2024-05-04,Ketterwick River,,angling,walleye,302,230,f
2024-05-04,Ketterwick River,K22,angling,walleye,,,f
2024-05-04,Ketterwick River,K22,angling,walleye,9000,230,=2+3
"""
    )
    tried = go(upload(content).data).data
    assert (tried["result"]["good"], tried["result"]["bad"]) == (4, 8)
    found = {each["line"]: each for each in tried["result"]["rejects"]}
    assert found[6]["column"] == "species" and "coelacanth" in found[6]["reason"]
    assert found[7]["column"] == "date" and "calendar" in found[7]["reason"]
    assert found[8]["column"] == "length_mm" and found[9]["column"] == "water"
    assert "9" in found[10]["reason"] and found[11]["column"] == "site" and found[12]["column"] == "length_mm"
    assert tried["result"]["unknown"]["species"] == [{"word": "coelacanth", "n": 1}]
    file = biologist.get(f"/api/v1/imports/{tried['id']}/rejects.csv")
    rows = list(csv.reader(io.StringIO(file.content.decode())))
    assert rows[0][:4] == ["reject_line", "reject_column", "reject_reason", "date"]
    assert len(rows) == 9 and rows[1][3:] == content.splitlines()[5].split(",")
    assert rows[8][-1] == "'=2+3"  # no spreadsheet runs it
    # a mended reject file comes in as it is: its own three columns are no part of a fish
    brought = go(tried, "bring-in").data
    assert brought["result"]["good"] == 4
    mended = file.content.decode().replace("coelacanth", "walleye")
    result = bring(upload, go, mended)["result"]
    assert (result["good"], result["bad"]) == (1, 7)


@pytest.mark.parametrize(
    ("header", "cells", "units"),
    [
        ("TL (in),Wt (lb)", ["18 1/4,2.45", "16.1,1.5", "12,0.6"], ("in", "lb")),
        ("Total Length,Weight", ["46.3,1.085", "41,0.64", "30.5,0.24"], ("cm", "kg")),
        ("len,mass", ["18.2283,2.392", "16.1,1.41", "12,0.55"], ("in", "lb")),
    ],
)
def test_units_from_the_names_or_from_the_fish(
    upload: Callable[..., Any],
    go: Callable[..., Any],
    programme: Programme,
    header: str,
    cells: list[str],
    units: tuple[str, str],
) -> None:
    content = f"{header},Spp,Station,DATE\n" + "\n".join(f"{cell},WAL,K15,2024-05-03" for cell in cells)
    taken = upload(content).data
    assert tuple(each["unit"] for each in taken["answers"]["columns"][:2]) == units
    fixed = {"water": str(programme.waters.get().pk), "gear": "angling"}
    assert go(taken, fixed=fixed).data["result"]["good"] == 3
    go(taken, "bring-in")
    longest = Capture.objects.order_by("-length_mm").first()
    assert longest is not None and 462 <= longest.length_mm <= 470 and 1080 < longest.mass_g < 1125


def test_what_was_answered_is_remembered(
    upload: Callable[..., Any], go: Callable[..., Any], programme: Programme
) -> None:
    content = "a,b,when,where\nWAE,463,3.4.2024,K15\n"
    taken = upload(content).data
    columns = [("a", "species", None), ("b", "length", "mm"), ("when", "date", None), ("where", "site", None)]
    answers = {
        "columns": [{"header": header, "key": key, "unit": unit} for header, key, unit in columns],
        "fixed": {"water": str(programme.waters.get().pk), "gear": "angling"},
        "words": {"species": {"WAE": "wal"}},
        "date_order": "day",
    }
    assert go(taken, **answers).data["result"]["good"] == 1
    go(taken, "bring-in")
    assert Capture.objects.get().run.outing.date == date(2024, 4, 3)
    second = upload("when,b,a,where\n13.4.2024,300,wae,K15\n").data
    assert [each["key"] for each in second["answers"]["columns"]] == ["date", "length", "species", "site"]
    assert second["preview"]["remembered"] == ["a", "b", "when", "where"]
    assert go(second).data["result"]["good"] == 1


def test_dates_are_asked_about_and_never_guessed(upload: Callable[..., Any], go: Callable[..., Any]) -> None:
    line = "Ketterwick River,K15,angling,walleye,{mm},640\n"
    head = "date,water,site,gear,species,length_mm,mass_g\n"
    unclear = upload(head + "03/04/2024," + line.format(mm=410)).data
    assert unclear["answers"]["date_order"] is None
    refused = go(unclear)
    assert (refused.status_code, refused.data["field"]) == (422, "date_order")
    plain = upload(head + "13/04/2024," + line.format(mm=410)).data
    assert plain["answers"]["date_order"] == "day"
    mixed = upload(head + "13/04/2024," + line.format(mm=410) + "04/14/2024," + line.format(mm=411)).data
    assert mixed["answers"]["date_order"] is None and go(mixed).status_code == 422
    tried = go(mixed, date_order="day").data
    assert tried["result"]["asks"][0]["field"] == "date_order" and tried["result"]["bad"] == 1
    assert go(mixed, "bring-in").status_code == 422 and Capture.objects.count() == 0
    assert go(mixed, date_order="day", mixed_dates=True).data["result"]["asks"] == []
    assert go(mixed, "bring-in").data["result"]["good"] == 1


def test_decimal_commas_latin_1_marks_of_order_and_doubled_names(
    upload: Callable[..., Any], go: Callable[..., Any]
) -> None:
    text = (
        "\ufeffdate;water;site;gear;species;length_cm;length_cm;note\n"
        "2024-05-03;Ketterwick River;K15;angling;Perca flavescens;21,2;;Weiße Stelle\n"
    )
    latin = upload(text.removeprefix("\ufeff").encode("latin-1")).data
    assert "Latin-1" in latin["preview"]["how"] and "semicolon" in latin["preview"]["how"]
    assert latin["preview"]["columns"][6]["header"] == "length_cm (2)" and latin["answers"]["decimal"] == ","
    assert any("length_cm" in notice for notice in latin["preview"]["notices"])
    marked = upload(text.encode()).data
    assert marked["preview"]["columns"][0]["header"] == "date"
    assert go(latin).data["result"]["good"] == 1
    go(latin, "bring-in")
    fish = Capture.objects.get()
    assert (fish.length_mm, fish.note) == (212, "Weiße Stelle")
    wide = upload(text.removeprefix("\ufeff").encode("utf-16")).data
    assert "UTF-16" in wide["preview"]["how"] and go(wide).data["result"]["there"] == 1


@pytest.mark.parametrize(
    ("content", "code"),
    [
        (b"", "file_empty"),
        (b"date,species\n", "no_rows"),
        (("," * 299 + "\n" + "1," * 300).encode(), "too_many_columns"),
        ((",".join(f"c{n}" for n in range(300)) + "\n" + "1," * 299 + "1\n").encode(), "too_many_columns"),
        (b'a,b\n1,"never closed\n2,3\n4,5\n', "quote_unclosed"),
        (b'a,b\n"x" y,2\n', "quote_unclosed"),
        (b"\x89PNG\r\n\x1a\n\x00\x00\x00\rIHDR", "file_no_table"),
        (b"\xff\xd8\xff\xe0\x00\x10JFIF", "file_no_table"),
        (b"%PDF-1.7 whatever", "file_no_table"),
        (b"PK\x03\x04 but no zip", "file_no_table"),
    ],
)
def test_files_that_are_no_table(upload: Callable[..., Any], content: bytes, code: str) -> None:
    response = upload(content)
    assert (response.status_code, response.data["code"], response.data["field"]) == (422, code, "file")
    assert Import.objects.count() == 0


def test_too_large_a_file_is_cut_off(upload: Callable[..., Any], settings: Any) -> None:
    settings.MAX_UPLOAD_BYTES = 100_000
    response = upload(b"a,b\n" + b"1,2\n" * 50_000)
    assert (response.status_code, response.data["code"]) == (422, "file_too_large")


def workbook(rows: list[list[Any]]) -> bytes:
    book = Workbook()
    book.active.title = "Notes"
    sheet = book.create_sheet("Fish")
    for row in rows:
        sheet.append(row)
    file = io.BytesIO()
    book.save(file)
    return file.getvalue()


def test_a_workbook(upload: Callable[..., Any], go: Callable[..., Any]) -> None:
    content = workbook(
        [
            ["Fish of the spring round"],
            [],
            ["Date", "Water", "Site", "Gear", "Species", "TL_mm", "Wt_g", "PIT"],
            [date(2024, 5, 3), "ketterwick river", "K15", "Angling", "Walleye", 463.0, 1085.5, None],
            [date(2024, 5, 4), "Ketterwick River", "K15", "Angling", "Walleye", 410, 640, "999000000123456"],
        ]
    )
    taken = upload(content).data
    assert taken["preview"]["how"] == "XLSX, sheet 'Fish'"
    assert taken["preview"]["columns"][0]["samples"] == ["2024-05-03", "2024-05-04"]
    tried = go(taken).data
    assert (tried["result"]["good"], tried["result"]["new"]["fish"]) == (2, 1), tried["result"]["rejects"]
    go(taken, "bring-in")
    assert Capture.objects.get(length_mm=463).mass_text == "1085.5 g"
    placed = Placement.objects.get()
    assert (placed.tag.number, placed.tag.state) == ("999000000123456", TagState.PLACED)
    # the same fish as CSV has the same lines, so it is known
    lines = [
        "Date,Water,Site,Gear,Species,TL_mm,Wt_g,PIT",
        "2024-05-03,ketterwick river,K15,Angling,Walleye,463,1085.5,",
    ]
    assert go(upload("\n".join(lines)).data).data["result"]["there"] == 1


def test_a_workbook_that_would_fill_the_disk(upload: Callable[..., Any]) -> None:
    file = io.BytesIO()
    with zipfile.ZipFile(file, "w", zipfile.ZIP_DEFLATED) as package:
        package.writestr("xl/workbook.xml", "<workbook/>")
        with package.open("xl/worksheets/sheet1.xml", "w") as sheet:
            for _ in range(500):
                sheet.write(b"0" * 1_000_000)
    response = upload(file.getvalue(), "fish.xlsx")
    assert (response.status_code, response.data["code"]) == (422, "zip_too_large")


@pytest.mark.parametrize("sheet", [b"<!DOCTYPE x [<!ENTITY a 'b'>]><worksheet>&a;</worksheet>", b"not xml"])
def test_a_damaged_workbook(upload: Callable[..., Any], sheet: bytes) -> None:
    file = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(workbook([["a", "b"], [1, 2]]))) as whole, zipfile.ZipFile(file, "w") as broken:
        for piece in whole.infolist():
            broken.writestr(piece, sheet if "workbook.xml" in piece.filename else whole.read(piece))
    response = upload(file.getvalue())
    assert (response.status_code, response.data["code"]) == (422, "workbook_unreadable")


def test_marks_in_a_file_become_fish_that_are_met_again(
    upload: Callable[..., Any], go: Callable[..., Any], programme: Programme, biologist: APIClient
) -> None:
    head = "date,water,site,gear,species,length_mm,mass_g,pit\n"
    content = head + (
        "2024-05-03,Ketterwick River,K15,angling,walleye,463,1085,999000000123456\n"
        "2023-05-03,Ketterwick River,K15,angling,walleye,410,640,999000000123456\n"
        "2023-05-03,Ketterwick River,K15,angling,yep,210,110,999000000123456\n"
        "2023-05-03,Ketterwick River,K15,angling,walleye,411,640,99900000012345\n"
    )
    result = bring(upload, go, content)["result"]
    assert (result["good"], result["bad"]) == (2, 2)
    assert "14" in result["rejects"][1]["reason"] or "15" in result["rejects"][1]["reason"]
    placement = Placement.objects.get()
    assert (
        Capture.objects.get(pk=placement.capture_id).length_mm == 410
    )  # placed at the first meeting in time, not in the file
    story = biologist.get(f"/api/v1/fish/{placement.fish_id}").data
    assert story["encounters"][1]["journey"]["growth_mm"] == 53


def test_a_data_package_goes_out_and_in_again_unchanged(
    upload: Callable[..., Any], go: Callable[..., Any], biologist: APIClient, sync: Any, run: Run, called: Any
) -> None:
    Tag.objects.create(programme=run.outing.programme, kind="pit", number="999000000123456")
    calls = [
        called(length="18 1/4 in", mass="2lb 7oz", sex="f", sex_evidence="pressure", note='=scar, "left"'),
        called(length="~31in", mass=None),
        called(species="yep", length=None, mass=None, count=7),
        called(scanned="none"),
        called(length="900", mass="1085"),
    ]
    assert all(each["state"] == "stored" for each in sync(*calls).data["results"])
    marked = calls[3]["id"]
    from server.tests.conftest import operation

    tagging = operation("tag.place", capture=marked, kind="pit", number="999000000123456")
    leaving = operation("release.set", captures=[marked], code="weak")
    answered = sync(tagging, leaving).data
    assert {each["state"] for each in answered["results"]} == {"stored"}, answered
    Run.objects.update(ended_at=timezone.now() + timedelta(hours=1))
    Outing.objects.update(state=Outing.State.CLOSED)
    address = f"/api/v1/programmes/{run.outing.programme_id}/captures"

    def csv_now() -> str:
        return b"".join(biologist.get(f"{address}.csv").streaming_content).decode()

    before = csv_now()
    package = b"".join(biologist.get(f"{address}.zip").streaming_content)
    same = bring(upload, go, package)
    assert (same["result"]["good"], same["result"]["there"], same["result"]["bad"]) == (0, 5, 0)
    Placement.objects.all().delete()
    Capture.objects.all().delete()
    brought = bring(upload, go, package)
    assert (brought["result"]["good"], brought["result"]["bad"]) == (5, 0), brought["result"]["rejects"]
    assert csv_now() == before


def test_nothing_is_half_in_when_it_is_stopped_or_fails(
    upload: Callable[..., Any], go: Callable[..., Any], monkeypatch: pytest.MonkeyPatch
) -> None:
    lines = "".join(f"2024-05-03,Ketterwick River,K15,angling,walleye,{300 + n / 10},,f\n" for n in range(5000))
    taken = upload(PLAIN.splitlines()[0] + "\n" + lines).data
    assert go(taken).data["result"]["good"] == 5000
    from nailwright.jobs.working import Progress, Stopped

    def stop_midway(progress: Progress, done: int, total: int | None = None) -> None:
        assert Capture.objects.count() > 0  # this transaction sees what it wrote
        progress.done = done
        if done > 2000:
            raise Stopped

    with monkeypatch.context() as patched:
        patched.setattr(Progress, "tell", stop_midway)
        stopped = go(taken, "bring-in").data
    assert (stopped["job"]["state"], stopped["state"]) == ("stopped", "tried")
    assert Capture.objects.count() == Run.objects.count() == Outing.objects.count() == 0

    def fail(*_: Any, **__: Any) -> None:
        raise RuntimeError("unforeseen")

    with monkeypatch.context() as patched:
        patched.setattr(Progress, "tell", fail)
        failed = go(taken, "bring-in").data
    assert failed["job"]["error"]["code"] == "job_failed" and Capture.objects.count() == 0
    assert go(taken, "bring-in").data["result"]["good"] == 5000


def test_answers_that_cannot_be(upload: Callable[..., Any], go: Callable[..., Any], biologist: APIClient) -> None:
    taken = upload(PLAIN).data
    columns = taken["answers"]["columns"]

    def refused(**answers: Any) -> tuple[int, str]:
        response = go(taken, **answers)
        return response.status_code, response.data["code"]

    assert refused(columns=[{**each, "key": "length", "unit": "mm"} for each in columns]) == (422, "column_twice")
    assert refused(columns=[{**each, "key": ""} for each in columns]) == (422, "column_missing")
    assert refused(columns=[{**each, "unit": "lb"} for each in columns]) == (422, "unit_unknown")
    assert refused(fixed={"water": "no-such"}) == (422, "water_unknown")
    assert refused(columns=[{**each, "unit": None} for each in columns]) == (422, "unit_unknown")
    assert go(taken, "bring-in").data["code"] == "not_tried"
    short = go(taken, columns=[each for each in columns if each["key"] != "sex"]).data
    assert short["job"]["error"]["code"] == "columns_differ"
    assert biologist.delete(f"/api/v1/imports/{taken['id']}").status_code == 204
    assert biologist.get(f"/api/v1/imports/{taken['id']}").status_code == 404


def test_a_lost_worker_is_noticed(
    upload: Callable[..., Any], go: Callable[..., Any], biologist: APIClient, programme: Programme
) -> None:
    from django_tasks_db.models import DBTaskResult

    taken = upload(PLAIN).data
    biologist.post(f"/api/v1/imports/{taken['id']}/try", taken["answers"], format="json")
    job = Job.objects.get()
    assert biologist.post(f"/api/v1/imports/{taken['id']}/try", taken["answers"], format="json").status_code == 422
    DBTaskResult.objects.update(status="RUNNING")
    Job.objects.update(state=Job.State.RUNNING, heartbeat=timezone.now() - timedelta(seconds=20))
    assert biologist.get(f"/api/v1/jobs/{job.pk}").data["state"] == "running"
    Job.objects.update(heartbeat=timezone.now() - timedelta(seconds=60))
    lost = biologist.get(f"/api/v1/jobs/{job.pk}").data
    assert (lost["state"], lost["error"]["code"]) == ("failed", "worker_lost")
    assert DBTaskResult.objects.get().status == "FAILED"
    assert go(taken).data["job"]["state"] == "done"


def test_a_job_is_stopped_before_it_begins(upload: Callable[..., Any], biologist: APIClient) -> None:
    taken = upload(PLAIN).data
    tried = biologist.post(f"/api/v1/imports/{taken['id']}/try", taken["answers"], format="json").data
    stopped = biologist.post(f"/api/v1/jobs/{tried['job']['id']}/stop").data
    assert stopped["state"] == "stopped"
    call_command("db_worker", batch=True, interval=0, startup_delay=False, verbosity=0, reload=False)
    assert biologist.get(f"/api/v1/imports/{taken['id']}").data["result"] is None
    assert biologist.post(f"/api/v1/jobs/{tried['job']['id']}/stop").data["code"] == "job_over"


def test_the_file_itself_is_kept(upload: Callable[..., Any]) -> None:
    upload(PLAIN)
    row = Import.objects.get()
    assert gzip.decompress(row.packed) == PLAIN.encode() == row.content()
    assert json.dumps(row.answers)


HEAD = "date,water,site,gear,species,length_mm,mass_g,pit,t_bar\n"
BOTH = HEAD + (
    "2024-05-03,Ketterwick River,K15,angling,walleye,463,1085,999000000000201,W2001\n"
    "2025-05-03,Ketterwick River,K15,angling,walleye,481,1190,999000000000201,\n"
)


def test_a_file_with_a_pit_and_a_t_bar_column_keeps_both(upload: Callable[..., Any], go: Callable[..., Any]) -> None:
    assert bring(upload, go, BOTH)["result"]["good"] == 2
    first, second = Capture.objects.order_by("device_time")
    assert first.fish_id == second.fish_id is not None
    assert set(Scan.objects.filter(source_id=first.pk).values_list("kind", "number")) == {
        ("pit", "999000000000201"),
        ("tbar", "W2001"),
    }
    assert set(Placement.present.values_list("tag__kind", flat=True)) == {"pit", "tbar"}
    assert rebuild_encounters() == 0 and Encounter.objects.count() == 2


def test_numbers_of_two_fish_on_one_line_are_refused_and_leave_nothing(
    upload: Callable[..., Any], go: Callable[..., Any]
) -> None:
    bring(upload, go, BOTH + "2024-05-03,Ketterwick River,K15,angling,walleye,300,300,999000000000202,W2002\n")
    n = Outing.objects.count(), Run.objects.count(), Site.objects.count(), Capture.objects.count()
    crossed = HEAD + "2026-05-03,Ketterwick River,New place,angling,walleye,490,1200,999000000000201,W2002\n"
    result = bring(upload, go, crossed)["result"]
    assert (result["good"], result["bad"], result["new"]) == (0, 1, {"sites": 0, "outings": 0, "runs": 0, "fish": 0})
    assert "2 different fish" in result["rejects"][0]["reason"]
    assert (Outing.objects.count(), Run.objects.count(), Site.objects.count(), Capture.objects.count()) == n


def test_taking_a_file_back_puts_no_tag_that_swims_into_stock(
    upload: Callable[..., Any], go: Callable[..., Any], programme: Programme, sync: Any, called: Any
) -> None:
    Tag.objects.create(programme=programme, kind="pit", number="999000000000203")
    own = HEAD + "2024-05-04,Ketterwick River,K15,angling,walleye,350,500,999000000000203,W2003\n"
    taken = bring(upload, go, BOTH + own.removeprefix(HEAD))
    met = called(scanned="number", scans=[{"kind": "tbar", "number": "W2001"}])
    assert sync(met).status_code == 200
    go(taken, "take-back")
    states = dict(Tag.objects.values_list("number", "state"))
    # read on a fish since: it stays in that fish; from stock: back there; never in stock: not there now either
    assert states == {
        "W2001": "placed", "999000000000201": "elsewhere", "999000000000203": "stock", "W2003": "elsewhere",
    }  # fmt: skip
    assert str(Placement.present.get().capture_id) == met["id"]
    assert rebuild_encounters() == 0
    assert go(taken).data["state"] == "tried"
    again = go(taken, "bring-in").data["result"]
    assert again["good"] == 3, again
    assert set(Tag.objects.values_list("state", flat=True)) == {"placed"}
    assert rebuild_encounters() == 0


def test_a_fish_of_inches_goes_out_and_in_with_the_unit_of_its_text(
    upload: Callable[..., Any], go: Callable[..., Any], biologist: APIClient, sync: Any, called: Any, outing: Outing
) -> None:
    Outing.objects.update(length_unit="in", mass_unit="lb")
    sync(called(length="18 1/4", mass="~2.4"))
    address = f"/api/v1/programmes/{outing.programme_id}/captures.csv?species=wal"
    out = b"".join(biologist.get(address).streaming_content).decode()
    Capture.objects.all().delete()
    Outing.objects.update(length_unit="mm", mass_unit="g", state="closed")
    assert bring(upload, go, out)["result"]["good"] == 1
    fish = Capture.objects.get()
    assert (fish.length_text, fish.length_unit, fish.length_mm) == ("18 1/4", "in", 463.6)
    assert (fish.mass_text, fish.mass_unit, fish.mass_basis) == ("~2.4", "lb", "estimated")
    body = {"id": str(new_id()), "reason": "seen on the photo", "note": "scar"}
    assert biologist.post(f"/api/v1/captures/{fish.pk}", body, format="json").status_code == 200
    assert Capture.objects.get().length_mm == 463.6


def broken_book(**changes: bytes) -> bytes:
    """A workbook with pieces replaced, by the ends of their names."""
    file = io.BytesIO()
    whole = workbook([["date", "species"], ["2024-05-03", "wal"]])
    with zipfile.ZipFile(io.BytesIO(whole)) as book, zipfile.ZipFile(file, "w", zipfile.ZIP_DEFLATED) as broken:
        for piece in book.infolist():
            new = next((content for end, content in changes.items() if piece.filename.endswith(f"{end}.xml")), None)
            broken.writestr(piece.filename, book.read(piece) if new is None else new)
    return file.getvalue()


def sheet_of(rows: str) -> bytes:
    space = "http://schemas.openxmlformats.org/spreadsheetml/2006/main"
    return f'<worksheet xmlns="{space}"><sheetData>{rows}</sheetData></worksheet>'.encode()


def with_broken_sums(content: bytes, name: bytes) -> bytes:
    """The zip with a wrong checksum wherever it stands for a piece."""
    spoilt = bytearray(content)
    for mark, at in ((b"PK\x03\x04", 14), (b"PK\x01\x02", 16)):
        start = content.find(mark)
        while start >= 0:
            if content[start + (30 if at == 14 else 46) :].startswith(name):
                spoilt[start + at] ^= 0xFF
            start = content.find(mark, start + 4)
    return bytes(spoilt)


def locked(content: bytes) -> bytes:
    """The zip with the flag of a password on every piece."""
    spoilt = bytearray(content)
    for mark, at in ((b"PK\x03\x04", 6), (b"PK\x01\x02", 8)):
        start = content.find(mark)
        while start >= 0:
            spoilt[start + at] |= 1
            start = content.find(mark, start + 4)
    return bytes(spoilt)


def package_with(description: bytes) -> bytes:
    file = io.BytesIO()
    with zipfile.ZipFile(file, "w") as package:
        package.writestr("datapackage.json", description)
        package.writestr("captures.csv", "species,length\nwal,400\n")
    return file.getvalue()


GOOD_PACKAGE = package_with(b'{"resources": [{"path": "captures.csv"}]}')


@pytest.mark.parametrize(
    ("content", "code"),
    [
        (broken_book(sheet2=sheet_of('<row r="1"><c r="A1" t="s"><v>99</v></c></row>')), "workbook_unreadable"),
        (broken_book(sheet2=sheet_of('<row r="1"><c r="A1" t="s"><v>x</v></c></row>')), "workbook_unreadable"),
        (locked(workbook([["a", "b"], [1, 2]])), "workbook_unreadable"),
        (with_broken_sums(workbook([["a", "b"], [1, 2]]), b"xl/worksheets/sheet2.xml"), "workbook_unreadable"),
        (broken_book(sheet2=sheet_of('<row r="1"><c><v>1</v></c></row><row r="400000000"><c><v>1</v></c></row>')), "no_rows"),
        (broken_book(sheet2=sheet_of('<row r="1"><c><v>1</v></c></row><row r="30001"><c><v>1</v></c></row>')), "rows_far_apart"),
        (package_with(b'{"resources": ' + b"[" * 100_000), "package_unreadable"),
        (package_with(b'{"resources": [{"path": "../fish.csv"}]}'), "package_unreadable"),
        (package_with(b'{"resources": [{"path": {}}]}'), "package_unreadable"),
        (with_broken_sums(GOOD_PACKAGE, b"captures.csv"), "zip_unreadable"),
        (locked(GOOD_PACKAGE), "zip_unreadable"),
    ],
)  # fmt: skip
def test_damaged_files_are_told_and_not_kept(upload: Callable[..., Any], content: bytes, code: str) -> None:
    response = upload(content)
    assert (response.status_code, response.data["code"], response.data["field"]) == (422, code, "file")
    assert Import.objects.count() == 0


def test_no_byte_of_a_workbook_can_fail_the_server(upload: Callable[..., Any]) -> None:
    """Bytes of its pieces are changed at random (seeded); whatever comes of it is taken or told."""
    rng = random.Random(10)
    with zipfile.ZipFile(io.BytesIO(workbook([["date", "species"], ["2024-05-03", "wal"]]))) as book:
        pieces = {each.filename: book.read(each) for each in book.infolist()}
    for _ in range(150):
        name = rng.choice(sorted(pieces))
        spoilt = bytearray(pieces[name])
        for _ in range(rng.choice((1, 5, 30))):
            spoilt[rng.randrange(len(spoilt))] = rng.randrange(256)
        file = io.BytesIO()
        with zipfile.ZipFile(file, "w") as package:
            for each, content in pieces.items():
                package.writestr(each, spoilt if each == name else content)
        assert upload(file.getvalue()).status_code in (201, 422)


def test_a_large_workbook_is_read_by_the_worker(
    upload: Callable[..., Any], go: Callable[..., Any], biologist: APIClient, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr("nailwright.common.sources.xlsx_file._LARGE", 1000)
    line = [date(2024, 5, 3), "Ketterwick River", "K15", "Angling", "Walleye", 463]
    taken = upload(workbook([["Date", "Water", "Site", "Gear", "Species", "TL_mm"], line])).data
    assert (taken["state"], taken["job"]["state"], taken["preview"]["columns"]) == ("reading", "waiting", [])
    assert biologist.post(f"/api/v1/imports/{taken['id']}/bring-in").data["code"] == "job_going"
    call_command("db_worker", batch=True, interval=0, startup_delay=False, verbosity=0, reload=False)
    read = biologist.get(f"/api/v1/imports/{taken['id']}").data
    assert (read["state"], read["job"]["state"], len(read["preview"]["columns"])) == ("taken", "done", 6)
    assert go(read).data["result"]["good"] == 1
    broken = upload(broken_book(sheet2=sheet_of('<row r="1"><c t="s"><v>99</v></c></row>'))).data
    call_command("db_worker", batch=True, interval=0, startup_delay=False, verbosity=0, reload=False)
    failed = biologist.get(f"/api/v1/imports/{broken['id']}").data
    assert (failed["state"], failed["job"]["error"]["code"]) == ("reading", "workbook_unreadable")
    assert biologist.post(f"/api/v1/imports/{broken['id']}/bring-in").data["code"] == "file_not_read"
    assert biologist.delete(f"/api/v1/imports/{broken['id']}").status_code == 204
