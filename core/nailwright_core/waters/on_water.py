"""How far positions lie off a water as it is drawn: on land, or on another water."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

import numpy as np
import shapely
from numpy.typing import ArrayLike, NDArray
from shapely.geometry import shape as shape_of

from nailwright_core.waters.geodesics import local_plane

#: A position farther off than this is asked about, m: an outline is drawn to some tens of metres, a river's line has a width that
#: it does not tell (common practice, no source).
FAR_OFF_M = {"Polygon": 100.0, "MultiPolygon": 100.0, "LineString": 500.0, "MultiLineString": 500.0}


def metres_off_water(drawn: Mapping[str, Any] | None, lat: ArrayLike, lon: ArrayLike) -> NDArray[np.float64] | None:
    """Metres from each position to a water: 0 within an outline, the distance to a line.

    Args:
        drawn: the water's GeoJSON geometry: lines or outlines, longitude before latitude.
        lat, lon: degrees, each of shape (n,).

    Returns:
        Shape (n,); None where the water is not drawn as a line or an outline: nothing can be said of it.

    Raises:
        CoreError: ``position_impossible``, as ``geodesic_m``.
    """
    if not drawn or drawn.get("type") not in FAR_OFF_M:
        return None
    water = shape_of(drawn)
    corners = shapely.get_coordinates(water)
    if not len(corners):
        return None
    here = np.column_stack([np.asarray(lon, dtype=np.float64), np.asarray(lat, dtype=np.float64)])
    # one plane for the water and the positions, so that they lie together
    east, north = local_plane(*np.concatenate([corners, here]).T[::-1])
    metres = np.column_stack([east, north])
    on_plane = shapely.set_coordinates(water, metres[: len(corners)])
    return np.asarray(shapely.distance(on_plane, shapely.points(metres[len(corners) :])), dtype=np.float64)


def far_off(drawn: Mapping[str, Any] | None, lat: ArrayLike, lon: ArrayLike) -> NDArray[np.float64]:
    """Metres off the water of those positions that are asked about; as ``metres_off_water``."""
    off = metres_off_water(drawn, lat, lon)
    if off is None or drawn is None:
        return np.empty(0)
    return off[off > FAR_OFF_M[drawn["type"]]]
