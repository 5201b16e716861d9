"""From a file's lines to fish: each line is read whole or refused with its column and reason."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import UTC, date, datetime, time
from typing import Any
from uuid import UUID, uuid5
from zoneinfo import ZoneInfo

from nailwright.common.spreadsheets import FORMULA
from nailwright.deck.calling.call import Board, check_counted, read_call
from nailwright.deck.models import Capture
from nailwright.deck.own_lines import own_lines
from nailwright.deck.queries import callable_species
from nailwright.programmes.models import Programme
from nailwright.records.answers import Answers
from nailwright.records.columns import COLUMNS, Column, Draft
from nailwright.records.columns.place import SLASHED
from nailwright.records.missing import is_missing
from nailwright.tags.scans import Read, read_scans
from nailwright_core.common.errors import CoreError
from nailwright_core.common.quantities import unit_giving

#: Columns that a reject file has before those of the file itself; they are no part of a fish.
REJECT_HEADERS = ("reject_line", "reject_column", "reject_reason")
_NOON = time(12)


@dataclass(frozen=True)
class Reject:
    """A line that was not taken: where, why, and its cells as they stand in the file."""

    line: int
    column: str
    reason: str
    cells: Sequence[str]
    code: str = ""
    #: The cell that could not be read; empty where none alone is to blame.
    cell: str = ""


@dataclass(frozen=True)
class Place:
    """Where and when: what decides which outing and run a fish belongs to."""

    water: str
    site: str
    day: date
    gear: str
    outing: str
    run: int | None


@dataclass
class FileFish:
    """One fish of a file: the key it will have, its place, and the fields of its capture."""

    line: int
    cells: Sequence[str]
    key: UUID
    place: Place
    at: datetime
    values: dict[str, Any]
    reads: tuple[Read, ...]
    given: Mapping[str, Any]


class Reader:
    """Reads lines under a person's answers. Cells that repeat are understood once."""

    def __init__(self, programme: Programme, headers: Sequence[str], answers: Answers) -> None:
        self.headers = headers
        self.answers = answers
        self.unknown: dict[str, dict[str, int]] = {}
        self.day_first = self.month_first = 0
        self._programme = programme.pk
        self._board = Board("mm", "g", callable_species(programme), own_lines(programme))
        self._zones = {str(key): ZoneInfo(zone) for key, zone in programme.waters.values_list("pk", "time_zone")}
        self._bound: list[tuple[int, Column, str | None, dict[str, Any]]] = [
            (place, COLUMNS[each.key], each.unit, {}) for place, each in enumerate(answers.columns) if each.key
        ]
        self._header_of = {each.key: each.header for each in answers.columns if each.key}
        self._fixed = {
            key: COLUMNS[key].clean(text, answers, None) if key != "water" else text
            for key, text in answers.fixed.items()
            if text and key not in self._header_of
        }
        self._own = [place for place, header in enumerate(headers) if header not in REJECT_HEADERS]
        self._own.sort(key=lambda place: headers[place])
        self._seen: dict[bytes, int] = {}

    def read(self, line: int, cells: list[str]) -> FileFish | Reject:
        """One line."""
        if len(cells) > len(self.headers):
            if any(cells[len(self.headers) :]):
                reason = f"Expected {len(self.headers)} cells; got {len(cells)}. Is a separator inside a text?"
                return Reject(line, "", reason, cells)
            cells = cells[: len(self.headers)]
        elif len(cells) < len(self.headers):
            cells = cells + [""] * (len(self.headers) - len(cells))
        # counted for every line, also one that is refused: a mended line must not move those that are like it
        key = self._key(cells)
        try:
            return self._fish(line, cells, key)
        except CoreError as refused:
            return self.refusal(line, refused, cells)

    def refusal(self, line: int, refused: CoreError, cells: Sequence[str]) -> Reject:
        """A line that is not taken, with the column by the name that it has in the file."""
        header = self._header_of.get(refused.field or "", refused.field or "")
        place = self.headers.index(header) if header in self.headers else len(cells)
        return Reject(line, header, refused.message, cells, refused.code, cells[place] if place < len(cells) else "")

    def _fish(self, line: int, cells: list[str], key: UUID) -> FileFish:
        draft = Draft()
        for name, value in self._fixed.items():
            COLUMNS[name].assign(draft, value)
        for place, column, unit, known in self._bound:
            text = cells[place]
            if not text or is_missing(text, self.answers.missing):
                continue
            value = known.get(text)
            if value is None:
                value = known[text] = self._understood(column, text, unit)
            if isinstance(value, CoreError):
                if value.code == "word_unknown":
                    counts = self.unknown.setdefault(column.key, {})
                    counts[text[:40]] = counts.get(text[:40], 0) + 1
                raise value
            column.assign(draft, value)
        given = draft.given
        values = read_call(draft.call, self._board)
        if (
            values["count"] == 1
            and values["length_mm"] is None
            and values["mass_g"] is None
            and "count" not in draft.call
        ):
            raise CoreError("fish_empty", "The line has neither a length, nor a mass, nor a number of fish.", "length")
        scanned, reads = read_scans(draft.call)
        check_counted(values["count"], None, None, len(reads))
        for what, figure in (("length", values["length_mm"]), ("mass", values["mass_g"])):
            if figure is not None:
                values |= self._as_called(what, figure, given)
        values["scanned"] = given.get("scanned", Capture.Scanned.FOREIGN if reads else scanned)
        where, at = self._place(given)
        return FileFish(line, cells, given.get("capture_id", key), where, at, values, reads, given)

    def _as_called(self, what: str, figure: float, given: Mapping[str, Any]) -> dict[str, str]:
        """The text and basis that the file holds apart, and the unit of that text: as told, or the one that gives the figure."""
        found = {name: given[name] for name in (f"{what}_text", f"{what}_basis") if name in given}
        if f"{what}_text" in found:
            told = given.get(f"{what}_unit")
            found[f"{what}_unit"] = told or unit_giving(what, found[f"{what}_text"], figure)
        return found

    def _understood(self, column: Column, text: str, unit: str | None) -> Any:
        """A cell's meaning, or the refusal, which is as good for every equal cell."""
        if column.key == "date" and (found := SLASHED.match(text)):
            first, second = int(found.group(1)), int(found.group(2))
            self.day_first += first > 12 >= second
            self.month_first += second > 12 >= first
        plain = text[1:] if text.startswith("'") and text[1:].startswith(FORMULA) else text
        if "\x00" in plain:
            return CoreError("text_unreadable", "The cell holds a null character.", column.key)
        try:
            return column.clean(plain, self.answers, unit)
        except CoreError as refused:
            return refused

    def _place(self, given: Mapping[str, Any]) -> tuple[Place, datetime]:
        for name in ("water", "site", "gear"):
            if not given.get(name):
                raise CoreError("value_missing", f"The {name} is missing.", name)
        zone = self._zones[given["water"]]
        moment: datetime | None = given.get("device_time_utc")
        day: date | None = given.get("date")
        if day is None:
            if moment is None:
                raise CoreError("value_missing", "The date is missing.", "date")
            day = moment.astimezone(zone).date()
        at = moment or datetime.combine(day, given.get("time", _NOON), zone).astimezone(UTC)
        return (
            Place(given["water"], given["site"], day, given["gear"], given.get("outing", ""), given.get("run")),
            at,
        )

    def _key(self, cells: Sequence[str]) -> UUID:
        """The fish's key, made from the line itself: the same line gives the same key whatever the answers were.

        Of lines that are alike, each gets its own: two fish of one length are two fish.
        """
        words = [(self.headers[place], cells[place]) for place in self._own if cells[place]]
        text = json.dumps(words, ensure_ascii=False)
        digest = hashlib.blake2b(text.encode(), digest_size=16).digest()
        n = self._seen[digest] = self._seen.get(digest, 0) + 1
        return uuid5(self._programme, text if n == 1 else f"{n} {text}")
