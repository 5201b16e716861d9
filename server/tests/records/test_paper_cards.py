"""Paper cards, many at once: out of messy files, checked, stored once."""

from __future__ import annotations

import io
import json
from collections.abc import Callable
from datetime import date
from typing import Any

import openpyxl
import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from rest_framework.test import APIClient

from nailwright.common.rows import new_id
from nailwright.programmes.models import Membership, Person, Programme
from nailwright.returns.models import Card
from nailwright.tags.models import Encounter, Tag
from server.tests.conftest import operation

MESSY = (
    "Cards of the spring weekend;;;;;;;;\n"
    "\n"
    "Tagger No;Tag #;Species;Length (cm);Measured/estimated;Date;Time;Place;Cond.\n"
    "17;W1200;Walleye;41,5;m;23.05.2026;06:40;old pier, north side;1\n"
    "Vera Rane;w-1201;wal;38;e;24.05.2026;evening;;2\n"
    "17;W1202;salmon of the moon;38;m;24.05.2026;;reed;2\n"
    "17;W1203;wal;415;m;24.05.2026;;reed;2\n"
    "99;W1204;wal;40;m;24.05.2026;;reed;2\n"
    "17;W1205;wal;40;m;31.02.2026;;reed;2\n"
    "17;W1206;wal;40;m;24.05.2026;;reed;9\n"
    ";;;;;;;;\n"
    "17;;wal;;;;;;\n"
)


@pytest.fixture
def kit(client_as: Callable[[str], APIClient], programme: Programme) -> Membership:
    mine = Membership.objects.get(person=client_as("volunteer").handler._force_user)  # type: ignore[attr-defined]
    Person.objects.filter(pk=mine.person_id).update(name="Vera Rane")
    Membership.objects.filter(pk=mine.pk).update(number="17")
    Tag.objects.bulk_create([Tag(programme=programme, kind="tbar", number=f"W12{n:02d}") for n in range(20)])
    return Membership.objects.get(pk=mine.pk)


@pytest.fixture
def read(biologist: APIClient, programme: Programme) -> Callable[[str | bytes], Any]:
    def send(content: str | bytes, name: str = "cards.csv", **columns: str) -> Any:
        raw = content.encode() if isinstance(content, str) else content
        body = {"file": SimpleUploadedFile(name, raw), **({"columns": json.dumps(columns)} if columns else {})}
        return biologist.post(f"/api/v1/programmes/{programme.pk}/paper-cards/file", body, format="multipart")

    return send


@pytest.fixture
def filed(biologist: APIClient, programme: Programme) -> Callable[..., Any]:
    def send(rows: list[Any], store: bool = True, client: APIClient = biologist, **how: Any) -> Any:
        body = {"rows": rows, "length_unit": "mm", "store": store, **how}
        return client.post(f"/api/v1/programmes/{programme.pk}/paper-cards", body, format="json")

    return send


def test_a_messy_file_line_by_line(read: Any, filed: Any, kit: Membership) -> None:
    sheet = read(MESSY).data
    assert [each["key"] for each in sheet["columns"]] == [
        "tagger", "number_text", "species", "length", "length_basis", "date", "block", "place_text", "condition",
    ]  # fmt: skip
    assert (len(sheet["rows"]), sheet["date_order"]) == (8, "day")
    assert sheet["rows"][0]["cells"]["length"] == "41,5 cm"
    looked = filed(sheet["rows"], store=False, date_order="day").data
    assert [(each["state"], each["field"]) for each in looked] == [
        ("ready", ""), ("ready", ""), ("refused", "species"), ("refused", "length"), ("refused", "tagger"), ("refused", "date"),
        ("refused", "condition"), ("ready", ""),
    ]  # fmt: skip
    assert "salmon of the moon" in looked[2]["message"] and "4150 mm" in looked[3]["message"]
    assert looked[1]["missing"] == ["place or position"] and looked[7]["missing"][0] == "length"
    assert (
        not Card.objects.exists() and not Encounter.objects.exists() and Tag.objects.filter(state="stock").count() == 20
    )
    stored = filed(sheet["rows"], date_order="day").data
    assert [each["state"] for each in stored] == ["stored", "stored", *["refused"] * 5, "stored"]
    first, second = (Card.objects.get(pk=each["id"]) for each in stored[:2])
    assert (first.length_mm, first.length_basis, first.block, first.condition, str(first.caught_on)) == (415.0, "measured", "dawn", 1, "2026-05-23")  # fmt: skip
    assert (first.tagger_id, first.channel, first.tagger_number, first.place_text) == (kit.person_id, "paper", "17", "old pier, north side")  # fmt: skip
    assert (second.length_basis, second.block, second.number_text) == ("estimated", "evening", "w-1201")
    assert first.fish_id and second.fish_id and Encounter.objects.count() == 2


