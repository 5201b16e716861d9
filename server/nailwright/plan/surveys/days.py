"""Days that a survey asks for: visits, revisits, and the seasons in between."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date

from django.db.models import Q

from nailwright.plan.models import Season, Survey
from nailwright.plan.parts import parts_of
from nailwright_core.common.year_days import within_year
from nailwright_core.plan.visit_days import VisitDay, visit_days

#: So many revisits are shown ahead.
_REVISITS = 3


@dataclass(frozen=True)
class Days:
    """One entry of the calendar: "visit", "revisit", or a season's kind, in words."""

    first: date
    last: date
    what: str
    words: str


def days_of(survey: Survey) -> list[Days]:
    """Everything of a survey's calendar in order, as the screen shows it and the iCalendar holds it."""
    found = [Days(each.day, each.day, "visit", _visit_words(each, survey)) for each in visits_of(survey)]
    for season in seasons_of(survey):
        found.append(
            Days(*next_season(season, survey.first), season.kind, f"{season.get_kind_display()}: {season.name}")
        )
    if years := survey.revisit_years:
        for again in range(1, _REVISITS + 1):
            day = _in_year(survey.first, survey.first.year + again * years)
            found.append(Days(day, day, "revisit", f"Revisit, every {years} years"))
    return sorted(found, key=lambda each: each.first)


def _visit_words(visit: VisitDay, survey: Survey) -> str:
    words = f"Visit {visit.number} of {survey.visits}"
    if not visit.reason:
        return words
    beyond = ", after the planned period" if visit.day > survey.last else ""
    return f"{words} (planned for {visit.planned:%d %b}{beyond}: {visit.reason})"


def visits_of(survey: Survey) -> list[VisitDay]:
    """The visits of a survey on their days, shifted as the plan says."""
    return visit_days(survey.first, survey.last, survey.visits, parts_of(survey.parts).shifts)


def seasons_of(survey: Survey) -> list[Season]:
    """Rules and spawning times of the survey's water, and those of every water."""
    return list(survey.programme.seasons.filter(Q(water=survey.water) | Q(water=None)).order_by("first_day"))


def in_season(season: Season, day: date) -> bool:
    """Whether a day of the year lies in a season, which may run over the new year."""
    return within_year(f"{day:%m-%d}", season.first_day, season.last_day)


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
