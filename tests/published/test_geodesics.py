"""Distances against GeographicLib in pure Python (Karney 2013)."""

import numpy as np
import pytest
from geographiclib.geodesic import Geodesic

from nailwright_core.waters.geodesics import geodesic_m, local_plane


def test_random_pairs_against_geographiclib() -> None:
    rng = np.random.default_rng(5)
    a, c = rng.uniform(-89, 89, (2, 60))
    b, d = rng.uniform(-180, 180, (2, 60))
    wanted = [Geodesic.WGS84.Inverse(*each)["s12"] for each in zip(a, b, c, d, strict=True)]
    assert geodesic_m(a, b, c, d) == pytest.approx(wanted, abs=1e-6)


def test_a_nautical_mile_by_definition() -> None:
    """A minute of latitude is near 1,852 m at 45 degrees: the mile's first definition."""
    assert geodesic_m(45 - 1 / 120, 0, 45 + 1 / 120, 0) == pytest.approx(1852, abs=1)


def test_a_local_plane_keeps_the_distances_of_a_lake() -> None:
    """Against GeographicLib's geodesics: sites within 20 km of each other, to one in 100,000."""
    rng = np.random.default_rng(3)
    lat, lon = 61.2 + rng.uniform(-0.1, 0.1, 12), 25.4 + rng.uniform(-0.2, 0.2, 12)
    east, north = local_plane(lat, lon)
    for a in range(12):
        for b in range(a):
            wanted = Geodesic.WGS84.Inverse(lat[a], lon[a], lat[b], lon[b])["s12"]
            assert np.hypot(east[a] - east[b], north[a] - north[b]) == pytest.approx(wanted, rel=1e-5)
