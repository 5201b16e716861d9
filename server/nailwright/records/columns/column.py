"""What every kind of column shares, and small readers of cells.

A ``Draft`` collects one line. What is called on a deck (species, length, mass...) goes into ``call`` as the texts that
``deck.call.read_call`` and ``tags.scans.read_scans`` read, so that a file and a tablet mean the same; what only files bring
goes into ``given``.
"""

from __future__ import annotations

import json
import re
import unicodedata
from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any, ClassVar

from nailwright.programmes.species.known import SpeciesTable
from nailwright.records.answers import Answers
from nailwright_core.common.errors import CoreError
from nailwright_core.common.quantities import LENGTH_SPELLINGS, MASS_SPELLINGS


@dataclass
class Draft:
    """One line on its way to a capture."""

    call: dict[str, Any] = field(default_factory=dict)
    given: dict[str, Any] = field(default_factory=dict)


class Column:
    """A kind of column of the record: read from files, shown in the register, written into open formats.

    Attributes:
        key: its name in the code and the API. ``title``: how a screen calls it.
        words: by which the name of a file's column is known. ``units``: those a file may hold it in.
        term: its name in our own files, with the unit; empty where they do not hold it. ``unit``: in which they hold it.
        type: by Table Schema. ``description``: what it holds. ``path``: where a capture has it.
        heading: over the register's column, with the unit; empty where the register leaves it out.
        reads: whether a file's column can be this. ``called``: whether it is part of what is called on a deck.
    """

    key: ClassVar[str]
    title: ClassVar[str]
    words: ClassVar[tuple[str, ...]] = ()
    units: ClassVar[tuple[str, ...]] = ()
    term: ClassVar[str] = ""
    unit: ClassVar[str] = ""
    type: ClassVar[str] = "string"
    description: ClassVar[str] = ""
    path: ClassVar[str] = ""
    heading: ClassVar[str] = ""
    reads: ClassVar[bool] = True
    called: ClassVar[bool] = False

    def resolve(self, header: str) -> tuple[int, str | None] | None:
        """How well a column's name fits, from 1, and the unit it names; None where it does not fit."""
        name, unit = split_unit(header)
        if name == self.key or header == self.key:
            return 4, unit
        if name in self.words:
            return 3, unit
        tokens = set(name.split())
        if any(set(word.split()) <= tokens for word in self.words):
            return 1, unit
        return None

    def clean(self, text: str, answers: Answers, unit: str | None) -> Any:
        """What a cell means.

        Raises:
            CoreError: what was expected and got.
        """
        return text

    def assign(self, draft: Draft, value: Any) -> None:
        """Put the meaning into the draft."""
        (draft.call if self.called else draft.given)[self.key] = value

    def write(self, value: Any, species: SpeciesTable) -> Any:
        """A value of the record as a cell."""
        if value is None:
            return ""
        if isinstance(value, list):
            return json.dumps(value) if value else ""
        if hasattr(value, "isoformat"):
            return value.isoformat().replace("+00:00", "Z")
        return value


class WordColumn(Column):
    """A column of words from a short list: ``known`` leads from each, in small letters, to its code; ``what`` names the list."""

    known: ClassVar[Mapping[str, str]]
    what: ClassVar[str]

    def clean(self, text: str, answers: Answers, unit: str | None) -> str:
        return choice(text, self.known, self.what, self.key, answers)


def _without_accents(text: str) -> str:
    """Letters as they stand without accents and slashes: "Länge", "espèce", "innsjø"."""
    plain = unicodedata.normalize("NFKD", text.translate({0xDF: "ss", 0xF8: "o", 0xD8: "O", 0xE6: "ae", 0xC6: "Ae"}))
    return "".join(sign for sign in plain if not unicodedata.combining(sign))


def split_unit(header: str) -> tuple[str, str | None]:
    """A column's name in small plain words, and the unit that stands in it: "TL (in)" is ("tl", "in")."""
    name = re.sub(r"([a-z])([A-Z])", r"\1 \2", _without_accents(header)).lower()
    tokens = [token for token in re.split(r"[^a-z0-9\"']+", name) if token]
    unit = None
    if len(tokens) > 1 and tokens[-1] in {**LENGTH_SPELLINGS, **MASS_SPELLINGS}:
        last = tokens.pop()
        unit = LENGTH_SPELLINGS.get(last) or MASS_SPELLINGS.get(last)
    return " ".join(tokens), unit


def choice(text: str, known: Mapping[str, str], what: str, key: str, answers: Answers) -> str:
    """A word of a short list, as it stands or as a person said that it is meant."""
    said = answers.words.get(key, {}).get(text.lower())
    if said:
        return said
    found = known.get(text.lower())
    if found is None:
        raise CoreError("word_unknown", f"'{text[:40]}' is not known as {what}. Say above what it means.", key)
    return found


def at_most(text: str, longest: int, key: str) -> str:
    if len(text) > longest:
        raise CoreError("text_too_long", f"Expected at most {longest} characters; got {len(text)}.", key)
    return text


def whole(text: str, low: int, high: int, key: str) -> int:
    if not re.fullmatch(r"\d{1,9}(\.0+)?", text) or not low <= int(float(text)) <= high:
        raise CoreError("number_unreadable", f"Expected a whole number from {low} to {high:,}; got '{text[:40]}'.", key)
    return int(float(text))


def number(text: str, low: float, high: float, unit: str, key: str, answers: Answers) -> float:
    plain = text.replace(",", ".") if answers.decimal == "," else text
    if not re.fullmatch(r"-?\d{1,9}(\.\d+)?", plain) or not low <= float(plain) <= high:
        raise CoreError(
            "number_unreadable", f"Expected a number from {low:g} to {high:,g} {unit}; got '{text[:40]}'.", key
        )
    return float(plain)
