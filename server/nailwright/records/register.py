"""The register: all captures in one table, any page of it quickly.

A page is found in two steps: the keys of its rows from the sort order's own index, walked from the nearer end, which
touches no row; then the rows by their keys. So row 900,000 costs a walk along an index and not a sort.
"""

from __future__ import annotations

from typing import Any

from nailwright.deck.models import Capture
from nailwright.findings.selections import Selection, captures_in
from nailwright.programmes.models import Programme
from nailwright.records.columns import COLUMNS, REGISTER
from nailwright.records.csv_rows import rows_of

MOST_ROWS = 200
#: What can be sorted by, and the column behind it; the key breaks ties.
SORTS = {"time": "device_time", "length": "length_mm", "mass": "mass_g"}
#: What a row needs besides what it shows.
_HIDDEN = tuple(COLUMNS[key] for key in ("capture_id", "length_basis", "mass_basis"))


def page_of(
    programme: Programme, selection: Selection, sort: str, row: int, limit: int, deleted: bool, total: int
) -> list[dict[str, Any]]:
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
    shown = (*_HIDDEN, *REGISTER)
    rows = {row[0]: row for row in rows_of(Capture.objects.filter(pk__in=wanted), shown)}
    gone = set(Capture.objects.filter(pk__in=wanted).exclude(deleted_at=None).values_list("pk", flat=True))
    return [_row(rows[key], key in gone) for key in wanted]


def _row(values: tuple[Any, ...], deleted: bool) -> dict[str, Any]:
    key, *bases = values[: len(_HIDDEN)]
    cells = [column.write(value) for column, value in zip(REGISTER, values[len(_HIDDEN) :], strict=True)]
    by_eye = [what for what, basis in zip(("length", "mass"), bases, strict=True) if basis == Capture.Basis.ESTIMATED]
    return {"id": key, "deleted": deleted, "by_eye": by_eye, "cells": cells}


def count_of(programme: Programme, selection: Selection, deleted: bool) -> int:
    """How many rows there are in all."""
    return captures_in(programme, selection, deleted).count()
