"""Numbers read on a fish mean on the tablet what they mean here (``tests/shared/marks.json``)."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any
from uuid import NAMESPACE_OID, UUID, uuid5

import pytest

from nailwright.tags.scans import Read, unknown_fish_key, whose
from nailwright_core.common.errors import CoreError
from nailwright_core.tags.pit import parse_pit

CASES = json.loads((Path(__file__).resolve().parents[3] / "tests/shared/marks.json").read_text())


@pytest.mark.parametrize("case", CASES["pit"], ids=lambda case: case["text"] or "nothing")
def test_a_pit_number(case: dict[str, Any]) -> None:
    if case["number"] is None:
        with pytest.raises(CoreError):
            parse_pit(case["text"])
    else:
        assert parse_pit(case["text"]).decimal15 == case["number"]


@pytest.mark.parametrize("case", CASES["whose"], ids=lambda case: case["what"])
def test_whose_it_is(case: dict[str, Any]) -> None:
    def key(name: str) -> Any:
        return uuid5(NAMESPACE_OID, name)

    known = {("tbar", number): key(fish) for number, fish in case["carried"].items()}
    scanned, fish, _ = whose([Read("tbar", number) for number in case["reads"]], known)
    if scanned == "foreign":
        fish = unknown_fish_key(UUID(CASES["programme"]), [Read("tbar", number) for number in case["reads"]], "wal")
        assert str(fish) == case["fish"]
    else:
        assert (scanned, fish) == (case["scanned"], key(case["fish"]) if case["fish"] else None)


@pytest.mark.parametrize("case", CASES["unknown"], ids=lambda case: case["what"])
def test_a_fish_with_another_programmes_tag(case: dict[str, Any]) -> None:
    fish = unknown_fish_key(
        UUID(CASES["programme"]), [Read("tbar", number) for number in case["reads"]], case["species"]
    )
    assert str(fish) == case["fish"]
