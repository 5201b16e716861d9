"""Opening a file as a table. Each decoder says what it is and whether it can open a file; the first that can opens it."""

from __future__ import annotations

from nailwright.common.sources import csv_file, data_package, xlsx_file
from nailwright.common.sources.table import Table
from nailwright_core.common.errors import CoreError

DECODERS = (data_package, xlsx_file, csv_file)

#: First bytes of files that people mistake for tables.
_NO_TABLES = {
    b"\x89PNG": "a PNG picture",
    b"\xff\xd8\xff": "a JPEG picture",
    b"GIF8": "a GIF picture",
    b"RIFF": "a picture or a recording",
    b"II*\x00": "a TIFF picture",
    b"MM\x00*": "a TIFF picture",
    b"%PDF": "a PDF",
    b"\xd0\xcf\x11\xe0": "a workbook of the old binary kind (save it as .xlsx or .csv)",
    b"\x1f\x8b": "a compressed file (unpack it first)",
    b"PK\x03\x04": "a zip with neither a workbook nor a Data Package in it",
}


def takes_long(content: bytes) -> bool:
    """Whether opening the file is work for a job: a large workbook. Text is opened at once, whatever its size."""
    return xlsx_file.can_open(content) and not data_package.can_open(content) and xlsx_file.takes_long(content)


def open_table(content: bytes) -> Table:
    """The file as a table.

    Raises:
        CoreError: ``file_empty``, ``file_no_table``, or what the decoder found wrong; field ``file``.
    """
    if not content.strip():
        raise CoreError("file_empty", "The file is empty: expected a line of column names and one line a fish.", "file")
    for decoder in DECODERS:
        if decoder.can_open(content):
            table: Table = decoder.open_file(content)
            return table
    what = next((words for start, words in _NO_TABLES.items() if content.startswith(start)), "of a kind not known here")
    tried = ", ".join(decoder.NAME for decoder in DECODERS)
    raise CoreError("file_no_table", f"This file is {what}. Tried to read it as {tried}.", "file")
