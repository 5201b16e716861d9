"""One class for each kind of column that can be brought in: does this name look like mine, what does a cell mean, where
does it go.

A ``Draft`` collects one line. What is called on a deck (species, length, mass...) goes into ``call`` as the texts that
``deck.call.read_call`` reads, so that a file and a tablet mean the same; what only files bring goes into ``given``.
"""

from __future__ import annotations

import json
import re
from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import UTC, date, datetime, time
from typing import TYPE_CHECKING, Any, ClassVar
from uuid import UUID

from nailwright.deck.call import LENGTH_TYPES, SEX_EVIDENCE
from nailwright.deck.models import Capture, Gear, Release
from nailwright.tags.models import Tag
from nailwright_core.common import species as species_table
from nailwright_core.common.errors import CoreError
from nailwright_core.common.quantities import G_PER, LENGTH_SPELLINGS, MASS_SPELLINGS, MM_PER

if TYPE_CHECKING:
    from nailwright.records.answers import Answers


@dataclass
class Draft:
    """One line on its way to a capture."""

    call: dict[str, Any] = field(default_factory=dict)
    given: dict[str, Any] = field(default_factory=dict)


class Column:
    """A kind of column: its key, how it is called on the screen, and the words by which its name is known."""

    key: ClassVar[str]
    label: ClassVar[str]
    words: ClassVar[tuple[str, ...]] = ()
    units: ClassVar[tuple[str, ...]] = ()

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
        draft.given[self.key] = value


def split_unit(header: str) -> tuple[str, str | None]:
    """A column's name in small plain words, and the unit that stands in it: "TL (in)" is ("tl", "in")."""
    name = re.sub(r"([a-z])([A-Z])", r"\1 \2", header).lower()
    tokens = [token for token in re.split(r"[^a-z0-9\"']+", name) if token]
    unit = None
    if len(tokens) > 1 and tokens[-1] in LENGTH_SPELLINGS | MASS_SPELLINGS:
        last = tokens.pop()
        unit = LENGTH_SPELLINGS.get(last) or MASS_SPELLINGS.get(last)
    return " ".join(tokens), unit


def _choice(text: str, known: Mapping[str, str], what: str, key: str, answers: Answers) -> str:
    """A word of a short list, as it stands or as a person said that it is meant."""
    said = answers.words.get(key, {}).get(text.lower())
    if said:
        return said
    found = known.get(text.lower())
    if found is None:
        raise CoreError("word_unknown", f"'{text[:40]}' is not known as {what}. Say above what it means.", key)
    return found


class CaptureKey(Column):
    key, label = "capture_id", "Key of the capture"

    def clean(self, text: str, answers: Answers, unit: str | None) -> UUID:
        try:
            return UUID(text)
        except ValueError as error:
            raise CoreError("key_unreadable", f"Expected a UUID; got '{text[:40]}'.", self.key) from error


class OutingName(Column):
    key, label, words = "outing", "Outing", ("outing", "trip", "survey", "event")

    def clean(self, text: str, answers: Answers, unit: str | None) -> str:
        return _at_most(text, 120, self.key)


_ISO = re.compile(r"(\d{4})-(\d{1,2})-(\d{1,2})(?:[T ](\d{1,2}:\d{2}(?::\d{2}(?:\.\d+)?)?)(Z|[+-]\d{2}:?\d{2})?)?$")
SLASHED = re.compile(r"(\d{1,2})[./-](\d{1,2})[./-](\d{4})(?:[ T](\d{1,2}:\d{2}(?::\d{2})?))?$")


class Day(Column):
    key, label, words = "date", "Date", ("date", "day", "sample date", "capture date", "collection date")

    def clean(self, text: str, answers: Answers, unit: str | None) -> date:
        found = _ISO.match(text)
        if found:
            return self._date(text, *map(int, found.groups()[:3]))
        found = SLASHED.match(text)
        if not found:
            raise CoreError(
                "date_unreadable",
                f"Expected a date as YYYY-MM-DD, or with day, month and a year of four digits; got '{text[:40]}'.",
                self.key,
            )
        first, second, year = map(int, found.groups()[:3])
        if answers.date_order is None:
            raise CoreError("date_order_unknown", f"'{text}' may be day first or month first. Say which.", self.key)
        day, month = (first, second) if answers.date_order == "day" else (second, first)
        return self._date(text, year, month, day)

    def _date(self, text: str, year: int, month: int, day: int) -> date:
        try:
            value = date(year, month, day)
        except ValueError as error:
            raise CoreError("date_impossible", f"'{text[:40]}' is no day of the calendar.", self.key) from error
        if not 1850 <= year <= 2100:
            raise CoreError("date_impossible", f"Expected a year from 1850 to 2100; got '{text[:40]}'.", self.key)
        return value


