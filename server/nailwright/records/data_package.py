"""A selection as a Data Package: a zip of one CSV and a description of its columns with their units.

Form: Frictionless Data, Data Package and Table Schema, version 1.
"""

from __future__ import annotations

import json
import zipfile
from collections.abc import Iterator
from io import BytesIO
from typing import Any

from django.db.models import QuerySet
from django.utils import timezone

from nailwright.deck.models import Capture
from nailwright.findings.selections import Selection
from nailwright.programmes.models import Programme
from nailwright.records.columns import WRITTEN
from nailwright.records.csv_rows import csv_lines


def package_of(programme: Programme, selection: Selection, captures: QuerySet[Capture]) -> Iterator[bytes]:
    """The zip, piece by piece; rows are written as they are read."""
    sink = _Sink()
    with zipfile.ZipFile(sink, "w", zipfile.ZIP_DEFLATED) as package:
        package.writestr("datapackage.json", json.dumps(_description(programme, selection), indent=2))
        yield sink.taken()
        with package.open("captures.csv", "w") as table:
            for line in csv_lines(programme, captures):
                table.write(line.encode())
                if len(sink.getbuffer()) > 65_536:
                    yield sink.taken()
    yield sink.taken()


class _Sink(BytesIO):
    """Keeps what the zip writes until it is taken; its place goes on counting, as a zip needs."""

    def __init__(self) -> None:
        super().__init__()
        self.gone = 0

    def seek(self, *_: Any) -> int:
        raise OSError("what was taken is gone")  # tells the zip to write sizes behind the data

    def tell(self) -> int:
        return self.gone + super().tell()

    def taken(self) -> bytes:
        piece = self.getvalue()
        self.gone += len(piece)
        super().seek(0)
        self.truncate()
        return piece


def _description(programme: Programme, selection: Selection) -> dict[str, Any]:
    chosen = {name: value for name, value in vars(selection).items() if value}
    return {
        "profile": "tabular-data-package",
        "name": "captures",
        "title": f"{programme.name}: captures",
        "created": timezone.now().isoformat(timespec="seconds"),
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
