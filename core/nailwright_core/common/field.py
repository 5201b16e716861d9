"""One field: what it is called, what it may hold, in which unit. The one declaration behind columns of a protocol, events, readings,
figures of a run, parts of a plan and values of a species; their checks, API shapes and forms come from it."""

from __future__ import annotations

import math
import re
from collections.abc import Collection
from dataclasses import dataclass
from typing import Any, Literal

from nailwright_core.common.errors import CoreError

Cell = str | float | int | None
Kind = Literal["number", "whole", "text", "code", "species", "choice"]

#: An end of a number that has none.
UNBOUNDED = 1e9

_CODE = re.compile(r"[a-z0-9][a-z0-9-]{0,19}")


@dataclass(frozen=True)
class Field:
    """What one field holds.

    Attributes:
        name: in code, API and store. title: what a screen and a refusal call it.
        kind: "number", "whole", "text", "code" (small letters, figures, strokes; once in a section), "species" (a code of
            the programme's list), "choice".
        low, high: bounds of a number, both inclusive; longest: characters of a text.
        choices: code and label of each.
        needed: it may not be empty. For "species" empty stands for every species.
        fixed: it belongs to the section and is not the programme's to change.
        nullable: None says something of its own: that it was never set.
        note: what to know beside it.
    """

    name: str
    title: str
    kind: Kind
    unit: str = ""
    low: float = -UNBOUNDED
    high: float = UNBOUNDED
    longest: int = 0
    choices: tuple[tuple[str, str], ...] = ()
    needed: bool = False
    fixed: bool = False
    nullable: bool = False
    note: str = ""

    @property
    def bounds(self) -> str:
        """Its bounds with their unit, in words; empty where it has none."""
        ends = "" if self.high >= UNBOUNDED else f"{self.low:g} to {self.high:,g} {self.unit}"
        return ends.strip()


def number(name: str, title: str, unit: str, low: float, high: float, needed: bool = False) -> Field:
    """A field of a number.

    Args:
        name: in code, API and store.
        title: what a screen and a refusal call it.
        unit: of the number; empty for none.
        low: least that it may be.
        high: greatest that it may be.
        needed: it may not be empty.
    """
    return Field(name, title, "number", unit, low, high, needed=needed)


def whole(name: str, title: str, unit: str, low: float, high: float, needed: bool = False) -> Field:
    """A field of a whole number.

    Args:
        name: in code, API and store.
        title: what a screen and a refusal call it.
        unit: of the number; empty for none.
        low: least that it may be.
        high: greatest that it may be.
        needed: it may not be empty.
    """
    return Field(name, title, "whole", unit, low, high, needed=needed)


def choice(name: str, title: str, *words: str) -> Field:
    """A field of one of these words, each its own code.

    Args:
        name: in code, API and store.
        title: what a screen and a refusal call it.
        words: that it may be.
    """
    return Field(name, title, "choice", choices=tuple((word, word) for word in words))


def read_value(field: Field, given: Any, at: str = "", species: Collection[str] = ()) -> Cell:
    """What a field was given, checked; None for a figure that is not there, "" for a word that is not.

    Args:
        at: its place, for the refusal; its name where none is said.
        species: codes that it may name.

    Raises:
        CoreError: ``value_missing``, ``number_out_of_range``, ``not_a_choice``, ``text_too_long``, ``not_a_text``, ``code_unreadable``,
            each with ``at`` as field.
    """
    at = at or field.name
    if given is None and field.nullable:
        return None
    if isinstance(given, str):
        given = given.strip()
    if field.kind in ("number", "whole"):
        return _figure(field, given, at)
    text = "" if given is None else given
    if field.kind == "choice":
        return _choice(field, text, at)
    if not isinstance(text, str):
        raise _wrong("not_a_text", field, "a text", given, at)
    if not text:
        return _empty(field, "a word", text, at)
    if field.kind == "code" and not _CODE.fullmatch(text):
        raise _wrong("code_unreadable", field, "small letters, figures and strokes, at most 20", text, at)
    if field.kind == "species" and text not in species:
        raise _wrong("not_a_choice", field, "a species of the programme's list, or nothing for every species", text, at)
    if field.kind == "text" and len(text) > field.longest:
        raise _wrong("text_too_long", field, f"at most {field.longest} characters", f"{len(text)} of them", at)
    return text


def _choice(field: Field, given: Any, at: str) -> Cell:
    if given == "" and "" not in dict(field.choices):
        return _empty(field, "one of its choices", "", at)
    if not isinstance(given, str) or given not in dict(field.choices):
        known = ", ".join(label for _, label in field.choices if label)
        raise _wrong("not_a_choice", field, f"one of {known}", given, at)
    return given


def _figure(field: Field, given: Any, at: str) -> Cell:
    if given is None or given == "":
        return _empty(field, "a figure", None, at)
    real = isinstance(given, int | float) and not isinstance(given, bool) and math.isfinite(given)
    if not real or not field.low <= given <= field.high or (field.kind == "whole" and given != int(given)):
        kind = "a whole number" if field.kind == "whole" else "a number"
        expected = f"{kind} from {field.bounds}" if field.bounds else kind
        raise _wrong("number_out_of_range", field, expected, given, at)
    return int(given) if field.kind == "whole" else float(given)


def _empty(field: Field, expected: str, nothing: Cell, at: str) -> Cell:
    if field.needed:
        raise CoreError("value_missing", f"{field.title}: expected {expected}; it is empty.", at)
    return nothing


def _wrong(code: str, field: Field, expected: str, got: Any, at: str) -> CoreError:
    return CoreError(code, f"{field.title}: expected {expected}; got {str(got)[:40]}.", at)
