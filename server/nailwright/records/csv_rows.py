"""Captures as rows of the one table of columns, and as CSV."""

from __future__ import annotations

import csv
from collections.abc import Iterator, Sequence
from datetime import UTC, datetime
from typing import Any

from django.db.models import Aggregate, Case, CharField, F, OuterRef, QuerySet, Subquery, Value, When
from django.db.models.functions import Concat

from nailwright.common.spreadsheets import harmless
from nailwright.deck.models import Capture
from nailwright.programmes.models import Programme
from nailwright.programmes.species.known import species_of
from nailwright.records.columns import WRITTEN, Column
from nailwright.records.licence import in_each_line
from nailwright.tags.models import Scan


class Line:
    """A file that hands back what was written to it."""

    def write(self, text: str) -> str:
        return text


def utc_text(moment: datetime) -> str:
    """A moment to the second, in UTC, as our files write it."""
    return moment.astimezone(UTC).isoformat(timespec="seconds").replace("+00:00", "Z")


class _Joined(Aggregate):
    function = "GROUP_CONCAT"
    template = "%(function)s(%(expressions)s ORDER BY device_time, id SEPARATOR '; ')"


def written_rows(programme: Programme, captures: QuerySet[Capture]) -> Iterator[list[Any]]:
    """Rows of our own files, header first, times in UTC, units in the column names."""
    species = species_of(programme)
    stands = in_each_line(programme)
    yield [*(column.term for column in WRITTEN), *stands]
    ordered = captures.order_by("run__outing__date", "run__number", "device_time", "id")
    for values in rows_of(ordered, WRITTEN).iterator(chunk_size=5000):
        yield [
            *(harmless(column.write(value, species)) for column, value in zip(WRITTEN, values, strict=True)),
            *(harmless(text) for text in stands.values()),
        ]


def csv_lines(programme: Programme, captures: QuerySet[Capture]) -> Iterator[str]:
    """Lines of the CSV."""
    writer = csv.writer(Line())
    for row in written_rows(programme, captures):
        yield writer.writerow(row)


def rows_of(captures: QuerySet[Capture], columns: Sequence[Column]) -> QuerySet[Capture, tuple[Any, ...]]:
    """The values of these columns for each capture, as the record holds them."""
    # a release that was taken back says nothing: the fish is aboard
    left = {
        f"left_{name}": Case(When(release__deleted_at=None, then=F(f"release__{name}")))
        for name in ("fate", "strength", "reason", "taken_to", "word")
    }
    read = Scan.present.filter(source_id=OuterRef("pk")).order_by().values("source_id")
    marks = read.annotate(all=_Joined(Concat("kind", Value(" "), "number"), output_field=CharField())).values("all")
    told = captures.annotate(**left, mark_read=Subquery(marks))
    return told.values_list(*(column.path for column in columns))
