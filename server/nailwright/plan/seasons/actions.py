"""Adding seasons."""

from __future__ import annotations

from datetime import date
from typing import Any

from nailwright.plan.models import Season
from nailwright.programmes.models import Person, Programme
from nailwright.programmes.policies import require
from nailwright.waters.models import Water
from nailwright_core.common.errors import CoreError


def add_season(person: Person, programme: Programme, water: Water | None, values: dict[str, Any]) -> Season:
    """Add days of the year that a rule closes, or in which fish spawn.

    Raises:
        CoreError: ``day_impossible``.
    """
    require(person, programme, "plan")
    for name in ("first_day", "last_day"):
        try:
            date.fromisoformat(f"2024-{values[name]}")
        except ValueError as error:
            raise CoreError(
                "day_impossible", f"Expected a day of the year as MM-DD; got '{values[name]}'.", name
            ) from error
    return Season.objects.create(programme=programme, water=water, **values)
