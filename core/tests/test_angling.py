"""Fights and feeding by examples worked by hand, held to by the tablet too."""

import json
from pathlib import Path

import pytest

from nailwright_core.deck.angling import feed_due_s, fights

SHARED = json.loads((Path(__file__).parents[2] / "tests/shared/angling.json").read_text())


@pytest.mark.parametrize("case", SHARED["fights"], ids=lambda case: case["name"])
def test_fights(case):
    found = fights(case["hooked"], case["ended"])
    assert [[each.began_s, each.ended_s] for each in found] == case["fights"]


@pytest.mark.parametrize("case", SHARED["feeding"], ids=lambda case: case["name"])
def test_feeding(case):
    assert feed_due_s(case["began"], case["fed"], case["now"]) == case["due"]
