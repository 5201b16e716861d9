"""What a column's name and a cell mean, one kind of column at a time."""

from __future__ import annotations

from datetime import date, time
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nailwright.programmes.species.known import SpeciesTable
from nailwright.records.answers import Answers, Bound
from nailwright.records.columns import COLUMNS, Draft, split_unit
from nailwright_core.common import species
from nailwright_core.common.errors import CoreError

SHIPPED = SpeciesTable({kind.code: kind for kind in species.all_species()})
PLAIN = Answers(columns=(), decimal=".", waters={"long river": "key"}, species=SHIPPED.named())


@pytest.mark.parametrize(
    ("header", "key", "unit"),
    [
        ("TL (in)", "length", "in"),
        ("total_length_mm", "length", "mm"),
        ("Fork Length [cm]", "length", "cm"),
        ("Len", "length", None),
        ("Wt_lbs", "mass", "lb"),
        ("wet weight (g)", "mass", "g"),
        ("WeightKg", "mass", "kg"),
        ("Spp", "species", None),
        ("species_code", "species", None),
        ("Fish species", "species", None),
        ("Sample Date", "date", None),
        ("Waterbody", "water", None),
        ("Station", "site", None),
        ("PIT tag number", "pit", None),
        ("Comments", "note", None),
        ("pass", "run", None),
        ("RKM", "river_km", None),
        ("Sex", "sex", None),
        ("device_time_utc", "device_time_utc", None),
    ],
)
def test_names_are_known_in_many_words(header: str, key: str, unit: str | None) -> None:
    fits = {name: fit for name, column in COLUMNS.items() if (fit := column.resolve(header))}
    assert key in fits
    assert fits[key][0] == max(score for score, _ in fits.values())
    assert fits[key][1] == unit


@pytest.mark.parametrize("header", ["", "???", "temperature", "crew", "weather", "depth (m)"])
def test_names_of_other_things_fit_nothing(header: str) -> None:
    assert not [name for name, column in COLUMNS.items() if column.resolve(header)]


def test_units_are_split_from_names() -> None:
    assert split_unit("TL (in)") == ("tl", "in")
    assert split_unit('Length (")') == ("length", "in")
    assert split_unit("g") == ("g", None)  # a name that is a unit is a name


@pytest.mark.parametrize(
    ("key", "text", "value"),
    [
        ("species", "Walleye", "wal"),
        ("species", "SANDER VITREUS", "wal"),
        ("species", "wal", "wal"),
        ("date", "2024-05-03", date(2024, 5, 3)),
        ("date", "2024-5-3 14:20", date(2024, 5, 3)),
        ("time", "7:05", time(7, 5)),
        ("time", "19:05:30", time(19, 5, 30)),
        ("water", "LONG RIVER", "key"),
        ("gear", "Boat electrofishing", "boat_electrofishing"),
        ("sex", "Female", "f"),
        ("sex", "U", "u"),
        ("left_as", "Released alive", "alive"),
        ("run", "3.0", 3),
        ("count", "14", 14),
        ("river_km", "-0.5", -0.5),
        ("length_type", "fl", "FL"),
        ("scanned", "none", "none"),
        ("questions", '[{"code": "far_long"}]', [{"code": "far_long"}]),
        (
            "mark_read",
            "pit 999000000123456; tbar W7",
            [{"kind": "pit", "number": "999000000123456"}, {"kind": "tbar", "number": "W7"}],
        ),
    ],
)
def test_cells_that_can_be_read(key: str, text: str, value: Any) -> None:
    assert COLUMNS[key].clean(text, PLAIN, None) == value


@pytest.mark.parametrize(
    ("key", "text", "code"),
    [
        ("species", "coelacanth", "word_unknown"),
        ("date", "3 May 2024", "date_unreadable"),
        ("date", "3/4/24", "year_short"),
        ("date", "2023-02-29", "date_impossible"),
        ("date", "0900-01-01", "date_impossible"),
        ("date", "3/4/2024", "date_order_unknown"),
        ("time", "25:00", "time_unreadable"),
        ("device_time_utc", "2024-05-03", "time_unreadable"),
        ("water", "Short River", "word_unknown"),
        ("run", "0", "number_unreadable"),
        ("run", "2.5", "number_unreadable"),
        ("count", "many", "number_unreadable"),
        ("river_km", "99999", "number_unreadable"),
        ("note", "x" * 201, "text_too_long"),
        ("capture_id", "17", "key_unreadable"),
        ("questions", "{", "questions_unreadable"),
    ],
)
def test_cells_that_cannot_be_read_say_why(key: str, text: str, code: str) -> None:
    with pytest.raises(CoreError) as refused:
        COLUMNS[key].clean(text, PLAIN, None)
    assert refused.value.code == code and refused.value.field == key and refused.value.message.endswith(".")


