"""Decoders of instruments' lines, a class for each format.

The formats of PIT reader, board, balance and probe are this project's own, plain ASCII; ``docs/methods/instruments.md`` has
them. Positions: NMEA 0183, sentences GGA and RMC of any talker, checksum by exclusive or (held to pynmea2 in tests/published).
"""

from __future__ import annotations

import re
from abc import ABC, abstractmethod
from collections.abc import Mapping
from functools import reduce
from typing import Any, ClassVar

from nailwright_core.common.errors import CoreError
from nailwright_core.deck.readings import READINGS
from nailwright_core.instruments.reading import Reading
from nailwright_core.tags.pit import COUNTRIES, HEADER, decode_fdxb


class Decoder(ABC):
    """Reads the lines of one kind of instrument."""

    name: ClassVar[str]
    title: ClassVar[str]
    #: One that speaks by itself is silent after so many seconds without a line; the others speak when they are used.
    silent_after_s: ClassVar[float | None] = None

    @abstractmethod
    def table(self) -> Mapping[str, Any]:
        """What a tablet needs to read such lines by itself (web/src/features/instruments/decode-line.ts): "how" and its figures."""

    @abstractmethod
    def decode(self, line: str) -> Reading | None:
        """What a line says; None where it says nothing of use (another sentence, no fix yet).

        Raises:
            CoreError: ``line_garbled``: it is none of this instrument's, or was cut off or changed on its way.
        """


def _garbled(why: str, line: str) -> CoreError:
    return CoreError("line_garbled", f"{why}: '{line[:60]}'.", "line")


class PitReader(Decoder):
    """``F`` and a frame of ISO 11785 FDX-B, 128 bits as 32 hexadecimal digits, the first bit first."""

    name, title = "pit", "PIT reader"
    _LINE = r"F ([0-9A-F]{32})"

    def table(self) -> Mapping[str, Any]:
        return {"how": "frame", "line": self._LINE, "header": HEADER, "countries": sorted(COUNTRIES)}

    def decode(self, line: str) -> Reading | None:
        found = re.fullmatch(self._LINE, line)
        if not found:
            raise _garbled("Expected F and 32 hexadecimal digits", line)
        try:
            code = decode_fdxb(f"{int(found[1], 16):0128b}")
        except CoreError as refused:
            raise CoreError("line_garbled", refused.message, "line") from refused
        return Reading("pit", code.decimal15)


class _Figure(Decoder):
    """A figure with its unit, and two hexadecimal digits of checksum behind a star: as NMEA 0183 has it."""

    _WORD: ClassVar[str]
    _UNITS: ClassVar[Mapping[str, float]]
    _KIND: ClassVar[str]
    _MOST: ClassVar[float]

    @property
    def _line(self) -> str:
        return rf"{self._WORD} ([=?]) ([0-9]{{1,7}}(?:\.[0-9]{{1,3}})?) ([a-z]+)"

    def table(self) -> Mapping[str, Any]:
        units = dict(self._UNITS)
        return {"how": "figure", "line": self._line, "kind": self._KIND, "units": units, "most": self._MOST}

    def decode(self, line: str) -> Reading | None:
        body = _checked(line)
        found = re.fullmatch(self._line, body)
        if not found or found[3] not in self._UNITS:
            raise _garbled(f"Expected {self._WORD}, = or ?, a figure and one of {', '.join(self._UNITS)}", line)
        value = float(found[2]) * self._UNITS[found[3]]
        if not 0 <= value <= self._MOST:
            raise _garbled(f"Expected at most {self._MOST:g}", line)
        return Reading(self._KIND, values={self._KIND: round(value, 3)}, stable=found[1] == "=")


class MeasuringBoard(_Figure):
    """``LEN = 437 mm*hh``."""

    name, title = "board", "Measuring board"
    _WORD, _KIND, _MOST = "LEN", "length", 3000.0
    _UNITS: ClassVar[Mapping[str, float]] = {"mm": 1.0, "cm": 10.0}


class Balance(_Figure):
    """``WGT = 890.0 g*hh`` at rest, ``WGT ? 874.2 g*hh`` while it moves."""

    name, title = "balance", "Balance"
    _WORD, _KIND, _MOST = "WGT", "mass", 200_000.0
    _UNITS: ClassVar[Mapping[str, float]] = {"g": 1.0, "kg": 1000.0}


