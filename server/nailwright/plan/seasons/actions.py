"""Adding seasons."""

from __future__ import annotations

from typing import Any

from nailwright.plan.models import Season
from nailwright.programmes.models import Person, Programme
from nailwright.programmes.policies import require
from nailwright.waters.models import Water
from nailwright_core.common.year_days import check_year_day


def add_season(person: Person, programme: Programme, water: Water | None, values: dict[str, Any]) -> Season:
    """Add days of the year that a rule closes, or in which fish spawn.

    Raises:
        CoreError: ``day_impossible``.
    """
    require(person, programme, "plan")
    for name in ("first_day", "last_day"):
        check_year_day(values[name], name)
    return Season.objects.create(programme=programme, water=water, **values)
