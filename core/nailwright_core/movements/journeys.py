"""From encounters of marked fish to journeys: days, distance, growth."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from itertools import pairwise
from typing import Literal

import numpy as np

from nailwright_core.common.errors import CoreError
from nailwright_core.waters.geodesics import geodesic_m

DAYS_PER_MONTH = 365.25 / 12
SECONDS_PER_DAY = 86_400
#: A board is read to a few millimetres: over fewer days growth is measuring error (common practice, no source).
DAYS_FOR_GROWTH = 30.0


@dataclass(frozen=True)
class Encounter:
    """One fish met once: where (degrees, WGS84), how surely, how long it was.

    Attributes:
        fish: whose encounter it is; encounters of many fish may be mixed.
        at: an aware datetime.
        lat, lon: degrees, or None where the place is not known.
        river_km: kilometre along the water, where it has one.
        length_mm: None where it was not measured.
        error_m: how far the true position may be from this one.
    """

    fish: str
    at: datetime
    lat: float | None = None
    lon: float | None = None
    river_km: float | None = None
    length_mm: float | None = None
    error_m: float = 100.0


@dataclass(frozen=True)
class Journey:
    """From one encounter of a fish to its next. What cannot be known is nan.

    Attributes:
        days: time between them.
        distance_m: geodesic, m. ``error_m`` is the sum of both position errors.
        moved: whether the distance is beyond the error; "unknown" where a place is.
        along_km: kilometres along the water, above zero for upstream (towards larger kilometres).
        growth_mm, growth_mm_month: difference of lengths, and per month of 30.44 days; the latter only over
            ``DAYS_FOR_GROWTH`` days or more.
    """

    start: Encounter
    end: Encounter
    days: float
    distance_m: float
    error_m: float
    moved: Literal["moved", "within error", "unknown"]
    along_km: float
    growth_mm: float
    growth_mm_month: float


def journeys(encounters: Sequence[Encounter]) -> tuple[Journey, ...]:
    """Pair each encounter with the next of the same fish, in order of time.

    Raises:
        CoreError: ``time_without_zone`` for a naive datetime, ``position_impossible`` as ``geodesic_m``.
    """
    if any(each.at.tzinfo is None for each in encounters):
        raise CoreError("time_without_zone", "Every encounter needs a time with its zone.", "at")
    ordered = sorted(encounters, key=lambda each: (each.fish, each.at))
    pairs = [(a, b) for a, b in pairwise(ordered) if a.fish == b.fish]
    if not pairs:
        return ()
    starts, ends = zip(*pairs, strict=True)
    placed = np.array([None not in (a.lat, a.lon, b.lat, b.lon) for a, b in pairs])
    distance = np.full(len(pairs), np.nan)
    if placed.any():
        at = [[getattr(each, name) for each, known in zip(side, placed, strict=True) if known]
              for side in (starts, ends) for name in ("lat", "lon")]  # fmt: skip
        distance[placed] = geodesic_m(*at)
    return tuple(_journey(a, b, float(metres)) for (a, b), metres in zip(pairs, distance, strict=True))


def _journey(start: Encounter, end: Encounter, distance_m: float) -> Journey:
    days = (end.at - start.at).total_seconds() / SECONDS_PER_DAY
    growth = _difference(start.length_mm, end.length_mm)
    error = start.error_m + end.error_m
    return Journey(
        start=start,
        end=end,
        days=days,
        distance_m=distance_m,
        error_m=error,
        moved="unknown" if math.isnan(distance_m) else "moved" if distance_m > error else "within error",
        along_km=_difference(start.river_km, end.river_km),
        growth_mm=growth,
        growth_mm_month=growth / days * DAYS_PER_MONTH if days >= DAYS_FOR_GROWTH else math.nan,
    )


def _difference(first: float | None, second: float | None) -> float:
    return math.nan if first is None or second is None else second - first
