"""A species as plain values, for storing one that a programme has described itself, and back with every value checked."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import asdict
from itertools import pairwise
from typing import Any

from nailwright_core.common.errors import CoreError
from nailwright_core.common.field import Field, number, read_value, whole
from nailwright_core.common.species import (
    CATEGORY_NAMES,
    SWIM_BLADDERS,
    LegalSize,
    LengthConversion,
    LengthMassLine,
    Lookalike,
    SizeCategories,
    Species,
    StandardWeight,
)

LENGTH_TYPES = ("TL", "TLn", "FL", "SL", "LJFL", "EFL", "DW")
_CODE = re.compile(r"[a-z][a-z-]{1,7}")
_LONGEST_MM = 20_000
#: A small picture, as base64: every tablet carries them all.
_LONGEST_PICTURE = 120_000


def _length(name: str, title: str, needed: bool = True) -> Field:
    return number(name, title, "mm", 1, _LONGEST_MM, needed)


def _words(name: str, title: str, longest: int, needed: bool = True) -> Field:
    return Field(name, title, "text", longest=longest, needed=needed)


_SOURCE = _words("source", "Source", 200)
#: The fields of a species by the part that they are in; "" has its own.
FIELDS: dict[str, dict[str, Field]] = {
    part: {each.name: each for each in fields}
    for part, fields in {
        "": (
            _words("common_name", "Common name", 60), _words("scientific_name", "Scientific name", 80, needed=False),
            _length("least_mm", "Least length"), _length("usual_from_mm", "Usually from"), _length("usual_to_mm", "Usually to"),
            _length("most_mm", "Greatest length"), _length("smallest_to_tag_mm", "Smallest fish to tag", needed=False),
        ),
        "line": (
            number("log10_a", "log10 a", "", -9, 0, True), number("b", "Slope b", "", 2, 4.5, True),
            number("sd", "Residual SD", "", 0.005, 0.5, True), _SOURCE,
        ),
        "standard_weight": (
            number("a", "Intercept a", "", -9, 0, True), number("b", "Slope b", "", 2, 4.5, True), _length("min_mm", "From length"), _SOURCE,
        ),
        "categories": (*(_length(name, name.title()) for name in CATEGORY_NAMES), _SOURCE),
        "conversions": (
            number("intercept_mm", "Intercept", "mm", -500, 500, True), number("slope", "Slope", "", 0.5, 2, True),
            number("residual_sd_mm", "Residual SD", "mm", 0.01, 200, True), _SOURCE,
        ),
        "legal": (
            _length("min_mm", "Least legal length", needed=False), _length("max_mm", "Greatest legal length", needed=False),
            whole("bag", "Bag", "fish", 0, 10_000), _SOURCE,
        ),
        "lookalikes": (
            _words("code", "Species", 8), _words("check", "What tells them apart", 200), _words("unsure", "If unsure", 200, needed=False),
            _words("picture", "Picture", _LONGEST_PICTURE, needed=False),
        ),
    }.items()
}  # fmt: skip


def species_values(kind: Species) -> dict[str, Any]:
    """A species as JSON can hold it; ``read_species`` gives the same species back.

    Args:
        kind: the species.
    """
    low, high = kind.length_bounds_mm
    usual_low, usual_high = kind.length_range_mm
    return {
        "common_name": kind.common_name,
        "scientific_name": kind.scientific_name,
        "words": list(kind.words),
        "length_type": kind.length_type,
        "usual_from_mm": usual_low,
        "usual_to_mm": usual_high,
        "least_mm": low,
        "most_mm": high,
        "line": {**asdict(kind.length_mass), "source": kind.length_mass_source},
        "standard_weight": asdict(kind.standard_weight) if kind.standard_weight else None,
        "categories": asdict(kind.size_categories) if kind.size_categories else None,
        "conversions": [asdict(each) for each in kind.conversions],
        "legal": asdict(kind.legal) if kind.legal else None,
        "smallest_to_tag_mm": kind.smallest_to_tag_mm,
        "lookalikes": [asdict(each) for each in kind.lookalikes],
        "special_interest": kind.special_interest,
        "places_hidden": kind.places_hidden,
        "swim_bladder": kind.swim_bladder,
    }


def read_species(code: str, values: Mapping[str, Any]) -> Species:
    """The species that values describe.

    Args:
        code: of the species.
        values: as ``species_values`` gives them.

    Raises:
        CoreError: what was expected of which value; the field is its place, such as "line.b".
    """
    if not _CODE.fullmatch(code):
        raise CoreError(
            "code_unreadable",
            f"Expected a code of 2 to 8 small letters or strokes, such as wal; got '{code[:20]}'.",
            "code",
        )
    length_type = values.get("length_type")
    if length_type not in LENGTH_TYPES:
        raise _wrong("length_type", f"one of {', '.join(LENGTH_TYPES)}", length_type)
    lengths = [_number(values, name) for name in ("least_mm", "usual_from_mm", "usual_to_mm", "most_mm")]
    if lengths != sorted(lengths) or lengths[1] == lengths[2]:
        raise CoreError(
            "lengths_out_of_order",
            "Expected the least length at or below where it usually begins, that below where it usually ends, and that at or "
            f"below the greatest; got {', '.join(f'{each:g}' for each in lengths)} mm.",
            "usual_from_mm",
        )
    least, usual_from, usual_to, most = lengths
    line = _part(values, "line")
    return Species(
        code=code,
        common_name=_text(values, "common_name"),
        scientific_name=_text(values, "scientific_name"),
        length_type=length_type,
        length_range_mm=(usual_from, usual_to),
        length_bounds_mm=(least, most),
        length_mass=LengthMassLine(
            _number(line, "log10_a", "line", "line."),
            _number(line, "b", "line", "line."),
            _number(line, "sd", "line", "line."),
        ),
        length_mass_source=_text(line, "source", "line", "line."),
        standard_weight=_standard_weight(values),
        size_categories=_categories(values),
        conversions=tuple(
            _conversion(each, place, length_type) for place, each in enumerate(values.get("conversions") or ())
        ),
        words=tuple(_word(each) for each in values.get("words") or ()),
        legal=_legal(values),
        smallest_to_tag_mm=_optional(values, "smallest_to_tag_mm"),
        lookalikes=tuple(_lookalike(each, place) for place, each in enumerate(values.get("lookalikes") or ())),
        special_interest=bool(values.get("special_interest", False)),
        places_hidden=bool(values.get("places_hidden", False)),
        swim_bladder=_swim_bladder(values),
    )


def _swim_bladder(values: Mapping[str, Any]) -> str:
    found = values.get("swim_bladder", SWIM_BLADDERS[0])
    if found not in SWIM_BLADDERS:
        raise _wrong("swim_bladder", f"one of {', '.join(SWIM_BLADDERS)}", found)
    return str(found)


def _standard_weight(values: Mapping[str, Any]) -> StandardWeight | None:
    if not values.get("standard_weight"):
        return None
    part, at = _part(values, "standard_weight"), "standard_weight."
    return StandardWeight(
        _number(part, "a", "standard_weight", at),
        _number(part, "b", "standard_weight", at),
        _number(part, "min_mm", "standard_weight", at),
        _text(part, "source", "standard_weight", at),
    )


def _categories(values: Mapping[str, Any]) -> SizeCategories | None:
    if not values.get("categories"):
        return None
    part, at = _part(values, "categories"), "categories."
    limits = stock, quality, preferred, memorable, trophy = tuple(
        _number(part, name, "categories", at) for name in CATEGORY_NAMES
    )
    if any(upper <= lower for lower, upper in pairwise(limits)):
        raise CoreError(
            "categories_out_of_order",
            f"Expected {', '.join(CATEGORY_NAMES)}, each longer than the one before; got {', '.join(f'{each:g}' for each in limits)} mm.",
            "categories.stock",
        )
    return SizeCategories(stock, quality, preferred, memorable, trophy, _text(part, "source", "categories", at))


def _conversion(part: Any, place: int, own: str) -> LengthConversion:
    at = f"conversions.{place}."
    if not isinstance(part, Mapping):
        raise _wrong(at[:-1], "a conversion", part)
    from_type, to_type = part.get("from_type"), part.get("to_type", own)
    if from_type not in LENGTH_TYPES or from_type == own:
        raise _wrong(f"{at}from_type", f"another length type than the species' own, {own}", from_type)
    if to_type != own:
        raise _wrong(f"{at}to_type", f"the species' own length type, {own}", to_type)
    if not part.get("residual_sd_mm"):
        raise CoreError(
            "conversion_without_sd",
            "A conversion needs the residual SD of its line (mm, above 0): without it nobody knows how far a derived length is to "
            "be trusted. It stands beside the line where it was published, or comes out of its fit.",
            f"{at}residual_sd_mm",
        )
    return LengthConversion(
        from_type,
        own,
        _number(part, "intercept_mm", "conversions", at),
        _number(part, "slope", "conversions", at),
        _number(part, "residual_sd_mm", "conversions", at),
        _text(part, "source", "conversions", at),
    )


def _legal(values: Mapping[str, Any]) -> LegalSize | None:
    if not values.get("legal"):
        return None
    part, at = _part(values, "legal"), "legal."
    low, high = (_optional(part, name, "legal", at) for name in ("min_mm", "max_mm"))
    bag = _optional(part, "bag", "legal", at)
    if low is not None and high is not None and low >= high:
        raise CoreError(
            "legal_out_of_order",
            f"Expected the least legal length below the greatest; got {low:g} and {high:g} mm.",
            "legal.min_mm",
        )
    return LegalSize(low, high, None if bag is None else int(bag), _text(part, "source", "legal", at))


def _lookalike(part: Any, place: int) -> Lookalike:
    at = f"lookalikes.{place}."
    if not isinstance(part, Mapping):
        raise _wrong(at[:-1], "a species and what tells them apart", part)
    if not isinstance(part.get("photo", False), bool):
        raise _wrong(f"{at}photo", "yes or no", part["photo"])
    return Lookalike(
        _text(part, "code", "lookalikes", at), _text(part, "check", "lookalikes", at), _text(part, "unsure", "lookalikes", at),
        part.get("photo", False), _text(part, "picture", "lookalikes", at),
    )  # fmt: skip


def _word(value: Any) -> str:
    if not isinstance(value, str) or not re.fullmatch(r"[^\W\d_][^\d,;~#]{1,39}", value.strip()):
        raise _wrong("words", "words of 2 to 40 letters, without figures, commas or signs", value)
    return value.strip().lower()


def _part(values: Mapping[str, Any], name: str) -> Mapping[str, Any]:
    part = values.get(name)
    if not isinstance(part, Mapping):
        raise _wrong(name, "its values", part)
    return part


def _number(values: Mapping[str, Any], name: str, part: str = "", at: str = "") -> float:
    found = read_value(FIELDS[part][name], values.get(name), f"{at}{name}")
    assert isinstance(found, int | float)  # the field is needed
    return found


def _text(values: Mapping[str, Any], name: str, part: str = "", at: str = "") -> str:
    return str(read_value(FIELDS[part][name], values.get(name, ""), f"{at}{name}"))


def _optional(values: Mapping[str, Any], name: str, part: str = "", at: str = "") -> float | None:
    found = read_value(FIELDS[part][name], values.get(name), f"{at}{name}")
    return None if found is None else float(found)


def _wrong(field: str, expected: str, got: Any) -> CoreError:
    what = field.split(".")[-1].removesuffix("_mm").replace("_", " ")
    return CoreError("species_value_wrong", f"Expected for {what} {expected}; got {got!r:.60}.", field)