class TimeOfDay(Column):
    key, label, words = "time", "Time of day", ("time", "hour")

    def clean(self, text: str, answers: Answers, unit: str | None) -> time:
        try:
            return time.fromisoformat(text if len(text.split(":")[0]) == 2 else f"0{text}")
        except ValueError as error:
            raise CoreError("time_unreadable", f"Expected a time as HH:MM; got '{text[:40]}'.", self.key) from error


class Moment(Column):
    key, label, words = "device_time_utc", "Date and time (UTC)", ("datetime utc", "timestamp")

    def clean(self, text: str, answers: Answers, unit: str | None) -> datetime:
        found = _ISO.match(text)
        try:
            moment = datetime.fromisoformat(text.replace("Z", "+00:00")) if found and found.group(4) else None
        except ValueError:
            moment = None
        if moment is None:
            raise CoreError(
                "time_unreadable", f"Expected date and time as YYYY-MM-DDTHH:MM:SSZ; got '{text[:40]}'.", self.key
            )
        return moment if moment.tzinfo else moment.replace(tzinfo=UTC)


class WaterName(Column):
    key, label, words = "water", "Water", ("water", "lake", "river", "waterbody", "water body", "stream")

    def clean(self, text: str, answers: Answers, unit: str | None) -> str:
        return _choice(text, answers.waters, "a water of this programme", self.key, answers)


class SiteName(Column):
    key, label, words = "site", "Site", ("site", "station", "location", "transect")

    def clean(self, text: str, answers: Answers, unit: str | None) -> str:
        return answers.words.get("site", {}).get(text.lower()) or _at_most(text, 60, self.key)


class Reach(Column):
    key, label, words = "reach", "Reach (of new sites)", ("reach", "zone", "section")

    def clean(self, text: str, answers: Answers, unit: str | None) -> str:
        return _at_most(text, 60, self.key)


class RiverKm(Column):
    key, label, words = "river_km", "River kilometre (of new sites)", ("river km", "rkm", "river kilometre")

    def clean(self, text: str, answers: Answers, unit: str | None) -> float:
        return _number(text, -10, 10_000, "km", self.key, answers)


class RunNumber(Column):
    key, label, words = "run", "Run", ("run", "pass", "haul", "bout", "run number")

    def clean(self, text: str, answers: Answers, unit: str | None) -> int:
        return _whole(text, 1, 9999, self.key)


class CurrentOn(Column):
    key, label, words = (
        "current_on_s",
        "Current on in the run (s)",
        ("effort s", "effort sec", "shock time", "pedal time"),
    )

    def clean(self, text: str, answers: Answers, unit: str | None) -> float:
        return _number(text, 0, 86_400, "s", self.key, answers)


class GearName(Column):
    key, label, words = "gear", "Gear", ("gear", "method", "gear type")
    known: ClassVar[dict[str, str]] = {
        **{code: code for code in Gear.values},
        **{label.lower(): code for code, label in Gear.choices},
    }

    def clean(self, text: str, answers: Answers, unit: str | None) -> str:
        return _choice(text, self.known, "a gear", self.key, answers)


class SpeciesCode(Column):
    key, label, words = "species", "Species", ("species", "species code", "spp", "sp", "fish species", "taxon")
    known: ClassVar[dict[str, str]] = {
        name.lower(): kind.code
        for kind in species_table.all_species()
        for name in (kind.code, kind.common_name, kind.scientific_name)
    }

    def resolve(self, header: str) -> tuple[int, str | None] | None:
        return (5, None) if header == "species_code" else super().resolve(header)

    def clean(self, text: str, answers: Answers, unit: str | None) -> str:
        return _choice(text, self.known, "a species", self.key, answers)

    def assign(self, draft: Draft, value: Any) -> None:
        draft.call["species"] = value


