"""Days as people of a programme count them: a night's work west of Greenwich is on the next day in UTC."""

from __future__ import annotations

from datetime import date, datetime
from zoneinfo import ZoneInfo

from nailwright.programmes.models import Programme


def day_of(programme: Programme, moment: datetime) -> date:
    """The day of a moment in the programme's zone."""
    return moment.astimezone(ZoneInfo(programme.time_zone)).date()
