"""The rows behind a finding, as CSV."""

from __future__ import annotations

import csv
import json
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from django.db.models import Case, CharField, F, QuerySet, When

from nailwright.deck.models import Capture
from nailwright_core.common import species as species_table


@dataclass(frozen=True)
class Field:
    """One column: its name, the path to its value, its type by Table Schema, and what it holds in which unit."""

    name: str
    path: str
    type: str
    description: str


FIELDS: tuple[Field, ...] = (
    Field("capture_id", "id", "string", "Key of the capture, UUIDv7"),
    Field("outing", "run__outing__name", "string", "Name of the outing"),
    Field("date", "run__outing__date", "date", "Day of the outing"),
    Field("water", "run__outing__water__name", "string", "Lake, river or coast"),
    Field("reach", "run__site__reach", "string", "Reach of the water"),
    Field("site", "run__site__name", "string", "Site where the run was"),
    Field("river_km", "run__site__river_km", "number", "Kilometre along the water, from its mouth (km)"),
    Field("run", "run__number", "integer", "Number of the run within the outing"),
    Field("gear", "run__gear", "string", "Gear of the run"),
    Field("species_code", "species", "string", "Species, short code"),
    Field("species", "species", "string", "Species, common name"),
    Field("count_fish", "count", "integer", "Number of fish; above 1 they were counted only (fish)"),
    Field("length_mm", "length_mm", "number", "Length (mm)"),
    Field("length_type", "length_type", "string", "TL total, TLn total with relaxed tail, FL fork, SL standard length"),
    Field("length_basis", "length_basis", "string", "measured or estimated by eye"),
    Field("length_as_called", "length_text", "string", "Length as it was called, with its unit where one was called"),
    Field("mass_g", "mass_g", "number", "Mass (g)"),
    Field("mass_basis", "mass_basis", "string", "measured or estimated by eye"),
    Field("mass_as_called", "mass_text", "string", "Mass as it was called, with its unit where one was called"),
    Field("sex", "sex", "string", "f female, m male, u unknown"),
    Field("sex_evidence", "sex_evidence", "string", "How the sex was told"),
    Field("fish_id", "fish_id", "string", "Key of the individual, where it carries a mark"),
    Field(
        "scanned",
        "scanned",
        "string",
        "none: scanned and none found; known, foreign: a mark was read; empty: not scanned",
    ),
    Field("mark_read", "scan_text", "string", "Kind and number of the mark that was read"),
    Field("left_as", "left_as", "string", "How it left: alive, weak, dead, kept, escaped; empty: still aboard"),
    Field("note", "note", "string", "Note"),
    Field("questions", "questions", "string", "Doubts raised at the call and their answers, JSON"),
    Field("device_time_utc", "device_time", "datetime", "When it was called, by the device (UTC)"),
)
_SPECIES_NAME = next(place for place, field in enumerate(FIELDS) if field.name == "species")
#: A spreadsheet runs a cell that starts with one of these as a formula.
FORMULA = ("=", "+", "-", "@", "\t", "\r")


class _Line:
    """A file that hands back what was written to it."""

    def write(self, text: str) -> str:
        return text


def csv_lines(captures: QuerySet[Capture]) -> Iterator[str]:
    """Lines of the CSV, header first, times in UTC, units in the column names."""
    writer = csv.writer(_Line())
    yield writer.writerow([field.name for field in FIELDS])
    names = {each.code: each.common_name for each in species_table.all_species()}
    # a release that was taken back says nothing: the fish is aboard
    left = Case(When(release__deleted_at=None, then=F("release__code")), output_field=CharField())
    ordered = captures.annotate(left_as=left).order_by("run__outing__date", "run__number", "device_time", "id")
    for row in ordered.values_list(*(field.path for field in FIELDS)).iterator(chunk_size=5000):
        cells = [_cell(value) for value in row]
        cells[_SPECIES_NAME] = names.get(cells[_SPECIES_NAME], "")
        yield writer.writerow(cells)


def _cell(value: Any) -> Any:
    if value is None:
        return ""
    if isinstance(value, list):
        return json.dumps(value) if value else ""
    if hasattr(value, "isoformat"):
        return value.isoformat().replace("+00:00", "Z")
    return harmless(value)


def harmless(value: Any) -> Any:
    """A cell that no spreadsheet runs as a formula."""
    return f"'{value}" if isinstance(value, str) and value.startswith(FORMULA) else value
