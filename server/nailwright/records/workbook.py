"""Captures as a workbook (Office Open XML), for whoever goes on in a spreadsheet."""

from __future__ import annotations

import tempfile
from collections.abc import Iterator
from datetime import date
from typing import IO, Any

from django.db.models import QuerySet
from openpyxl import Workbook
from openpyxl.cell import WriteOnlyCell
from openpyxl.cell.cell import ILLEGAL_CHARACTERS_RE
from openpyxl.styles import Font

from nailwright.deck.models import Capture
from nailwright.programmes.models import Programme
from nailwright.records.columns import WRITTEN
from nailwright.records.csv_rows import written_rows
from nailwright_core.common.errors import CoreError

#: Rows that a sheet holds at most, heading and all (ECMA-376).
MOST_ROWS = 1_048_576


def workbook_of(programme: Programme, captures: QuerySet[Capture]) -> IO[bytes]:
    """The rows of the CSV on one sheet, days as days; a file that is gone once it is closed.

    Raises:
        CoreError: ``rows_too_many``.
    """
    if captures.count() >= MOST_ROWS:
        raise CoreError(
            "rows_too_many", f"A sheet holds {MOST_ROWS - 1:,} rows. Export CSV, or narrow the filters.", None
        )
    book = Workbook(write_only=True)
    sheet = book.create_sheet("captures")
    sheet.freeze_panes = "A2"
    days = {place for place, column in enumerate(WRITTEN) if column.type == "date"}
    rows = written_rows(programme, captures)
    sheet.append([_heading(sheet, text) for text in next(rows)])
    for row in _with_days(rows, days):
        sheet.append(row)
    file = tempfile.TemporaryFile()  # noqa: SIM115 - closed by who streams it
    book.save(file)
    file.seek(0)
    return file


def _heading(sheet: Any, text: str) -> WriteOnlyCell:
    cell = WriteOnlyCell(sheet, value=text)
    cell.font = Font(bold=True)
    return cell


def _with_days(rows: Iterator[list[Any]], days: set[int]) -> Iterator[list[Any]]:
    for row in rows:
        yield [date.fromisoformat(cell) if place in days and cell else _cell(cell) for place, cell in enumerate(row)]


def _cell(value: Any) -> Any:
    """What a sheet can hold: numbers as numbers, all else as text without the signs that XML forbids."""
    return value if isinstance(value, int | float) else ILLEGAL_CHARACTERS_RE.sub("", str(value))
