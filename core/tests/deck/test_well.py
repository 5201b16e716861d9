"""How full a live well is, by the cases that the browser is held to as well; worked by hand."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import pytest

from nailwright_core.deck.well import InWell, filling, mass_of_uncalled

WELL = json.loads((Path(__file__).resolve().parents[3] / "tests/shared/well.json").read_text())


@pytest.mark.parametrize("case", WELL["filling"], ids=lambda case: case["name"])
def test_how_full_a_live_well_is(case: dict[str, Any]) -> None:
    found = filling([InWell(**each) for each in case["fish"]], WELL["litres"], WELL["most_fish"], WELL["g_l"])
    assert (found.load, found.number) == pytest.approx((case["load"], case["number"]))
    assert found.full_by == case["full"]


@pytest.mark.parametrize("case", WELL["uncalled"])
def test_what_fish_weigh_that_were_not_called_yet(case: dict[str, Any]) -> None:
    assert mass_of_uncalled(case["left"], case["n"], case["batch_g"], case["known"]) == case["mass_g"]
