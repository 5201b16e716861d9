"""Standing against an allowance: the cases that tablet and server share."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import pytest

from nailwright_core.deck.permits import standing

CASES = json.loads((Path(__file__).resolve().parents[3] / "tests" / "shared" / "permits.json").read_text())


@pytest.mark.parametrize("case", CASES, ids=str)
def test_standing(case: dict[str, Any]) -> None:
    assert standing(case["before"], case["more"], case["most"]) == case["standing"]


def test_each_fish_brings_it_closer_and_never_back() -> None:
    order = ["open", "near", "last", "over"]
    for most in range(60):
        steps = [order.index(standing(before, 0, most)) for before in range(80)]
        assert steps == sorted(steps) and steps[most] == 2 and steps[most + 1] == 3
