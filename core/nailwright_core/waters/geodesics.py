"""Distances on the WGS84 ellipsoid (Karney 2013, J. Geodesy 87, 43-55, doi 10.1007/s00190-012-0578-z)."""

from __future__ import annotations

import numpy as np
from numpy.typing import ArrayLike, NDArray
from pyproj import Geod

from nailwright_core.common.errors import CoreError

WGS84 = Geod(ellps="WGS84")


def geodesic_m(lat1: ArrayLike, lon1: ArrayLike, lat2: ArrayLike, lon2: ArrayLike) -> NDArray[np.float64]:
    """Shortest distance on the WGS84 ellipsoid, m.

    Args:
        lat1, lon1, lat2, lon2: degrees, broadcast together.

    Raises:
        CoreError: ``position_impossible`` for a latitude beyond 90 or a longitude beyond 180 degrees, or no number.
    """
    a, b, c, d = np.broadcast_arrays(*(np.asarray(each, dtype=np.float64) for each in (lat1, lon1, lat2, lon2)))
    for latitude, longitude in ((a, b), (c, d)):
        if not (np.all(np.abs(latitude) <= 90) and np.all(np.abs(longitude) <= 180)):
            raise CoreError(
                "position_impossible",
                "Expected latitude from -90 to 90 and longitude from -180 to 180 degrees; are the two exchanged?",
                "position",
            )
    _, _, metres = WGS84.inv(b.ravel(), a.ravel(), d.ravel(), c.ravel())
    return np.asarray(metres, dtype=np.float64).reshape(a.shape)


def local_plane(lat: ArrayLike, lon: ArrayLike) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """Metres east and north of the middle of some positions, as an azimuthal equidistant map has them.

    Distances between two of them in the plane differ from those on the ellipsoid by less than one in 100,000 where all lie
    within 40 km of the middle.

    Args:
        lat, lon: degrees, each of shape (n,), n > 0.

    Raises:
        CoreError: as ``geodesic_m``.
    """
    a, b = np.asarray(lat, dtype=np.float64), np.asarray(lon, dtype=np.float64)
    middle = np.full_like(a, a.mean()), np.full_like(b, b.mean())
    metres = geodesic_m(*middle, a, b)
    azimuth, _, _ = WGS84.inv(middle[1], middle[0], b, a)
    return metres * np.sin(np.radians(azimuth)), metres * np.cos(np.radians(azimuth))
