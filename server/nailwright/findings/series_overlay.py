"""A series from elsewhere beside the fish of a selection: day by day, and on each outing."""

from __future__ import annotations

from datetime import date, timedelta
from typing import Any

from django.db.models import Sum

from nailwright.findings.selections import Selection, captures_in
from nailwright.programmes.models import Programme
from nailwright.waters.models import Series
from nailwright.waters.series import by_day
from nailwright_core.common.errors import CoreError

#: So many days before the first outing and after the last are shown.
MARGIN = timedelta(days=14)


def series_overlay(programme: Programme, series: Series, selection: Selection) -> dict[str, Any]:
    """The series over the time of the selection's outings on its water, and what it said on each.

    Raises:
        CoreError: ``nothing_selected``.
    """
    here = captures_in(programme, selection).filter(run__outing__water=series.water)
    days = here.values("run__outing", "run__outing__date", "run__outing__name")
    rows = list(days.annotate(fish=Sum("count")).order_by("run__outing__date"))
    if not rows:
        raise CoreError(
            "nothing_selected",
            f"No fish of {series.water.name} are selected: there is nothing to stand beside.",
            "species",
        )
    first, last = rows[0]["run__outing__date"], rows[-1]["run__outing__date"]
    told = by_day(series, first - MARGIN, last + MARGIN)
    means: dict[date, float] = {each["day"]: each["mean"] for each in told}
    return {
        "series": series,
        "days": told,
        "outings": [
            {
                "date": row["run__outing__date"],
                "name": row["run__outing__name"],
                "fish": row["fish"],
                "mean": means.get(row["run__outing__date"]),
            }
            for row in rows
        ],
    }
