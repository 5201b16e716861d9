"""Where the made-up waters lie: an island far out in an ocean. WGS84, longitude before latitude, as GeoJSON wants.

Kilometres run up the Ketterwick River from its mouth in Merrow Sound; Thornweir dam stands at km 31.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from demo.truth import LOWER_RIVER, UPPER_RIVER

MOUTH = (-31.62, 44.91)
EARTH_M = 6_371_008.8
RIVER_KM = 62.0
DAM_KM = 31.0
LAKE_KM2 = 18.0
TIME_ZONE = "Etc/GMT+2"


@dataclass(frozen=True)
class DemoSite:
    """A site: ``km`` up the river for rivers, None on the lake."""

    name: str
    reach: str
    km: float | None
    at: tuple[float, float]


@dataclass(frozen=True)
class DemoWater:
    """A water with its GeoJSON and its sites."""

    name: str
    kind: str
    geometry: dict[str, Any]
    sites: tuple[DemoSite, ...]


def waters() -> tuple[DemoWater, ...]:
    """The freshwater part of the basin."""
    line = river_line()
    lake_centre = _offset(point_at(line, DAM_KM + 3.2), 2300, -600)
    lower = [_river_site(line, km, LOWER_RIVER) for km in (4, 9, 15, 21.5, 27)]
    upper = [_river_site(line, km, UPPER_RIVER) for km in (39, 44.5, 50, 57)]
    lake = [
        DemoSite(
            f"{arm[0]}{i + 1}",
            arm,
            None,
            _offset(lake_centre, 2600 * math.cos(turn + i * 0.55), 1900 * math.sin(turn + i * 0.55)),
        )
        for arm, turn in (("North arm", 0.6), ("South basin", 3.6))
        for i in range(4)
    ]
    return (
        DemoWater("Lake Ossling", "lake", _lake(lake_centre), tuple(lake)),
        DemoWater("Ketterwick River", "river", _line(line), (*lower, *upper)),
        _tributary(line, "Skarn Beck", 12.0, 9.0, 1),
        _tributary(line, "Hollin Water", 47.0, 11.0, -1),
    )


def river_line() -> NDArray[np.float64]:
    """The river's centre-line from the mouth, shape (k, 2), scaled so that it is 62 km long."""
    along = np.linspace(0, 1, 621)
    east = 30 * along + 3.2 * np.sin(9.5 * along) + 0.35 * np.sin(31 * along + 0.7)
    north = 26 * along + 4.0 * np.sin(6.2 * along + 1.0) + 0.8 * np.cos(27 * along)
    plane = np.column_stack([east - east[0], north - north[0]]) * 1000
    for _ in range(3):  # the plane is only nearly flat: a few rounds bring the length on the globe to 62 km
        line = np.array([_offset(MOUTH, x, y) for x, y in plane])
        plane *= RIVER_KM * 1000 / _lengths(line)[-1]
    return np.array([_offset(MOUTH, x, y) for x, y in plane])


def point_at(line: NDArray[np.float64], km: float) -> tuple[float, float]:
    """The point ``km`` up the line."""
    along = _lengths(line)
    return float(np.interp(km * 1000, along, line[:, 0])), float(np.interp(km * 1000, along, line[:, 1]))


def _river_site(line: NDArray[np.float64], km: float, reach: str) -> DemoSite:
    return DemoSite(f"K{km:g}", reach, km, point_at(line, km))


def _tributary(river: NDArray[np.float64], name: str, joins_km: float, length_km: float, side: int) -> DemoWater:
    start = point_at(river, joins_km)
    along = np.linspace(0, length_km * 1000, 60)
    line = np.array(
        [
            _offset(start, side * x * 0.8 + 240 * math.sin(x / 700), -side * x * 0.5 + 160 * math.cos(x / 500))
            for x in along
        ]
    )
    sites = tuple(DemoSite(f"{name[0]}{km:g}", name, km, point_at(line, km)) for km in (1.5, 4, 7))
    return DemoWater(name, "river", _line(line), sites)


def _lake(centre: tuple[float, float]) -> dict[str, Any]:
    turn = np.linspace(0, 2 * math.pi, 91)
    radius = 1 + 0.16 * np.sin(3 * turn + 0.4) + 0.07 * np.sin(7 * turn)
    x, y = 1.45 * radius * np.cos(turn), radius * np.sin(turn)
    area = 0.5 * abs(float(np.dot(x[:-1], y[1:]) - np.dot(x[1:], y[:-1])))
    scale = 1000 * math.sqrt(LAKE_KM2 / area)
    ring = [list(_offset(centre, scale * a, scale * b)) for a, b in zip(x, y, strict=True)]
    ring[-1] = ring[0]
    return {"type": "Polygon", "coordinates": [[[round(v, 6) for v in point] for point in ring]]}


def _line(points: NDArray[np.float64]) -> dict[str, Any]:
    return {"type": "LineString", "coordinates": points.round(6).tolist()}


def _offset(origin: tuple[float, float], east_m: float, north_m: float) -> tuple[float, float]:
    lat = origin[1] + math.degrees(north_m / EARTH_M)
    return origin[0] + math.degrees(east_m / (EARTH_M * math.cos(math.radians(origin[1])))), lat


def _lengths(line: NDArray[np.float64]) -> NDArray[np.float64]:
    """Metres along the line, shape (k,), by the haversine formula."""
    lon, lat = np.radians(line).T
    half = np.sin(np.diff(lat) / 2) ** 2 + np.cos(lat[:-1]) * np.cos(lat[1:]) * np.sin(np.diff(lon) / 2) ** 2
    return np.concatenate([[0.0], np.cumsum(2 * EARTH_M * np.arcsin(np.sqrt(half)))])
