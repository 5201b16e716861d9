"""Columns of what was called: species, length, mass, sex, note, doubts."""

from __future__ import annotations

import json
import re
from typing import Any, ClassVar

from nailwright.deck.calling.call import SEX_EVIDENCE
from nailwright.deck.models import Capture
from nailwright.programmes.species.known import SpeciesTable
from nailwright.records.answers import Answers
from nailwright.records.columns.column import Column, WordColumn, at_most, choice, whole
from nailwright_core.common.errors import CoreError
from nailwright_core.common.quantities import G_PER, MM_PER
from nailwright_core.common.species_values import LENGTH_TYPES


class SpeciesCode(WordColumn):
    key, title, words = (
        "species",
        "Species",
        (
            "species",
            "species code",
            "spp",
            "sp",
            "fish species",
            "taxon",
            "art",
            "fischart",
            "espece",
            "especie",
            "laji",
        ),
    )
    term = "species_code"
    path = "species"
    description = "Species, short code"
    heading = "Species"
    what = "a species"
    called = True

    def clean(self, text: str, answers: Answers, unit: str | None) -> str:
        return choice(text, answers.species, self.what, self.key, answers)

    def resolve(self, header: str) -> tuple[int, str | None] | None:
        return (5, None) if header == "species_code" else super().resolve(header)


class SpeciesName(Column):
    key, title = "species_name", "Species, common name"
    term = "species"
    path = "species"
    description = "Species, common name"
    reads = False

    def write(self, value: Any, species: SpeciesTable) -> Any:
        return species[value].common_name if value in species else ""


class Count(Column):
    key, title, words = (
        "count",
        "Number of fish",
        (
            "count",
            "number",
            "number caught",
            "n",
            "count fish",
            "catch",
            "anzahl",
            "nombre",
            "antall",
            "antal",
            "numero",
        ),
    )
    term = "count_fish"
    path = "count"
    type = "integer"
    description = "Number of fish; above 1 they were counted only (fish)"
    heading = "Count"
    called = True

    def clean(self, text: str, answers: Answers, unit: str | None) -> int:
        return whole(text, 1, 100_000, self.key)


class _Quantity(Column):
    """A length or mass: the cell's own text with the column's unit behind a bare number."""

    called = True

    def clean(self, text: str, answers: Answers, unit: str | None) -> str:
        if answers.decimal == "," and re.fullmatch(r"~?\d{1,3}(\.\d{3})*,\d+|~?\d+,\d+|~?\d{1,3}(\.\d{3})+", text):
            text = text.replace(".", "").replace(",", ".")
        elif answers.decimal == "." and re.fullmatch(r"~?\d{1,3}(,\d{3})+(\.\d+)?", text):
            text = text.replace(",", "")
        if unit is None:
            raise CoreError("unit_unknown", f"Say in which unit the column of {self.title.lower()} is.", self.key)
        return text if text[-1:].isalpha() or text[-1:] in "\"'" else f"{text} {unit}"


class LengthCell(_Quantity):
    key, title, units = "length", "Length", tuple(MM_PER)
    term = "length_mm"
    unit = "mm"
    path = "length_mm"
    type = "number"
    description = "Length (mm)"
    heading = "Length (mm)"
    words = (
        "length",
        "tl",
        "fl",
        "sl",
        "total length",
        "fork length",
        "standard length",
        "len",
        "lgth",
        "lange",
        "gesamtlange",
        "longueur",
        "longueur totale",
        "lengde",
        "langd",
        "longitud",
        "talla",
        "pituus",
    )


class MassCell(_Quantity):
    key, title, units = "mass", "Mass", tuple(G_PER)
    term = "mass_g"
    unit = "g"
    path = "mass_g"
    type = "number"
    description = "Mass (g)"
    heading = "Mass (g)"
    words = (
        "mass",
        "weight",
        "wt",
        "wgt",
        "wet weight",
        "body mass",
        "gewicht",
        "masse",
        "poids",
        "vekt",
        "vikt",
        "peso",
        "paino",
    )


class LengthType(WordColumn):
    key, title, words = "length_type", "Kind of length", ("length type", "type of length")
    term = "length_type"
    path = "length_type"
    description = "TL total, TLn total with relaxed tail, FL fork, SL standard length"
    heading = "Kind"
    what = "a kind of length (TL, TLn, FL, SL...)"
    known: ClassVar[dict[str, str]] = {kind.lower(): kind for kind in LENGTH_TYPES}
    called = True


