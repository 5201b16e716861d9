"""What a column is, told by its values where its name says nothing: legacy files are headed in every language, or not at all."""

from __future__ import annotations

import re
from collections.abc import Callable, Collection, Sequence

from nailwright.programmes.models import Programme
from nailwright.programmes.species.known import species_of
from nailwright.records.answers import Bound, waters_by_name
from nailwright.records.columns.fish import Sex
from nailwright.records.columns.place import DAY_LIKE, GearName
from nailwright.records.missing import is_missing
from nailwright_core.common.errors import CoreError
from nailwright_core.records.units import looks_like_mass
from nailwright_core.tags.pit import parse_pit

#: So many of a column's cells have to fit, and so many have to be there. Ours, no source.
_SHARE, _LEAST = 0.8, 5


def by_values(
    programme: Programme, bound: list[Bound], columns: Sequence[Sequence[str]], missing: Collection[str]
) -> tuple[list[Bound], dict[str, str]]:
    """Columns that no name tells, by their cells; and how that was told, by the kind of column."""
    bound = list(bound)
    told: dict[str, str] = {}
    taken = {each.key for each in bound}
    cells = [[cell for cell in column if cell and not is_missing(cell, missing)] for column in columns]
    for key, words, fits in _tests(programme):
        if key in taken:
            continue
        best = max(
            ((_share(cells[place], fits), -place) for place, each in enumerate(bound) if not each.key), default=(0.0, 0)
        )
        if best[0] >= _SHARE:
            place = -best[1]
            bound[place] = Bound(bound[place].header, key)
            taken.add(key)
            told[key] = f"'{bound[place].header[:40]}': {best[0]:.0%} of its cells are {words}"
    for key, place in _by_relation(bound, columns):
        if key not in taken:
            bound[place] = Bound(bound[place].header, key)
            taken.add(key)
            told[key] = f"'{bound[place].header[:40]}': it rises with the length as mass does"
    return bound, told


def _tests(programme: Programme) -> list[tuple[str, str, Callable[[str], bool]]]:
    species = species_of(programme).named()
    waters = waters_by_name(programme)
    sexes = set(Sex.known) - {"u", "unknown"}
    return [
        ("pit", "numbers of 15 digits", _is_pit),
        ("date", "dates", lambda cell: bool(DAY_LIKE.match(cell))),
        ("species", "species of the programme", lambda cell: cell.lower() in species),
        ("water", "waters of the programme", lambda cell: cell.lower() in waters),
        ("gear", "gears", lambda cell: cell.lower() in GearName.known),
        ("sex", "sexes", lambda cell: cell.lower() in sexes),
    ]


def _is_pit(cell: str) -> bool:
    try:
        parse_pit(cell)
    except CoreError:
        return False
    return True


def _share(cells: Sequence[str], fits: Callable[[str], bool]) -> float:
    return sum(map(fits, cells)) / len(cells) if len(cells) >= _LEAST else 0.0


def _by_relation(bound: Sequence[Bound], columns: Sequence[Sequence[str]]) -> list[tuple[str, int]]:
    """Of figures that no name tells: which one rises with another as mass does with length."""
    named = {each.key: place for place, each in enumerate(bound) if each.key}
    loose = [place for place, each in enumerate(bound) if not each.key]
    lengths = [named["length"]] if "length" in named else loose
    masses = [named["mass"]] if "mass" in named else loose
    figures = {place: _figures(columns[place]) for place in {*lengths, *masses}}
    for length in lengths:
        for mass in masses:
            if length != mass and looks_like_mass(figures[length], figures[mass]):
                return [("length", length), ("mass", mass)]
    return []


def _figures(cells: Sequence[str]) -> list[float]:
    plain = (cell.replace(",", ".") for cell in cells)
    return [float(cell) if re.fullmatch(r"\d{1,9}(\.\d+)?", cell) else float("nan") for cell in plain]
