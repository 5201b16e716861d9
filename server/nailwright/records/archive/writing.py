"""Making an archive: a zip of one CSV a table, and a description of their columns and of the keys between them."""

from __future__ import annotations

import csv
import io
import json
import zipfile
from collections.abc import Iterator
from typing import Any

from django.db.models import QuerySet
from django.utils import timezone

from nailwright.common.database import one_moment
from nailwright.programmes.models import Membership, Person, Programme
from nailwright.records.archive.tables import Table, cell, tables
from nailwright.records.licence import licence_of
from nailwright.records.zip_stream import PIECE, Sink

#: Raised where an older release could no longer bring the archive in.
FORMAT = 4
_AT_ONCE = 2000


def archive_of(programme: Programme) -> Iterator[bytes]:
    """The zip, piece by piece, of one moment: what is sent to the record meanwhile is not in it, or in it whole."""
    sink = Sink()
    with one_moment(), zipfile.ZipFile(sink, "w", zipfile.ZIP_DEFLATED) as package:
        package.writestr("datapackage.json", json.dumps(description_of(programme), indent=2))
        yield sink.taken()
        for table in tables():
            with package.open(f"{table.name}.csv", "w", force_zip64=True) as piece:
                for lines in _lines(table, rows_of(table, programme)):
                    piece.write(lines)
                    if len(sink.getbuffer()) > PIECE:
                        yield sink.taken()
            yield sink.taken()
    yield sink.taken()


def description_of(programme: Programme) -> dict[str, Any]:
    """The package's description."""
    return {
        "profile": "tabular-data-package",
        "name": "programme",
        "id": str(programme.pk),
        "title": programme.name,
        "created": timezone.now().isoformat(timespec="seconds"),
        "description": "A whole programme: its waters, people by name, plans, outings, runs, fish, tags and history.",
        **licence_of(programme),
        "archive_format": FORMAT,
        "resources": [table.description() for table in tables()],
    }


def rows_of(table: Table, programme: Programme) -> QuerySet[Any]:
    """The rows of a programme in a table."""
    if table.model is Person:
        return people_of(programme)
    rows = table.model._base_manager.filter(**{table.path or "pk": programme.pk})
    return rows.order_by("pk")


def people_of(programme: Programme) -> QuerySet[Person]:
    """Everybody whom a row of the programme names."""
    named = set(Membership.objects.filter(programme=programme).values_list("person_id", flat=True))
    for table in tables():
        for column, model in table.references.items():
            if model is Person:
                named |= set(rows_of(table, programme).order_by().values_list(column, flat=True).distinct())
    return Person.objects.filter(pk__in=named - {None}).order_by("pk")


def _lines(table: Table, rows: QuerySet[Any]) -> Iterator[bytes]:
    names = [field.attname for field in table.fields]
    text = io.StringIO()
    writer = csv.writer(text)
    writer.writerow(names)
    for place, values in enumerate(rows.values_list(*names).iterator(chunk_size=_AT_ONCE), 1):
        writer.writerow([cell(value) for value in values])
        if place % _AT_ONCE == 0:
            yield text.getvalue().encode()
            text.seek(0)
            text.truncate()
    yield text.getvalue().encode()
