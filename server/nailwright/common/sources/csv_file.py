"""Text with separators."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterator

from nailwright.common.sources.table import MAX_CELL, Line, Table, table_of
from nailwright_core.common.errors import CoreError

NAME = "CSV"
_SEPARATORS = {",": "comma", ";": "semicolon", "\t": "tab", "|": "bar"}
#: A cell with more line breaks than this comes from a quotation mark that was never closed.
_BREAKS = 20


def can_open(content: bytes) -> bool:
    """Text, not one of the binary kinds."""
    head = content[:4096]
    return head.startswith((b"\xff\xfe", b"\xfe\xff")) or (b"\x00" not in head and not _looks_binary(head))


def open_file(content: bytes) -> Table:
    """The text as a table.

    Raises:
        CoreError: ``quote_unclosed``, and as ``table_of``.
    """
    text, encoding, notices = _decoded(content)
    separator = _separator(text)
    how = f"{NAME}, {encoding}, separated by {_SEPARATORS[separator]}"
    return table_of(how, lambda: _lines(text, separator), text.count("\n") + 1, notices)


def _decoded(content: bytes) -> tuple[str, str, list[str]]:
    if content.startswith((b"\xff\xfe", b"\xfe\xff")):
        return content.decode("utf-16", "replace"), "UTF-16", []
    try:
        return content.decode("utf-8-sig"), "UTF-8", []
    except UnicodeDecodeError:
        # every byte is a letter in Latin-1, so this cannot fail; Windows' own letters come first
        try:
            text = content.decode("cp1252")
        except UnicodeDecodeError:
            text = content.decode("latin-1")
        return text, "Latin-1", ["The file is not UTF-8; read as Latin-1. Look at words with accents."]


def _separator(text: str) -> str:
    """The one that splits the first lines most evenly into the most columns."""
    head = [line for line in text[:200_000].splitlines()[:50] if line.strip()]

    def merit(separator: str) -> tuple[int, int]:
        try:
            counts = [len(cells) for cells in csv.reader(head, delimiter=separator)]
        except csv.Error:  # an enormous cell; reading it proper says so
            counts = []
        if not counts:
            return 0, 0
        common = max(set(counts), key=counts.count)
        return (counts.count(common) if common > 1 else 0, common)

    return max(_SEPARATORS, key=merit)


def _lines(text: str, separator: str) -> Iterator[Line]:
    reader = csv.reader(io.StringIO(text, newline=""), delimiter=separator, strict=True)
    begun = 1
    try:
        for cells in reader:
            for cell in cells:
                if cell.count("\n") > _BREAKS or len(cell) > MAX_CELL:
                    raise _unclosed(begun)
            yield begun, [cell.strip() for cell in cells]
            begun = reader.line_num + 1
    except csv.Error as error:
        raise _unclosed(begun) from error


def _unclosed(line: int) -> CoreError:
    return CoreError(
        "quote_unclosed",
        f'Line {line} has a quotation mark (") that is not closed, or stands inside a text. Nothing was read. Close '
        "it, or write it twice where it is meant.",
        "file",
    )


def _looks_binary(head: bytes) -> bool:
    strange = sum(byte < 9 or 13 < byte < 32 for byte in head)
    return head.startswith((b"PK\x03\x04", b"%PDF", b"\x89PNG", b"\xff\xd8\xff")) or strange > len(head) / 50
