"""What a programme may decide, in which bounds, and what of it holds for a fish."""

import json
from pathlib import Path

import pytest

from nailwright_core.common.errors import CoreError
from nailwright_core.deck.handling import Limits
from nailwright_core.protocol import (
    SECTIONS,
    band_for,
    benchmark_for,
    bin_for,
    hand_limits_for,
    read_protocol,
    shipped_protocol,
    word_for,
)
from nailwright_core.protocol.suggested import suggested_rows

CALLED = ("wal", "nop")
ANY = dict(SECTIONS["hand_limits"].ships[0])


@pytest.mark.parametrize("code", SECTIONS)
def test_what_is_suggested_can_be_taken_and_stands_nowhere_before(code):
    rows = [dict(row) for row in suggested_rows(code)]
    if rows:
        assert read_protocol({code: rows}, ()).as_values()[code] == rows
    if code in ("boarding", "tag_sizes", "run_figures"):
        assert rows and not shipped_protocol().rows(code)


def test_what_ships_stands_up_to_its_own_bounds():
    kept = shipped_protocol().as_values()
    assert read_protocol(json.loads(json.dumps(kept)), ()).as_values() == kept
    assert set(kept) == set(SECTIONS)


def test_a_section_that_is_left_out_is_as_it_ships():
    read = read_protocol({"bins": [{"species": "wal", "bin_mm": 20}]}, CALLED)
    assert read.rows("bins") == ({"species": "wal", "bin_mm": 20.0},)
    assert read.rows("lanes") == SECTIONS["lanes"].ships


def test_the_row_of_its_own_species_comes_before_that_of_every_species_then_the_longest_it_has_reached():
    rows = [
        {"species": "", "from_mm": 0, "where": "a"},
        {"species": "", "from_mm": 800, "where": "b"},
        {"species": "nop", "from_mm": 0, "where": "c"},
        {"species": "nop", "from_mm": 600, "where": "d"},
    ]
    found = [band_for(rows, code, mm) for code, mm in (("wal", 799), ("wal", 800), ("nop", 599.9), ("nop", 2000), ("wal", None))]  # fmt: skip
    assert [row["where"] for row in found] == ["a", "b", "c", "d", "a"]
    assert band_for(rows[1:2], "wal", None) is None


def test_core_finds_the_row_that_the_tablet_finds():
    shared = json.loads((Path(__file__).parents[3] / "tests/shared/bands.json").read_text())
    for case in shared["cases"]:
        assert band_for(shared["rows"], case["species"], case["length_mm"])["where"] == case["where"], case


def test_large_fish_may_recover_for_longer_and_the_well_stays_as_the_plan_has_it():
    plan = Limits(well_fish=4)
    small, large = (hand_limits_for(shipped_protocol(), "nop", mm, plan) for mm in (400, 1000))
    assert (small.recovery_goal_s, large.recovery_goal_s, large.recovery_warn_s) == (300.0, 1200.0, 1800.0)
    assert small.well_fish == large.well_fish == 4


def test_benchmark_bin_and_words_of_a_species():
    read = read_protocol(
        {
            "benchmarks": [{"species": "", "low": 90, "high": 100}, {"species": "nop", "low": 85, "high": 95}],
            "bins": [{"species": "wal", "bin_mm": 25}],
            "strengths": [{"code": str(n), "word": f"word {n}"} for n in (1, 2, 3, 4)],
        },
        CALLED,
    )
    assert [benchmark_for(read, code) for code in ("wal", "nop")] == [(90.0, 100.0), (85.0, 95.0)]
    assert benchmark_for(read_protocol({"benchmarks": []}, CALLED), "wal") == (95.0, 105.0)
    assert [bin_for(read, code) for code in ("wal", "nop")] == [25.0, None]
    assert word_for(read, "strengths", "2") == "word 2" and word_for(read, "reasons", "gone") == "gone"


