"""How far positions lie off a water, worked by hand on small shapes."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from nailwright_core.common.errors import CoreError
from nailwright_core.waters.geodesics import geodesic_m
from nailwright_core.waters.on_water import Near, far_off, metres_off_water, near

#: A lake of a tenth of a degree with an island in it, at 45 N.
LAKE = {
    "type": "Polygon",
    "coordinates": [
        [[-31.6, 44.9], [-31.5, 44.9], [-31.5, 45.0], [-31.6, 45.0], [-31.6, 44.9]],
        [[-31.56, 44.94], [-31.54, 44.94], [-31.54, 44.96], [-31.56, 44.96], [-31.56, 44.94]],
    ],
}
RIVER = {"type": "LineString", "coordinates": [[-31.5, 44.9], [-31.5, 45.0]]}


def test_within_an_outline_on_its_island_and_beside_it() -> None:
    off = metres_off_water(LAKE, [44.92, 44.95, 44.95], [-31.58, -31.55, -31.49])
    assert off is not None and off[0] == 0
    # the middle of the island is 0.01 degrees of longitude from its shore, the last as far from the lake's
    shore = float(geodesic_m(44.95, -31.55, 44.95, -31.54))
    assert off[1:] == pytest.approx([shore, shore], rel=2e-3)


def test_off_a_rivers_line() -> None:
    off = metres_off_water(RIVER, [44.95, 44.95, 45.01], [-31.5, -31.49, -31.5])
    beside, beyond = geodesic_m(44.95, -31.5, 44.95, -31.49), geodesic_m(45.0, -31.5, 45.01, -31.5)
    assert off == pytest.approx([0, float(beside), float(beyond)], rel=2e-3, abs=0.5)
    assert far_off(RIVER, [44.95, 44.95], [-31.5, -31.49]) == pytest.approx([float(beside)], rel=2e-3)


@given(st.floats(44.0, 46.0), st.floats(-32.5, -30.5))
def test_the_nearest_corner_is_never_nearer_than_the_water(lat: float, lon: float) -> None:
    off = metres_off_water(LAKE, [lat], [lon])
    corners = np.array(LAKE["coordinates"][0])
    assert off is not None and 0 <= off[0] <= geodesic_m(lat, lon, corners[:, 1], corners[:, 0]).min() * 1.001 + 0.1


@pytest.mark.parametrize(
    "drawn", [None, {}, {"type": "Point", "coordinates": [-31.5, 44.9]}], ids=["none", "empty", "point"]
)
def test_of_a_water_that_is_not_drawn_nothing_is_said(drawn: dict[str, object] | None) -> None:
    assert metres_off_water(drawn, [44.9], [-31.5]) is None
    assert far_off(drawn, [10.0], [10.0]).size == 0


def test_a_position_off_the_earth_is_refused() -> None:
    with pytest.raises(CoreError, match="latitude"):
        metres_off_water(RIVER, [94.0], [-31.5])


def test_what_of_a_water_is_near() -> None:
    # a box of 200 m round a place at the lake's western shore: its eastern half is water
    found = near(LAKE, [44.92], [-31.6])
    (area,) = found.areas
    lats, lons = zip(*area, strict=True)
    assert min(lons) == pytest.approx(-31.6) and max(lons) == pytest.approx(-31.6 + 0.002537, abs=1e-5)
    assert (min(lats), max(lats)) == (pytest.approx(44.918203, abs=1e-5), pytest.approx(44.921797, abs=1e-5))
    assert found.islands == found.lines == ()
    # the whole island, and none of the lake's own shore
    assert [len(near(LAKE, [44.93, 44.97], [-31.57, -31.53]).islands), len(near(LAKE, [44.92], [-31.58]).islands)] == [
        1,
        0,
    ]
    ((first, *_, last),) = near(RIVER, [44.95], [-31.5]).lines
    assert (first[1], last[1]) == (-31.5, -31.5) and abs(first[0] - last[0]) == pytest.approx(0.003593, abs=1e-5)
    assert near(RIVER, [44.95], [-31.3]) == near(None, [44.9], [-31.5]) == near(RIVER, [], []) == Near()
    pieces = {"type": "MultiLineString", "coordinates": [RIVER["coordinates"], [[-31.5, 44.95], [-31.4, 44.95]]]}
    assert len(near(pieces, [44.95], [-31.5]).lines) == 2