class Count(Column):
    key, label, words = "count", "Number of fish", ("count", "number", "number caught", "n", "count fish", "catch")

    def clean(self, text: str, answers: Answers, unit: str | None) -> int:
        return _whole(text, 1, 100_000, self.key)

    def assign(self, draft: Draft, value: Any) -> None:
        draft.call["count"] = value


class _Quantity(Column):
    """A length or mass: the cell's own text with the column's unit behind a bare number."""

    def clean(self, text: str, answers: Answers, unit: str | None) -> str:
        if answers.decimal == "," and re.fullmatch(r"~?\d{1,3}(\.\d{3})*,\d+|~?\d+,\d+|~?\d{1,3}(\.\d{3})+", text):
            text = text.replace(".", "").replace(",", ".")
        elif answers.decimal == "." and re.fullmatch(r"~?\d{1,3}(,\d{3})+(\.\d+)?", text):
            text = text.replace(",", "")
        if unit is None:
            raise CoreError("unit_unknown", f"Say in which unit the column of {self.label.lower()} is.", self.key)
        return text if text[-1:].isalpha() or text[-1:] in "\"'" else f"{text} {unit}"

    def assign(self, draft: Draft, value: Any) -> None:
        draft.call[self.key] = value


class LengthCell(_Quantity):
    key, label, units = "length", "Length", tuple(MM_PER)
    words = ("length", "tl", "fl", "sl", "total length", "fork length", "standard length", "len", "lgth")


class MassCell(_Quantity):
    key, label, units = "mass", "Mass", tuple(G_PER)
    words = ("mass", "weight", "wt", "wgt", "wet weight", "body mass")


class LengthType(Column):
    key, label, words = "length_type", "Kind of length", ("length type", "type of length")
    known: ClassVar[dict[str, str]] = {kind.lower(): kind for kind in LENGTH_TYPES}

    def clean(self, text: str, answers: Answers, unit: str | None) -> str:
        return _choice(text, self.known, "a kind of length (TL, TLn, FL, SL...)", self.key, answers)

    def assign(self, draft: Draft, value: Any) -> None:
        draft.call["length_type"] = value


class _AsCalled(Column):
    def clean(self, text: str, answers: Answers, unit: str | None) -> str:
        return _at_most(text, 40, self.key)


class LengthAsCalled(_AsCalled):
    key, label, words = "length_text", "Length as it was called", ("length as called",)


class MassAsCalled(_AsCalled):
    key, label, words = "mass_text", "Mass as it was called", ("mass as called",)


class _Basis(Column):
    known: ClassVar[dict[str, str]] = {code: code for code in Capture.Basis.values}

    def clean(self, text: str, answers: Answers, unit: str | None) -> str:
        return _choice(text, self.known, "measured or estimated", self.key, answers)


class LengthBasis(_Basis):
    key, label, words = "length_basis", "Length measured or estimated", ("length basis",)


class MassBasis(_Basis):
    key, label, words = "mass_basis", "Mass measured or estimated", ("mass basis",)


class Sex(Column):
    key, label, words = "sex", "Sex", ("sex", "gender")
    known: ClassVar[dict[str, str]] = {
        **{code: code for code in Capture.Sex.values},
        **{label.lower(): code for code, label in Capture.Sex.choices},
    }

    def clean(self, text: str, answers: Answers, unit: str | None) -> str:
        return _choice(text, self.known, "a sex", self.key, answers)

    def assign(self, draft: Draft, value: Any) -> None:
        draft.call["sex"] = value


class SexEvidence(Column):
    key, label, words = "sex_evidence", "How the sex was told", ("sex evidence", "sexing method")
    known: ClassVar[dict[str, str]] = {word: word for word in SEX_EVIDENCE if word}

    def clean(self, text: str, answers: Answers, unit: str | None) -> str:
        return _choice(text, self.known, "a way to tell the sex", self.key, answers)

    def assign(self, draft: Draft, value: Any) -> None:
        draft.call["sex_evidence"] = value


class FishKey(CaptureKey):
    key, label = "fish_id", "Key of the individual"


