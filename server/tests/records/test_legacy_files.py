"""Files as they lie in drawers: years of two digits, dashes, commas, headings in other languages or none that says anything."""

from __future__ import annotations

import io
import math
import random
from collections.abc import Callable
from datetime import date
from typing import Any

import pytest
from openpyxl import load_workbook
from rest_framework.test import APIClient

from nailwright.common.rows import new_id
from nailwright.deck.models import Capture
from nailwright.programmes.models import Programme
from nailwright.records.models import Import, Mapping
from server.tests.records.test_imports import PLAIN, bring

pytestmark = pytest.mark.django_db(transaction=True)


def legacy(n: int = 40) -> str:
    """A German sheet: semicolons, commas, years of two digits, a dash where nothing was measured."""
    random_ = random.Random(3)
    lines = ["Fangdatum;Gew\u00e4sser;Probestelle;Fischart;L\u00e4nge (cm);Gewicht;Geschlecht;Bemerkung"]
    for place in range(n):
        cm = random_.uniform(28, 60)
        grams = 10 ** (-5.18 + 3.18 * math.log10(cm * 10)) * random_.uniform(0.92, 1.08)
        mass = "k.A." if place % 9 == 0 else "unbek." if place % 11 == 0 else f"{grams:.1f}".replace(".", ",")
        day = f"{place % 27 + 1:02d}.05.{('98', '99', '07')[place % 3]}"
        lines.append(
            f"{day};Ketterwick River;K15;walleye;{cm:.1f};{mass};{'wm-'[place % 3]};-".replace(
                f"{cm:.1f}", f"{cm:.1f}".replace(".", ",")
            )
        )
    return "\n".join(lines) + "\n"


def test_a_german_sheet_is_in_with_three_answers(upload: Any, go: Any) -> None:
    taken = upload(legacy()).data
    keys = [each["key"] for each in taken["answers"]["columns"]]
    assert keys == ["date", "water", "site", "species", "length", "mass", "sex", "note"]
    assert [each["unit"] for each in taken["answers"]["columns"]][4:6] == ["cm", "g"]
    assert taken["answers"]["decimal"] == "," and taken["preview"]["columns"][0]["short_year"] == "01.05.98"
    assert taken["answers"]["date_order"] == "day"  # the 13th month shows it
    # first try: what stands against it, in groups
    tried = go(taken, fixed={"gear": "angling"}).data["result"]
    (years,) = [each for each in tried["groups"] if each["code"] == "year_short"]
    assert years["n"] == 40 and years["column"] == "Fangdatum" and tried["good"] == 0
    # one answer for all of them; then the word that nobody knows
    tried = go(taken, fixed={"gear": "angling"}, years_until=2026).data["result"]
    (words,) = tried["groups"]
    assert words["column"] == "Gewicht" and words["cells"] == ["unbek."] and tried["good"] == 40 - words["n"]
    answers = {"fixed": {"gear": "angling"}, "years_until": 2026, "missing": ["Unbek."]}
    tried = go(taken, **answers).data["result"]
    assert (tried["good"], tried["bad"], tried["groups"]) == (40, 0, [])
    assert go(taken, "bring-in").status_code == 200
    assert {each.year for each in Capture.objects.values_list("run__outing__date", flat=True)} == {1998, 1999, 2007}
    assert (
        set(Capture.objects.values_list("sex", flat=True)) == {"f", "m", "u"}
        and not Capture.objects.exclude(note="").exists()
    )
    # the next one of that kind knows it all
    again = upload(legacy(41)).data["answers"]
    assert (again["years_until"], again["missing"], again["fixed"]["gear"]) == (2026, ["unbek."], "angling")


@pytest.mark.parametrize(("until", "year"), [(2026, 1998), (1999, 1998), (2098, 2098), (2100, 2098)])
def test_a_window_of_a_hundred_years(upload: Any, go: Any, until: int, year: int) -> None:
    text = PLAIN.replace("2024-05-03", "3.5.98").replace("2024-05-04", "14.5.98")
    bring(upload, go, text, date_order="day", years_until=until)
    assert set(Capture.objects.values_list("run__outing__date", flat=True)) == {date(year, 5, 3), date(year, 5, 14)}


@pytest.mark.parametrize("wrong", [1948, 2101, "soon", 1.5])
def test_a_window_that_is_none_is_refused(upload: Any, go: Any, wrong: Any) -> None:
    answer = go(upload(PLAIN).data, years_until=wrong)
    assert answer.status_code == 422 and answer.data["field"].endswith("years_until")


