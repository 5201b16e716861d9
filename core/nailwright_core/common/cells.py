"""One thing that is said, in its bounds: what a row of a protocol and an entry about a fish are made of."""

from __future__ import annotations

import math
import re
from collections.abc import Collection
from dataclasses import dataclass
from typing import Any

from nailwright_core.common.errors import CoreError

Cell = str | float | int | None

_CODE = re.compile(r"[a-z0-9][a-z0-9-]{0,19}")


@dataclass(frozen=True)
class Column:
    """One thing that a row says.

    Attributes:
        kind: "number", "whole", "text", "code" (small letters, figures, strokes; once in a section), "species" (a code of
            the programme's list), "choice".
        low, high: bounds of a number, both inclusive; longest: characters of a text.
        needed: whether it may be empty. For "species" empty stands for every species.
        fixed: it belongs to the section and is not the programme's to change.
    """

    name: str
    title: str
    kind: str
    unit: str = ""
    low: float = 0
    high: float = 0
    longest: int = 0
    choices: tuple[tuple[str, str], ...] = ()
    needed: bool = False
    fixed: bool = False


def read_cell(column: Column, given: Any, at: str, species: Collection[str] = ()) -> Cell:
    """A cell as its column has it; None for a figure that is not there.

    Args:
        at: its place, for the refusal.
        species: codes that it may name.

    Raises:
        CoreError: ``cell_empty``, ``cell_out_of_range``.
    """
    if isinstance(given, str):
        given = given.strip()
    if column.kind in ("number", "whole"):
        return _figure(column, given, at)
    text = "" if given is None else given
    if not isinstance(text, str):
        raise _wrong(column, "a text", given, at)
    if not text:
        if column.needed:
            raise CoreError("cell_empty", f"{column.title}: expected a word; it is empty.", at)
        return text
    if column.kind == "code" and not _CODE.fullmatch(text):
        raise _wrong(column, "small letters, figures and strokes, at most 20", text, at)
    if column.kind == "species" and text not in species:
        raise _wrong(column, "a species of the programme's list, or nothing for every species", text, at)
    if column.kind == "choice" and text not in dict(column.choices):
        raise _wrong(column, "one of " + ", ".join(label for _, label in column.choices), text, at)
    if column.kind == "text" and len(text) > column.longest:
        raise _wrong(column, f"at most {column.longest} characters", f"{len(text)} of them", at)
    return text


def _figure(column: Column, given: Any, at: str) -> Cell:
    if given is None or given == "":
        if column.needed:
            raise CoreError("cell_empty", f"{column.title}: expected a figure; it is empty.", at)
        return None
    if isinstance(given, bool) or not isinstance(given, int | float) or not math.isfinite(given):
        raise _wrong(column, "a figure", given, at)
    if column.kind == "whole" and given != int(given):
        raise _wrong(column, "a whole number", given, at)
    if not column.low <= given <= column.high:
        raise _wrong(column, f"{column.low:g} to {column.high:g} {column.unit}".strip(), f"{given:g}", at)
    return int(given) if column.kind == "whole" else float(given)


def _wrong(column: Column, expected: str, got: Any, at: str) -> CoreError:
    return CoreError("cell_out_of_range", f"{column.title}: expected {expected}; got {str(got)[:40]}.", at)
