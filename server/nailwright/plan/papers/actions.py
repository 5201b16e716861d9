"""Entering and renewing papers, entering seasons."""

from __future__ import annotations

from datetime import date
from typing import Any

from django.db import transaction

from nailwright.findings.selections import check_days
from nailwright.plan.models import Paper, Season
from nailwright.programmes.models import Person, Programme
from nailwright.programmes.policies import require
from nailwright.programmes.record.audit import Act, apply_change
from nailwright.waters.models import Water
from nailwright_core.common.errors import CoreError


def enter_paper(person: Person, programme: Programme, values: dict[str, Any]) -> Paper:
    """Enter a permit or a qualification."""
    require(person, programme, "plan")
    check_days(values["first"], values["last"])
    return Paper.objects.create(programme=programme, **values)


def change_paper(act: Act, paper: Paper, values: dict[str, Any]) -> Paper:
    """Renew or correct a paper; what it said before is kept."""
    require(act.person, paper.programme, "plan")
    check_days(values["first"], values["last"])
    with transaction.atomic():
        locked = Paper.objects.select_for_update().select_related("programme").get(pk=paper.pk)
        apply_change(act, locked.programme, locked, values)
    return locked


def enter_season(person: Person, programme: Programme, water: Water | None, values: dict[str, Any]) -> Season:
    """Enter days of the year that a rule closes, or in which fish spawn.

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
