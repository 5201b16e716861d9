"""Each rule of the Deck that must run with no signal has cases that core and browser are both held to."""

from __future__ import annotations

import re
from pathlib import Path

import pytest

ROOT = Path(__file__).resolve().parents[2]
RULES = sorted((ROOT / "web/src/features/deck/rules").glob("*.ts"))
SHARED = sorted((ROOT / "tests/shared").glob("*.json"))
#: Rules that still stand on both sides without shared cases; each that gets them leaves this list.
WITHOUT: set[str] = set()


def read_by(pattern: str, *folders: str) -> str:
    return "\n".join(
        each.read_text()
        for folder in folders
        for each in (ROOT / folder).rglob(pattern)
        if "node_modules" not in each.parts
    )


@pytest.mark.parametrize("rule", RULES, ids=lambda each: each.stem)
def test_a_rule_has_shared_cases(rule: Path) -> None:
    tests = [each.read_text() for each in (rule.parent / "cases").glob("*.test.ts")]
    of_it = [text for text in tests if f'from "../{rule.stem}"' in text]
    has = any(re.search(r"tests/shared/[a-z-]+\.json", text) for text in of_it)
    assert has != (rule.stem in WITHOUT), f"{rule.stem}: cases in tests/shared, read by its test"


@pytest.mark.parametrize("cases", SHARED, ids=lambda each: each.stem)
def test_cases_hold_both_rooms(cases: Path) -> None:
    assert cases.name in read_by("*.test.ts", "web/src") + read_by("*.ts", "web/src/testing"), (
        "no test of the browser reads them"
    )
    python = read_by("*.py", "core/tests", "server/tests")
    assert cases.name in python or cases.stem.replace("-", "_") in python, "no test of core or server reads them"
