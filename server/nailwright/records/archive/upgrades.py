"""Archives of earlier releases, put into the form of this one before their rows are read."""

from __future__ import annotations

import csv
import io
import json
import zipfile
from collections.abc import Callable, Mapping
from functools import partial
from uuid import UUID

from nailwright.common.sources.zipped import piece_of
from nailwright.permits.matching import key_of_new_permit, matching_permit
from nailwright.waters.zones import key_of_named_zone
from nailwright_core.common.errors import CoreError

Row = dict[str, str]


class Tables:
    """An archive's tables by name, as texts; read when they are first asked for."""

    def __init__(self, package: zipfile.ZipFile, programme: UUID) -> None:
        self.programme = programme
        self._package = package
        self._rows: dict[str, list[Row]] = {}

    def __getitem__(self, name: str) -> list[Row]:
        if name not in self._rows:
            try:
                text = piece_of(self._package, f"{name}.csv").decode()
                self._rows[name] = [
                    {column: cell for column, cell in row.items() if isinstance(cell, str) and isinstance(column, str)}
                    for row in csv.DictReader(io.StringIO(text, newline=""), strict=True)
                ]
            except (UnicodeDecodeError, csv.Error) as error:
                raise CoreError("archive_unreadable", f"{name}.csv cannot be read: {error}.", "file") from error
        return self._rows[name]

    def __setitem__(self, name: str, rows: list[Row]) -> None:
        self._rows[name] = rows

    def texts(self, names: Mapping[str, tuple[str, ...]]) -> dict[str, str]:
        """Those that were changed, as CSV by file name; ``names`` has the columns of one that may be empty."""
        return {f"{name}.csv": _written(self._rows[name], names[name]) for name in names}


def upgraded(package: zipfile.ZipFile, programme: UUID, form: int) -> dict[str, str]:
    """Texts of the tables that have another form now, by file name; all others are read as they are.

    Args:
        form: ``archive_format`` of the archive.

    Raises:
        CoreError: ``archive_unreadable``.
    """
    tables = Tables(package, programme)
    changed: dict[str, tuple[str, ...]] = {}
    if form < 2:
        for step in (_permits, _zones, _queries):
            step(tables)
        changed |= CHANGED_SINCE_1
    if form < 3:
        for name in ADDED_SINCE_2:
            tables[name] = []
        changed |= ADDED_SINCE_2
    if form < 4:
        for name in ADDED_SINCE_3:
            tables[name] = []
        _details(tables)
        changed |= ADDED_SINCE_3 | CHANGED_SINCE_3
    return tables.texts(changed)


#: Tables that format 2 had not.
ADDED_SINCE_2: dict[str, tuple[str, ...]] = dict.fromkeys(
    ("returns", "finders", "rewards", "foreign_marks", "return_photos", "cards"), ("id",)
)
#: Tables that format 3 had not.
ADDED_SINCE_3: dict[str, tuple[str, ...]] = dict.fromkeys(("card_photos", "card_requests"), ("id",))
#: Tables that format 3 had in another form.
CHANGED_SINCE_3: dict[str, tuple[str, ...]] = dict.fromkeys(("events", "changes"), ("id",))
#: Tables that format 1 had in another form, with the columns of each where it has no row.
CHANGED_SINCE_1: dict[str, tuple[str, ...]] = {
    "permits": ("id", "programme_id", "kind", "name", "holder", "number", "gears", "first", "last"),
    "allowances": ("id", "permit_id", "species", "what", "most", "first", "last", "deleted_at"),
    "changes": ("id",), "zones": ("id",), "sites": ("id",), "targets": ("id",), "planned_sites": ("id",), "saved_findings": ("id",),
    "selections": ("id",),
}  # fmt: skip