@pytest.mark.parametrize(
    ("decimal", "text", "unit", "read"),
    [
        (".", "46.3", "cm", "46.3 cm"),
        (".", "1,085.5", "g", "1085.5 g"),
        (".", "1,085", "g", "1085 g"),
        (",", "46,3", "cm", "46.3 cm"),
        (",", "1.085,5", "g", "1085.5 g"),
        (",", "1.085", "g", "1085 g"),
        (",", "~46,3", "cm", "~46.3 cm"),
        (".", "18 1/4 in", "mm", "18 1/4 in"),
        (".", '17 1/4"', "mm", '17 1/4"'),
        (None, "463", "mm", "463 mm"),
    ],
)
def test_decimals_and_thousands(decimal: str | None, text: str, unit: str, read: str) -> None:
    column = COLUMNS["mass" if unit == "g" else "length"]
    assert column.clean(text, Answers(columns=(), decimal=decimal), unit) == read


def test_dates_follow_the_order_that_was_said() -> None:
    day = COLUMNS["date"]
    assert day.clean("3.4.2024", Answers(columns=(), date_order="day"), None) == date(2024, 4, 3)
    assert day.clean("3/4/2024", Answers(columns=(), date_order="month"), None) == date(2024, 3, 4)
    with pytest.raises(CoreError):
        day.clean("13/14/2024", Answers(columns=(), date_order="day"), None)


@given(st.dates(date(1850, 1, 1), date(2100, 12, 31)), st.sampled_from(["/", ".", "-"]))
def test_any_day_in_either_order(day: date, mark: str) -> None:
    column = COLUMNS["date"]
    first = f"{day.day}{mark}{day.month:02}{mark}{day.year}"
    second = f"{day.month}{mark}{day.day:02}{mark}{day.year}"
    assert column.clean(first, Answers(columns=(), date_order="day"), None) == day
    assert column.clean(second, Answers(columns=(), date_order="month"), None) == day
    assert column.clean(day.isoformat(), PLAIN, None) == day


def test_a_word_means_what_a_person_said() -> None:
    said = Answers(columns=(), words={"species": {"wae": "wal"}, "sex": {"1": "m"}})
    assert COLUMNS["species"].clean("WAE", said, None) == "wal"
    assert COLUMNS["sex"].clean("1", said, None) == "m"


def test_meanings_go_where_they_belong() -> None:
    draft = Draft()
    for key, value in (
        ("species", "wal"),
        ("length", "463 mm"),
        ("pit", "999"),
        ("tbar", "W7"),
        ("site", "K15"),
        ("note", "scar"),
    ):
        COLUMNS[key].assign(draft, value)
    assert draft.call == {
        "species": "wal", "length": "463 mm", "scanned": "number", "note": "scar",
        "scans": [{"kind": "pit", "number": "999"}, {"kind": "tbar", "number": "W7"}],
    }  # fmt: skip
    assert draft.given == {"site": "K15"}


@pytest.mark.parametrize(
    ("keys", "fixed", "field"),
    [
        (("species", "length", "date", "water", "site"), {}, "gear"),
        (("species", "length", "date", "site"), {"gear": "angling"}, "water"),
        (("species", "length", "water", "site"), {"gear": "angling"}, "date"),
        (("species", "date", "water", "site"), {"gear": "angling"}, "length"),
        (("species", "length", "length", "date", "water", "site"), {"gear": "angling"}, "length"),
    ],
)
def test_answers_must_leave_a_fish(keys: tuple[str, ...], fixed: dict[str, str], field: str) -> None:
    answers = Answers(columns=tuple(Bound(f"c{n}", key, "mm") for n, key in enumerate(keys)), fixed=fixed)
    with pytest.raises(CoreError) as refused:
        answers.check()
    assert refused.value.field == field


def test_a_moment_brings_the_day() -> None:
    keys = ("species", "length", "device_time_utc", "water", "site", "gear")
    Answers(columns=tuple(Bound(key, key, "mm") for key in keys)).check()
