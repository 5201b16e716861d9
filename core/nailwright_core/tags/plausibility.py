"""Whether a finder's report can be of the fish that carries the number: each doubt in words, none of them a verdict."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, timedelta

import numpy as np

from nailwright_core.common.checks import finite
from nailwright_core.movements.journeys import DAYS_PER_MONTH
from nailwright_core.waters.geodesics import geodesic_m

#: Farther a day than this is rather a slip in place or date (common practice, no source: the fastest sustained migrations of
#: freshwater and coastal fish are some tens of kilometres a day).
MOST_KM_A_DAY = 100.0
#: A fish that grew faster than this a month is rather another fish (common practice, no source).
MOST_GROWTH_MM_MONTH = 40.0
#: How far a finder's length may be off: a tape on a wet boat; by eye a fifth (common practice, no source).
TAPE_MM, BY_EYE = 20.0, 0.2
#: Two reports of one number within so many days are rather one meeting told twice.
SAME_EVENT_DAYS = 3


@dataclass(frozen=True)
class LastKnown:
    """What the record knows of a tagged fish. Lengths in mm, positions in degrees, errors in m; None where unknown.

    ``gone`` is the day from which on it is dead, retained or lost, ``tag_gone`` the day from which on it is without this tag.
    """

    species: str
    tagged: date | None = None
    met: date | None = None
    lat: float | None = None
    lon: float | None = None
    error_m: float = 0.0
    length_mm: float | None = None
    measured: date | None = None
    gone: date | None = None
    tag_gone: date | None = None


@dataclass(frozen=True)
class Reported:
    """What a finder says. ``within_days``: how far the day may be off. ``off_water_m``: metres from the nearest water of the
    programme, None where none is drawn or no place was given. ``other_days``: days of other reports of the same number."""

    species: str = ""
    found: date | None = None
    within_days: int = 0
    lat: float | None = None
    lon: float | None = None
    error_m: float = 0.0
    length_mm: float | None = None
    estimated: bool = False
    off_water_m: float | None = None
    other_days: tuple[date, ...] = ()


@dataclass(frozen=True)
class Doubt:
    """One reason to look closer: a code and a sentence."""

    code: str
    text: str


def doubts_of_report(fish: LastKnown, report: Reported) -> tuple[Doubt, ...]:
    """What speaks against a report's being of this fish, the gravest first.

    Raises:
        CoreError: a length that is none, as ``finite``; ``position_impossible`` as ``geodesic_m``.
    """
    if report.length_mm is not None:
        finite(report.length_mm, "length_mm", 0.0, above=True)
    found = [
        _species(fish, report),
        *_days(fish, report),
        _speed(fish, report),
        _growth(fish, report),
        _place(report),
        _same_event(report),
    ]
    return tuple(each for each in found if each is not None)


def _species(fish: LastKnown, report: Reported) -> Doubt | None:
    if report.species in ("", fish.species):
        return None
    return Doubt("species_differs", "The report names another species than the fish that was tagged.")


def _days(fish: LastKnown, report: Reported) -> list[Doubt]:
    if report.found is None:
        return []
    latest = report.found + timedelta(days=report.within_days)
    earliest = report.found - timedelta(days=report.within_days)
    doubts = []
    if fish.tagged and latest < fish.tagged:
        doubts.append(Doubt("before_tagging", f"Found {_span(report.found, fish.tagged)} before the fish was tagged."))
    if fish.gone and earliest > fish.gone:
        doubts.append(
            Doubt(
                "fish_gone",
                f"The record ends this fish {_span(fish.gone, report.found)} earlier: dead, retained or lost.",
            )
        )
    if fish.tag_gone and earliest > fish.tag_gone:
        doubts.append(Doubt("tag_gone", f"This tag was shed or removed {_span(fish.tag_gone, report.found)} earlier."))
    return doubts


def _speed(fish: LastKnown, report: Reported) -> Doubt | None:
    if report.found is None or fish.met is None:
        return None
    if fish.lat is None or fish.lon is None or report.lat is None or report.lon is None:
        return None
    distance_m = float(geodesic_m(fish.lat, fish.lon, report.lat, report.lon))
    beyond_m = distance_m - fish.error_m - report.error_m
    days = max((report.found - fish.met).days + report.within_days, 0) + 1  # both days may be used to the full
    if days < 1 or beyond_m / 1000 / days <= MOST_KM_A_DAY:
        return None
    return Doubt("too_fast", f"{_km(distance_m)} in {_span(fish.met, report.found)}: check the place and the day.")


def _growth(fish: LastKnown, report: Reported) -> Doubt | None:
    if report.length_mm is None or fish.length_mm is None:
        return None
    tolerance = max(TAPE_MM, BY_EYE * fish.length_mm if report.estimated else 0.0)
    growth = report.length_mm - fish.length_mm
    if growth < -tolerance:
        return Doubt("shrunk", f"{-growth:.0f} mm shorter than when it was last measured ({fish.length_mm:.0f} mm).")
    if report.found is None or fish.measured is None:
        return None
    months = max((report.found - fish.measured).days + report.within_days, 0) / DAYS_PER_MONTH
    if growth > tolerance + MOST_GROWTH_MM_MONTH * months:
        return Doubt("grown_too_fast", f"{growth:.0f} mm longer after {_span(fish.measured, report.found)}.")
    return None


def _place(report: Reported) -> Doubt | None:
    if report.off_water_m is None or report.off_water_m <= report.error_m:
        return None
    return Doubt("on_land", f"{_km(report.off_water_m)} from the nearest water of the programme.")


def _same_event(report: Reported) -> Doubt | None:
    if report.found is None or not report.other_days:
        return None
    apart = np.abs([(report.found - each).days for each in report.other_days])
    near = int(np.sum(apart <= SAME_EVENT_DAYS + report.within_days))
    if not near:
        return None
    return Doubt(
        "same_event", f"{near} other {'report' if near == 1 else 'reports'} of this number from the same days."
    )


def _km(metres: float) -> str:
    return f"{metres / 1000:,.1f} km" if metres < 100_000 else f"{metres / 1000:,.0f} km"


def _span(first: date, last: date) -> str:
    days = (last - first).days
    return "less than a day" if days == 0 else "1 day" if days == 1 else f"{days:,} days"
