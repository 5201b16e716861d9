"""Lengths and masses as crews write and call them.

Definitions: 1 in = 25.4 mm, 1 ft = 304.8 mm, 1 lb = 453.59237 g, 1 oz = 1/16 lb (international yard and pound
agreement, 1959; exact). What cannot be read one way only is refused with what was understood.
"""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache
from types import MappingProxyType

from nailwright_core.common.checks import finite
from nailwright_core.common.errors import CoreError

MM_PER: Mapping[str, float] = MappingProxyType({"mm": 1.0, "cm": 10.0, "m": 1000.0, "in": 25.4, "ft": 304.8})
G_PER: Mapping[str, float] = MappingProxyType({"g": 1.0, "kg": 1000.0, "lb": 453.59237, "oz": 453.59237 / 16})

#: Spellings accepted for each unit.
LENGTH_SPELLINGS: Mapping[str, str] = MappingProxyType(
    {"mm": "mm", "cm": "cm", "m": "m", "in": "in", "inch": "in", "inches": "in", '"': "in", "”": "in", "″": "in",
     "ft": "ft", "foot": "ft", "feet": "ft", "'": "ft", "’": "ft", "′": "ft"}
)  # fmt: skip
MASS_SPELLINGS: Mapping[str, str] = MappingProxyType(
    {"g": "g", "gram": "g", "grams": "g", "kg": "kg", "lb": "lb", "lbs": "lb", "pound": "lb", "pounds": "lb",
     "oz": "oz", "ounce": "oz", "ounces": "oz"}
)  # fmt: skip

#: Above these a value is a slip of the pen, whatever the species (a whale shark is under 20 m and 40 t).
MAX_LENGTH_MM = 20_000.0
MAX_MASS_G = 40_000_000.0

_NUMBER = r"\d+(?:[.,]\d+)*|\.\d+"
_PART = re.compile(rf"\s*(?:(?P<whole>\d+)[ -])?(?P<num>\d+)/(?P<den>\d+)|\s*(?P<number>{_NUMBER})")
_UNIT = re.compile(r"""\s*([A-Za-z]+|["'”″’′])""")


@dataclass(frozen=True)
class Length:
    """A length: ``mm``, the ``text`` as entered, its ``unit``, and whether it was ``estimated`` by eye."""

    mm: float
    text: str
    unit: str
    estimated: bool


@dataclass(frozen=True)
class Mass:
    """A mass: ``g``, the ``text`` as entered, its ``unit``, and whether it was ``estimated`` by eye."""

    g: float
    text: str
    unit: str
    estimated: bool


@lru_cache(maxsize=8192)  # a board and a balance give few different texts
def parse_length(text: str, default_unit: str = "mm") -> Length:
    """Read one length such as ``437``, ``43.7cm``, ``18 1/4 in``, ``17 1/4"`` or ``~31in``.

    Args:
        text: what was entered; a leading ``~`` marks an estimate.
        default_unit: unit of a bare number (mm, cm, m, in, ft).

    Returns:
        Length; whoever stores it rounds to 0.1 mm.

    Raises:
        CoreError: ``length_empty``, ``length_unreadable``, ``length_ambiguous``, ``length_unit``,
            ``length_not_positive`` or ``length_too_large``, field ``length``.
    """
    amount, unit, estimated = _read("length", text, default_unit, MM_PER, LENGTH_SPELLINGS, {"ft": "in"})
    mm = round(amount, 6)  # drops binary noise, not precision: 18 1/4 in is 463.55, 17 1/4 in is 438.15
    _check_range("length", text, mm, MAX_LENGTH_MM, "mm")
    return Length(mm, text, unit, estimated)


