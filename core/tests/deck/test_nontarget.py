"""Share of non-target fish, by the cases that the browser is held to as well; worked by hand."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import pytest

from nailwright_core.deck.nontarget import nontarget_share

CASES = json.loads((Path(__file__).resolve().parents[3] / "tests/shared/nontarget.json").read_text())


@pytest.mark.parametrize("case", CASES, ids=lambda case: case["name"])
def test_share_among_the_last(case: dict[str, Any]) -> None:
    assert nontarget_share(case["wanted"], [tuple(each) for each in case["caught"]], case["last"]) == case["share"]
