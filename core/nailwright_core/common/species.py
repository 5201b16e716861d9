"""Species and their constants: names, standard weight, size categories, believable ranges.

``reference.csv`` holds published constants, each row naming its source (all from memory of that source).
``bounds.csv`` holds usual and hard length ranges, the spread of the first length-mass line, and the kind of swim bladder:
common practice, no source, from memory; where it gives no line of its own the standard-weight equation stands in until a programme
has weighed enough fish for its own fit.
"""

from __future__ import annotations

import csv
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cache
from importlib import resources

from nailwright_core.common.errors import CoreError

#: Closed: gas stays in as it comes up; open to the gut: some leaves on the way; none: nothing lifts it.
SWIM_BLADDERS = ("closed", "open", "none")
CATEGORY_NAMES = ("stock", "quality", "preferred", "memorable", "trophy")


@dataclass(frozen=True)
class LengthMassLine:
    """log10 mass (g) = ``log10_a`` + ``b`` log10 length (mm), with residual SD ``sd`` in log10 units."""

    log10_a: float
    b: float
    sd: float


@dataclass(frozen=True)
class StandardWeight:
    """log10 Ws (g) = ``a`` + ``b`` log10 length (mm), valid from ``min_mm`` upward."""

    a: float
    b: float
    min_mm: float
    source: str


@dataclass(frozen=True)
class SizeCategories:
    """Lower length limits of the five size categories, mm."""

    stock: float
    quality: float
    preferred: float
    memorable: float
    trophy: float
    source: str = ""

    def __iter__(self) -> Iterator[tuple[str, float]]:
        """(name, lower limit in mm) from stock to trophy."""
        return ((name, getattr(self, name)) for name in CATEGORY_NAMES)


@dataclass(frozen=True)
class LengthConversion:
    """``to_type`` length = ``intercept_mm`` + ``slope`` x ``from_type`` length, with the residual SD in mm."""

    from_type: str
    to_type: str
    intercept_mm: float
    slope: float
    residual_sd_mm: float
    source: str


@dataclass(frozen=True)
class LegalSize:
    """What may be kept: fish from ``min_mm`` to ``max_mm`` (None: no limit), and ``bag`` of them a person and day."""

    min_mm: float | None
    max_mm: float | None
    bag: int | None
    source: str


@dataclass(frozen=True)
class Lookalike:
    """Another species (by its code) that this one is taken for, and the ``check`` that tells them apart.

    ``unsure`` says what to do where the check does not settle it, ``photo`` whether one is asked for; ``picture`` shows what to
    look at, a JPEG as base64.
    """

    code: str
    check: str
    unsure: str = ""
    photo: bool = False
    picture: str = ""


@dataclass(frozen=True)
class Species:
    """One species. ``length_range_mm`` is where lengths usually fall; ``length_bounds_mm`` where they must.

    ``words``: further words by which it is called. ``smallest_to_tag_mm``: no shorter one carries a tag.
    ``special_interest``: somebody wants to hear of each one. ``places_hidden``: where it is found is told to few.
    ``swim_bladder``: one of ``SWIM_BLADDERS``.
    """

    code: str
    common_name: str
    scientific_name: str
    length_type: str
    length_range_mm: tuple[float, float]
    length_bounds_mm: tuple[float, float]
    length_mass: LengthMassLine
    length_mass_source: str
    standard_weight: StandardWeight | None
    size_categories: SizeCategories | None
    conversions: tuple[LengthConversion, ...] = ()
    words: tuple[str, ...] = ()
    legal: LegalSize | None = None
    smallest_to_tag_mm: float | None = None
    lookalikes: tuple[Lookalike, ...] = ()
    special_interest: bool = False
    places_hidden: bool = False
    swim_bladder: str = "closed"

    def conversion_from(self, length_type: str) -> LengthConversion | None:
        """How a length of another type becomes one of the species' own."""
        return next((each for each in self.conversions if each.from_type == length_type), None)


#: A fish of a species that is not on the list, by the name it was called with; hardly any size of it is unbelievable.
OTHER = Species(
    code="other",
    common_name="other",
    scientific_name="",
    length_type="TL",
    length_range_mm=(5.0, 5000.0),
    length_bounds_mm=(1.0, 20_000.0),
    length_mass=LengthMassLine(-5.0, 3.0, 0.5),
    length_mass_source="a general line so wide that it asks of almost none, common practice, no source",
    standard_weight=None,
    size_categories=None,
)


def get(code: str) -> Species:
    """The species with this code.

    Args:
        code: of the species.

    Raises:
        CoreError: ``species_unknown``, field ``species``.
    """
    found = _table().get(code.strip().lower())
    if found is None:
        raise CoreError("species_unknown", f"Expected a species code such as wal or yep; got '{code}'.", "species")
    return found


def all_species() -> tuple[Species, ...]:
    """Every species core knows, in the order of the reference table."""
    return tuple(_table().values())


@cache
def _table() -> dict[str, Species]:
    bounds = {row["code"]: row for row in _rows("bounds.csv")}
    return {row["code"]: _species(row, bounds[row["code"]]) for row in _rows("reference.csv")}


def _rows(name: str) -> list[dict[str, str]]:
    text = resources.files("nailwright_core.common").joinpath(name).read_text(encoding="utf-8")
    return list(csv.DictReader(text.splitlines()))


def _species(row: dict[str, str], bounds: dict[str, str]) -> Species:
    standard = None
    if row["ws_a"]:
        standard = StandardWeight(float(row["ws_a"]), float(row["ws_b"]), float(row["ws_min_mm"]), row["ws_source"])
    categories = None
    if row["stock_mm"]:
        stock, quality, preferred, memorable, trophy = (float(row[f"{name}_mm"]) for name in CATEGORY_NAMES)
        categories = SizeCategories(stock, quality, preferred, memorable, trophy, row["category_source"])
    spread = float(bounds["line_sd"])
    if standard is None:
        line = LengthMassLine(float(bounds["line_log10_a"]), float(bounds["line_b"]), spread)
        source = "a general line, from memory"
    else:
        line = LengthMassLine(standard.a, standard.b, spread)
        source = f"standard weight ({standard.source})"
    return Species(
        code=row["code"],
        common_name=row["common_name"],
        scientific_name=row["scientific_name"],
        length_type=row["length_type"],
        length_range_mm=(float(bounds["usual_min_mm"]), float(bounds["usual_max_mm"])),
        length_bounds_mm=(float(bounds["hard_min_mm"]), float(bounds["hard_max_mm"])),
        length_mass=line,
        length_mass_source=source,
        standard_weight=standard,
        size_categories=categories,
        swim_bladder=bounds["swim_bladder"],
    )
