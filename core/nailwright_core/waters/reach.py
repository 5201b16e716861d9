"""A reach as a line on the globe: measured metres along it, points at a metre, what is wrong with a drawn line.

Lengths are geodesics on WGS84 between the line's points.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray
from shapely import LineString, Point

from nailwright_core.common.arrays import Floats
from nailwright_core.common.errors import CoreError
from nailwright_core.waters.geodesics import WGS84

MAX_POINTS = 200_000
#: A line longer than this is hardly one reach; drawn in the wrong order of coordinates, for instance.
LONGEST_M = 3_000_000.0


@dataclass(frozen=True)
class Reach:
    """``lon``, ``lat`` (degrees) and ``along_m`` from the start, each of shape (k,)."""

    lon: NDArray[np.float64]
    lat: NDArray[np.float64]
    along_m: NDArray[np.float64]

    @property
    def length_m(self) -> float:
        """Its length along the line."""
        return float(self.along_m[-1])

    def point_at(self, metres: ArrayLike) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
        """Longitudes and latitudes of points so many metres along.

        Raises:
            CoreError: ``beyond_reach``.
        """
        m = np.asarray(metres, dtype=float)
        if m.size and not ((m >= -1e-6) & (m <= self.length_m + 1e-6)).all():
            worst = float(m[(m < -1e-6) | (m > self.length_m + 1e-6)].flat[0])
            raise CoreError(
                "beyond_reach",
                f"The reach is {self.length_m / 1000:.3f} km long; km {worst / 1000:.3f} lies beyond its end.",
                "start_m",
            )
        # along the geodesic between two points of the line, on which the degrees are no straight line
        place = np.clip(np.searchsorted(self.along_m, m, side="right") - 1, 0, self.along_m.size - 2)
        lon, lat = self.lon[place], self.lat[place]
        azimuth, _, _ = WGS84.inv(lon, lat, self.lon[place + 1], self.lat[place + 1])
        found_lon, found_lat, _ = WGS84.fwd(lon, lat, azimuth, m - self.along_m[place])
        return np.asarray(found_lon, dtype=float).reshape(m.shape), np.asarray(found_lat, dtype=float).reshape(m.shape)

    def part(self, start_m: float, end_m: float) -> list[tuple[float, float]]:
        """The points (lon, lat) of a stretch, its ends among them."""
        inside = (self.along_m > start_m) & (self.along_m < end_m)
        (lon0, lon1), (lat0, lat1) = self.point_at([start_m, end_m])
        middle = zip(self.lon[inside], self.lat[inside], strict=True)
        return [(float(lon0), float(lat0)), *((float(x), float(y)) for x, y in middle), (float(lon1), float(lat1))]

    def nearest_m(self, lon: float, lat: float) -> tuple[float, float]:
        """Metres along to the place nearest to a point, and how far off the line that point is, m.

        On a plane about the point, first between the line's points, then twice about the place found, along the geodesic:
        between points far apart it bends away from the plane's straight line.
        """
        metres, longest = self.along_m, float(np.diff(self.along_m).max())
        found, off = _nearest_on_plane(self.lon, self.lat, metres, lon, lat)
        for width in (longest / 10, longest / 500):
            metres = np.linspace(max(found - width, 0.0), min(found + width, self.length_m), 101)
            found, off = _nearest_on_plane(*self.point_at(metres), metres, lon, lat)
        return found, off


def _nearest_on_plane(lons: Floats, lats: Floats, along_m: Floats, lon: float, lat: float) -> tuple[float, float]:
    east = np.radians(_short_way(lons - lon)) * np.cos(np.radians(lat)) * 6_371_008.8
    north = np.radians(lats - lat) * 6_371_008.8
    line = LineString(np.column_stack([east, north]))
    from_origin = Point(0, 0)
    share = line.project(from_origin, normalized=True)
    planar = np.concatenate([[0], np.cumsum(np.hypot(np.diff(east), np.diff(north)))])
    return float(np.interp(share * planar[-1], planar, along_m)), float(line.distance(from_origin))


def reach_from(points: Sequence[Sequence[float]]) -> Reach:
    """A reach from its (lon, lat) points in order, from the mouth or lower end upward.

    Args:
        points: (longitude, latitude) in order, degrees.

    Raises:
        CoreError: ``line_too_short``, ``too_many_points``, ``coordinates_out_of_range``, ``coordinates_swapped``,
            ``line_crosses_itself``, ``line_too_long``; field ``line``.
    """
    if len(points) > MAX_POINTS:
        raise CoreError("too_many_points", f"Expected at most {MAX_POINTS:,} points; got {len(points):,}.", "line")
    try:
        line = np.array([[float(point[0]), float(point[1])] for point in points], dtype=float).reshape(-1, 2)
    except (TypeError, ValueError, IndexError) as error:
        raise CoreError("line_unreadable", "Expected a list of points, each longitude and latitude.", "line") from error
    if line.size:
        line = line[np.concatenate([[True], (np.diff(line, axis=0) != 0).any(axis=1)])]
    if len(line) < 2:
        raise CoreError(
            "line_too_short", "A reach needs at least two different points; this line has no length.", "line"
        )
    lon, lat = line.T
    if not np.isfinite(line).all() or (np.abs(lon) > 180).any():
        raise CoreError("coordinates_out_of_range", "Expected longitudes from -180 to 180 degrees.", "line")
    if (np.abs(lat) > 90).any():
        worst = float(lat[np.abs(lat) > 90][0])
        raise CoreError(
            "coordinates_swapped",
            f"{worst:g} can be no latitude: latitude and longitude are swapped. Expected longitude first.",
            "line",
        )
    along = np.concatenate([[0.0], np.cumsum(WGS84.inv(lon[:-1], lat[:-1], lon[1:], lat[1:])[2])])
    if along[-1] > LONGEST_M:
        raise CoreError(
            "line_too_long",
            f"The line is {along[-1] / 1000:,.0f} km long; at most {LONGEST_M / 1000:,.0f}. Are its points in order?",
            "line",
        )
    # whole turns only: a shore must close on the very point it began with
    turns = np.concatenate([[0.0], np.cumsum(np.round(np.diff(lon) / 360))])
    if not LineString(np.column_stack([lon - 360 * turns, lat])).is_simple:
        raise CoreError(
            "line_crosses_itself", "The line crosses or touches itself, so kilometres along it have no meaning. Draw it once, "
            "along the middle of the water.", "line",
        )  # fmt: skip
    return Reach(lon, lat, along)


def _short_way(degrees: NDArray[np.float64]) -> NDArray[np.float64]:
    """Differences of longitude as they are on the globe: from 179.9 to -179.9 degrees it is 0.2, not 359.8 the other way."""
    return np.asarray((degrees + 180) % 360 - 180)


def looks_swapped(points: Sequence[Sequence[float]], near: tuple[float, float]) -> bool:
    """Whether a line lies nearer to a known place (lon, lat) with its coordinates swapped.

    Args:
        points: (longitude, latitude) of each point in order, degrees.
        near: a place (longitude, latitude) of which it is known that it is near, degrees.
    """
    first = (float(points[0][0]), float(points[0][1]))
    as_is = WGS84.inv(first[0], first[1], *near)[2]
    if abs(first[0]) > 90:
        return False
    return bool(WGS84.inv(first[1], first[0], *near)[2] < as_is / 4)
