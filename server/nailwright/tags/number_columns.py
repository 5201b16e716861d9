"""Which columns of a file hold numbers of tags."""

from __future__ import annotations

from typing import Any

from nailwright.common.sources.table import Table
from nailwright.tags.numbers import read_number_of
from nailwright_core.common.errors import CoreError


def number_columns(table: Table, kind: str) -> list[dict[str, Any]]:
    """Columns in which at least half of the cells are numbers of this kind with a digit, the fullest first.

    A file without a line of names has its first number there: it counts as one.

    Raises:
        CoreError: ``tag_kind_unknown``; ``no_numbers`` where no column holds any.
    """
    texts: list[list[str]] = [[] for _ in table.headers]
    for _, cells in table.lines():
        for column, cell in zip(texts, cells, strict=False):
            if cell.strip():
                column.append(cell.strip())
    found = []
    for name, cells in zip(table.headers, texts, strict=True):
        numbers = [cell for cell in [name, *cells] if _is_number(kind, cell)]
        rest = len(cells) + _is_number(kind, name) - len(numbers)
        if numbers and len(numbers) >= rest:
            found.append({"name": name, "n": len(numbers), "unread": rest, "numbers": "\n".join(numbers)})
    if not found:
        raise CoreError("no_numbers", "No column of this file holds numbers of tags of that kind.", "file")
    return sorted(found, key=lambda column: (-len(set(column["numbers"].split())), column["unread"]))


def _is_number(kind: str, text: str) -> bool:
    try:
        read_number_of(kind, text)
    except CoreError as error:
        if error.code == "tag_kind_unknown":
            raise
        return False
    return any(each.isdigit() for each in text)
