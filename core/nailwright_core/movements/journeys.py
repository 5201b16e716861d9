"""From encounters of marked fish to journeys: days, distance, growth."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from nailwright_core.common.arrays import Floats
from nailwright_core.common.errors import CoreError
from nailwright_core.waters.geodesics import geodesic_m

DAYS_PER_MONTH = 365.25 / 12
SECONDS_PER_DAY = 86_400
DAYS_PER_YEAR = 365.25
#: A board is read to a few millimetres: over fewer days growth is measuring error (common practice, no source).
DAYS_FOR_GROWTH = 30.0


@dataclass(frozen=True)
class Encounters:
    """Encounters of marked fish, many fish mixed, as columns of shape (n,). What is not known is nan.

    Attributes:
        fish: whose encounter it is, labels of any kind.
        at: when, datetime64 in UTC.
        lat, lon: degrees, WGS84.
        river_km: kilometre along the water.
        length_mm: measured length.
        error_m: how far the true position may be from this one.
        left_lat, left_lon, left_error_m: where it was let go, where that is known to be elsewhere; None where of none.
        gone: whether the fish is dead, retained or lost from then on; None where of none.
    """

    fish: NDArray[np.generic]
    at: NDArray[np.datetime64]
    lat: Floats
    lon: Floats
    river_km: Floats
    length_mm: Floats
    error_m: Floats
    left_lat: Floats | None = None
    left_lon: Floats | None = None
    left_error_m: Floats | None = None
    gone: NDArray[np.bool_] | None = None

    @property
    def begins(self) -> tuple[Floats, Floats]:
        """Latitude and longitude from where a journey begins: where it was let go, and where that is not known where it was met."""
        return _or(self.left_lat, self.lat), _or(self.left_lon, self.lon)


@dataclass(frozen=True)
class Journeys:
    """From each encounter of a fish to its next, as columns of shape (m,). What cannot be known is nan.

    Attributes:
        start, end: places of the two encounters in the columns given.
        days: time between them.
        distance_m: geodesic, m. ``error_m`` is the sum of both position errors.
        moved: "moved" where the distance is beyond the error, "within error", "unknown" where a place is, or how near one is.
        along_km: kilometres along the water, above zero for upstream (towards larger kilometres).
        growth_mm, growth_mm_month: difference of lengths, and per month of 30.44 days; the latter only over
            ``DAYS_FOR_GROWTH`` days or more.
    """

    start: NDArray[np.int64]
    end: NDArray[np.int64]
    days: Floats
    distance_m: Floats
    error_m: Floats
    moved: NDArray[np.str_]
    along_km: Floats
    growth_mm: Floats
    growth_mm_month: Floats


def journeys(met: Encounters) -> Journeys:
    """Pair each encounter with the next of the same fish, in order of time; fish by fish. From a known loss no journey begins.

    A journey is from where the fish was let go, and where that is not known from where it was met.

    Args:
        met: encounters in columns of one length n.

    Raises:
        CoreError: ``lengths_differ``, ``time_unknown``, ``position_impossible`` as ``geodesic_m``.
    """
    order, same = _in_order(met)
    if met.gone is not None:
        same &= ~met.gone[order[:-1]]
    return _measured(met, order[:-1][same], order[1:][same])


def homings(met: Encounters, around_days: float = 45.0) -> Journeys:
    """From where a fish was first let go to where it was first met in the same season of a later year; fish that never were are not in it.

    Args:
        met: encounters in columns of one length n. around_days: how far the day of the year may be from that of the first, above 0.

    Raises:
        CoreError: as ``journeys``, ``number_out_of_range``.
    """
    if not 0 < around_days < DAYS_PER_YEAR / 2:
        raise CoreError(
            "number_out_of_range",
            f"Expected a season of 0 to {DAYS_PER_YEAR / 2:.0f} days on each side; got {around_days:g}.",
            "around_days",
        )
    order, same = _in_order(met)
    if not order.size:
        return _measured(met, order, order)
    begins = np.concatenate([[True], ~same])
    first = order[np.maximum.accumulate(np.where(begins, np.arange(order.size), 0))]
    days = (met.at[order] - met.at[first]) / np.timedelta64(1, "D")
    years = np.round(days / DAYS_PER_YEAR)
    back = np.flatnonzero((years >= 1) & (np.abs(days - years * DAYS_PER_YEAR) <= around_days))
    _, once = np.unique(first[back], return_index=True)  # of each fish the first such time
    return _measured(met, first[back][once], order[back][once])


def _in_order(met: Encounters) -> tuple[NDArray[np.int64], NDArray[np.bool_]]:
    """Places of the encounters fish by fish in order of time, and whether each is of the same fish as the one before."""
    columns = [each for each in vars(met).values() if each is not None]
    if len({column.shape for column in columns}) != 1:
        raise CoreError("lengths_differ", "Expected columns of one length, a value of each for every encounter.", "met")
    if np.isnat(met.at).any():
        raise CoreError("time_unknown", "Every encounter needs a time.", "at")
    _, whose = np.unique(met.fish, return_inverse=True)
    order = np.lexsort((met.at, whose.ravel()))
    return order, whose.ravel()[order[1:]] == whose.ravel()[order[:-1]]


def _measured(met: Encounters, start: NDArray[np.int64], end: NDArray[np.int64]) -> Journeys:
    days = (met.at[end] - met.at[start]) / np.timedelta64(1, "D")
    distance = np.full(start.size, np.nan)
    from_lat, from_lon = met.begins
    ends = np.stack([from_lat[start], from_lon[start], met.lat[end], met.lon[end]])
    placed = ~np.isnan(ends).any(axis=0)
    distance[placed] = geodesic_m(*ends[:, placed])
    error = _or(met.left_error_m, met.error_m)[start] + met.error_m[end]
    growth = met.length_mm[end] - met.length_mm[start]
    with np.errstate(divide="ignore", invalid="ignore"):
        month = np.where(days >= DAYS_FOR_GROWTH, growth / days * DAYS_PER_MONTH, np.nan)
        moved = np.where(
            np.isnan(distance) | np.isnan(error), "unknown", np.where(distance > error, "moved", "within error")
        )
    return Journeys(start, end, days, distance, error, moved, met.river_km[end] - met.river_km[start], growth, month)


def _or(known: Floats | None, otherwise: Floats) -> Floats:
    return otherwise if known is None else np.where(np.isnan(known), otherwise, known)
