"""Guessing how a file is to be read: by its column names, by what was answered before, and by the fish themselves."""

from __future__ import annotations

import re
from collections.abc import Sequence
from itertools import islice
from typing import Any

from nailwright.common.sources import open_table
from nailwright.common.sources.table import Table
from nailwright.programmes.models import Programme
from nailwright.programmes.species.known import species_of
from nailwright.records.answers import Answers, Bound, waters_by_name
from nailwright.records.by_values import by_values
from nailwright.records.columns import COLUMNS, READ
from nailwright.records.columns.place import SLASHED
from nailwright.records.models import Import
from nailwright.records.reading import REJECT_HEADERS
from nailwright_core.common.errors import CoreError
from nailwright_core.records.units import guess_units

SAMPLE = 2000
_SHOWN = 4
_REMEMBERED_FROM = 20


#: What is shown of a file that is still being read.
NOT_READ: dict[str, Any] = {
    "how": "Being read", "notices": [], "about": 0, "evidence": {}, "remembered": [], "columns": []
}  # fmt: skip


def look_into(row: Import, content: bytes) -> None:
    """Fill a new import's preview and the answers that it starts with.

    Raises:
        CoreError: what is wrong with the file, field ``file``.
    """
    preview, answers = propose(row.programme, open_table(content))
    before = row.programme.imports.filter(sha256=row.sha256, state=Import.State.IN).select_related("person").first()
    if before:
        preview["notices"].append(
            f"This very file was imported on {before.in_at:%Y-%m-%d} by {before.person.name}; its fish are not added twice."
        )
    row.preview, row.answers = preview, answers.kept()


def propose(programme: Programme, table: Table) -> tuple[dict[str, Any], Answers]:
    """What the screen shows of the file, and the answers it starts with."""
    sample = [cells for _, cells in islice(table.lines(), SAMPLE)]
    columns = [[row[place] if place < len(row) else "" for row in sample] for place in range(len(table.headers))]
    before = _answered_before(programme)
    known = {header: before["columns"][header] for header in table.headers if header in before["columns"]}
    bound = _bind(table.headers, known)
    bound, told = by_values(programme, bound, columns, before["missing"])
    decimal = decimal_of([cells for each, cells in zip(bound, columns, strict=True) if each.key in ("length", "mass")])
    waters = waters_by_name(programme)
    bound, evidence = _with_units(programme, bound, columns, before["words"], decimal)
    dates = [cell for each, cells in zip(bound, columns, strict=True) if each.key == "date" for cell in cells]
    evidence |= told
    fixed = {"water": next(iter(waters.values()))} if len(waters) == 1 else {}
    answers = Answers(
        columns=tuple(bound),
        date_order=date_order_of(dates),
        decimal=decimal,
        fixed={**before["fixed"], **fixed} if known else fixed,
        words=before["words"],
        missing=before["missing"],
        years_until=before["years_until"],
        waters=waters,
        species=species_of(programme).named(),
    )
    return {
        "how": table.how,
        "notices": list(table.notices),
        "about": table.about,
        "evidence": evidence,
        "remembered": sorted(known),
        "columns": [
            {
                "header": header,
                "samples": _samples(cells),
                "short_year": next(
                    (cell for cell in cells if (found := SLASHED.match(cell)) and len(found[3]) == 2), ""
                ),
                "slashed": next((cell for cell in cells if SLASHED.match(cell)), ""),
                "date_order": date_order_of(cells),
            }
            for header, cells in zip(table.headers, columns, strict=True)
        ],
    }, answers


def _samples(cells: Sequence[str]) -> list[str]:
    return list(islice((cell[:60] for cell in dict.fromkeys(cells) if cell), _SHOWN))


def _answered_before(programme: Programme) -> dict[str, Any]:
    """What people said of columns and words of the last files, the newest first."""
    columns: dict[str, Any] = {}
    words: dict[str, dict[str, str]] = {}
    fixed: dict[str, str] = {}
    missing: set[str] = set()
    years_until: int | None = None
    last = programme.imports.filter(state__in=(Import.State.IN, Import.State.BACK)).order_by("-made_at")
    for answers in last.values_list("answers", flat=True)[:_REMEMBERED_FROM]:
        for each in answers["columns"]:
            columns.setdefault(each["header"], each)
        for key, said in answers["words"].items():
            words[key] = {**said, **words.get(key, {})}
        fixed = fixed or answers["fixed"]
        missing |= set(answers.get("missing", ()))
        years_until = years_until or answers.get("years_until")
    return {
        "columns": columns,
        "words": words,
        "fixed": fixed,
        "missing": frozenset(missing),
        "years_until": years_until,
    }


