"""What every decoder makes of a file, and the bounds that hold for all."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass

from nailwright_core.common.errors import CoreError

MAX_COLUMNS = 256
MAX_ROWS = 1_000_000
MAX_CELL = 10_000
#: So many lines may stand above the column names: titles, dates, notes.
HEAD_LINES = 20

#: A line's number in the file, and its cells as texts.
Line = tuple[int, list[str]]


@dataclass(frozen=True)
class Table:
    """A table in a file: how it was read, its column names, its lines (as often as wanted) and about how many."""

    how: str
    headers: tuple[str, ...]
    notices: tuple[str, ...]
    lines: Callable[[], Iterator[Line]]
    about: int


def table_of(how: str, lines: Callable[[], Iterator[Line]], about: int, notices: Sequence[str] = ()) -> Table:
    """Finds the column names among the first lines and checks the bounds.

    The line with the most texts that are no numbers holds the names; the first of several.

    Raises:
        CoreError: ``no_rows``, ``too_many_columns``, ``too_many_rows``; field ``file``.
    """
    head: list[Line] = []
    for line in lines():
        if any(line[1]):
            head.append(line)
        if len(head) == HEAD_LINES:
            break
    if not head:
        raise CoreError("no_rows", "The file holds no rows: expected column names and one line a fish.", "file")
    number, names = max(head, key=lambda line: sum(bool(cell) and not _number(cell) for cell in line[1]))
    while names and not names[-1]:
        names = names[:-1]
    if len(names) > MAX_COLUMNS:
        raise CoreError(
            "too_many_columns",
            f"The file has {len(names)} columns; at most {MAX_COLUMNS} are read. Leave out those that are not about "
            "the fish and save it again.",
            "file",
        )
    if about > MAX_ROWS:
        raise CoreError("too_many_rows", f"The file has {about:,} lines; at most {MAX_ROWS:,} at once.", "file")
    if all(line[0] <= number for line in head):
        raise CoreError("no_rows", "The file holds column names only: there is no line with a fish.", "file")
    headers, said = _distinct(names)
    above = [line for line in head if line[0] < number]
    if above:
        said.append(f"{len(above)} line{'s' if len(above) > 1 else ''} above the column names left out.")

    def body() -> Iterator[Line]:
        return ((n, cells) for n, cells in lines() if n > number and any(cells))

    return Table(how, headers, (*notices, *said), body, max(about - number, 1))


def _distinct(names: Sequence[str]) -> tuple[tuple[str, ...], list[str]]:
    """Names for columns that share one, or have none."""
    headers: list[str] = []
    said: list[str] = []
    for place, name in enumerate(names, 1):
        base = name.strip()[:80] or f"Column {place}"
        fresh, n = base, 1
        while fresh in headers:
            n += 1
            fresh = f"{base} ({n})"
        if n > 1:
            said.append(f"Two columns are called '{base}'; column {place} is shown as '{fresh}'.")
        headers.append(fresh)
    return tuple(headers), said


def _number(text: str) -> bool:
    return text.strip().replace(",", "").replace(".", "").replace("-", "").isdigit()
