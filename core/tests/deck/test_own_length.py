"""A fork length is never judged as a total length."""

from __future__ import annotations

import json
from dataclasses import replace
from pathlib import Path
from typing import Any

import pytest

from nailwright_core.common.species import OTHER, LengthConversion
from nailwright_core.deck.own_length import own_length

SHARED = json.loads((Path(__file__).resolve().parents[3] / "tests/shared/own-length.json").read_text())
CONVERSIONS = tuple(
    LengthConversion(
        each["from_type"], SHARED["own"], each["intercept_mm"], each["slope"], 1.0, "invented for this test"
    )
    for each in SHARED["conversions"]
)
KIND = replace(OTHER, length_type=SHARED["own"], conversions=CONVERSIONS)


@pytest.mark.parametrize("case", SHARED["cases"], ids=lambda case: case["what"])
def test_as_the_cases_say(case: dict[str, Any]) -> None:
    found = own_length(KIND, case["mm"], case["type"])
    if case["own_mm"] is None:
        assert found is None
    else:
        assert found is not None and (found.mm, found.converted) == (pytest.approx(case["own_mm"]), case["converted"])
