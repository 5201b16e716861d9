"""Tables as a Data Package: a zip of CSV files and a description of their columns with their units.

Form: Frictionless Data, Data Package and Table Schema, version 1.
"""

from __future__ import annotations

import json
import zipfile
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from typing import Any

from django.db.models import QuerySet
from django.utils import timezone

from nailwright.deck.models import Capture
from nailwright.findings.selections import Selection
from nailwright.programmes.models import Programme
from nailwright.records.columns import WRITTEN
from nailwright.records.csv_rows import csv_lines
from nailwright.records.licence import in_each_line, licence_of
from nailwright.records.marked import encounters, returns
from nailwright.records.marked.at_large import at_large_csv
from nailwright.records.zip_stream import PIECE, Sink
from nailwright.tags.exchange import COLUMNS


@dataclass(frozen=True)
class Table:
    """One file of a package: its name, its columns in order as (name, type, what it is), the column that is its key, and its lines."""

    name: str
    columns: Sequence[tuple[str, str, str]]
    key: str
    lines: Iterable[str]


def captures_package(programme: Programme, selection: Selection, captures: QuerySet[Capture]) -> Iterator[bytes]:
    """A selection of captures, piece by piece."""
    chosen = {name: value for name, value in vars(selection).items() if value}
    told = f"Selection: {json.dumps(chosen, default=str)}"
    columns = [(each.term, each.type, each.description) for each in WRITTEN]
    table = Table("captures", columns, "capture_id", csv_lines(programme, captures))
    return _package(programme, "captures", told, [table])


def marks_package(programme: Programme, species: str = "") -> Iterator[bytes]:
    """Encounters of marked fish, and the reports of tags without whoever sent them; of a species or of all."""
    told = "Encounters of marked fish, and reports of tags. Contacts of finders are not in it."
    met = Table("encounters", encounters.COLUMNS, "encounterID", encounters.encounter_csv(programme, species))
    reports = Table("returns", returns.COLUMNS, "return_id", returns.return_csv(programme, species))
    return _package(programme, "marks", told, [met, reports])


def at_large_package(programme: Programme) -> Iterator[bytes]:
    """Tags at large, for another programme to take in."""
    table = Table("marks-at-large", COLUMNS, "number", at_large_csv(programme))
    return _package(
        programme, "marks-at-large", "Tags in living fish, for programmes whose crews may meet them.", [table]
    )


def _package(programme: Programme, name: str, told: str, tables: Sequence[Table]) -> Iterator[bytes]:
    """The zip, piece by piece; rows are written as they are read."""
    sink = Sink()
    description = {
        "profile": "tabular-data-package",
        "name": name,
        "title": f"{programme.name}: {name}",
        "created": timezone.now().isoformat(timespec="seconds"),
        **licence_of(programme),
        "description": told,
        "resources": [_described(programme, each) for each in tables],
    }
    with zipfile.ZipFile(sink, "w", zipfile.ZIP_DEFLATED) as package:
        package.writestr("datapackage.json", json.dumps(description, indent=2))
        yield sink.taken()
        for table in tables:
            with package.open(f"{table.name}.csv", "w") as file:
                for line in table.lines:
                    file.write(line.encode())
                    if len(sink.getbuffer()) > PIECE:
                        yield sink.taken()
    yield sink.taken()


def _described(programme: Programme, table: Table) -> dict[str, Any]:
    stands = [(name, "string", f"{name.capitalize()} of the data") for name in in_each_line(programme)]
    return {
        "profile": "tabular-data-resource",
        "name": table.name,
        "path": f"{table.name}.csv",
        "format": "csv",
        "mediatype": "text/csv",
        "encoding": "utf-8",
        "schema": {
            "fields": [
                {"name": name, "type": kind, "description": what} for name, kind, what in (*table.columns, *stands)
            ],
            "missingValues": [""],
            "primaryKey": table.key,
        },
    }
