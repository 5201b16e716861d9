"""Numbers of tags as people give them: a list, a column, first and last of a row."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator
from dataclasses import dataclass

from nailwright_core.common.errors import CoreError

#: A row of numbers that is longer is rather a slip of a digit.
MOST_IN_ROW = 100_000
MOST_AT_ONCE = 200_000
#: A row of numbers is written in fewer signs; what is longer is a list with blanks between, or no number.
_LONGEST_ROW = 80
_VISIBLE = re.compile(r"[A-Z0-9][A-Z0-9-]{1,15}")
#: "W1001-W1100", "W1001 to W1100", "W1001..W1100"; a hyphen joins two numbers only where both end in as many digits.
_ROW = re.compile(r"^(?P<first>\S+?)\s*(?:\.\.+|…|–|—|-|\bto\b|\bbis\b|\ba\b|\bà\b)\s*(?P<last>\S+)$", re.IGNORECASE)
_TAIL = re.compile(r"^(?P<head>.*?)(?P<digits>\d+)$")


@dataclass(frozen=True)
class NumbersRead:
    """What a text of numbers says.

    Attributes:
        numbers: as they are stored, each once, in order.
        twice: how many stood there again.
        unread: parts that are no number, with why, in order.
    """

    numbers: tuple[str, ...]
    twice: int
    unread: tuple[tuple[str, str], ...]


def visible_number(text: str) -> str:
    """A number that is printed on a tag: capitals and digits, 2 to 16.

    Args:
        text: as it was read off the tag.

    Raises:
        CoreError: ``tag_number_unreadable``.
    """
    number = text.strip().lstrip("#").upper()
    if not _VISIBLE.fullmatch(number):
        raise CoreError(
            "tag_number_unreadable", f"Expected a number of 2 to 16 letters and digits; got '{text[:40]}'.", "number"
        )
    return number


def read_numbers(text: str, read: Callable[[str], str]) -> NumbersRead:
    """Numbers from a pasted list or rows of numbers.

    Args:
        text: parts between commas, semicolons, tabs or ends of lines; a part is a number or a row, such as W1001-W1100.
        read: one number as it is stored; raises CoreError where it is none.

    Raises:
        CoreError: ``tag_numbers_none`` where nothing stands there, ``tag_numbers_too_many``, ``tag_row_backwards``,
            ``tag_row_too_long``.
    """
    found: dict[str, None] = {}
    twice, unread = 0, []
    for part in _parts(text):
        try:
            for number in _of_part(part, read):
                twice += number in found
                found[number] = None
        except CoreError as error:
            if error.code in ("tag_row_backwards", "tag_row_too_long"):
                raise
            unread.append((part[:40], error.message))
        if len(found) > MOST_AT_ONCE:
            raise CoreError(
                "tag_numbers_too_many", f"More than {MOST_AT_ONCE:,} numbers at once; enter them in parts.", "numbers"
            )
    if not found and not unread:
        raise CoreError("tag_numbers_none", "Expected numbers: a list, or first and last as in W1001-W1100.", "numbers")
    return NumbersRead(tuple(found), twice, tuple(unread))


def _parts(text: str) -> Iterator[str]:
    for line in re.split(r"[\n\r;,\t]+", text):
        if line.strip():
            yield line.strip()


def _of_part(part: str, read: Callable[[str], str]) -> Iterator[str]:
    ends = _row_of(part) if len(part) <= _LONGEST_ROW else None
    if ends is None:
        try:
            yield read(part)
        except CoreError:
            pieces = part.split()
            if len(pieces) < 2:
                raise
            yield from [read(piece) for piece in pieces]  # several on one line, with spaces between
        return
    head, first, last, width = ends
    if last < first:
        raise CoreError("tag_row_backwards", f"'{part[:60]}': the last number is before the first.", "numbers")
    if last - first >= MOST_IN_ROW:
        raise CoreError(
            "tag_row_too_long", f"'{part[:60]}' would be {last - first + 1:,} tags; is a digit missing?", "numbers"
        )
    for number in range(first, last + 1):
        yield read(f"{head}{number:0{width}d}")


def _row_of(part: str) -> tuple[str, int, int, int] | None:
    """Head, first, last and width of the digits, where a part is a row of numbers."""
    told = _ROW.match(re.sub(r"(?<=\d) (?=\d{3})", "", part))
    if not told:
        return None
    first, last = (_TAIL.match(told[name].lstrip("#").upper()) for name in ("first", "last"))
    if not first or not last or len(first["digits"]) != len(last["digits"]):
        return None
    if last["head"] not in ("", first["head"]):
        return None
    return first["head"], int(first["digits"]), int(last["digits"]), len(first["digits"])
