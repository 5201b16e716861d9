"""Fights and feeding by examples worked by hand, held to by the tablet too."""

import json
from pathlib import Path

import pytest

from nailwright_core.common.errors import CoreError
from nailwright_core.deck.angling import Feeding, feed_due_s, fights, rate_per_hour, whose_fights

SHARED = json.loads((Path(__file__).parents[3] / "tests/shared/angling.json").read_text())


@pytest.mark.parametrize("case", SHARED["fights"], ids=lambda case: case["name"])
def test_fights(case):
    found = fights(case["hooked"], case["ended"])
    assert [[each.began_s, each.ended_s] for each in found] == case["fights"]


@pytest.mark.parametrize("case", SHARED["feeding"], ids=lambda case: case["name"])
def test_feeding(case):
    feeding = Feeding(**case["feeding"]) if case["feeding"] else None
    assert feed_due_s(case["began"], case["fed"], case["now"], feeding) == case["due"]


def test_whose_fish_it_was():
    """Two rods bent, by hand: the oldest hook-up ends first; a fish that nobody called hooked is nobody's."""
    hooked = [(0, "Ada"), (60, "Ben"), (5000, "")]
    found = whose_fights(hooked, {"b": 300, "a": 200, "early": -5, "late": 5060})
    assert found == {"a": ("Ada", 200), "b": ("Ben", 240), "late": ("", 60)}
    assert whose_fights([(0, "Ada")], {"a": 7201}) == {}


def test_fish_an_hour():
    """Garwood (1936): a mean of 0 to 3.689 for none seen, 1.090 to 10.242 for four (Pearson and Hartley, table 40, from memory)."""
    none = rate_per_hour(0, 2)
    assert (none.value, none.lower) == (0, 0) and none.upper == pytest.approx(3.689 / 2, abs=5e-4)
    four = rate_per_hour(4, 2)
    assert (four.lower, four.upper) == (pytest.approx(1.090 / 2, abs=5e-4), pytest.approx(10.242 / 2, abs=5e-4))
    for hours in (0, -1, float("nan")):
        with pytest.raises(CoreError) as refused:
            rate_per_hour(4, hours)
        assert refused.value.code == "number_out_of_range"