class Scanned(Column):
    key, label, words = "scanned", "Scanned for a mark", ("scanned",)
    known: ClassVar[dict[str, str]] = {code: code for code in Capture.Scanned.values if code}

    def clean(self, text: str, answers: Answers, unit: str | None) -> str:
        return _choice(text, self.known, "an outcome of a scan (none, known, foreign)", self.key, answers)


class MarkRead(Column):
    """Kind and number together, as our own files hold them."""

    key, label, words = "mark_read", "Mark read, kind and number", ("mark read",)

    def clean(self, text: str, answers: Answers, unit: str | None) -> tuple[str, str]:
        kind, _, number = text.partition(" ")
        return kind, number

    def assign(self, draft: Draft, value: Any) -> None:
        draft.call |= {"scanned": "number", "scan_kind": value[0], "scan": value[1]}


class PitNumber(Column):
    key, label, words = "pit", "PIT number", ("pit", "pit tag", "pit number", "pit tag number", "pit id")
    kind = Tag.Kind.PIT

    def assign(self, draft: Draft, value: Any) -> None:
        draft.call |= {"scanned": "number", "scan_kind": str(self.kind), "scan": value}


class TBarNumber(PitNumber):
    key, label, words = "tbar", "T-bar number", ("tbar", "t bar", "external tag", "anchor tag", "tag number")
    kind = Tag.Kind.T_BAR


class LeftAs(Column):
    key, label, words = "left_as", "How it left", ("left as", "released", "fate", "disposition", "release")
    known: ClassVar[dict[str, str]] = {
        **{code: code for code in Release.Code.values},
        **{label.lower(): code for code, label in Release.Code.choices},
    }

    def clean(self, text: str, answers: Answers, unit: str | None) -> str:
        return _choice(text, self.known, "a way of leaving", self.key, answers)


class Note(Column):
    key, label, words = "note", "Note", ("note", "notes", "comment", "comments", "remarks")

    def clean(self, text: str, answers: Answers, unit: str | None) -> str:
        return _at_most(text, 200, self.key)

    def assign(self, draft: Draft, value: Any) -> None:
        draft.call["note"] = value


class Questions(Column):
    key, label, words = "questions", "Doubts and their answers", ("questions",)

    def clean(self, text: str, answers: Answers, unit: str | None) -> list[dict[str, str]]:
        try:
            value = json.loads(text)
        except ValueError as error:
            raise CoreError("questions_unreadable", "Expected a list in JSON.", self.key) from error
        return value

    def assign(self, draft: Draft, value: Any) -> None:
        draft.call["questions"] = value


def _at_most(text: str, longest: int, key: str) -> str:
    if len(text) > longest:
        raise CoreError("text_too_long", f"Expected at most {longest} characters; got {len(text)}.", key)
    return text


def _whole(text: str, low: int, high: int, key: str) -> int:
    if not re.fullmatch(r"\d{1,9}(\.0+)?", text) or not low <= int(float(text)) <= high:
        raise CoreError("number_unreadable", f"Expected a whole number from {low} to {high:,}; got '{text[:40]}'.", key)
    return int(float(text))


def _number(text: str, low: float, high: float, unit: str, key: str, answers: Answers) -> float:
    plain = text.replace(",", ".") if answers.decimal == "," else text
    if not re.fullmatch(r"-?\d{1,9}(\.\d+)?", plain) or not low <= float(plain) <= high:
        raise CoreError(
            "number_unreadable", f"Expected a number from {low:g} to {high:,g} {unit}; got '{text[:40]}'.", key
        )
    return float(plain)


#: Every kind of column, in the order in which the screen offers them.
COLUMNS: dict[str, Column] = {
    each.key: each
    for each in (
        SpeciesCode(), LengthCell(), MassCell(), Sex(), Count(), Note(),
        Day(), TimeOfDay(), Moment(), WaterName(), SiteName(), Reach(), RiverKm(), OutingName(), RunNumber(), GearName(), CurrentOn(),
        PitNumber(), TBarNumber(), LeftAs(), LengthType(), LengthBasis(), LengthAsCalled(), MassBasis(), MassAsCalled(),
        SexEvidence(), Scanned(), MarkRead(), FishKey(), CaptureKey(), Questions(),
    )
}  # fmt: skip
