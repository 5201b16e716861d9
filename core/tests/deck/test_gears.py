"""Gears, their effort worked by hand, and what is read at a site."""

import json
from datetime import UTC, datetime
from pathlib import Path

import pytest

from nailwright_core.common.errors import CoreError
from nailwright_core.common.field import read_value
from nailwright_core.deck.gears import EFFORTS, FIGURES, GEARS, asked_at_end, effort_of, nights_between
from nailwright_core.deck.readings import READINGS, USUAL, read_readings

EVENING, NOON = datetime(2026, 10, 12, 18, tzinfo=UTC), datetime(2026, 10, 14, 12, tzinfo=UTC)


def test_every_gear_counts_an_effort_that_is_named_and_asks_for_what_that_takes():
    for gear in GEARS.values():
        assert gear.effort in EFFORTS and set(gear.asks) <= set(FIGURES)
        given = {**dict.fromkeys(gear.asks, 4.0), "current_on_s": 600.0}
        assert effort_of(gear.code, given, EVENING, NOON).value is not None, gear.code


def test_the_tablet_knows_the_same_gears():
    shared = json.loads((Path(__file__).parents[3] / "tests/shared/gears.json").read_text())
    assert shared == [
        {
            "code": each.code,
            "label": each.label,
            "electric": each.electric,
            "effort": each.effort,
            "asks": list(each.asks),
        }
        for each in GEARS.values()
    ]


@pytest.mark.parametrize(
    ("gear", "figures", "expected"),
    [
        ("towbarge_electrofishing", {"current_on_s": 900.0}, 900.0),
        ("angling", {"rods": 3}, 3 * 42.0),  # 42 hours from the evening of the 12th to noon of the 14th
        ("ice_fishing", {"rods": 1}, 42.0),
        ("gill_net", {"nets": 4}, 8.0),  # two nights
        ("seine", {"hauls": 5, "distance_m": 60.0}, 5),
        ("trawl", {"distance_m": 1200.0, "hauls": 2}, 1200.0),
        ("fyke_net", {}, None),
        ("angling", {"current_on_s": 0.0}, None),
    ],
)
def test_effort_by_hand(gear, figures, expected):
    assert effort_of(gear, figures, EVENING, NOON).value == expected


RUN_END = json.loads((Path(__file__).parents[3] / "tests/shared/run-end.json").read_text())


@pytest.mark.parametrize("case", RUN_END["cases"])
def test_what_is_asked_as_a_run_ends(case):
    assert list(asked_at_end(RUN_END["rows"], case["gear"], case["figures"])) == case["asked"]


def test_a_run_that_is_still_going_has_no_hours_yet():
    assert effort_of("angling", {"rods": 2}, EVENING, None).value is None
    assert effort_of("seine", {"hauls": 2}, EVENING, None).value == 2


def test_a_night_is_a_midnight_of_the_place_also_over_a_change_to_summer_time():
    # 23:30 to 00:30 UTC is one night in London in winter and none in Honolulu (13:30 to 14:30)
    late, early = datetime(2026, 1, 5, 23, 30, tzinfo=UTC), datetime(2026, 1, 6, 0, 30, tzinfo=UTC)
    assert nights_between(late, early, "Europe/London") == 1 and nights_between(late, early, "Pacific/Honolulu") == 0
    # clocks go forward on 29 March 2026: a night of 23 hours is a night
    assert (
        nights_between(datetime(2026, 3, 28, 18, tzinfo=UTC), datetime(2026, 3, 29, 8, tzinfo=UTC), "Europe/Oslo") == 1
    )


@pytest.mark.parametrize(
    ("name", "value"), [("rods", 1.5), ("nets", 0), ("distance_m", -1.0), ("mesh_mm", float("inf"))]
)
def test_a_figure_beyond_its_bounds_is_refused_by_name(name, value):
    with pytest.raises(CoreError) as refused:
        read_value(FIGURES[name], value)
    assert refused.value.field == name and FIGURES[name].title in refused.value.message


def test_what_is_read_is_kept_and_what_is_empty_is_not():
    given = {"temperature_c": 9.5, "sky": "overcast", "gates_open": 3, "secchi_m": None, "cover": "", "stage_m": 0}
    assert read_readings(given) == {"temperature_c": 9.5, "sky": "overcast", "gates_open": 3, "stage_m": 0.0}
    assert set(USUAL) <= set(READINGS)


@pytest.mark.parametrize(
    ("code", "value", "why"),
    [
        ("colour", 1, "reading_unknown"),
        ("temperature_c", 41, "number_out_of_range"),
        ("temperature_c", "9", "number_out_of_range"),
        ("temperature_c", True, "number_out_of_range"),
        ("depth_m", float("nan"), "number_out_of_range"),
        ("gates_open", 2.5, "number_out_of_range"),
        ("sky", "green", "not_a_choice"),
        ("sky", 1, "not_a_choice"),
    ],
)
def test_what_no_water_has_is_refused(code, value, why):
    with pytest.raises(CoreError) as refused:
        read_readings({code: value})
    assert (refused.value.code, refused.value.field) == (why, code)
