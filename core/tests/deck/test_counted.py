"""Which fish count: the cases that tablet, server and core share."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import pytest

from nailwright_core.deck import counted
from nailwright_core.deck.counted import CountedFish

SHARED = json.loads((Path(__file__).resolve().parents[3] / "tests" / "shared" / "counted.json").read_text())
FISH = {name: CountedFish(**fish) for name, fish in SHARED["fish"].items()}
CASES = [(rule, case) for rule in ("for_permit", "towards_target", "within_quota") for case in SHARED[rule]]


@pytest.mark.parametrize(("rule", "case"), CASES, ids=str)
def test_what_counts(rule: str, case: dict[str, Any]) -> None:
    asked = {name: value for name, value in case.items() if name != "counts"}
    assert [name for name, fish in FISH.items() if getattr(counted, rule)(fish=fish, **asked)] == case["counts"]
