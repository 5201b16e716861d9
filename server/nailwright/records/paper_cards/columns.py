"""Columns of a sheet of paper cards: how their names are known, and what their cells mean as an entry of a card has it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any, ClassVar

from nailwright.programmes.models import Membership
from nailwright.records.answers import Answers
from nailwright.records.columns.column import Column, WordColumn, at_most, number, split_unit
from nailwright.records.columns.fish import LengthCell, SpeciesCode
from nailwright.records.columns.place import Day, TimeOfDay
from nailwright.returns.models import Card
from nailwright.returns.volunteers.cards import HOOK_KINDS, HOOK_SITES
from nailwright_core.common.errors import CoreError
from nailwright_core.tags.cards import BLOCKS, block_of


@dataclass(frozen=True)
class Taggers:
    """Whoever may stand on a card as its tagger: keys of memberships by name and by number, in small letters."""

    known: Mapping[str, Sequence[str]]

    @classmethod
    def of(cls, memberships: Sequence[Membership]) -> Taggers:
        known: dict[str, list[str]] = {}
        for each in memberships:
            for word in {each.person.name.lower(), each.number.lower()} - {""}:
                known.setdefault(word, []).append(str(each.pk))
        return cls(known)

    def find(self, text: str) -> str:
        """The key of a membership.

        Raises:
            CoreError: ``tagger_unknown``, ``tagger_ambiguous``.
        """
        found = self.known.get(" ".join(text.lower().split()), ())
        if not found:
            raise CoreError(
                "tagger_unknown", f"Expected the name or number of one of the programme's people; got '{text[:40]}'.", "tagger"
            )  # fmt: skip
        if len(found) > 1:
            raise CoreError(
                "tagger_ambiguous", f"{len(found)} people go by '{text[:40]}'. Enter the tagger's number.", "tagger"
            )
        return found[0]


class Tagger(Column):
    key, title = "tagger", "Tagger"
    words = ("tagger", "tagger number", "tagged by", "volunteer", "angler", "fisher", "marqueur", "markierer")


class TagNumber(Column):
    key, title = "number_text", "Tag number"
    words = ("tag number", "tag", "tag no", "tag id", "number", "mark", "mark number", "marke", "marque", "numero")

    def clean(self, text: str, answers: Answers, unit: str | None) -> str:
        # a spreadsheet turns a number of digits alone into a decimal one
        return at_most(text.removesuffix(".0"), 40, self.key)


class Species(SpeciesCode):
    def clean(self, text: str, answers: Answers, unit: str | None) -> str:
        found = answers.species.get(text.lower())
        if found is None:
            raise CoreError(
                "species_unknown", f"Expected one of the programme's species, by name or code; got '{text[:40]}'.", "species"
            )  # fmt: skip
        return found


class _Words(WordColumn):
    """Words of a short list, with what is expected where one is not known."""

    def clean(self, text: str, answers: Answers, unit: str | None) -> str:
        found = self.known.get(text.lower())
        if found is None:
            expected = ", ".join(dict.fromkeys(self.known.values()))
            raise CoreError("word_unknown", f"Expected {self.what} ({expected}); got '{text[:40]}'.", self.key)
        return found


class Basis(_Words):
    key, title = "length_basis", "Measured or estimated"
    words = (
        "measured or estimated",
        "measured estimated",
        "m e",
        "measured",
        "basis",
        "how measured",
        "length basis",
        "estimated",
    )
    what = "how the length was taken"
    known: ClassVar[dict[str, str]] = {
        **dict.fromkeys(("measured", "m", "meas", "yes", "y", "board"), Card.Basis.MEASURED.value),
        **dict.fromkeys(("estimated", "e", "est", "no", "n", "guess"), Card.Basis.ESTIMATED.value),
    }


class TimeBlock(Column):
    key, title = "block", "Time of day"
    words = (*TimeOfDay.words, "time of day", "block", "tageszeit", "moment")

    def clean(self, text: str, answers: Answers, unit: str | None) -> str:
        if text.lower() in {name for name, _ in BLOCKS}:
            return text.lower()
        try:
            return block_of(TimeOfDay().clean(text, answers, unit).hour)
        except CoreError as error:
            names = ", ".join(dict.fromkeys(name for name, _ in BLOCKS))
            raise CoreError(
                "time_unreadable", f"Expected a time as HH:MM or one of {names}; got '{text[:40]}'.", self.key
            ) from error


class _Text(Column):
    longest: ClassVar[int] = 200

    def clean(self, text: str, answers: Answers, unit: str | None) -> str:
        return at_most(text, self.longest, self.key)


class Place(_Text):
    key, title = "place_text", "Place"
    words = ("place", "place in words", "location", "where", "spot", "site", "water", "lake", "river", "ort", "lieu")


class Remarks(_Text):
    key, title = "remarks", "Remarks"
    words = ("remarks", "remark", "note", "notes", "comment", "comments", "bemerkung", "remarques")
    longest = 1000


class _Figure(Column):
    bounds: ClassVar[tuple[float, float, str]]

    def clean(self, text: str, answers: Answers, unit: str | None) -> float:
        low, high, name = self.bounds
        return number(text, low, high, name, self.key, answers)


class Latitude(_Figure):
    key, title, words, bounds = "lat", "Latitude", ("lat", "latitude", "breite"), (-90, 90, "degrees")


class Longitude(_Figure):
    key, title = "lon", "Longitude"
    words, bounds = ("lon", "long", "lng", "longitude", "lange e"), (-180, 180, "degrees")


class PositionError(_Figure):
    key, title = "error_m", "Position error (m)"
    words, bounds = ("position error", "error m", "accuracy", "precision m"), (0, 1_000_000, "m")


class Condition(Column):
    key, title = "condition", "Condition at release"
    words = ("condition", "cond", "release condition", "condition at release", "condition code", "zustand", "etat")

    def clean(self, text: str, answers: Answers, unit: str | None) -> int:
        found = answers.words.get(self.key, {}).get(text.lower(), text.removesuffix(".0"))
        if found not in ("1", "2", "3", "4"):
            raise CoreError("condition_unreadable", f"Expected a condition from 1 to 4; got '{text[:40]}'.", self.key)
        return int(found)


class HookKind(_Words):
    key, title, words, what = "hook_kind", "Hook", ("hook", "hook kind", "hook type"), "a kind of hook"
    known: ClassVar[dict[str, str]] = {each: each for each in HOOK_KINDS}


class HookSite(_Words):
    key, title, words = "hook_site", "Hooked in", ("hooked in", "hook site", "hook location", "hooked where")
    what = "where it was hooked"
    known: ClassVar[dict[str, str]] = {each: each for each in HOOK_SITES}


class LineStrength(_Figure):
    key, title = "line_kg", "Line strength (kg)"
    words, bounds = ("line strength", "line", "line kg", "tackle"), (0.1, 500, "kg")


class AirExposure(_Figure):
    key, title = "air_s", "Out of the water (s)"
    words, bounds = ("out of the water", "air exposure", "air", "air s"), (0, 3600, "s")


#: Columns of a sheet, in the order of a card.
CARD_COLUMNS: dict[str, Column] = {
    each.key: each
    for each in (
        Tagger(), TagNumber(), Species(), LengthCell(), Basis(), Day(), TimeBlock(), Place(), Latitude(), Longitude(),
        PositionError(), Condition(), Remarks(), HookKind(), HookSite(), LineStrength(), AirExposure(),
    )
}  # fmt: skip
#: As an entry of a card names what a column holds, where that is another name.
AS_ENTRY = {"date": "caught_on"}


def bound_columns(headers: Sequence[str], chosen: Mapping[str, str]) -> list[tuple[str, str | None]]:
    """For each header the column that it fits best, each once, and the unit that it names; "" where it fits none.

    Args:
        chosen: columns that a person chose, by header; "" leaves one out.

    Raises:
        CoreError: ``column_unknown``, ``column_twice``.
    """
    for key in chosen.values():
        if key and key not in CARD_COLUMNS:
            raise CoreError("column_unknown", f"'{key[:40]}' is no column of a card.", "columns")
        if key and list(chosen.values()).count(key) > 1:
            raise CoreError(
                "column_twice", f"{CARD_COLUMNS[key].title} is chosen for two columns. Choose one of them.", "columns"
            )
    fits = sorted(
        (
            (fit[0], -order, -place, column.key, fit[1])
            for order, column in enumerate(CARD_COLUMNS.values())
            for place, header in enumerate(headers)
            if header not in chosen and column.key not in chosen.values() and (fit := column.resolve(header))
        ),
        reverse=True,
    )
    bound: dict[int, tuple[str, str | None]] = {
        place: (chosen[header], split_unit(header)[1]) for place, header in enumerate(headers) if header in chosen
    }
    for _, _, back, key, unit in fits:
        if -back not in bound and key not in {each for each, _ in bound.values()}:
            bound[-back] = (key, unit)
    return [bound.get(place, ("", None)) for place in range(len(headers))]


def entry_of(cells: Mapping[str, str], answers: Answers, taggers: Taggers, unit: str) -> dict[str, Any]:
    """What the cells of a line say, as ``record_card`` reads it; empty cells are not in it.

    Args:
        unit: of a bare length.

    Raises:
        CoreError: what was expected and got; field is the column's key.
    """
    row: dict[str, Any] = {}
    for key, column in CARD_COLUMNS.items():
        text = cells.get(key, "").strip()
        if not text:
            continue
        value: Any = taggers.find(text) if key == "tagger" else column.clean(text, answers, unit)
        row[AS_ENTRY.get(key, key)] = value.isoformat() if key == "date" else value
    return row
