"""Columns that say where, when and with what."""

from __future__ import annotations

import re
from datetime import UTC, date, datetime, time
from typing import ClassVar

from nailwright.deck.models import Gear
from nailwright.records.answers import Answers
from nailwright.records.columns.column import Column, WordColumn, at_most, choice, number, whole
from nailwright_core.common.errors import CoreError


class OutingName(Column):
    key, title, words = "outing", "Outing", ("outing", "trip", "survey", "event", "ausfahrt", "sortie", "tur", "salida")
    term = "outing"
    path = "run__outing__name"
    description = "Name of the outing"

    def clean(self, text: str, answers: Answers, unit: str | None) -> str:
        return at_most(text, 120, self.key)


_ISO = re.compile(r"(\d{4})-(\d{1,2})-(\d{1,2})(?:[T ](\d{1,2}:\d{2}(?::\d{2}(?:\.\d+)?)?)(Z|[+-]\d{2}:?\d{2})?)?$")
SLASHED = re.compile(r"(\d{1,2})[./-](\d{1,2})[./-](\d{4}|\d{2})(?:[ T](\d{1,2}:\d{2}(?::\d{2})?))?$")

#: What may be a day, for columns that are told by their values.
DAY_LIKE = re.compile(f"(?:{_ISO.pattern})|(?:{SLASHED.pattern})")


class Day(Column):
    key, title, words = (
        "date",
        "Date",
        (
            "date",
            "day",
            "sample date",
            "capture date",
            "collection date",
            "datum",
            "fangdatum",
            "dato",
            "fecha",
            "data",
            "dag",
        ),
    )
    term = "date"
    path = "run__outing__date"
    type = "date"
    description = "Day of the outing"
    heading = "Day"

    def clean(self, text: str, answers: Answers, unit: str | None) -> date:
        found = _ISO.match(text)
        if found:
            return self._date(text, *map(int, found.groups()[:3]))
        found = SLASHED.match(text)
        if not found:
            raise CoreError(
                "date_unreadable",
                f"Expected a date as YYYY-MM-DD, or with day, month and year; got '{text[:40]}'.",
                self.key,
            )
        first, second, year = map(int, found.groups()[:3])
        if len(found.group(3)) == 2:
            year = self._whole_year(text, year, answers.years_until)
        if answers.date_order is None:
            raise CoreError("date_order_unknown", f"'{text}' may be day first or month first. Say which.", self.key)
        day, month = (first, second) if answers.date_order == "day" else (second, first)
        return self._date(text, year, month, day)

    def _whole_year(self, text: str, year: int, until: int | None) -> int:
        if until is None:
            raise CoreError(
                "year_short", f"The year of '{text[:40]}' has two digits. Say which hundred years they mean.", self.key
            )
        return until - (until - year) % 100

    def _date(self, text: str, year: int, month: int, day: int) -> date:
        try:
            value = date(year, month, day)
        except ValueError as error:
            raise CoreError("date_impossible", f"'{text[:40]}' is no day of the calendar.", self.key) from error
        if not 1850 <= year <= 2100:
            raise CoreError("date_impossible", f"Expected a year from 1850 to 2100; got '{text[:40]}'.", self.key)
        return value


class TimeOfDay(Column):
    key, title, words = (
        "time",
        "Time of day",
        ("time", "hour", "uhrzeit", "zeit", "heure", "tid", "klokkeslett", "hora"),
    )

    def clean(self, text: str, answers: Answers, unit: str | None) -> time:
        try:
            return time.fromisoformat(text if len(text.split(":")[0]) == 2 else f"0{text}")
        except ValueError as error:
            raise CoreError("time_unreadable", f"Expected a time as HH:MM; got '{text[:40]}'.", self.key) from error


class Moment(Column):
    key, title, words = "device_time_utc", "Date and time (UTC)", ("datetime utc", "timestamp")
    term = "device_time_utc"
    path = "device_time"
    type = "datetime"
    description = "When it was called, by the device (UTC)"

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
    key, title, words = (
        "water",
        "Water",
        (
            "water",
            "lake",
            "river",
            "waterbody",
            "water body",
            "stream",
            "gewasser",
            "see",
            "fluss",
            "plan d eau",
            "lac",
            "riviere",
            "vann",
            "innsjo",
            "elv",
            "sjo",
            "rio",
            "lago",
            "embalse",
        ),
    )
    term = "water"
    path = "run__outing__water__name"
    description = "Lake, river or coast"
    heading = "Water"

    def clean(self, text: str, answers: Answers, unit: str | None) -> str:
        return choice(text, answers.waters, "a water of this programme", self.key, answers)


class SiteName(Column):
    key, title, words = (
        "site",
        "Site",
        (
            "site",
            "station",
            "location",
            "transect",
            "ort",
            "stelle",
            "strecke",
            "probestelle",
            "lieu",
            "lokalitet",
            "stasjon",
            "sted",
            "sitio",
            "estacion",
        ),
    )
    term = "site"
    path = "run__site__name"
    description = "Site where the run was"
    heading = "Site"

    def clean(self, text: str, answers: Answers, unit: str | None) -> str:
        return answers.words.get("site", {}).get(text.lower()) or at_most(text, 60, self.key)


class ZoneName(Column):
    key, title, words = (
        "zone",
        "Zone (of new sites)",
        ("zone", "reach", "section", "abschnitt", "secteur", "tramo", "sone"),
    )
    term = "zone"
    path = "run__site__zone__name"
    description = "Zone of the water"

    def clean(self, text: str, answers: Answers, unit: str | None) -> str:
        return at_most(text, 60, self.key)


class RiverKm(Column):
    key, title, words = "river_km", "River kilometre (of new sites)", ("river km", "rkm", "river kilometre")
    term = "river_km"
    unit = "km"
    path = "run__site__river_km"
    type = "number"
    description = "Kilometre along the water, from its mouth (km)"

    def clean(self, text: str, answers: Answers, unit: str | None) -> float:
        return number(text, -10, 10_000, "km", self.key, answers)


class RunNumber(Column):
    key, title, words = (
        "run",
        "Run",
        ("run", "pass", "haul", "bout", "run number", "durchgang", "passage", "omgang", "pasada"),
    )
    term = "run"
    path = "run__number"
    type = "integer"
    description = "Number of the run within the outing"
    heading = "Run"

    def clean(self, text: str, answers: Answers, unit: str | None) -> int:
        return whole(text, 1, 9999, self.key)


class CurrentOn(Column):
    key, title, words = (
        "current_on_s",
        "Current on in the run (s)",
        ("effort s", "effort sec", "shock time", "pedal time"),
    )

    def clean(self, text: str, answers: Answers, unit: str | None) -> float:
        return number(text, 0, 86_400, "s", self.key, answers)


class GearName(WordColumn):
    key, title, words = (
        "gear",
        "Gear",
        ("gear", "method", "gear type", "fanggerat", "gerat", "methode", "engin", "redskap", "arte de pesca", "metodo"),
    )
    term = "gear"
    path = "run__gear"
    description = "Gear of the run"
    what = "a gear"
    known: ClassVar[dict[str, str]] = {
        **{code: code for code in Gear.values},
        **{label.lower(): code for code, label in Gear.choices},
    }
