"""Days of the visits of a survey, and how weather shifted them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta

from nailwright_core.plan.parts import Shift


@dataclass(frozen=True)
class VisitDay:
    """One visit: its number from 1, its day, the day it was planned for, and why it was shifted (empty: it was not)."""

    number: int
    day: date
    planned: date
    reason: str


def visit_days(first: date, last: date, visits: int, shifts: Sequence[Shift] = ()) -> list[VisitDay]:
    """Days of the visits, evenly over the survey's period, each shifted as it was said; in the order of their numbers.

    Args:
        first: first day of the period.
        last: last day of the period.
        visits: how many.
        shifts: what moved a visit alone, or it and all after it. Those of visits that are not planned any more move nothing.
    """
    span = (last - first).days
    found = []
    for number in range(1, visits + 1):
        planned = first + timedelta(days=round(span * (number - 1) / (visits - 1)) if visits > 1 else 0)
        own = [each for each in shifts if each.visit == number or (each.visit < number and each.alone == "no")]
        day = planned + timedelta(days=sum(each.days for each in own))
        reasons = list(dict.fromkeys(each.reason.strip() for each in own)) if day != planned else []
        found.append(VisitDay(number, day, planned, ", ".join(reasons)))
    return found
