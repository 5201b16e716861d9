"""Relative weight by a table of standard weights, as the tablet has it, is that of the equation."""

from __future__ import annotations

import json
from pathlib import Path

import pytest

from nailwright_core.findings.condition import relative_weight

SHARED = json.loads((Path(__file__).resolve().parents[3] / "tests" / "shared" / "relative-weight.json").read_text())


def test_the_table_and_what_is_read_from_it() -> None:
    table, cases = SHARED["table"], [each for each in SHARED["cases"] if each["wr"] is not None]
    known = [(mm, g) for mm, g in zip(table["length_mm"], table["standard_g"], strict=True) if g is not None]
    assert relative_weight(SHARED["species"], [mm for mm, _ in known], [g for _, g in known]) == pytest.approx(
        100, abs=1e-3
    )
    found = relative_weight(SHARED["species"], [each["mm"] for each in cases], [each["g"] for each in cases])
    assert found == pytest.approx([each["wr"] for each in cases], abs=0.006)
