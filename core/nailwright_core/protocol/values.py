"""A protocol as checked values: sections by code, each a tuple of rows."""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import Any

from nailwright_core.common.errors import CoreError
from nailwright_core.common.field import Cell, read_value
from nailwright_core.common.year_days import check_year_day
from nailwright_core.deck.handling import Limits
from nailwright_core.protocol.sections import SECTIONS, Row, Section


@dataclass(frozen=True)
class Protocol:
    """What a programme decided; every section is there."""

    sections: Mapping[str, tuple[Row, ...]]

    def rows(self, section: str) -> tuple[Row, ...]:
        """Rows of a section, in their order."""
        return self.sections[section]

    def one(self, section: str) -> Row:
        """The one row of a section that has one."""
        return self.sections[section][0]

    def as_values(self) -> dict[str, list[dict[str, Cell]]]:
        """It as JSON can hold it; ``read_protocol`` gives the same back."""
        return {code: [dict(row) for row in rows] for code, rows in self.sections.items()}


def shipped_protocol() -> Protocol:
    """What holds where a programme decided nothing."""
    return read_protocol({}, ())


def read_protocol(values: Mapping[str, Any], species: Collection[str]) -> Protocol:
    """The protocol that values describe; a section that they leave out is as it ships.

    Args:
        species: codes that a row may name.

    Raises:
        CoreError: what was expected of which cell; the field is its place, such as "boarding.2.from_mm". ``section_unknown``,
            ``row_twice``, ``rows_too_many``, ``rows_are_fixed``, ``limits_out_of_order``, ``band_out_of_order``.
    """
    unknown = next((code for code in values if code not in SECTIONS), None)
    if unknown is not None:
        raise CoreError("section_unknown", f"A protocol has no section '{unknown[:30]}'.", "values")
    sections = {code: _section(each, values[code], species) if code in values else each.ships for code, each in SECTIONS.items()}  # fmt: skip
    _check(sections)
    return Protocol(sections)


def kept_protocol(values: Mapping[str, Any]) -> Protocol:
    """The protocol of values that were checked when they were kept, maybe by an earlier release: a section that did not exist
    then is as it ships now, a column that did not is empty.

    Args:
        values: sections by their codes, as they were kept.
    """
    return Protocol(
        {
            code: tuple({each.name: row.get(each.name) for each in section.columns} for row in values[code])
            if code in values
            else section.ships
            for code, section in SECTIONS.items()
        }
    )


def _section(section: Section, given: Any, species: Collection[str]) -> tuple[Row, ...]:
    if not isinstance(given, Sequence) or isinstance(given, str) or not all(isinstance(row, Mapping) for row in given):
        raise CoreError("section_unreadable", f"Expected rows for '{section.title}'.", section.code)
    if len(given) > section.most:
        raise CoreError(
            "rows_too_many",
            f"Expected at most {section.most} rows for '{section.title}'; got {len(given)}.",
            section.code,
        )
    rows = tuple(_row(section, place, row, species) for place, row in enumerate(given))
    if section.single and len(rows) != 1:
        raise CoreError("rows_are_fixed", f"'{section.title}' has one row; got {len(rows)}.", section.code)
    if section.fixed and [row["code"] for row in rows] != [row["code"] for row in section.ships]:
        raise CoreError(
            "rows_are_fixed", f"The rows of '{section.title}' stay as they are; only their words change.", section.code
        )
    seen: dict[tuple[Cell, ...], int] = {}
    for place, row in enumerate(rows):
        key = tuple(_folded(row[name]) for name in section.once)
        if section.once and seen.setdefault(key, place) != place:
            titles = " and ".join(section.column[name].title.lower() for name in section.once)
            raise CoreError(
                "row_twice",
                f"'{section.title}' says row {place + 1} twice: {titles} are those of row {seen[key] + 1}.",
                f"{section.code}.{place}.{section.once[0]}",
            )
    return rows


def _folded(cell: Cell) -> Cell:
    return cell.lower() if isinstance(cell, str) else cell


def _row(section: Section, place: int, given: Mapping[str, Any], species: Collection[str]) -> Row:
    unknown = next((name for name in given if name not in section.column), None)
    if unknown is not None:
        raise CoreError(
            "column_unknown", f"'{section.title}' has no column '{str(unknown)[:30]}'.", f"{section.code}.{place}"
        )
    return {
        each.name: read_value(each, given.get(each.name), f"{section.code}.{place}.{each.name}", species)
        for each in section.columns
    }


def _check(sections: Mapping[str, tuple[Row, ...]]) -> None:
    """What rows have to be among themselves."""
    for place, row in enumerate(sections["hand_limits"]):
        try:
            Limits().with_cells(row).check()
        except CoreError as refused:
            raise CoreError(refused.code, refused.message, f"hand_limits.{place}.{refused.field}") from refused
    for code, low, high in (
        ("baths", "low", "high"),
        ("benchmarks", "low", "high"),
        ("quotas", "from_mm", "to_mm"),
        ("alerts", "from_mm", "to_mm"),
    ):
        for place, row in enumerate(sections[code]):
            least, most = row[low], row[high]
            if least is not None and most is not None and not least < most:  # type: ignore[operator]
                raise CoreError(
                    "band_out_of_order", f"Expected {least} below {most}: a band begins before it ends.", f"{code}.{place}.{high}"
                )  # fmt: skip
    if not any(not row["species"] and not row["from_mm"] for row in sections["hand_limits"]):
        raise CoreError(
            "rows_are_fixed", "Expected limits for every species from 0 mm on: they hold where no other row does.", "hand_limits"
        )  # fmt: skip
    for place, row in enumerate(sections["sexing"]):
        for day in ("first_day", "last_day"):
            check_year_day(str(row[day]), f"sexing.{place}.{day}")
    for place, row in enumerate(sections["closed_species"]):
        for day in ("first_day", "last_day"):
            if row[day]:
                check_year_day(str(row[day]), f"closed_species.{place}.{day}")
        if bool(row["first_day"]) != bool(row["last_day"]):
            raise CoreError(
                "day_impossible", "Expected both days of a closed season, or none.", f"closed_species.{place}.last_day"
            )
    by_name: dict[Cell, list[Row]] = {}
    for row in sections["agency_limits"]:
        by_name.setdefault(row["name"], []).append(row)
    for name, rows in by_name.items():
        if any(not low["to_us_cm"] < high["to_us_cm"] for low, high in pairwise(rows)):  # type: ignore[operator]
            raise CoreError(
                "band_out_of_order", f"Expected the steps of '{name}' with rising conductivity.", "agency_limits"
            )