def test_columns_are_told_by_their_values(upload: Any) -> None:
    rows = ["A,B,C,D,E,F"]
    for place in range(30):
        mm = 300 + 9 * place
        rows.append(
            f"2024-05-{place % 28 + 1:02d},{'walleye' if place % 3 else 'yep'},{mm},{round(8e-6 * mm**3.05)},9990000000{place:05d},{place * 37 % 11}"
        )
    taken = upload("\n".join(rows)).data
    assert [each["key"] for each in taken["answers"]["columns"]] == ["date", "species", "length", "mass", "pit", ""]
    told = taken["preview"]["evidence"]
    assert told["date"] == "'A': 100% of its cells are dates" and "rises with the length" in told["mass"]


def test_a_file_of_before_is_still_shown(upload: Any, biologist: APIClient) -> None:
    """Its preview and answers say nothing of short years, missing words and groups."""
    taken = upload(PLAIN).data
    row = Import.objects.get()
    for column in row.preview["columns"]:
        del column["short_year"]
    for name in ("missing", "years_until"):
        row.answers.pop(name, None)
    row.result = {"lines": 4, "good": 4, "there": 0, "bad": 0, "new": {"sites": 0, "outings": 0, "runs": 0, "fish": 0},
                  "rejects": [], "unknown": {}, "asks": []}  # fmt: skip
    row.save()
    shown = biologist.get(f"/api/v1/imports/{taken['id']}")
    assert shown.status_code == 200 and shown.data["result"]["groups"] == []
    assert {each["short_year"] for each in shown.data["preview"]["columns"]} == {""}


def test_figures_that_have_nothing_to_do_with_each_other_are_left_alone(upload: Any) -> None:
    random_ = random.Random(1)
    rows = ["species,A,B", *(f"walleye,{random_.randint(1, 900)},{random_.randint(1, 900)}" for _ in range(60))]
    assert [each["key"] for each in upload("\n".join(rows)).data["answers"]["columns"]] == ["species", "", ""]


def test_a_mapping_is_saved_by_name_and_replaced(
    upload: Any,
    biologist: APIClient,
    programme: Programme,
    client_as: Callable[[str], APIClient],
) -> None:
    address = f"/api/v1/programmes/{programme.pk}/mappings"
    answers = {**upload(legacy()).data["answers"], "years_until": 2026, "missing": ["unbek."]}
    saved = biologist.post(address, {"id": str(new_id()), "name": "Lake office", "answers": answers}, format="json")
    assert saved.status_code == 201, saved.data
    biologist.post(
        address,
        {"id": str(new_id()), "name": "Lake office", "answers": {**answers, "years_until": 1999}},
        format="json",
    )
    (one,) = biologist.get(address).data
    assert (one["name"], one["answers"]["years_until"], one["answers"]["missing"]) == ("Lake office", 1999, ["unbek."])
    wrong = {**answers, "fixed": {"water": str(new_id())}}
    refused = biologist.post(address, {"id": str(new_id()), "name": "x", "answers": wrong}, format="json")
    assert refused.data["code"] == "water_unknown"
    taken = {"id": one["id"], "name": "Another", "answers": answers}
    assert biologist.post(address, taken, format="json").data["code"] == "key_taken"
    assert client_as("viewer").get(address).status_code == 403
    assert client_as("viewer").delete(f"/api/v1/mappings/{one['id']}").status_code == 403
    assert biologist.delete(f"/api/v1/mappings/{one['id']}").status_code == 204 and not Mapping.objects.exists()


def test_a_workbook_goes_out_and_comes_back_the_same(
    upload: Any,
    go: Any,
    biologist: APIClient,
    programme: Programme,
) -> None:
    bring(upload, go, PLAIN.replace(",f\n", ",f\n", 1))
    Capture.objects.filter(length_mm=463).update(note="=1+1")
    Capture.objects.filter(length_mm=212).update(note="scar\x0bon the back")  # a sign that XML cannot hold
    answer = biologist.get(f"/api/v1/programmes/{programme.pk}/captures.xlsx")
    content = b"".join(answer.streaming_content)
    assert (
        answer["Content-Type"].endswith("spreadsheetml.sheet") and "captures-all.xlsx" in answer["Content-Disposition"]
    )
    sheet = load_workbook(io.BytesIO(content)).active
    header, *rows = [[cell.value for cell in row] for row in sheet.iter_rows()]
    assert len(rows) == 4 and rows[0][header.index("date")].date() == date(2024, 5, 3)
    assert sorted(row[header.index("length_mm")] for row in rows) == [212, 410, 410, 463]
    notes = {row[header.index("note")] for row in rows}
    assert {"'=1+1", "scaron the back"} <= notes  # no spreadsheet runs the one or fails on the other
    back = upload(content, "fish.xlsx").data
    tried = go(back).data["result"]
    assert (tried["there"], tried["good"], tried["bad"]) == (4, 0, 0)
    assert Import.objects.count() == 2
