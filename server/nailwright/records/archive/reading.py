"""Bringing an archive in: keys are kept, what is here already stays as it is, and all or nothing is stored."""

from __future__ import annotations

import csv
import io
import json
import zipfile
from collections.abc import Container, Iterator, Mapping
from typing import Any
from uuid import UUID

from django.core.exceptions import ValidationError
from django.db import models, transaction
from django.utils import timezone
from jsonschema import Draft202012Validator
from rest_framework.exceptions import ValidationError as DRFInvalid

from nailwright.common.errors import Refused
from nailwright.common.shaped_json import check_shape, shape_of, without_required
from nailwright.common.sources.zipped import open_zip, piece_of
from nailwright.deck.encounters import rebuild_encounters
from nailwright.deck.handling.summary import rebuild_handling
from nailwright.deck.models import Event
from nailwright.findings.long_selections import as_address
from nailwright.findings.models import LongSelection, SavedFinding
from nailwright.findings.registry import finding_kinds
from nailwright.findings.request_query import AnySpeciesSerializer, read_query
from nailwright.programmes.models import Change, Membership, Person, Programme, ProgrammeSpecies, ProtocolVersion, Role
from nailwright.programmes.people.beginning import DEMO_PREFIX
from nailwright.programmes.policies import require
from nailwright.programmes.record.effects import WITH_IT
from nailwright.records.archive.tables import Table, reader_of, tables
from nailwright.records.archive.upgrades import upgraded
from nailwright.records.archive.writing import FORMAT
from nailwright_core.common.errors import CoreError
from nailwright_core.common.species_values import read_species
from nailwright_core.deck.events import kind_of, read_event
from nailwright_core.protocol import SECTIONS, kept_protocol

_AT_ONCE = 2000
_LONGEST_CELL = 4 * 1024 * 1024


def bring_programme(person: Person, content: bytes) -> dict[str, Any]:
    """A programme from elsewhere; whoever brings it in leads it here. Brought in again it adds only what is not here yet.

    People come by their names, without an account: they are invited like anybody else.

    Returns:
        ``programme`` (its key), ``name``, ``new`` and ``there``: rows that came in, and rows that were here already.

    Raises:
        Refused: ``demo_person``, ``role_may_not``, and for a programme that is here and that the person does not lead.
        CoreError: field ``file``: what is wrong with the archive, with table, line and column.
    """
    _may_bring(person)
    package = open_zip(content)
    told = _description(package)
    with transaction.atomic():
        key = _key(told.get("id"))
        here = Programme.objects.select_for_update().filter(pk=key).first()
        if here is not None:
            require(person, here, "lead")
        bringing = _Bringing(person, package, key, upgraded(package, key, told["archive_format"]))
        for table in tables():
            bringing.take(table)
        programme = Programme.objects.get(pk=key)
        rebuild_encounters(programme)  # an archive of before says less of them, and nothing of where was fished
        rebuild_handling(programme)
        if here is None:
            Membership.objects.update_or_create(
                programme=programme, person=person, defaults={"role": Role.LEAD, "left_at": None}
            )
    return {"programme": key, "name": programme.name, "new": bringing.new, "there": bringing.there}


def _may_bring(person: Person) -> None:
    if person.username.startswith(DEMO_PREFIX):
        raise Refused("demo_person", "The demo's people are made up. Sign out and make an account of your own first.")
    if not Membership.present.filter(person=person, role=Role.LEAD).exists():
        raise Refused("role_may_not", "A programme is imported by somebody who leads one here. Ask your lead.")


def _description(package: zipfile.ZipFile) -> dict[str, Any]:
    try:
        told = json.loads(piece_of(package, "datapackage.json"))
    except ValueError as error:
        raise _wrong("datapackage.json is no JSON. Take the archive home anew.") from error
    if not isinstance(told, dict) or "archive_format" not in told:
        raise _wrong(
            "This is no archive of a programme. One is made in Settings, Programme; files of fish are imported in Records."
        )
    if told["archive_format"] not in range(1, FORMAT + 1):
        raise _wrong(
            f"The archive was made by another release (format {str(told['archive_format'])[:20]}; this one reads 1 to {FORMAT}). Upgrade first."
        )
    return told


