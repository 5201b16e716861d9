"""Workbooks. The first sheet with a table is read; dates and numbers become the texts a CSV would hold."""

from __future__ import annotations

import io
from collections.abc import Iterator
from datetime import date, datetime, time
from typing import Any
from xml.etree.ElementTree import ParseError

from defusedxml.common import DefusedXmlException
from openpyxl import load_workbook
from openpyxl.utils.exceptions import InvalidFileException

from nailwright.records.sources.table import Line, Table, table_of
from nailwright.records.sources.zipped import names_in, open_zip
from nailwright_core.common.errors import CoreError

NAME = "XLSX"


def can_open(content: bytes) -> bool:
    """A zip with a workbook in it."""
    return "xl/workbook.xml" in names_in(content)


def open_file(content: bytes) -> Table:
    """The workbook's first sheet that holds anything.

    Raises:
        CoreError: ``workbook_unreadable``, and as ``open_zip`` and ``table_of``.
    """
    open_zip(content).close()
    try:
        book = load_workbook(io.BytesIO(content), read_only=True, data_only=True)
        sheets = [sheet.title for sheet in book.worksheets]
        filled = [name for name in sheets if next(_lines(content, name), None)]
    except (InvalidFileException, KeyError, ValueError, TypeError, ParseError, DefusedXmlException, OSError) as error:
        raise CoreError(
            "workbook_unreadable", "The workbook is damaged or protected: save it again, or as CSV.", "file"
        ) from error
    if not filled:
        raise CoreError("no_rows", "No sheet of the workbook holds a row: expected column names and fish.", "file")
    notices = [f"Other sheets left out: {', '.join(filled[1:])}."] if len(filled) > 1 else []
    about = book[filled[0]].max_row or 1
    return table_of(f"{NAME}, sheet '{filled[0]}'", lambda: _lines(content, filled[0]), about, notices)


def _lines(content: bytes, sheet: str) -> Iterator[Line]:
    book = load_workbook(io.BytesIO(content), read_only=True, data_only=True)
    for number, cells in enumerate(book[sheet].iter_rows(values_only=True), 1):
        if any(cell is not None for cell in cells):
            yield number, [_text(cell) for cell in cells]


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
