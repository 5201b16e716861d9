"""Tracks against geodesics of a general-purpose library, and by laws that they keep."""

from __future__ import annotations

import math
import random

import numpy as np
import pytest
from geographiclib.geodesic import Geodesic
from hypothesis import given, settings
from hypothesis import strategies as st

from nailwright_core.waters.track import MOST_LOST, Fix, _length, read_track, thinned

WGS84 = Geodesic.WGS84


def along(bearings_and_metres: list[tuple[float, float]], step_s: float = 5.0) -> list[Fix]:
    """Positions along a way of known legs (geographiclib)."""
    lat, lon, at = 44.9, -31.5, 0.0
    fixes = [Fix(at, lat, lon)]
    for bearing, metres in bearings_and_metres:
        there = WGS84.Direct(lat, lon, bearing, metres)
        lat, lon, at = there["lat2"], there["lon2"], at + step_s
        fixes.append(Fix(at, lat, lon))
    return fixes


def test_a_way_of_known_legs() -> None:
    """Ten legs of 12 m north and five of 20 m east: 220 m, whatever their order of arrival."""
    fixes = along([(0, 12)] * 10 + [(90, 20)] * 5)
    dice = random.Random(3)
    dice.shuffle(fixes)
    track = read_track(fixes)
    assert track.length_m == pytest.approx(220, abs=1e-3) and (track.gaps, track.left_out) == (0, 0)
    (piece,) = thinned(track)
    assert len(piece) == 3  # two straight legs need their three corners


def test_a_gap_is_a_gap() -> None:
    fixes = along([(0, 10)] * 20)
    without = fixes[:8] + [Fix(each.at_s + 300, each.lat, each.lon) for each in fixes[12:]]
    track = read_track(without)
    assert track.gaps == 1 and track.length_m == pytest.approx(70 + 80, abs=1e-3)


def test_what_cannot_be_is_left_out() -> None:
    fixes = along([(90, 10)] * 10)
    odd = [Fix(12.5, 0, 0), Fix(17.5, 91, 0), Fix(22.5, 45.9, -31.5), Fix(22.6, 44.9, 181)]
    track = read_track(fixes + odd)
    assert track.left_out == 4 and track.length_m == pytest.approx(100, abs=1e-3)
    assert read_track([]).length_m == 0 and read_track([Fix(0, 0, 0)]).pieces == ()


def scattered(sd_m: float, metres_a_second: float, seconds: int) -> list[Fix]:
    """A position every two seconds, northward, each scattered for itself: worse than receivers, whose errors drift slowly."""
    dice = random.Random(5)
    return [
        Fix(t, 44.9 + (metres_a_second * t + dice.gauss(0, sd_m)) / 111_132, -31.5 + dice.gauss(0, sd_m) / 78_970)
        for t in range(0, seconds, 2)
    ]


def test_standing_still_is_no_way() -> None:
    """An hour at anchor: read point by point it would be a kilometre and more."""
    still = scattered(0.5, 0, 3600)
    assert _length(still) > 1000
    assert read_track(still).length_m == 0


@pytest.mark.parametrize(("sd_m", "most"), [(0.5, 0.02), (1.0, 0.08)])
def test_how_much_scatter_adds_to_a_way(sd_m: float, most: float) -> None:
    """Half an hour at 0.6 m/s, 1,079 m: scatter makes a way longer, never shorter by much."""
    found = read_track(scattered(sd_m, 0.6, 1800)).length_m / 1079
    assert 1 - 0.01 < found < 1 + most


@settings(deadline=None, max_examples=60)
@given(st.integers(0, 10_000))
def test_thinning_keeps_the_length_and_the_ends(seed: int) -> None:
    dice = np.random.default_rng(seed)
    bearings = np.cumsum(dice.normal(0, 25, 120))
    track = read_track(along([(float(each) % 360, 8.0) for each in bearings]))
    (piece,) = thinned(track)
    assert piece[0] == track.pieces[0][0] and piece[-1] == track.pieces[0][-1]
    assert set(piece) <= set(track.pieces[0]) and len(piece) <= 121
    assert _length(piece) >= (1 - MOST_LOST) * track.length_m - 1e-6
    assert not math.isnan(track.length_m)
