"""Distances along joined waters."""

from __future__ import annotations

import itertools
import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from nailwright_core.common.errors import CoreError
from nailwright_core.waters.geodesics import geodesic_m
from nailwright_core.waters.network import Network

#: A river northward along a meridian, a tributary from the east that joins it in its middle, and a lake apart.
RIVER = [(10.0, 50.0), (10.0, 50.1), (10.0, 50.2)]
TRIBUTARY = [(10.3, 50.1), (10.2, 50.1), (10.0, 50.1)]
FAR_LAKE = [(20.0, 55.0), (20.1, 55.0)]
BASIN = Network([RIVER, TRIBUTARY, FAR_LAKE])


def along(*points: tuple[float, float]) -> float:
    return sum(float(geodesic_m(a[1], a[0], b[1], b[0])) for a, b in itertools.pairwise(points))


def test_along_one_line_it_is_the_line() -> None:
    assert BASIN.distance_m((10.0, 50.05), (10.0, 50.15)) == pytest.approx(
        along((10.0, 50.05), (10.0, 50.15)), rel=1e-4
    )


def test_up_a_tributary_it_goes_by_the_mouth() -> None:
    wanted = along((10.0, 50.02), (10.0, 50.1)) + along((10.0, 50.1), (10.2, 50.1))
    assert BASIN.distance_m((10.0, 50.02), (10.2, 50.1)) == pytest.approx(wanted, rel=1e-3)
    assert BASIN.distance_m((10.2, 50.1), (10.0, 50.02)) == pytest.approx(wanted, rel=1e-3)


def test_a_mouth_that_was_drawn_short_still_joins() -> None:
    short = Network([RIVER, [(10.2, 50.1), (10.001, 50.1)]])  # 70 m short
    assert short.distance_m((10.0, 50.1), (10.2, 50.1)) == pytest.approx(along((10.0, 50.1), (10.2, 50.1)), rel=2e-2)
    shorter = Network([RIVER, [(10.2, 50.1), (10.01, 50.1)]])  # 700 m short: another water
    assert math.isinf(shorter.distance_m((10.0, 50.1), (10.2, 50.1)))


def test_round_an_island_it_is_the_shorter_arm() -> None:
    long_arm = [(10.0, 50.0), (10.1, 50.05), (10.0, 50.1)]
    island = Network([[(10.0, 50.0), (10.0, 50.1)], long_arm])
    assert island.distance_m((10.0, 50.0), (10.0, 50.1)) == pytest.approx(along((10.0, 50.0), (10.0, 50.1)), rel=1e-4)
    assert island.distance_m((10.1, 50.05), (10.0, 50.1)) == pytest.approx(along((10.1, 50.05), (10.0, 50.1)), rel=1e-3)


def test_waters_that_do_not_join_are_endlessly_far() -> None:
    assert math.isinf(BASIN.distance_m((10.0, 50.0), (20.0, 55.0)))


@settings(max_examples=30)
@given(st.floats(50.0, 50.2), st.floats(10.0, 10.3), st.floats(50.0, 50.2))
def test_it_is_a_distance(lat_a: float, lon_b: float, lat_c: float) -> None:
    a, b, c = (10.0, lat_a), (lon_b, 50.1), (10.0, lat_c)
    assert BASIN.distance_m(a, b) == pytest.approx(BASIN.distance_m(b, a), abs=1e-3)
    assert BASIN.distance_m(a, c) <= BASIN.distance_m(a, b) + BASIN.distance_m(b, c) + 0.01
    assert BASIN.distance_m(a, b) >= float(geodesic_m(a[1], a[0], b[1], b[0])) - 1.0
    assert BASIN.distance_m(a, a) == 0


def test_what_is_no_place_on_the_water_is_refused() -> None:
    with pytest.raises(CoreError) as far:
        BASIN.distance_m((12.0, 51.0), (10.0, 50.0))
    assert far.value.code == "off_the_water"
    with pytest.raises(CoreError) as swapped:
        BASIN.distance_m((50.0, 100.0), (10.0, 50.0))
    assert swapped.value.code == "position_impossible"
    with pytest.raises(CoreError) as none:
        Network([])
    assert none.value.code == "network_empty"
