"""Visits, seasons and revisits as iCalendar."""

from __future__ import annotations

from datetime import UTC, date, datetime, timedelta

from icalendar import Calendar, Event
from uuid6 import uuid7

from nailwright.plan.models import Survey
from nailwright.plan.surveys.days import days_of


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
