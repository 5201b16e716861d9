"""Who may carry a tag and who is tagged next, by the cases that the browser is held to as well."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import pytest

from nailwright_core.deck.counted import CountedFish
from nailwright_core.deck.tagging import (
    Quota,
    drawn_for,
    place_in_draw,
    propose,
    quota_for,
    smallest_to_tag,
    tag_size,
    unfit_for_tag,
)

TAGGING = json.loads((Path(__file__).resolve().parents[3] / "tests/shared/tagging.json").read_text())
QUOTAS = [Quota(**row) for row in TAGGING["quotas"]]


@pytest.mark.parametrize("case", TAGGING["quota_for"])
def test_the_quota_of_a_fish(case: dict[str, Any]) -> None:
    found = quota_for(QUOTAS, case["species"], case["mm"], case["zone"])
    assert (found and found.most) == case["most"]


@pytest.mark.parametrize("case", TAGGING["drawn"])
def test_what_was_drawn(case: dict[str, Any]) -> None:
    found = drawn_for(case["nth"], case["before"], case["double"], case["high_reward"])
    assert list(found) == case["drawn"]


@pytest.mark.parametrize("case", TAGGING["propose"])
def test_who_is_tagged_next(case: dict[str, Any]) -> None:
    tagged = [
        CountedFish("wal", mm, measured=mm is not None, marked=True, zone="Lower river") for mm in case["tagged_mm"]
    ]
    quotas = [Quota("wal", "Lower river", 300, 450, 4, 1)]
    drawn = drawn_for(place_in_draw(tagged, case["wanted"]), 0, case["double"], [])
    found = propose(
        case["species"],
        case["mm"],
        "Lower river",
        tagged,
        quotas,
        case["from_mm"],
        drawn,
        case["wanted"],
        case["unfit"],
    )
    assert (found.tag, found.why, found.done) == (case["tag"], case["why"], case["done"])


@pytest.mark.parametrize("case", TAGGING["place_in_draw"])
def test_fish_of_other_species_have_no_place_in_the_draw(case: dict[str, Any]) -> None:
    tagged = [CountedFish(species, 400, marked=True) for species in case["tagged"]]
    assert place_in_draw(tagged, case["wanted"]) == case["place"]


@pytest.mark.parametrize("case", TAGGING["smallest"])
def test_the_strictest_of_the_limits_holds(case: dict[str, Any]) -> None:
    assert smallest_to_tag(*case["limits"]) == case["mm"]


@pytest.mark.parametrize("case", TAGGING["size"])
def test_the_protocols_smallest_by_species_and_tag(case: dict[str, Any]) -> None:
    assert tag_size(TAGGING["size_rows"], case["species"], case["kind"]) == case["mm"]
    assert tag_size([], case["species"], case["kind"]) is None


@pytest.mark.parametrize("case", TAGGING["unfit"])
def test_a_fish_that_is_asked_about_before_the_tag_goes_in(case: dict[str, Any]) -> None:
    assert list(unfit_for_tag(case["details"], case["condition"], case["fate"])) == case["unfit"]
