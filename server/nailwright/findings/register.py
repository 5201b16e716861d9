"""The register: all captures in one table, any page of it quickly.

A page is found in two steps: the database walks the sort order's index to the row where the page begins, which touches no
row itself, and reads on from there by the key. So row 900,000 costs a walk along an index and not a sort.
"""

from __future__ import annotations

from typing import Any

from django.db.models import Q

from nailwright.deck.models import Capture
from nailwright.findings.selections import Selection, captures_in
from nailwright.programmes.models import Programme

MOST_ROWS = 200
#: What can be sorted by, and the column behind it; the key breaks ties.
SORTS = {"time": "device_time", "length": "length_mm", "mass": "mass_g"}
_WITH = ("run__outing__water", "run__site", "release")


def page_of(
    programme: Programme, selection: Selection, sort: str, row: int, limit: int, deleted: bool
) -> list[Capture]:
    """Rows ``row`` to ``row + limit`` of the register in the given order ("time", "-length"...)."""
    captures = captures_in(programme, selection, deleted)
    column, falling = SORTS[sort.lstrip("-")], sort.startswith("-")
    order = (f"-{column}", "-id") if falling else (column, "id")
    start = captures.order_by(*order).values_list(column, "id")[row : row + 1].first() if row else None
    if row and start is None:
        return []
    if start is not None:
        captures = captures.filter(_from(column, start, falling))
    return list(captures.order_by(*order).select_related(*_WITH)[:limit])


def count_of(programme: Programme, selection: Selection, deleted: bool) -> int:
    """How many rows there are in all."""
    return captures_in(programme, selection, deleted).count()


def _from(column: str, start: tuple[Any, Any], falling: bool) -> Q:
    """From this row on; MariaDB sorts what is missing before everything else."""
    value, key = start
    if value is None:
        same = Q(**{f"{column}__isnull": True, "id__lte" if falling else "id__gte": key})
        return same if falling else same | Q(**{f"{column}__isnull": False})
    beyond = Q(**{f"{column}__lt" if falling else f"{column}__gt": value})
    same = Q(**{column: value, "id__lte" if falling else "id__gte": key})
    return beyond | same | Q(**{f"{column}__isnull": True}) if falling else beyond | same
