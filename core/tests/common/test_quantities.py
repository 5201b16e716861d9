"""Reading lengths and masses as they are called."""

from __future__ import annotations

import json
import math
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nailwright_core.common.errors import CoreError
from nailwright_core.common.quantities import (
    G_PER,
    MM_PER,
    format_length,
    parse_length,
    parse_mass,
    parse_number,
    unit_giving,
)

SHARED = Path(__file__).resolve().parents[3] / "tests" / "shared"
CASES = json.loads((SHARED / "quantities.json").read_text(encoding="utf-8"))


def read(what: str, text: str, unit: str) -> tuple[float, str, bool]:
    if what == "length":
        length = parse_length(text, unit)
        return length.mm, length.unit, length.estimated
    mass = parse_mass(text, unit)
    return mass.g, mass.unit, mass.estimated


@pytest.mark.parametrize("case", CASES, ids=lambda case: f"{case['what']} {case['text'] or 'nothing'}")
def test_shared_cases(case: dict[str, Any]) -> None:
    if "error" in case:
        with pytest.raises(CoreError) as refused:
            read(case["what"], case["text"], case["unit"])
        assert refused.value.code == case["error"]
        assert refused.value.field == case["what"]
        assert len(refused.value.message) > 15
    else:
        value, unit, estimated = read(case["what"], case["text"], case["unit"])
        assert value == pytest.approx(case["value"], abs=1e-6)
        assert (unit, estimated) == (case["read_unit"], case.get("estimated", False))


@given(st.text(max_size=60), st.sampled_from(list(MM_PER)))
def test_any_text_is_read_or_refused_with_a_reason(text: str, unit: str) -> None:
    try:
        length = parse_length(text, unit)
    except CoreError as refused:
        assert refused.field == "length"
    else:
        assert 0 < length.mm <= 20_000 and math.isfinite(length.mm)


@given(st.text("0123456789.,/ ~inchftmkglboz'\"-", max_size=20))
def test_any_text_of_the_right_letters_is_read_or_refused(text: str) -> None:
    for what, unit in (("length", "mm"), ("mass", "g")):
        try:
            assert math.isfinite(read(what, text, unit)[0])
        except CoreError as refused:
            assert refused.code.startswith(what)


@pytest.mark.parametrize("text", ['0"0', "5in 3in", "1ft 2ft"])
def test_two_numbers_that_make_no_compound_are_refused(text: str) -> None:
    with pytest.raises(CoreError, match="one length is wanted"):
        parse_length(text)


@given(st.integers(1, 19_000), st.sampled_from(list(MM_PER)))
def test_formatted_lengths_are_read_back(mm: int, unit: str) -> None:
    coarsest = {"mm": 0.5, "cm": 0.5, "m": 0.5, "in": 0.13, "ft": 1.6}[unit]
    written = format_length(float(mm), unit)
    assert (
        parse_length(written).mm == pytest.approx(mm, abs=coarsest) if float(written.split()[0]) > 0 else mm <= coarsest
    )


@given(st.decimals(min_value="0.01", max_value="700", places=2), st.sampled_from(["in", "cm"]))
def test_a_unit_scales_the_number(number: Any, unit: str) -> None:
    assert parse_length(f"{number}{unit}").mm == pytest.approx(float(number) * MM_PER[unit], abs=1e-6)


@given(st.integers(1, 500), st.integers(0, 15))
def test_pounds_and_ounces_add(pounds: int, ounces: int) -> None:
    assert parse_mass(f"{pounds}lb {ounces}oz").g == pytest.approx(
        pounds * G_PER["lb"] + ounces * G_PER["oz"], abs=1e-6
    )


@given(st.integers(1, 40), st.integers(1, 7), st.sampled_from([2, 4, 8, 16]))
def test_fractions_of_an_inch(whole: int, numerator: int, denominator: int) -> None:
    expected = (whole + numerator / denominator) * 25.4
    assert parse_length(f"{whole} {numerator}/{denominator} in").mm == pytest.approx(expected, abs=1e-6)


@pytest.mark.parametrize("unit", ["yd", "", "MM "])
def test_an_unknown_default_unit_is_refused(unit: str) -> None:
    with pytest.raises(CoreError) as refused:
        parse_length("12", unit)
    assert (refused.value.code, refused.value.field) == ("length_unit", "unit")
    with pytest.raises(CoreError):
        format_length(12, unit)


def test_text_is_kept_as_called() -> None:
    assert parse_length(" 18 1/4 in ").text == " 18 1/4 in "


@pytest.mark.parametrize(
    "case", json.loads((SHARED / "numbers.json").read_text(encoding="utf-8")), ids=lambda case: case["text"]
)
def test_figures_are_read_as_people_type_them(case: dict[str, Any]) -> None:
    if "error" in case:
        with pytest.raises(CoreError) as refused:
            parse_number(case["text"])
        assert refused.value.code == case["error"]
    else:
        assert parse_number(case["text"]) == case["value"]


@pytest.mark.parametrize(
    ("what", "text", "value", "first", "unit"),
    [
        ("length", "18 1/4", 463.55, None, "in"),
        ("length", "463", 463.0, "in", "mm"),
        ("length", "~46.3cm", 463.0, None, "cm"),
        ("length", "463", 123.0, None, ""),
        ("length", "long", 463.0, None, ""),
        ("mass", "2.4", 1088.62, "g", "lb"),
        ("mass", "1085", 1085.0, "g", "g"),
    ],
)
def test_the_unit_of_a_text_follows_from_its_figure(
    what: str, text: str, value: float, first: str | None, unit: str
) -> None:
    assert unit_giving(what, text, value, first) == unit