class _AsCalled(Column):
    def clean(self, text: str, answers: Answers, unit: str | None) -> str:
        return at_most(text, 40, self.key)


class LengthAsCalled(_AsCalled):
    key, title, words = "length_text", "Length as it was called", ("length as called",)
    term = "length_as_called"
    path = "length_text"
    description = "Length as it was called, with its unit where one was called"


class MassAsCalled(_AsCalled):
    key, title, words = "mass_text", "Mass as it was called", ("mass as called",)
    term = "mass_as_called"
    path = "mass_text"
    description = "Mass as it was called, with its unit where one was called"


class _UnitAsCalled(Column):
    def clean(self, text: str, answers: Answers, unit: str | None) -> str:
        return choice(text, {each: each for each in self.units}, "a unit", self.key, answers)


class LengthUnitAsCalled(_UnitAsCalled):
    key, title, words = "length_unit", "Unit of the length as it was called", ("length unit as called",)
    units = tuple(MM_PER)
    term = "length_unit_as_called"
    path = "length_unit"
    description = "Unit in which the length as called was read"


class MassUnitAsCalled(_UnitAsCalled):
    key, title, words = "mass_unit", "Unit of the mass as it was called", ("mass unit as called",)
    units = tuple(G_PER)
    term = "mass_unit_as_called"
    path = "mass_unit"
    description = "Unit in which the mass as called was read"


class _Basis(WordColumn):
    what = "measured or estimated"
    known: ClassVar[dict[str, str]] = {code: code for code in Capture.Basis.values}


class LengthBasis(_Basis):
    key, title, words = "length_basis", "Length measured or estimated", ("length basis",)
    term = "length_basis"
    path = "length_basis"
    description = "measured or estimated by eye"


class MassBasis(_Basis):
    key, title, words = "mass_basis", "Mass measured or estimated", ("mass basis",)
    term = "mass_basis"
    path = "mass_basis"
    description = "measured or estimated by eye"


class Sex(WordColumn):
    key, title, words = "sex", "Sex", ("sex", "gender", "geschlecht", "sexe", "kjonn", "kon", "sexo")
    term = "sex"
    path = "sex"
    description = "f female, m male, u unknown"
    heading = "Sex"
    what = "a sex"
    known: ClassVar[dict[str, str]] = {
        **{code: code for code in Capture.Sex.values},
        **{label.lower(): code for code, label in Capture.Sex.choices},
        **dict.fromkeys(("w", "\u2640", "weiblich", "femelle", "hunn", "hona", "hembra"), "f"),
        **dict.fromkeys(("\u2642", "m\u00e4nnlich", "hann", "hane", "macho"), "m"),
    }
    called = True


class SexEvidence(WordColumn):
    key, title, words = "sex_evidence", "How the sex was told", ("sex evidence", "sexing method")
    term = "sex_evidence"
    path = "sex_evidence"
    description = "How the sex was told"
    what = "a way to tell the sex"
    known: ClassVar[dict[str, str]] = {word: word for word in SEX_EVIDENCE if word}
    called = True


class Note(Column):
    key, title, words = (
        "note",
        "Note",
        (
            "note",
            "notes",
            "comment",
            "comments",
            "remarks",
            "bemerkung",
            "bemerkungen",
            "anmerkung",
            "remarque",
            "merknad",
            "nota",
            "observaciones",
            "kommentar",
        ),
    )
    term = "note"
    path = "note"
    description = "Note"
    heading = "Note"
    called = True

    def clean(self, text: str, answers: Answers, unit: str | None) -> str:
        return at_most(text, 200, self.key)


class Questions(Column):
    key, title, words = "questions", "Doubts and their answers", ("questions",)
    term = "questions"
    path = "questions"
    description = "Doubts raised at the call and their answers, JSON"
    called = True

    def clean(self, text: str, answers: Answers, unit: str | None) -> list[dict[str, str]]:
        try:
            value: list[dict[str, str]] = json.loads(text)
        except ValueError as error:
            raise CoreError("questions_unreadable", "Expected a list in JSON.", self.key) from error
        return value
