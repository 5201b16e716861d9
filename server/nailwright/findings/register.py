"""The register: all captures in one table, any page of it quickly.

A page is found in two steps: the keys of its rows from the sort order's own index, walked from the nearer end, which
touches no row; then the rows by their keys. So row 900,000 costs a walk along an index and not a sort.
"""

from __future__ import annotations

from nailwright.deck.models import Capture
from nailwright.findings.selections import Selection, captures_in
from nailwright.programmes.models import Programme

MOST_ROWS = 200
#: What can be sorted by, and the column behind it; the key breaks ties.
SORTS = {"time": "device_time", "length": "length_mm", "mass": "mass_g"}
_WITH = ("run__outing__water", "run__site", "release")


def page_of(
    programme: Programme, selection: Selection, sort: str, row: int, limit: int, deleted: bool, total: int
) -> list[Capture]:
    """Rows ``row`` to ``row + limit`` of ``total`` in the given order ("time", "-length"...); missing values come first."""
    last = min(row + limit, total)
    if row >= last:
        return []
    column, falling = SORTS[sort.lstrip("-")], sort.startswith("-")
    backwards = row > total - last
    keys = captures_in(programme, selection, deleted).order_by(
        *((f"-{column}", "-id") if falling != backwards else (column, "id"))
    )
    start = total - last if backwards else row
    wanted = list(keys.values_list("id", flat=True)[start : start + last - row])
    if backwards:
        wanted.reverse()
    rows = Capture.objects.select_related(*_WITH).in_bulk(wanted)
    return [rows[key] for key in wanted]


def count_of(programme: Programme, selection: Selection, deleted: bool) -> int:
    """How many rows there are in all."""
    return captures_in(programme, selection, deleted).count()