class _Bringing:
    """One archive on its way in; keys that rows may name are gathered table by table."""

    def __init__(self, person: Person, package: zipfile.ZipFile, programme: UUID, rewritten: Mapping[str, str]) -> None:
        self._rewritten = rewritten
        self._person = person
        self._package = package
        self._programme = programme
        self._known: dict[type[models.Model], set[Any]] = {}
        self.new = 0
        self.there = 0

    def take(self, table: Table) -> None:
        """Bring in the rows of a table that are not here yet."""
        rows = list(self._rows(table))
        if table.model is Programme and [row["id"] for _, row in rows] != [self._programme]:
            raise _wrong("Expected one programme in programmes.csv, that of datapackage.json.")
        keys = {row["id"] for _, row in rows if "id" in row}
        if len(keys) < len(rows) and not table.model._meta.auto_created:
            raise _wrong(f"A key stands twice in {table.name}.csv.")
        there = self._there(table, keys)
        self._known[table.model] = keys | there
        for line, row in rows:
            self._check(table, line, row)
        fresh = [row for _, row in rows if row.get("id") not in there]
        self.there += len(rows) - len(fresh)
        if table.model._meta.auto_created:
            self._link(table, rows)
            return
        self._store(table, fresh)
        self.new += len(fresh)

    def _rows(self, table: Table) -> Iterator[tuple[int, dict[str, Any]]]:
        """Rows of a table with their lines, read column by column."""
        name = f"{table.name}.csv"
        try:
            text = self._rewritten.get(name) or piece_of(self._package, name).decode()
        except UnicodeDecodeError as error:
            raise _wrong(f"{name} is not in UTF-8.") from error
        csv.field_size_limit(_LONGEST_CELL)
        try:
            lines = csv.reader(io.StringIO(text), strict=True)
            header = next(lines, [])
            readers = {field.attname: reader_of(field) for field in table.fields}
            unknown = next((each for each in header if each not in readers), None)
            if unknown is not None or len(set(header)) < len(header) or "id" not in header:
                raise _wrong(f"{name} has a column '{str(unknown)[:40]}' that is not known here, or lacks its key.")
            for line, cells in enumerate(lines, 2):
                if len(cells) != len(header):
                    raise _wrong(f"{name}, line {line}: expected {len(header)} cells; got {len(cells)}.")
                yield line, {column: self._read(name, line, column, readers[column], text) for column, text in zip(header, cells, strict=True)}  # fmt: skip
        except csv.Error as error:
            raise _wrong(f"{name} cannot be read: {error}.") from error

    def _read(self, name: str, line: int, column: str, reader: Any, text: str) -> Any:
        try:
            return reader(text)
        except (ValueError, TypeError, OverflowError, RecursionError, ValidationError, CoreError) as error:
            why = "; ".join(error.messages) if isinstance(error, ValidationError) else str(error)
            raise _wrong(f"{name}, line {line}, {column}: '{text[:40]}' cannot be: {why[:120]}") from error

    def _there(self, table: Table, keys: set[Any]) -> set[Any]:
        """Keys that are in this installation already; none may be another programme's."""
        rows = table.model._base_manager.filter(pk__in=keys)
        there = set(rows.values_list("pk", flat=True))
        if table.model is Person or table.model._meta.auto_created:
            return there
        ours = set(rows.filter(**{table.path: self._programme}).values_list("pk", flat=True))
        if there - ours:
            raise _wrong(f"{table.name}.csv names a row that belongs to another programme here.")
        return there

    def _check(self, table: Table, line: int, row: dict[str, Any]) -> None:
        """What a row names has to be in the archive; what is kept as JSON has to mean something."""
        for column, model in table.references.items():
            if row.get(column) is not None and row[column] not in self._known.get(model, ()):
                raise _wrong(f"{table.name}.csv, line {line}, {column}: names a row that is not in the archive.")
        if any(name == "programme_id" and row.get(name) != self._programme for name in row):
            raise _wrong(f"{table.name}.csv, line {line}: belongs to another programme.")
        try:
            if table.model is ProgrammeSpecies and row.get("own"):
                read_species(row["code"], row["own"])
            if table.model is ProtocolVersion:
                _check_protocol(row["values"])
            if table.model is Event:
                # codes are the programme's own, maybe of an earlier protocol; the form is core's
                read_event(kind_of(row["kind"]), row["details"], lambda section: _Any())
            if table.model is SavedFinding:
                _check_kept(row)
            if table.model is LongSelection:
                read_query(AnySpeciesSerializer, as_address(row["query"])).selection()
            if table.model is Change:
                _check_effects(row["before"].get(WITH_IT, []))
        except (CoreError, DRFInvalid, AttributeError, TypeError, KeyError, ValueError) as error:
            raise _wrong(f"{table.name}.csv, line {line}: {str(error)[:200]}") from error

    def _store(self, table: Table, rows: list[dict[str, Any]]) -> None:
        made = [table.model(**self._as_kept(table, row)) for row in rows]
        table.model._base_manager.bulk_create(made, batch_size=_AT_ONCE)

    def _as_kept(self, table: Table, row: dict[str, Any]) -> dict[str, Any]:
        if table.model is Person:
            # a name in the record, not an account: nobody can sign in by it
            return {**row, "username": f"brought-{row['id'].hex}", "is_active": False, "password": "!"}
        if table.model is Programme:
            return {**row, "demo": False}
        if table.model is Membership and row["person_id"] != self._person.pk:
            return {**row, "left_at": row.get("left_at") or timezone.now()}
        return row

    def _link(self, table: Table, rows: list[tuple[int, dict[str, Any]]]) -> None:
        pairs = [{name: row[name] for name in table.references} for _, row in rows]
        for pair in pairs:
            _, made = table.model._base_manager.get_or_create(**pair)
            self.new += made