def test_the_same_file_twice_adds_nothing(read: Any, filed: Any, kit: Membership) -> None:
    for expected in ("stored", "there"):
        rows = read(MESSY).data["rows"][:2]
        assert [each["state"] for each in filed(rows, date_order="day").data] == [expected] * 2
    assert Card.objects.count() == 2


def test_two_cards_that_say_the_same_are_two(read: Any, filed: Any, kit: Membership) -> None:
    text = "tagger,species,length mm,date\n17,wal,400,2026-05-24\n17,wal,400,2026-05-24\n"
    rows = read(text).data["rows"]
    assert {each["state"] for each in filed(rows).data} == {"stored"} and Card.objects.count() == 2


def test_a_column_whose_name_says_nothing_is_chosen(read: Any, filed: Any, kit: Membership) -> None:
    text = "tagger,species,how big (cm),boat,date\n17,wal,41,Old lady,2026-05-24\n"
    told = read(text).data
    assert [each["key"] for each in told["columns"]] == ["tagger", "species", "", "", "date"]
    chosen = {"how big (cm)": "length", "boat": "remarks", "date": ""}
    (row,) = read(text, **chosen).data["rows"]
    assert row["cells"] == {"tagger": "17", "species": "wal", "length": "41 cm", "remarks": "Old lady"}
    assert filed([row]).data[0]["state"] == "stored" and Card.objects.get().length_mm == 410
    for columns, code in (({"boat": "moon"}, "column_unknown"), ({"boat": "length", "date": "length"}, "column_twice")):
        refused = read(text, **columns)
        assert (refused.status_code, refused.data["code"]) == (422, code)


def test_a_workbook_with_numbers_and_days_as_cells(read: Any, filed: Any, kit: Membership) -> None:
    book = openpyxl.Workbook()
    sheet = book.active
    assert sheet is not None
    sheet.append(["Tagger", "Tag number", "Species", "TL (in)", "Date", "Condition"])
    sheet.append([17, "W1207", "walleye", 16.5, date(2026, 5, 24), 1])
    out = io.BytesIO()
    book.save(out)
    told = read(out.getvalue(), "cards.xlsx").data
    (stored,) = filed(told["rows"]).data
    card = Card.objects.get()
    assert stored["state"] == "stored" and (card.length_mm, card.length_text, str(card.caught_on)) == (419.1, "16.5 in", "2026-05-24")  # fmt: skip


def test_the_same_fish_on_paper_and_by_phone_is_asked_about(filed: Any, kit: Membership, sync: Any) -> None:
    by_phone = operation(
        "card.record", tagger=str(kit.pk), number_text="W1210", tag_kind="tbar", species="wal", length="40 cm", condition=1
    )  # fmt: skip
    volunteer = APIClient()
    volunteer.force_authenticate(kit.person)
    assert sync(by_phone, client=volunteer).data["results"][0]["state"] == "stored"
    day = str(Card.objects.get().caught_on)
    row = {"id": str(new_id()), "cells": {"number_text": "W1210", "species": "wal", "length": "402", "date": day, "tagger": "17"}}  # fmt: skip
    (told,) = filed([row]).data
    assert told["state"] == "stored" and "perhaps the same fish told twice" in told["problem"]
    assert Card.objects.count() == 2 and Encounter.objects.count() == 1