@lru_cache(maxsize=8192)
def parse_mass(text: str, default_unit: str = "g") -> Mass:
    """Read one mass such as ``890``, ``0.89kg``, ``2lb 7oz``, ``2.45lb`` or ``~9 lb``.

    Args:
        text: what was entered; a leading ``~`` marks an estimate.
        default_unit: unit of a bare number (g, kg, lb, oz).

    Returns:
        Mass in grams.

    Raises:
        CoreError: ``mass_empty``, ``mass_unreadable``, ``mass_ambiguous``, ``mass_unit``, ``mass_not_positive``
            or ``mass_too_large``, field ``mass``.
    """
    amount, unit, estimated = _read("mass", text, default_unit, G_PER, MASS_SPELLINGS, {"lb": "oz"})
    g = round(amount, 6)
    _check_range("mass", text, g, MAX_MASS_G, "g")
    return Mass(g, text, unit, estimated)


def parse_number(text: str) -> float:
    """A figure as people type it: a comma is a decimal sign only where it cannot part thousands.

    Args:
        text: as it was typed.

    Raises:
        CoreError: ``number_empty``, ``number_unreadable``, ``number_ambiguous``; field "number".
    """
    body = text.strip()
    if not body:
        raise CoreError("number_empty", "Expected a number such as 7.5; got nothing.", "number")
    sign = -1.0 if body[0] in "-−" else 1.0
    digits = body[1:] if body[0] in "-−" else body
    if len(body) > 40 or not re.fullmatch(r"[0-9]+(?:[.,][0-9]+)*|\.[0-9]+", digits):
        raise CoreError("number_unreadable", f"Expected a number such as 7.5; got '{body[:40]}'.", "number")
    return sign * _decimal(digits, "number", text)


def unit_giving(what: str, text: str, value: float, first: str | None = None) -> str:
    """The unit in which a text gives a figure that is known: for texts whose unit was not kept beside them.

    Args:
        what: "length" or "mass".
        value: the figure, mm to 0.1 or g to 0.01.
        first: the unit that is tried before the others.

    Returns:
        The unit that the text names or the one that gives the figure; empty where none does.
    """
    units = MM_PER if what == "length" else G_PER
    for unit in dict.fromkeys(([first] if first else []) + list(units)):
        try:
            if what == "length":
                length = parse_length(text, unit)
                found, fits = length.unit, abs(round(length.mm, 1) - value) < 0.051
            else:
                mass = parse_mass(text, unit)
                found, fits = mass.unit, abs(round(mass.g, 2) - value) < 0.0051
        except CoreError:
            return ""
        if fits:
            return found
    return ""


def format_length(mm: float, unit: str = "mm") -> str:
    """A length for reading: whole millimetres, or 0.1 cm, 0.01 in, 0.001 m, 0.01 ft, with its unit.

    Args:
        mm: a length, mm.
        unit: in which it is shown.
    """
    if unit not in MM_PER:
        raise CoreError("length_unit", f"Expected a length unit of {', '.join(MM_PER)}; got '{unit}'.", "unit")
    finite(mm, "mm")
    digits = {"mm": 0, "cm": 1, "m": 3, "in": 2, "ft": 2}[unit]
    if unit == "mm" and mm != round(mm):
        digits = 1
    return f"{mm / MM_PER[unit]:.{digits}f} {unit}"


