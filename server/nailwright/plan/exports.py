"""A plan in open formats: GPX of the sites for the boat, iCalendar of visits and seasons."""

from __future__ import annotations

from datetime import UTC, date, datetime, timedelta

import gpxpy.gpx
from icalendar import Calendar, Event
from uuid6 import uuid7

from nailwright.plan.days import days_of
from nailwright.plan.models import Survey
from nailwright.waters.reaches import reach_of


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
    for each in days_of(survey):
        own = each.what in ("visit", "revisit")  # a season is the water's, not the survey's
        words = f"{survey.name}: {each.words[0].lower()}{each.words[1:]}" if own else each.words
        _all_day(calendar, words, each.first, each.last, now)
    return bytes(calendar.to_ical())


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
