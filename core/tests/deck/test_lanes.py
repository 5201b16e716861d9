"""Lanes and clocks by lists of events that were worked by hand, held to by the tablet too."""

import json
from dataclasses import astuple
from pathlib import Path
from random import Random

import pytest

from nailwright_core.deck.handling import Limits
from nailwright_core.deck.lanes import Batch, Lane, Moment, limits_in, share_batches, stand_of, status_of
from nailwright_core.protocol import shipped_protocol

SHARED = json.loads((Path(__file__).parents[3] / "tests/shared/lanes.json").read_text())
LANES = [Lane(each["code"], each["code"], each["most_s"], each["in_air"]) for each in SHARED["lanes"]]


@pytest.mark.parametrize("case", SHARED["stands"], ids=lambda case: case["name"])
def test_where_it_stands(case):
    moments = [Moment(*each) for each in case["moments"]]
    found = stand_of(case["came_s"], moments, case["now_s"], LANES, case.get("held_s", 0))
    assert list(astuple(found)) == pytest.approx(case["stand"])


@pytest.mark.parametrize("case", SHARED["limits"], ids=lambda case: f"{case['lane']} {case['most_s']}")
def test_limits_in_a_lane(case):
    found = limits_in(Lane(case["lane"], "", case["most_s"]), Limits())
    assert found == (None if case["bounds"] is None else pytest.approx(tuple(case["bounds"])))


def test_each_lane_as_shipped_has_a_case_of_its_limits():
    shipped = {(row["code"], 60 * row["most_min"]) for row in shipped_protocol().rows("lanes")}
    assert shipped <= {(case["lane"], case["most_s"]) for case in SHARED["limits"]}


@pytest.mark.parametrize("case", SHARED["batches"], ids=lambda case: case["name"])
def test_batches_are_worked_up_in_the_order_in_which_they_came(case):
    of, left = share_batches(
        [Batch(*each) for each in case["batches"]], {key: tuple(call) for key, call in case["calls"].items()}
    )
    assert {key: batch.at_s for key, batch in of.items()} == case["of"]
    assert left == case["left"]


def test_order_of_arrival_does_not_matter():
    """The same events from several tablets in any order, some of them twice, say the same."""
    rng = Random(5)
    for _ in range(200):
        moments = [
            Moment(rng.uniform(-10, 500), *rng.choice([("lane", "table"), ("lane", "recovery"), ("out",), ("in",)]))
            for _ in range(rng.randint(1, 12))
        ]
        if rng.random() < 0.5:
            moments.append(Moment(rng.uniform(0, 500), "gone"))
        shuffled = rng.sample([*moments, *moments], 2 * len(moments))
        now = rng.uniform(0, 600)
        found = stand_of(0, moments, now, LANES)
        assert stand_of(0, shuffled, now, LANES) == found
        assert found.air_now_s <= found.longest_air_s <= found.air_s + 1e-9
        assert found.air_s <= found.aboard_s + 1e-9


def test_the_worse_of_lane_and_air_counts():
    table = LANES[1]
    limits = Limits()
    for at, status in ((50, "good"), (95, "soon"), (125, "over")):
        assert status_of(stand_of(0, [Moment(0, "lane", "table")], at, LANES), table, limits) == status
    # water over the gills: the air stops, the table's own time goes on
    moments = [Moment(0, "lane", "table"), Moment(10, "in")]
    assert status_of(stand_of(0, moments, 125, LANES), table, limits) == "good"
    assert status_of(stand_of(0, moments, 240, LANES), table, limits) == "soon"
    assert status_of(stand_of(0, moments, 301, LANES), table, limits) == "over"
    free = LANES[3]
    assert status_of(stand_of(0, [Moment(0, "lane", "event")], 90_000, LANES), free, limits) == "good"