@pytest.mark.parametrize(
    ("values", "code", "field"),
    [
        ({"colours": []}, "section_unknown", "values"),
        ({"bins": "wide"}, "section_unreadable", "bins"),
        ({"bins": [3]}, "section_unreadable", "bins"),
        ({"bins": [{"species": "wal", "bin_mm": 0}]}, "number_out_of_range", "bins.0.bin_mm"),
        ({"bins": [{"species": "wal", "bin_mm": float("nan")}]}, "number_out_of_range", "bins.0.bin_mm"),
        ({"bins": [{"species": "wal", "bin_mm": True}]}, "number_out_of_range", "bins.0.bin_mm"),
        ({"bins": [{"species": "wal"}]}, "value_missing", "bins.0.bin_mm"),
        ({"bins": [{"species": "lng", "bin_mm": 5}]}, "not_a_choice", "bins.0.species"),
        ({"bins": [{"species": "wal", "bin_mm": 5, "hue": 1}]}, "column_unknown", "bins.0"),
        ({"bins": [{"species": "wal", "bin_mm": 5}, {"species": "wal", "bin_mm": 9}]}, "row_twice", "bins.1.species"),
        ({"precision": []}, "rows_are_fixed", "precision"),
        ({"fates": [{"code": "eaten", "word": "eaten"}]}, "rows_are_fixed", "fates"),
        ({"lanes": [{"code": "Keep Net", "word": "Keep net", "most_min": 9}]}, "code_unreadable", "lanes.0.code"),
        ({"lanes": [{"code": "net", "word": " ", "most_min": 9}]}, "value_missing", "lanes.0.word"),
        ({"lanes": [{"code": "net", "word": "Net", "most_min": n + 1} for n in range(13)]}, "rows_too_many", "lanes"),
        ({"hand_limits": [{**ANY, "air_warn_s": 5}]}, "limits_out_of_order", "hand_limits.0.air_goal_s"),
        ({"hand_limits": [{**ANY, "from_mm": 10}]}, "rows_are_fixed", "hand_limits"),
        ({"benchmarks": [{"species": "", "low": 105, "high": 95}]}, "band_out_of_order", "benchmarks.0.high"),
        ({"quotas": [{"species": "wal", "zone": "", "from_mm": 0, "to_mm": None, "most": 1.5}]}, "number_out_of_range", "quotas.0.most"),
        ({"closed_species": [{"species": "wal", "first_day": "15/3", "last_day": "05-15"}]}, "day_impossible", "closed_species.0.first_day"),
        ({"closed_species": [{"species": "wal", "first_day": "02-30", "last_day": "05-15"}]}, "day_impossible", "closed_species.0.first_day"),
        ({"closed_species": [{"species": "wal", "first_day": "W10-1", "last_day": "05-15"}]}, "day_impossible", "closed_species.0.first_day"),
        ({"closed_species": [{"species": "wal", "first_day": "03-15"}]}, "day_impossible", "closed_species.0.last_day"),
        ({"alerts": [{"species": "", "from_mm": 9, "to_mm": 5, "word": "odd"}]}, "band_out_of_order", "alerts.0.to_mm"),
        ({"checklist_lines": [{"checklist": "boat", "line": "x" * 201}]}, "text_too_long", "checklist_lines.0.line"),
        ({"checklist_lines": [{"checklist": "moon", "line": "look up"}]}, "not_a_choice", "checklist_lines.0.checklist"),
    ],
)  # fmt: skip
def test_what_is_refused_is_named_by_its_place(values, code, field):
    with pytest.raises(CoreError) as refused:
        read_protocol(values, CALLED)
    assert (refused.value.code, refused.value.field) == (code, field)


def test_steps_of_an_agency_rise():
    step = {"name": "Backpack", "max_volts": 400, "max_hz": 60, "max_pulse_ms": 5, "max_water_c": 18}
    rising = [{**step, "to_us_cm": 100}, {**step, "to_us_cm": 300}]
    assert len(read_protocol({"agency_limits": rising}, ()).rows("agency_limits")) == 2
    with pytest.raises(CoreError, match="rising conductivity"):
        read_protocol({"agency_limits": rising[::-1]}, ())


@pytest.mark.parametrize("day", ["3-20", "02-30", "spring", "W10-1"])
def test_a_season_of_sex_by_pressure_is_days_of_the_year(day):
    row = {"species": "", "first_day": "03-20", "last_day": day}
    with pytest.raises(CoreError) as refused:
        read_protocol({"sexing": [row]}, ())
    assert refused.value.field == "sexing.0.last_day"
    assert read_protocol({"sexing": [{**row, "last_day": "02-29"}]}, ()).rows("sexing")