def _read(
    what: str,
    text: str,
    default_unit: str,
    factors: Mapping[str, float],
    spellings: Mapping[str, str],
    compounds: Mapping[str, str],
) -> tuple[float, str, bool]:
    """Amount in the base unit, the first unit named, and whether it is an estimate."""
    examples = "437, 43.7cm, 18 1/4 in, ~31in" if what == "length" else "890, 0.89kg, 2lb 7oz, ~9 lb"
    if default_unit not in factors:
        raise CoreError(
            f"{what}_unit", f"Expected a {what} unit of {', '.join(factors)}; got '{default_unit}'.", "unit"
        )
    body = text.strip()
    estimated = body.startswith("~")
    body = body[1:].strip() if estimated else body
    if len(body) > 40:
        raise CoreError(
            f"{what}_unreadable", f"Expected a {what} such as {examples}; got {len(body)} characters.", what
        )
    if not body:
        raise CoreError(f"{what}_empty", f"Expected a {what} such as {examples}; got nothing.", what)

    def unreadable(reason: str) -> CoreError:
        return CoreError(
            f"{what}_unreadable", f"Expected a {what} such as {examples}; got '{text.strip()}': {reason}.", what
        )

    parts: list[tuple[float, str | None]] = []
    at = 0
    while at < len(body):
        match = _PART.match(body, at)
        if not match:
            if body[at:].lstrip().startswith(("-", "−")):
                raise CoreError(f"{what}_not_positive", f"A {what} is above zero; got '{text.strip()}'.", what)
            raise unreadable(f"'{body[at:].strip()}' is no number")
        amount = _amount(match, what, text)
        at = match.end()
        unit_match = _UNIT.match(body, at)
        unit = None
        if unit_match:
            unit = spellings.get(unit_match.group(1).lower())
            if unit is None:
                raise CoreError(
                    f"{what}_unit",
                    f"Expected a {what} in {', '.join(factors)}; got '{text.strip()}', whose unit "
                    f"'{unit_match.group(1)}' is not known here.",
                    what,
                )
            at = unit_match.end()
        parts.append((amount, unit))
        if at < len(body) and body[at] not in " \t0123456789.":
            raise unreadable(f"'{body[at:].strip()}' is left over")

    first_unit = parts[0][1] or default_unit
    if len(parts) == 1:
        return parts[0][0] * factors[first_unit], first_unit, estimated
    smaller = compounds.get(first_unit)
    if len(parts) == 2 and parts[0][1] and smaller and parts[1][1] == smaller:
        return parts[0][0] * factors[first_unit] + parts[1][0] * factors[smaller], first_unit, estimated
    understood = " and ".join(f"{amount:g}{f' {unit}' if unit else ''}" for amount, unit in parts)
    raise unreadable(f"understood {understood}, and one {what} is wanted")


def _amount(match: re.Match[str], what: str, text: str) -> float:
    if match.group("num"):
        denominator = int(match.group("den"))
        if denominator == 0:
            raise CoreError(f"{what}_unreadable", f"'{text.strip()}' divides by zero; check the fraction.", what)
        return int(match.group("whole") or 0) + int(match.group("num")) / denominator
    return _decimal(match.group("number"), what, text)


def _decimal(number: str, what: str, text: str) -> float:
    """A comma is a decimal sign only where it cannot be a thousands separator."""
    if number.count(".") > 1:
        raise CoreError(f"{what}_unreadable", f"'{text.strip()}' has more than one decimal point.", what)
    if "," not in number:
        return float(number)
    if re.fullmatch(r"[1-9]\d{0,2}(,\d{3})+\.\d+", number) or re.fullmatch(r"[1-9]\d{0,2}(,\d{3}){2,}", number):
        return float(number.replace(",", ""))
    if re.fullmatch(r"\d+,\d+", number):
        whole, fraction = number.split(",")
        if len(fraction) == 3 and re.fullmatch(r"[1-9]\d{0,2}", whole):
            raise CoreError(
                f"{what}_ambiguous",
                f"'{text.strip()}' can be read as {whole}{fraction} or as {whole}.{fraction}; write it with a point "
                "or without the comma.",
                what,
            )
        return float(f"{whole}.{fraction}")
    raise CoreError(
        f"{what}_unreadable", f"'{text.strip()}' mixes commas and points in a way that has no one reading.", what
    )


def _check_range(what: str, text: str, value: float, limit: float, unit: str) -> None:
    if not value > 0:
        raise CoreError(f"{what}_not_positive", f"A {what} is above zero; got '{text.strip()}'.", what)
    if value > limit:
        raise CoreError(
            f"{what}_too_large", f"'{text.strip()}' is more than {limit:,.0f} {unit}; no fish is. Check the unit.", what
        )
