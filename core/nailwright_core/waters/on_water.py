"""A water as it is drawn, round some positions: how far they lie off it, and what of it is near."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

import numpy as np
import shapely
from numpy.typing import ArrayLike, NDArray
from shapely.geometry import shape as shape_of

from nailwright_core.waters.geodesics import local_plane

#: A position farther off than this is asked about, m: an outline is drawn to some tens of metres, a river's line has a width that
#: it does not tell (common practice, no source).
FAR_OFF_M = {"Polygon": 100.0, "MultiPolygon": 100.0, "LineString": 500.0, "MultiLineString": 500.0}


_M_PER_DEGREE = 111_320.0


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
    """Metres off the water of those positions that are asked about; as ``metres_off_water``.

    Args:
        drawn: the water as GeoJSON; None where it was not drawn.
        lat: latitudes, degrees, shape (n,).
        lon: longitudes, degrees, shape (n,).
    """
    off = metres_off_water(drawn, lat, lon)
    if off is None or drawn is None:
        return np.empty(0)
    return off[off > FAR_OFF_M[drawn["type"]]]


@dataclass(frozen=True)
class Near:
    """What of a water lies round some positions, as lists of latitude and longitude.

    Attributes:
        areas: water within an outline; what lies in a hole of it is an area of ``islands``. lines: a river's line.
    """

    areas: tuple[tuple[tuple[float, float], ...], ...] = ()
    islands: tuple[tuple[tuple[float, float], ...], ...] = ()
    lines: tuple[tuple[tuple[float, float], ...], ...] = ()


def near(drawn: Mapping[str, Any] | None, lat: ArrayLike, lon: ArrayLike, margin_m: float = 200.0) -> Near:
    """What of a water lies within a box round the positions and a margin.

    Args:
        drawn: as ``metres_off_water``; of a water that is not drawn, and of no positions, nothing is near.
        lat, lon: degrees, each of shape (n,). margin_m: on each side, m.
    """
    north, east = np.asarray(lat, dtype=np.float64), np.asarray(lon, dtype=np.float64)
    if not drawn or drawn.get("type") not in FAR_OFF_M or not north.size:
        return Near()
    up = margin_m / _M_PER_DEGREE
    aside = up / max(np.cos(np.radians(north.mean())), 0.01)
    clipped = shapely.clip_by_rect(
        shape_of(drawn), east.min() - aside, north.min() - up, east.max() + aside, north.max() + up
    )
    parts = [part for part in shapely.get_parts(shapely.get_parts([clipped])) if not part.is_empty]
    areas = [part for part in parts if part.geom_type == "Polygon"]
    return Near(
        tuple(_places(each.exterior) for each in areas),
        tuple(_places(hole) for each in areas for hole in each.interiors),
        tuple(_places(part) for part in parts if part.geom_type == "LineString"),
    )


def _places(line: shapely.LineString) -> tuple[tuple[float, float], ...]:
    return tuple((round(y, 6), round(x, 6)) for x, y in shapely.get_coordinates(line))
