"""A plan in open formats: GPX of the sites for the boat, iCalendar of visits and seasons."""

from __future__ import annotations

from datetime import UTC, date, datetime, timedelta

import gpxpy.gpx
from icalendar import Calendar, Event
from uuid6 import uuid7

from nailwright.plan.actions import visit_days
from nailwright.plan.models import Season, Survey
from nailwright.plan.queries import seasons_of
from nailwright.plan.reaches import reach_of

_REVISITS = 3


def gpx_of(survey: Survey) -> str:
    """Start and end of every site as waypoints, each site as a track (GPX 1.1)."""
    reach = reach_of(survey.water)
    file = gpxpy.gpx.GPX()
    file.name, file.creator = survey.name, "Nailwright"
    for site in survey.sites.all():
        points = reach.part(site.start_m, site.end_m)
        for word, (lon, lat) in (("start", points[0]), ("end", points[-1])):
            file.waypoints.append(
                gpxpy.gpx.GPXWaypoint(
                    round(lat, 6),
                    round(lon, 6),
                    name=f"{site.number} {word}",
                    description=_km(site.start_m, site.end_m),
                )
            )
        track = gpxpy.gpx.GPXTrack(name=f"Site {site.number}")
        track.segments.append(
            gpxpy.gpx.GPXTrackSegment([gpxpy.gpx.GPXTrackPoint(round(lat, 6), round(lon, 6)) for lon, lat in points])
        )
        file.tracks.append(track)
    return file.to_xml(version="1.1")


def calendar_of(survey: Survey, now: datetime) -> bytes:
    """Visits, seasons that close the water or in which fish spawn, and revisits (RFC 5545)."""
    calendar = Calendar()
    calendar.add("prodid", "-//Nailwright//Survey calendar//EN")
    calendar.add("version", "2.0")
    for number, day in enumerate(visit_days(survey), 1):
        _all_day(calendar, f"{survey.name}: visit {number} of {survey.visits}", day, day, now)
    for season in seasons_of(survey):
        first, last = next_season(season, survey.first)
        _all_day(calendar, f"{season.get_kind_display()}: {season.name}", first, last, now)
    if survey.revisit_years:
        for again in range(1, _REVISITS + 1):
            day = _in_year(survey.first, survey.first.year + again * survey.revisit_years)
            _all_day(calendar, f"{survey.name}: revisit due", day, day, now)
    return calendar.to_ical()


def season_dates(season: Season, year: int) -> tuple[date, date]:
    """First and last day of a season that begins in a year."""
    month, day = map(int, season.first_day.split("-"))
    last_month, last_day = map(int, season.last_day.split("-"))
    over = season.last_day < season.first_day
    return _in_year(date(2024, month, day), year), _in_year(date(2024, last_month, last_day), year + over)


def next_season(season: Season, day: date) -> tuple[date, date]:
    """First and last day of the season that a day lies in or that comes next."""
    spells = (season_dates(season, day.year + shift) for shift in (-1, 0, 1))
    return next((first, last) for first, last in spells if last >= day)


def _in_year(day: date, year: int) -> date:
    """The same day of another year; 29 February becomes the 28th."""
    try:
        return day.replace(year=year)
    except ValueError:
        return day.replace(year=year, day=28)


def _all_day(calendar: Calendar, summary: str, first: date, last: date, now: datetime) -> None:
    event = Event()
    event.add("uid", f"{uuid7()}@nailwright")
    event.add("dtstamp", now.astimezone(UTC))
    event.add("summary", summary)
    event.add("dtstart", first)
    event.add("dtend", last + timedelta(days=1))  # the day after, as the format wants
    calendar.add_component(event)


def _km(start_m: float, end_m: float) -> str:
    return f"km {start_m / 1000:.2f} to {end_m / 1000:.2f}"