def test_typed_lines_take_the_tagger_chosen_for_all(filed: Any, kit: Membership) -> None:
    row = {"id": str(new_id()), "cells": {"species": "wal", "length": "402", "date": "5/24/2026"}}
    (refused,) = filed([row], date_order="month").data
    assert (refused["state"], refused["field"]) == ("refused", "tagger")
    (stored,) = filed([row], tagger=str(kit.pk), date_order="month").data
    assert (stored["state"], stored["tagger"]) == ("stored", "Vera Rane")
    (again,) = filed([row], tagger=str(kit.pk), date_order="month").data
    assert again["state"] == "there" and Card.objects.count() == 1


def test_a_day_that_may_be_read_two_ways_is_asked_about(filed: Any, kit: Membership) -> None:
    row = {"id": str(new_id()), "cells": {"species": "wal", "date": "5/4/2026", "tagger": "17"}}
    (told,) = filed([row]).data
    assert (told["state"], told["field"]) == ("refused", "date") and "day first or month first" in told["message"]
    assert filed([row], date_order="day").data[0]["state"] == "stored"
    assert str(Card.objects.get().caught_on) == "2026-04-05"


def test_two_people_of_one_name_are_told_apart_by_number(filed: Any, kit: Membership, client_as: Any) -> None:
    other = Membership.objects.get(person=client_as("volunteer").handler._force_user)
    Person.objects.filter(pk=other.person_id).update(name="Vera Rane")
    Membership.objects.filter(pk=other.pk).update(number="18")
    row = {"id": str(new_id()), "cells": {"species": "wal", "tagger": "vera  rane"}}
    (told,) = filed([row]).data
    assert told["state"] == "refused" and "2 people go by" in told["message"]
    assert filed([{**row, "cells": {**row["cells"], "tagger": "18"}}]).data[0]["state"] == "stored"
    assert Card.objects.get().tagger_id == other.person_id


def test_the_key_of_another_programmes_card_is_refused_and_tells_nothing(filed: Any, kit: Membership) -> None:
    elsewhere = Programme.objects.create(name="Elsewhere")
    theirs = Card.objects.create(
        programme=elsewhere, tagger=kit.person, recorder=kit.person, problem="their secret", remarks="theirs"
    )
    row = {"id": str(theirs.pk), "cells": {"species": "wal", "tagger": "17"}}
    for store in (False, True):
        (told,) = filed([row], store=store).data
        assert (told["state"], told["problem"], told["missing"]) == ("refused", "", [])
    theirs.refresh_from_db()
    assert theirs.remarks == "theirs" and Card.objects.count() == 1


@pytest.mark.parametrize(
    ("content", "code"),
    [
        ("", "file_empty"),
        ("alpha,beta\n1,2\n", "columns_unknown"),
        ("species,length\n", "no_rows"),
        (b"\x89PNG\r\n", "file_no_table"),
    ],
)
def test_what_is_no_sheet_of_cards_is_refused(read: Any, content: Any, code: str) -> None:
    refused = read(content)
    assert (refused.status_code, refused.data["code"]) == (422, code)


@pytest.mark.parametrize(
    "rows",
    [
        [],
        [{"id": "x", "cells": {}}],
        [{"id": str(new_id()), "cells": {"moon": "1"}}],
        [{"id": str(new_id()), "cells": [1]}],
    ],
)
def test_bodies_that_are_none(filed: Any, rows: Any) -> None:
    assert filed(rows).status_code == 422


def test_only_the_desk_files_cards(filed: Any, client_as: Any, kit: Membership) -> None:
    row = {"id": str(new_id()), "cells": {"species": "wal", "tagger": "17"}}
    assert {role: filed([row], client=client_as(role)).status_code for role in ("crew", "volunteer", "viewer")} == {
        "crew": 403, "volunteer": 403, "viewer": 403,
    }  # fmt: skip
    assert not Card.objects.exists()