class _Any(Container[Any]):
    """Holds everything."""

    def __contains__(self, what: object) -> bool:
        return True


def _check_kept(row: dict[str, Any]) -> None:
    """A finding that was kept has to be of a kind that is known, asked as it can be asked, with an answer of that kind's form."""
    kind = finding_kinds().get(row["kind"])
    if kind is None:
        raise CoreError("kind_unknown", f"Expected a finding of {', '.join(finding_kinds())}.", "kind")
    read_query(kind.query, as_address(row["query"])).selection()
    check_shape(Draft202012Validator(without_required(shape_of(kind.shown()))), row["result"], "result")


def _check_effects(effects: Any) -> None:
    """What a change did with it (``programmes.effects``) names rows by their keys, fields by their names."""
    wanted = {"model", "row", "before", "after"}
    if not isinstance(effects, list) or not all(isinstance(each, dict) and set(each) == wanted for each in effects):
        raise CoreError("effects_unreadable", "Expected what a change did with it as a list of rows.", WITH_IT)
    for each in effects:
        UUID(str(each["row"]))
        if not isinstance(each["before"], dict) or not isinstance(each["after"], dict):
            raise CoreError("effects_unreadable", "Expected fields by their names.", WITH_IT)


def _check_protocol(values: Any) -> None:
    """An archive may be of an earlier release, so its protocol is not held to today's bounds, but to its form."""
    for code, rows in values.items():
        if code in SECTIONS and not (isinstance(rows, list) and all(isinstance(row, dict) for row in rows)):
            raise CoreError("section_unreadable", f"Expected rows for '{SECTIONS[code].title}'.", code)
    kept = kept_protocol(values)
    for code, section in SECTIONS.items():
        if section.single and len(kept.rows(code)) != 1:
            raise CoreError("rows_are_fixed", f"'{section.title}' has one row.", code)
        for place, row in enumerate(kept.rows(code)):
            for column in section.columns:
                # bounds may have been others; that a figure is a figure and a word a word holds for every release
                wanted = int | float if column.kind in ("number", "whole") else str
                value = row[column.name]
                if value is not None and (isinstance(value, bool) or not isinstance(value, wanted)):
                    raise CoreError(
                        "number_out_of_range", f"{column.title}: got {value!r:.40}.", f"{code}.{place}.{column.name}"
                    )


def _key(text: Any) -> UUID:
    try:
        return UUID(str(text))
    except ValueError as error:
        raise _wrong("datapackage.json does not say which programme this is (id).") from error


def _wrong(message: str) -> CoreError:
    return CoreError("archive_unreadable", message, "file")