def _bind(headers: Sequence[str], known: dict[str, Any]) -> list[Bound]:
    """Each kind of column goes to the header that fits it best; what was said before goes first."""
    chosen: dict[str, Bound] = {
        header: Bound(header, each["key"], each["unit"])
        for header, each in known.items()
        if not each["key"] or each["key"] in READ
    }
    taken = {each.key for each in chosen.values()}
    fits = [
        (fit[0], -order, -place, header, column.key, fit[1])
        for order, column in enumerate(READ.values())
        for place, header in enumerate(headers)
        if header not in chosen and header not in REJECT_HEADERS and (fit := column.resolve(header))
    ]
    for _, _, _, header, key, unit in sorted(fits, reverse=True):
        if header not in chosen and key not in taken:
            chosen[header] = Bound(header, key, unit if unit in COLUMNS[key].units else None)
            taken.add(key)
    return [chosen.get(header, Bound(header)) for header in headers]


def _with_units(
    programme: Programme,
    bound: list[Bound],
    columns: list[list[str]],
    words: dict[str, dict[str, str]],
    decimal: str | None,
) -> tuple[list[Bound], dict[str, str]]:
    """Units that no name tells, by the units in which most fish are believable; and how that was told."""
    by_key = {each.key: place for place, each in enumerate(bound) if each.key}
    if "length" not in by_key:
        return bound, {}
    reader = Answers(columns=(), words=words, species=species_of(programme).named())
    known = species_of(programme)
    kinds, lengths, masses = [], [], []
    for row in zip(*columns, strict=True):
        if "species" in by_key:
            try:
                code = COLUMNS["species"].clean(row[by_key["species"]], reader, None)
            except CoreError:
                continue
        else:
            code = next(iter(programme.listed_species.values_list("code", flat=True)), "wal")
        kinds.append(known[code])
        lengths.append(_bare(row[by_key["length"]], decimal))
        masses.append(_bare(row[by_key["mass"]], decimal) if "mass" in by_key else float("nan"))
    named = {key: bound[by_key[key]].unit for key in ("length", "mass") if key in by_key}
    options = {key: (unit,) if unit else COLUMNS[key].units for key, unit in named.items()}
    guess = guess_units(kinds, lengths, masses, options["length"], options.get("mass", ("g",)))
    evidence: dict[str, str] = {}
    for key, unit in (("length", guess.length), ("mass", guess.mass)):
        if key in named and not named[key] and unit:
            bound[by_key[key]] = Bound(bound[by_key[key]].header, key, unit)
            evidence[key] = f"{guess.share:.0%} of {len(kinds):,} fish are believable in {unit}"
    return bound, evidence


def _bare(cell: str, decimal: str | None) -> float:
    # of columns that write decimals in two ways, a comma before one or two digits is a decimal sign all the same
    comma = decimal == "," or bool(re.fullmatch(r"\d+,\d{1,2}", cell))
    plain = cell.replace(",", ".") if comma else cell
    return float(plain) if re.fullmatch(r"\d{1,9}(\.\d+)?", plain) else float("nan")


def decimal_of(columns: Sequence[Sequence[str]]) -> str | None:
    """The sign before decimals, where the cells show it; None where they show both."""
    cells = [cell for column in columns for cell in column]
    point = any(re.fullmatch(r"~?[\d,]*\.\d+", cell) for cell in cells)
    comma = any(re.fullmatch(r"~?\d+,(\d{1,2}|\d{4,})", cell) for cell in cells)
    if point and comma:
        return None
    return "," if comma else "."


def date_order_of(cells: Sequence[str]) -> str | None:
    """ "day" or "month" where some date can be read one way only and none the other way only."""
    day_first, month_first = date_evidence(cells)
    if day_first and not month_first:
        return "day"
    return "month" if month_first and not day_first else None


def date_evidence(cells: Sequence[str]) -> tuple[int, int]:
    """How many dates can only be day first, and how many only month first."""
    pairs = [tuple(map(int, found.groups()[:2])) for cell in cells if (found := SLASHED.match(cell))]
    return sum(first > 12 >= second for first, second in pairs), sum(second > 12 >= first for first, second in pairs)
