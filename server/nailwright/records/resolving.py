"""A person's answers about a file as they came or were kept, held against the kinds of columns there are."""

from __future__ import annotations

from typing import Any

from nailwright.programmes.models import Programme
from nailwright.programmes.species.known import species_of
from nailwright.records.answers import Answers, Bound, waters_by_name
from nailwright.records.columns import COLUMNS, READ
from nailwright_core.common.errors import CoreError


def answers_from(programme: Programme, given: dict[str, Any]) -> Answers:
    """Answers as they came or were kept, checked for their form.

    Raises:
        CoreError: ``column_unknown``, ``unit_unknown``, ``water_unknown``.
    """
    waters = waters_by_name(programme)
    columns = []
    for each in given["columns"]:
        key, unit = each["key"], each.get("unit")
        if key and key not in READ:
            raise CoreError("column_unknown", f"'{key[:40]}' is no kind of column.", "columns")
        if key and unit and unit not in COLUMNS[key].units:
            raise CoreError("unit_unknown", f"'{unit[:10]}' is no unit of {COLUMNS[key].title.lower()}.", key)
        columns.append(Bound(each["header"], key, unit if key and unit else None))
    words = {
        key: {word.lower(): meant for word, meant in said.items() if meant} for key, said in given["words"].items()
    }
    for key in (given["fixed"].get("water"), *words.get("water", {}).values()):
        if key and key not in waters.values():
            raise CoreError("water_unknown", "No such water in this programme.", "water")
    return Answers(
        columns=tuple(columns),
        date_order=given.get("date_order"),
        mixed_dates=given.get("mixed_dates", False),
        years_until=given.get("years_until"),
        decimal=given.get("decimal"),
        fixed={key: text for key, text in given["fixed"].items() if text},
        words=words,
        missing=frozenset(text.strip().lower() for text in given.get("missing", ()) if text.strip()),
        new_sites=given.get("new_sites", True),
        new_marks=given.get("new_marks", True),
        waters=waters,
        species=species_of(programme).named(),
    )