class WaterProbe(Decoder):
    """``PRB temperature_c=9.4;oxygen_mg_l=10.8*hh``: codes of the deck's readings with their figures."""

    name, title, silent_after_s = "probe", "Water probe", 20.0
    _BEGINS, _PART = "PRB ", r"([a-z0-9_]{1,40})=(-?[0-9]{1,6}(?:\.[0-9]{1,4})?)"
    _FIGURES: ClassVar = {code: each for code, each in READINGS.items() if not each.choices}

    def table(self) -> Mapping[str, Any]:
        bounds = {code: [each.low, each.high] for code, each in self._FIGURES.items()}
        return {"how": "readings", "begins": self._BEGINS, "part": self._PART, "readings": bounds}

    def decode(self, line: str) -> Reading | None:
        body = _checked(line)
        if not body.startswith(self._BEGINS):
            raise _garbled("Expected PRB and readings", line)
        values: dict[str, float] = {}
        for part in body[len(self._BEGINS) :].split(";"):
            found = re.fullmatch(self._PART, part.strip())
            known = self._FIGURES.get(found[1]) if found else None
            if not found or not known:
                raise _garbled(f"'{part[:30]}' is no reading with a figure", line)
            if not known.low <= float(found[2]) <= known.high:
                raise _garbled(f"{known.title}: expected {known.low:g} to {known.high:g} {known.unit}", line)
            values[found[1]] = float(found[2])
        return Reading("water", values=values)


class Gps(Decoder):
    """NMEA 0183: positions of GGA and RMC. No fix, and 0 degrees of both (what a receiver without one may say), are none."""

    name, title, silent_after_s = "gps", "GPS", 5.0
    #: By sentence: fields there must be, where the position begins, where its fix is told and what says that there is one.
    #: A quality of 6, 7 or 8 is a position that was reckoned, typed or simulated (from memory): none.
    _SENTENCES: ClassVar[Mapping[str, tuple[int, int, int, str]]] = {"GGA": (9, 2, 6, "[1-5]"), "RMC": (7, 3, 2, "A")}
    _HDOP = ("GGA", 8, r"[0-9]{1,2}(\.[0-9]+)?")
    _DEGREES = r"([0-9]{2,3})([0-9]{2}\.[0-9]{1,8}|[0-9]{2})"

    def table(self) -> Mapping[str, Any]:
        return {
            "how": "sentences", "sentences": {name: list(each) for name, each in self._SENTENCES.items()},
            "hdop": list(self._HDOP), "degrees": self._DEGREES,
        }  # fmt: skip

    def decode(self, line: str) -> Reading | None:
        if not line.startswith("$"):
            raise _garbled("Expected a sentence of NMEA 0183", line)
        fields = _checked(line[1:]).split(",")
        sentence = fields[0][2:] if len(fields[0]) == 5 else ""
        if sentence not in self._SENTENCES:
            return None
        least, place, fix_at, fix = self._SENTENCES[sentence]
        if len(fields) < least:
            raise _garbled("A sentence with too few fields", line)
        if not re.fullmatch(fix, fields[fix_at]):
            return None
        lat = self._degrees(fields[place], fields[place + 1], "NS", 90, line)
        lon = self._degrees(fields[place + 2], fields[place + 3], "EW", 180, line)
        if lat == 0 and lon == 0:
            return None
        values = {"lat": lat, "lon": lon}
        of, at, pattern = self._HDOP
        if sentence == of and re.fullmatch(pattern, fields[at]):
            values["hdop"] = float(fields[at])
        return Reading("position", values=values)

    def _degrees(self, text: str, half: str, halves: str, most: int, line: str) -> float:
        found = re.fullmatch(self._DEGREES, text)
        if not found or half not in tuple(halves):
            raise _garbled("A position that cannot be read", line)
        value = int(found[1]) + float(found[2]) / 60
        if float(found[2]) >= 60 or value > most:
            raise _garbled("A position beyond the earth", line)
        return round(-value if half == halves[1] else value, 7)


def _checked(line: str) -> str:
    """What stands before the star, where the checksum behind it fits: the exclusive or of its bytes."""
    body, star, given = line.rpartition("*")
    if not star or not re.fullmatch(r"[0-9A-Fa-f]{2}", given):
        raise _garbled("Expected a checksum behind a star", line)
    if checksum(body) != int(given, 16):
        raise _garbled(f"The checksum {given} does not fit", line)
    return body


def checksum(body: str) -> int:
    """The exclusive or of the bytes of a text, as NMEA 0183 has it.

    Args:
        body: what stands between "$" and "*".
    """
    return reduce(lambda sum_, byte: sum_ ^ byte, body.encode("ascii", "replace"), 0)


#: A decoder for each kind of instrument, by its name.
DECODERS: Mapping[str, type[Decoder]] = {
    each.name: each for each in (PitReader, MeasuringBoard, Balance, Gps, WaterProbe)
}
