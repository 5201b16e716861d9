"""How a fish left once more is said of it: the cases that tablet and server share."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import pytest

from nailwright_core.common.errors import CoreError
from nailwright_core.deck.leaving import left_as

CASES = json.loads((Path(__file__).resolve().parents[3] / "tests" / "shared" / "leaving.json").read_text())


@pytest.mark.parametrize("case", CASES, ids=str)
def test_left_as(case: dict[str, Any]) -> None:
    details = dict(case["details"])
    changed = left_as(case["before"]["fate"] or None, details.pop("fate", None), details)
    after = {**case["before"], **changed}
    assert {name: after[name] for name in case["after"]} == case["after"]


@pytest.mark.parametrize(
    ("standing", "fate", "details", "code"),
    [(None, None, {"strength": 2}, "fate_missing"), ("dead", None, {"strength": 2}, "fate_does_not_fit"),
     (None, "released", {"taken_to": "hatchery"}, "fate_does_not_fit"), ("released", "kept", {"reason": "hook"}, "fate_does_not_fit")],
)  # fmt: skip
def test_what_does_not_fit(standing: str | None, fate: str | None, details: dict[str, Any], code: str) -> None:
    with pytest.raises(CoreError) as refused:
        left_as(standing, fate, details)
    assert refused.value.code == code
