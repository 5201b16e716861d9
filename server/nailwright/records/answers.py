"""What a person answered about a file, and what the programme knows that its cells may name."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import asdict, dataclass, field
from typing import Any

from nailwright.programmes.models import Programme
from nailwright_core.common.errors import CoreError


@dataclass(frozen=True)
class Bound:
    """One column of the file: what it is, and in which unit. An empty ``key`` leaves it out."""

    header: str
    key: str = ""
    unit: str | None = None


@dataclass(frozen=True)
class Answers:
    """How a file is to be read.

    ``date_order`` is "day" or "month" for dates such as 3/4/2024; ``decimal`` "." or ","; ``fixed`` holds what is the same
    for every line (a water's key, a site's name, a gear, a species, a date); ``words`` what the file's own words mean, by
    column, and ``missing`` those by which it says that a cell holds nothing, besides the usual. ``years_until`` is the last year of the
    hundred that a year of two digits may mean. ``mixed_dates`` says that a person knows that some dates contradict the order, and wants those left out.
    """

    columns: tuple[Bound, ...]
    date_order: str | None = None
    mixed_dates: bool = False
    years_until: int | None = None
    decimal: str | None = None
    fixed: Mapping[str, str] = field(default_factory=dict)
    words: Mapping[str, Mapping[str, str]] = field(default_factory=dict)
    missing: frozenset[str] = frozenset()
    new_sites: bool = True
    new_marks: bool = True
    waters: Mapping[str, str] = field(default_factory=dict)
    species: Mapping[str, str] = field(default_factory=dict)

    def kept(self) -> dict[str, Any]:
        """As they are kept beside the file."""
        plain = {**asdict(self), "missing": sorted(self.missing)}
        del plain["waters"], plain["species"]
        return plain

    def check(self) -> None:
        """Refuse what leaves no fish.

        Raises:
            CoreError: ``column_twice``, ``column_missing``, ``unit_unknown``; field is the column's kind.
        """
        keys = [each.key for each in self.columns if each.key]
        twice = next((key for key in keys if keys.count(key) > 1), None)
        if twice:
            headers = " and ".join(f"'{each.header}'" for each in self.columns if each.key == twice)
            raise CoreError("column_twice", f"{headers} are both taken for the same thing. Choose one of them.", twice)
        for key, what in (
            ("species", "species"),
            ("date", "day"),
            ("water", "water"),
            ("site", "site"),
            ("gear", "gear"),
        ):
            there = key in keys or self.fixed.get(key) or (key == "date" and "device_time_utc" in keys)
            if not there:
                question = f"Which column holds the {key}? Or choose one {what} for the whole file."
                raise CoreError("column_missing", question, key)
        if not {"length", "mass", "count"} & set(keys):
            raise CoreError(
                "column_missing", "Which column holds the length, the mass or the number of fish?", "length"
            )
        for each in self.columns:
            if each.key in ("length", "mass") and not each.unit:
                raise CoreError("unit_unknown", f"In which unit is '{each.header}'?", each.key)


def waters_by_name(programme: Programme) -> dict[str, str]:
    """Keys of the programme's waters by their names in small letters."""
    return {name.lower(): str(key) for key, name in programme.waters.values_list("pk", "name")}
