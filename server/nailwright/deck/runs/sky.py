"""Sun and moon over a water, by the astral library; the moon's phase is good to about a day."""

from __future__ import annotations

import math
from collections.abc import Callable
from datetime import date, datetime
from typing import Any
from zoneinfo import ZoneInfo

from astral import Observer
from astral import moon as moons
from astral import sun as suns

from nailwright.waters.models import Water

#: Days after new moon, of 28, up to which it is called so.
_PHASES = ((1.0, "new"), (13.0, "waxing"), (15.0, "full"), (27.0, "waning"), (28.1, "new"))


def sky_over(water: Water, day: date) -> dict[str, Any] | None:
    """Sunrise and sunset of a day (None where the sun does not rise or set), and the moon; None where the water has no place."""
    place = _middle(water.geometry)
    if place is None:
        return None
    observer, zone = Observer(latitude=place[1], longitude=place[0]), ZoneInfo(water.time_zone)
    phase = moons.phase(day)
    return {
        "sunrise": _or_none(lambda: suns.sunrise(observer, date=day, tzinfo=zone)),
        "sunset": _or_none(lambda: suns.sunset(observer, date=day, tzinfo=zone)),
        "moon_share": round((1 - math.cos(2 * math.pi * phase / 28)) / 2, 2),
        "moon": next(word for end, word in _PHASES if phase < end),
    }


def _or_none(moment: Callable[[], datetime]) -> datetime | None:
    try:
        return moment()
    except ValueError:  # in high latitudes the sun stays up, or down, all day
        return None


def _middle(geometry: Any) -> tuple[float, float] | None:
    """Longitude and latitude in the middle of a GeoJSON geometry's corners."""
    corners = list(_corners((geometry or {}).get("coordinates", [])))
    if not corners:
        return None
    lon, lat = zip(*corners, strict=True)
    return (min(lon) + max(lon)) / 2, (min(lat) + max(lat)) / 2


def _corners(nested: Any) -> Any:
    if nested and isinstance(nested[0], int | float):
        yield nested[0], nested[1]
        return
    for each in nested:
        yield from _corners(each)