def _permits(tables: Tables) -> None:
    """Permits were called papers; an allowance named its permit by text."""
    permits = tables["papers"]
    for each in permits:
        each["kind"] = "certificate" if each.get("kind") == "qualification" else each.get("kind", "")
    for each in sorted(tables["allowances"], key=lambda row: row.get("first", "")):
        text, programme = each.pop("permit", ""), each.pop("programme_id", "")
        known = [
            (row.get("id", ""), row.get("name", ""), row.get("number", ""))
            for row in permits
            if row["kind"] == "permit"
        ]
        key = matching_permit(text, known) or str(key_of_new_permit(tables.programme, text))
        each["permit_id"] = key
        there = next((row for row in permits if row.get("id") == key), None)
        if there is None:
            permits.append(
                {"id": key, "programme_id": programme, "kind": "permit", "name": text, "holder": "", "number": "", "gears": "[]",
                 "first": each.get("first", ""), "last": each.get("last", "")}
            )  # fmt: skip
        elif key == str(key_of_new_permit(tables.programme, text)):
            there["last"] = max(there.get("last", ""), each.get("last", ""))
    tables["permits"] = permits
    for each in tables["changes"]:
        if each.get("table") == "paper":
            each["table"] = "permit"


def _details(tables: Tables) -> None:
    """The details of an event were called ``said``, also in the history of its changes."""
    for each in tables["events"]:
        if "said" in each:
            each["details"] = each.pop("said")
    for each in tables["changes"]:
        if each.get("table") == "event":
            for column in ("before", "after", "late"):
                each[column] = _with_json(each.get(column, ""), details_in_history)


def details_in_history(values: object) -> object:
    """Fields of a change of an event, by their names of today."""
    if not isinstance(values, dict):
        return values
    return {
        f"details{name.removeprefix('said')}" if name == "said" or name.startswith("said.") else name: value
        for name, value in values.items()
    }


def _zones(tables: Tables) -> None:
    """Sites, targets and planned sites named their zone; one that was never drawn is made with its name alone."""
    zones = tables["zones"]
    known = {
        (row.get("water_id", ""), row.get("name", "").strip().lower()): row.get("id", "")
        for row in sorted(zones, key=lambda row: _number(row.get("start_m", "")))
        if row.get("kind") == "zone" and not row.get("deleted_at")
    }
    waters = {
        name: {row.get("id", ""): row.get("water_id", "") for row in tables[name]} for name in ("outings", "surveys")
    }

    def point(row: Row, column: str, water: str) -> None:
        name = row.pop(column, "").strip()
        at = water, name.lower()
        if name and at not in known:
            try:
                known[at] = str(key_of_named_zone(UUID(water), name))
            except ValueError:
                known[at] = water  # a key that is none is told of where the row is read
            zones.append(
                {"id": known[at], "water_id": water, "kind": "zone", "name": name, "start_m": "", "end_m": "", "note": "",
                 "deleted_at": ""}
            )  # fmt: skip
        row["zone_id"] = known.get(at, "")

    for each in tables["sites"]:
        point(each, "reach", each.get("water_id", ""))
    for each in tables["targets"]:
        point(each, "reach", waters["outings"].get(each.get("outing_id", ""), ""))
    for each in tables["planned_sites"]:
        point(each, "zone", waters["surveys"].get(each.get("survey_id", ""), ""))


_COLUMNS_OF_FINDINGS = {"rows_mark": "fingerprint", "keeper_id": "saved_by_id", "kept_at": "saved_at"}


def _queries(tables: Tables) -> None:
    """What selections call a zone was called a reach; saved findings had another name, and so had three of their columns."""
    tables["saved_findings"] = [
        {_COLUMNS_OF_FINDINGS.get(name, name): cell for name, cell in each.items()} for each in tables["kept_findings"]
    ]
    for name in ("saved_findings", "selections"):
        for each in tables[name]:
            each["query"] = _with_json(each.get("query", ""), partial(_renamed, old="reach", new="zone"))


def _renamed(query: object, old: str, new: str) -> object:
    if not isinstance(query, dict):
        return query
    named = {new if name == old else name: value for name, value in query.items()}
    return {name: new if name == "by" and value == old else value for name, value in named.items()}


def _number(text: str) -> float:
    try:
        return float(text)
    except ValueError:
        return 0.0  # it is refused where the row is read


def _with_json(text: str, change: Callable[[object], object]) -> str:
    try:
        return json.dumps(change(json.loads(text)), ensure_ascii=False)
    except (ValueError, RecursionError):
        return text  # it is refused where the row is read, with its line


def _written(rows: list[Row], columns: tuple[str, ...]) -> str:
    names = list(dict.fromkeys(name for row in rows for name in row)) or list(columns)
    sink = io.StringIO(newline="")
    writer = csv.DictWriter(sink, names, restval="", lineterminator="\n")
    writer.writeheader()
    writer.writerows(rows)
    return sink.getvalue()
