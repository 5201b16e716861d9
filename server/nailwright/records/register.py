"""The register: all captures in one table, any page of it quickly.

A page is found in two steps: the keys of its rows from the sort order's own index, which touches no row; then the rows
by their keys. Near an end the keys are walked to. Far from both, walking would take longer than all the rest, so it
starts from the nearest milestone: how many rows each day, millimetre or gram holds is counted once and holds until a
capture is touched.
"""

from __future__ import annotations

from bisect import bisect, bisect_left
from dataclasses import dataclass
from datetime import UTC, date, datetime, time
from functools import lru_cache
from itertools import accumulate
from typing import Any
from uuid import UUID

from django.db.models import Count, Func, Sum, TextField

from nailwright.deck.models import Capture
from nailwright.findings.fingerprints import tally_fingerprint
from nailwright.findings.selections import Selection, captures_in, tally_of
from nailwright.programmes.models import Programme
from nailwright.programmes.places import EVERYWHERE, HIDDEN, Places
from nailwright.programmes.species.known import SpeciesTable, species_of
from nailwright.records.columns import COLUMNS, REGISTER
from nailwright.records.csv_rows import rows_of

MOST_ROWS = 200
#: What can be sorted by, and the column behind it; the key breaks ties.
SORTS = {"time": "device_time", "length": "length_mm", "mass": "mass_g"}
#: Rows that are walked in no time.
_NEAR = 3000
#: Where a column of the register stands in a row.
_AT = {column.key: place for place, column in enumerate(REGISTER)}
#: Columns that tell where a fish was caught.
_WHERE = ("site", "river_km", "run")
#: What a row needs besides what it shows.
_HIDDEN = tuple(COLUMNS[key] for key in ("capture_id", "length_basis", "mass_basis"))


def page_of(
    programme: Programme,
    selection: Selection,
    sort: str,
    row: int,
    limit: int,
    deleted: bool,
    total: int,
    places: Places = EVERYWHERE,
) -> list[dict[str, Any]]:
    """Rows ``row`` to ``row + limit`` of ``total`` in the given order ("time", "-length"...); missing values come first.

    Sites and runs that ``places`` does not show are not told.
    """
    last = min(row + limit, total)
    if row >= last:
        return []
    column, falling = SORTS[sort.lstrip("-")], sort.startswith("-")
    captures = captures_in(programme, selection, deleted)
    backwards = row > total - last
    start = total - last if backwards else row
    if start <= _NEAR:
        keys = captures.order_by(*((f"-{column}", "-id") if falling != backwards else (column, "id")))
        wanted = list(keys.values_list("id", flat=True)[start : start + last - row])
    else:
        backwards = falling
        stones = _milestones(programme, selection, deleted, column, tally_fingerprint(programme, selection))
        start = max(0, stones.total - last) if falling else row
        if start >= stones.total:
            return []  # rows have gone since ``total`` was told
        between, passed = stones.around(start, start + last - row, column)
        keys = captures.filter(**between).order_by(column, "id")
        start -= passed
        wanted = list(keys.values_list("id", flat=True)[start : start + last - row])
    if backwards:
        wanted.reverse()
    shown = (*_HIDDEN, *REGISTER)
    rows = {row[0]: row for row in rows_of(Capture.objects.filter(pk__in=wanted), shown)}
    gone = set(Capture.objects.filter(pk__in=wanted).exclude(deleted_at=None).values_list("pk", flat=True))
    sites = dict(Capture.objects.filter(pk__in=wanted).values_list("pk", "run__site_id")) if places.hidden else {}
    species = species_of(programme)
    return [_row(rows[key], key in gone, species, places, sites.get(key)) for key in wanted]


def _row(
    values: tuple[Any, ...], deleted: bool, species: SpeciesTable, places: Places, site: UUID | None
) -> dict[str, Any]:
    key, *bases = values[: len(_HIDDEN)]
    cells = [column.write(value, species) for column, value in zip(REGISTER, values[len(_HIDDEN) :], strict=True)]
    if not places.show(site, cells[_AT["species"]]):
        cells = [HIDDEN if column.key in _WHERE else cell for column, cell in zip(REGISTER, cells, strict=True)]
    by_eye = [what for what, basis in zip(("length", "mass"), bases, strict=True) if basis == Capture.Basis.ESTIMATED]
    return {"id": key, "deleted": deleted, "by_eye": by_eye, "cells": cells}


def count_of(programme: Programme, selection: Selection, deleted: bool) -> int:
    """How many rows there are in all."""
    if selection.sex:  # the tally tells nothing of it
        return _counted(programme, selection, deleted, tally_fingerprint(programme, selection))
    found = tally_of(programme, selection).aggregate(present=Sum("present"), taken_out=Sum("taken_out"))
    return (found["present"] or 0) + (found["taken_out"] or 0 if deleted else 0)


@lru_cache(maxsize=64)
def _counted(programme: Programme, selection: Selection, deleted: bool, touched: str) -> int:
    """Counted once as long as no row is touched (``touched``)."""
    return captures_in(programme, selection, deleted).count()


@dataclass(frozen=True)
class _Milestones:
    """Values in rising order, nothing (None) first, and how many rows stand before each."""

    values: list[Any]
    rows_before: list[int]
    total: int

    def around(self, start: int, stop: int, column: str) -> tuple[dict[str, Any], int]:
        """The narrowest filter that holds the rows from ``start`` to ``stop``, and how many rows stand before it."""
        first, after = bisect(self.rows_before, start) - 1, bisect_left(self.rows_before, stop)
        between = {}
        if self.values[first] is not None:
            between[f"{column}__gte"] = self.values[first]
            if after < len(self.values):
                between[f"{column}__lt"] = self.values[after]
        return between, self.rows_before[first]


@lru_cache(maxsize=64)
def _milestones(programme: Programme, selection: Selection, deleted: bool, column: str, touched: str) -> _Milestones:
    """Counted once as long as no row is touched (``touched``)."""
    step = {"device_time": "DATE"}.get(column, "FLOOR")
    groups = (
        captures_in(programme, selection, deleted)
        .values_list(Func(column, function=step, output_field=TextField()))
        .annotate(n=Count("pk"))
        .order_by()
    )
    found = sorted(((_value(told), n) for told, n in groups), key=lambda each: (each[0] is not None, each[0] or 0))
    *before, total = accumulate((n for _, n in found), initial=0)
    return _Milestones([value for value, _ in found], before, total)


def _value(told: Any) -> Any:
    """The first moment of a day; what else is counted by stands as it is."""
    return datetime.combine(told, time(), UTC) if isinstance(told, date) else told
