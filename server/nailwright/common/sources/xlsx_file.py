"""Workbooks. The first sheet with a table is read; dates and numbers become the texts a CSV would hold."""

from __future__ import annotations

import io
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import date, datetime, time
from typing import Any

from defusedxml.common import DefusedXmlException
from openpyxl import load_workbook
from openpyxl.utils.exceptions import InvalidFileException

from nailwright.common.sources.table import HEAD_LINES, MAX_CELL, MAX_ROWS, Line, Table, table_of
from nailwright.common.sources.zipped import BROKEN, names_in, open_zip
from nailwright_core.common.errors import CoreError

NAME = "XLSX"
_MAX_SHEETS = 100
#: A book that unpacks to more is not read while its sender waits.
_LARGE = 4_000_000
#: What the library trips over where a workbook is not what it says.
_DAMAGE = (
    InvalidFileException, LookupError, TypeError, AttributeError, ArithmeticError, SyntaxError, DefusedXmlException,
    *BROKEN,
)  # fmt: skip
#: So many empty rows may lie between two filled ones.
_MAX_GAP = 20_000


def can_open(content: bytes) -> bool:
    """A zip with a workbook in it."""
    return "xl/workbook.xml" in names_in(content)


def takes_long(content: bytes) -> bool:
    """Whether reading it is work for a job.

    Raises:
        CoreError: as ``open_zip``.
    """
    with open_zip(content) as package:
        return sum(piece.file_size for piece in package.infolist()) > _LARGE


def open_file(content: bytes) -> Table:
    """The workbook's first sheet that holds anything.

    Raises:
        CoreError: ``workbook_unreadable``, and as ``open_zip`` and ``table_of``.
    """
    open_zip(content).close()
    with _readable():
        book = load_workbook(io.BytesIO(content), read_only=True, data_only=True)
        sheets = [sheet.title for sheet in book.worksheets]
        if len(sheets) > _MAX_SHEETS:
            raise CoreError(
                "too_many_sheets",
                f"The workbook has {len(sheets)} sheets; at most {_MAX_SHEETS} are looked through. Save the fish alone.",
                "file",
            )
        filled = [name for name in sheets if next(_lines(content, name), None)]
    if not filled:
        raise CoreError("no_rows", "No sheet of the workbook holds a row: expected column names and fish.", "file")
    notices = [f"Other sheets left out: {', '.join(filled[1:])}."] if len(filled) > 1 else []
    about = min(book[filled[0]].max_row or 1, MAX_ROWS + 1)
    return table_of(f"{NAME}, sheet '{filled[0]}'", lambda: _lines(content, filled[0]), about, notices)


def _lines(content: bytes, sheet: str) -> Iterator[Line]:
    with _readable():
        book = load_workbook(io.BytesIO(content), read_only=True, data_only=True)
        empty = 0
        for number, cells in enumerate(book[sheet].iter_rows(values_only=True, max_row=MAX_ROWS + HEAD_LINES), 1):
            if cells.count(None) == len(cells):
                empty += 1
                continue
            if empty > _MAX_GAP:
                raise CoreError(
                    "rows_far_apart",
                    f"Before row {number:,} lie {empty:,} empty rows. Nothing was read. Move the rows together and save it again.",
                    "file",
                )
            empty = 0
            yield number, [_text(cell)[: MAX_CELL + 1] for cell in cells]


@contextmanager
def _readable() -> Iterator[None]:
    """What opening and reading a workbook trips over, in words."""
    try:
        yield
    except _DAMAGE as error:
        raise CoreError(
            "workbook_unreadable", "The workbook is damaged or protected: save it again, or as CSV.", "file"
        ) from error


def _text(cell: Any) -> str:
    if cell is None:
        return ""
    if isinstance(cell, bool):
        return "true" if cell else "false"
    if isinstance(cell, float):
        return f"{cell:.10g}"
    if isinstance(cell, datetime):
        return cell.date().isoformat() if cell.time() == time(0) else cell.isoformat(timespec="seconds")
    if isinstance(cell, date | time):
        return cell.isoformat()
    return str(cell).strip()
