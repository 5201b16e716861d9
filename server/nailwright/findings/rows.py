"""The rows behind a finding, as CSV."""

from __future__ import annotations

import csv
import json
from collections.abc import Iterator
from typing import Any

from django.db.models import QuerySet

from nailwright.deck.models import Capture
from nailwright_core.common import species as species_table

_FIELDS: tuple[tuple[str, str], ...] = (
    ("capture_id", "id"),
    ("outing", "run__outing__name"),
    ("date", "run__outing__date"),
    ("water", "run__outing__water__name"),
    ("reach", "run__site__reach"),
    ("site", "run__site__name"),
    ("river_km", "run__site__river_km"),
    ("run", "run__number"),
    ("gear", "run__gear"),
    ("species_code", "species"),
    ("count_fish", "count"),
    ("length_mm", "length_mm"),
    ("length_type", "length_type"),
    ("length_basis", "length_basis"),
    ("length_as_called", "length_text"),
    ("mass_g", "mass_g"),
    ("mass_basis", "mass_basis"),
    ("mass_as_called", "mass_text"),
    ("sex", "sex"),
    ("sex_evidence", "sex_evidence"),
    ("note", "note"),
    ("questions", "questions"),
    ("device_time_utc", "device_time"),
)
#: A spreadsheet runs a cell that starts with one of these as a formula.
_FORMULA = ("=", "+", "-", "@", "\t", "\r")


class _Line:
    """A file that hands back what was written to it."""

    def write(self, text: str) -> str:
        return text


def csv_lines(captures: QuerySet[Capture]) -> Iterator[str]:
    """Lines of the CSV, header first, times in UTC, units in the column names."""
    writer = csv.writer(_Line())
    header = [name for name, _ in _FIELDS]
    at = header.index("species_code") + 1
    yield writer.writerow([*header[:at], "species", *header[at:]])
    names = {each.code: each.common_name for each in species_table.all_species()}
    rows = captures.order_by("run__outing__date", "run__number", "device_time", "id").values_list(
        *(path for _, path in _FIELDS)
    )
    for row in rows.iterator(chunk_size=5000):
        yield writer.writerow([*map(_cell, row[:at]), names.get(row[at - 1], ""), *map(_cell, row[at:])])


def _cell(value: Any) -> Any:
    if value is None:
        return ""
    if isinstance(value, list):
        return json.dumps(value) if value else ""
    if hasattr(value, "isoformat"):
        return value.isoformat().replace("+00:00", "Z")
    if isinstance(value, str) and value.startswith(_FORMULA):
        return f"'{value}"
    return value
