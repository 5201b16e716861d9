"""Journeys of marked fish."""

from __future__ import annotations

import math
from datetime import datetime, timedelta

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from nailwright_core.common.errors import CoreError
from nailwright_core.movements.journeys import Encounters, Journeys, homings, journeys
from nailwright_core.waters.geodesics import geodesic_m

DAY = datetime(2026, 5, 1, 22)


def met(days: float, **change: object) -> dict[str, object]:
    known = {"fish": "a", "at": DAY + timedelta(days=days), "lat": 10.0, "lon": 20.0, "river_km": None, "length_mm": None,
             "error_m": 100.0}  # fmt: skip
    return known | change


def columns(*each: dict[str, object]) -> Encounters:
    of = {name: [one[name] for one in each] for name in met(0)}
    kinds = {"fish": str, "at": "datetime64[us]"}
    return Encounters(**{name: np.array(values, dtype=kinds.get(name, float)) for name, values in of.items()})


def made(*each: dict[str, object]) -> Journeys:
    return journeys(columns(*each))


def test_growth_and_distance_of_a_recapture_by_hand() -> None:
    """24 mm in 91.3125 days is 8 mm a month of 30.4375 days; 0.01 degree of latitude is about 1.1 km."""
    found = made(met(91.3125, lat=10.01, length_mm=424.0, river_km=17.0), met(0, length_mm=400.0, river_km=15.5))
    assert (found.start[0], found.end[0]) == (1, 0)
    assert (found.days[0], found.growth_mm[0], found.along_km[0]) == (91.3125, 24.0, 1.5)
    assert found.growth_mm_month[0] == pytest.approx(8.0)
    assert found.distance_m[0] == pytest.approx(1106, abs=1) and found.moved[0] == "moved"


def test_a_few_days_give_no_growth_rate_and_a_few_metres_no_movement() -> None:
    found = made(met(0, length_mm=400.0), met(5, lat=10.0005, length_mm=403.0))
    assert found.growth_mm[0] == 3 and math.isnan(found.growth_mm_month[0])
    assert found.moved[0] == "within error" and found.error_m[0] == 200


def test_what_is_not_known_stays_unknown() -> None:
    found = made(met(0, lat=None), met(40))
    assert found.moved[0] == "unknown" and math.isnan(found.distance_m[0]) and math.isnan(found.growth_mm[0])


def test_how_near_a_place_is_must_be_known_to_say_that_it_moved_or_did_not() -> None:
    found = made(met(0), met(40, lat=10.2, error_m=math.nan))
    assert found.moved[0] == "unknown" and found.distance_m[0] == pytest.approx(22_100, rel=0.01)


def test_each_encounter_pairs_with_the_next_of_its_own_fish() -> None:
    found = made(met(9), met(0), met(4), met(2, fish="b"), met(1, fish="c"), met(7, fish="b"))
    assert list(zip(found.start, found.end, found.days, strict=True)) == [(1, 2, 4), (2, 0, 5), (3, 5, 5)]
    assert made(met(0)).end.size == made().end.size == 0


def test_bad_input_is_refused() -> None:
    with pytest.raises(CoreError, match="time"):
        made(met(0), met(0, at=None))
    with pytest.raises(CoreError, match="one length"):
        empty = np.array([], dtype=float)
        journeys(Encounters(np.array(["a"]), empty.astype("datetime64[us]"), empty, empty, empty, empty, empty))
    with pytest.raises(CoreError, match="exchanged"):
        geodesic_m(100, 20, 10, 20)
    with pytest.raises(CoreError):
        geodesic_m(math.nan, 20, 10, 20)


points = st.tuples(st.floats(-89, 89), st.floats(-180, 180))


@given(points, points)
def test_there_and_back_are_alike(a: tuple[float, float], b: tuple[float, float]) -> None:
    there, back = geodesic_m(*a, *b), geodesic_m(*b, *a)
    assert there == pytest.approx(back, abs=1e-3) and there >= 0
    assert np.shape(geodesic_m([a[0]] * 3, [a[1]] * 3, b[0], b[1])) == (3,)


def test_a_journey_is_from_where_the_fish_was_let_go_and_none_is_from_a_known_loss() -> None:
    at = np.array([DAY, DAY + timedelta(days=30), DAY + timedelta(days=60)], dtype="datetime64[us]")
    nothing = np.full(3, np.nan)
    known = Encounters(
        fish=np.array(["a", "a", "a"]), at=at, lat=np.array([10.0, 10.0, 10.0]), lon=np.full(3, 20.0), river_km=nothing,
        length_mm=nothing, error_m=np.full(3, 100.0), left_lat=np.array([10.01, np.nan, np.nan]),
        left_lon=np.array([20.0, np.nan, np.nan]), left_error_m=np.array([5.0, np.nan, np.nan]),
        gone=np.array([False, True, False]),
    )  # fmt: skip
    found = journeys(known)
    assert found.end.tolist() == [1]  # what comes after a death is no journey
    assert found.distance_m[0] == pytest.approx(1106, abs=1) and found.error_m[0] == 105.0


def test_back_in_the_season_of_the_first_meeting() -> None:
    """From the first place to the first time within 45 days of its day in a later year, whatever lies between."""
    found = homings(
        columns(
            met(0), met(90), met(365.25 * 2 + 40, lat=10.1), met(365.25 * 3), met(365, fish="b"), met(365 + 180, fish="b"),
            met(5, fish="c"), met(5 + 365.25 - 46, fish="c"), met(5 + 365.25 + 44, fish="c"), met(10, fish="d"),
        )
    )  # fmt: skip
    assert (found.start.tolist(), found.end.tolist()) == ([0, 6], [2, 8])
    assert found.distance_m[0] == pytest.approx(11_060, rel=0.01) and found.days[0] == pytest.approx(365.25 * 2 + 40)
    assert homings(columns()).start.size == 0
    with pytest.raises(CoreError, match="on each side"):
        homings(columns(met(0)), 200)
