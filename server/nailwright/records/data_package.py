"""A selection as a Data Package: a zip of one CSV and a description of its columns with their units.

Form: Frictionless Data, Data Package and Table Schema, version 1.
"""

from __future__ import annotations

import json
import zipfile
from collections.abc import Iterator
from typing import Any

from django.db.models import QuerySet
from django.utils import timezone

from nailwright.deck.models import Capture
from nailwright.findings.selections import Selection
from nailwright.programmes.models import Programme
from nailwright.records.columns import WRITTEN
from nailwright.records.csv_rows import csv_lines
from nailwright.records.licence import licence_of
from nailwright.records.zip_stream import PIECE, Sink


def package_of(programme: Programme, selection: Selection, captures: QuerySet[Capture]) -> Iterator[bytes]:
    """The zip, piece by piece; rows are written as they are read."""
    sink = Sink()
    with zipfile.ZipFile(sink, "w", zipfile.ZIP_DEFLATED) as package:
        package.writestr("datapackage.json", json.dumps(_description(programme, selection), indent=2))
        yield sink.taken()
        with package.open("captures.csv", "w") as table:
            for line in csv_lines(programme, captures):
                table.write(line.encode())
                if len(sink.getbuffer()) > PIECE:
                    yield sink.taken()
    yield sink.taken()


def _description(programme: Programme, selection: Selection) -> dict[str, Any]:
    chosen = {name: value for name, value in vars(selection).items() if value}
    return {
        "profile": "tabular-data-package",
        "name": "captures",
        "title": f"{programme.name}: captures",
        "created": timezone.now().isoformat(timespec="seconds"),
        **licence_of(programme),
        "description": f"Selection: {json.dumps(chosen, default=str)}",
        "resources": [
            {
                "profile": "tabular-data-resource",
                "name": "captures",
                "path": "captures.csv",
                "format": "csv",
                "mediatype": "text/csv",
                "encoding": "utf-8",
                "schema": {
                    "fields": [
                        {"name": each.term, "type": each.type, "description": each.description} for each in WRITTEN
                    ],
                    "missingValues": [""],
                    "primaryKey": "capture_id",
                },
            }
        ],
    }
