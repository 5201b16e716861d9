"""The tables of an archive: every one that leads to a programme, but for those that are named here with a reason.

Columns, types and keys between tables are read off the models, so that no later column is forgotten. Form: Frictionless Data,
Data Package and Table Schema, version 1.
"""

from __future__ import annotations

import base64
import json
import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from datetime import UTC, datetime
from functools import cache
from graphlib import TopologicalSorter
from typing import Any

from django.apps import apps
from django.db import models

from nailwright.common.shaped_json import ShapedJSON
from nailwright.programmes.models import Person
from nailwright.programmes.record.removal import paths_to_programme

Model = type[models.Model]

#: Tables that stay here, each with why.
LEFT_OUT = {
    "programmes.Invitation": "links into this installation",
    "programmes.Receipt": "what tablets of this installation sent",
    "jobs.Job": "work of this installation",
    "deck.CaptureTally": "the database keeps it by itself",
    "deck.Handling": "can be made again from the events",
    "tags.Occasion": "can be made again from the runs",
    "deck.VisitGroups": "can be computed again from the captures",
    "returns.PublicPage": "an address of this installation",
    "returns.PublicTry": "senders of this installation, as far as they count",
    "findings.FindingAnswer": "can be computed again from the rows",
    "records.Mapping": "how files are read, which is no part of the record",
    "records.Import": "the files as they were sent; what they brought is in the captures",
}
_NAMES = {
    "programmes.ProgrammeSpecies": "species",
    "programmes.ProtocolVersion": "protocols",
    "deck.WaterReading": "readings",
    "tags.Fish": "fish",
    "tags.TagBatch": "tag_batches",
    "tags.TagIssue": "tag_issues",
    "tags.ForeignMark": "foreign_marks",
    "findings.SavedFinding": "saved_findings",
    "returns.ReturnPhoto": "return_photos",
    "returns.CardPhoto": "card_photos",
    "returns.CardRequest": "card_requests",
    "findings.LongSelection": "selections",
    "deck.PhotoFile": "photo_files",
    "deck.TrackPart": "track_parts",
    "plan.PlannedSite": "planned_sites",
    "plan.Rehearsing": "rehearsals",
    "plan.Unit": "control_boxes",
    "waters.Series": "series",
    "waters.SeriesPoint": "series_points",
    "programmes.Person": "people",
}
_TYPES: tuple[tuple[type[models.Field[Any, Any]], dict[str, str]], ...] = (
    (models.UUIDField, {"type": "string", "format": "uuid"}),
    (models.DateTimeField, {"type": "datetime", "format": "any"}),
    (models.DateField, {"type": "date"}),
    (models.BooleanField, {"type": "boolean"}),
    (models.FloatField, {"type": "number"}),
    (models.IntegerField, {"type": "integer"}),
    (models.JSONField, {"type": "any"}),
    (models.BinaryField, {"type": "string", "format": "binary"}),
)
#: Of a person only who they are: an account is no part of a programme.
_PERSON = ("id", "name")


@dataclass(frozen=True)
class Table:
    """One table: its model, its name in the archive, and the lookup by which its rows lead to their programme."""

    model: Model
    name: str
    path: str

    @property
    def fields(self) -> list[models.Field[Any, Any]]:
        """Columns that are in the archive, in their order; what names a row of a table that stays here is not."""
        inside = {None, Person, *_paths()}
        concrete = [each for each in self.model._meta.concrete_fields if each.related_model in inside]
        return [each for each in concrete if each.name in _PERSON] if self.model is Person else concrete

    @property
    def references(self) -> dict[str, Model]:
        """Columns that hold keys of other tables, with the model that they point at."""
        return {each.attname: each.related_model for each in self.fields if isinstance(each.related_model, type)}

    def description(self) -> dict[str, Any]:
        """It as a resource of a Data Package."""
        known = {each.model: each.name for each in tables()}
        return {
            "profile": "tabular-data-resource",
            "name": self.name,
            "path": f"{self.name}.csv",
            "format": "csv",
            "mediatype": "text/csv",
            "encoding": "utf-8",
            "description": " ".join((self.model.__doc__ or "").split()),
            "schema": {
                "fields": [_described(each) for each in self.fields],
                "missingValues": [""],
                "primaryKey": self.model._meta.pk.attname,
                "foreignKeys": [
                    {"fields": column, "reference": {"resource": known[model], "fields": "id"}}
                    for column, model in self.references.items()
                ],
            },
        }


def _described(field: models.Field[Any, Any]) -> dict[str, Any]:
    told: dict[str, Any] = {"name": field.attname, **_type_of(field)}
    if field.help_text:
        told["description"] = str(field.help_text)
    required = not field.null and not (isinstance(field, models.CharField) and field.blank)
    if required and not isinstance(field, models.JSONField) and not field.has_default():
        told["constraints"] = {"required": True}
    return told


def _type_of(field: models.Field[Any, Any]) -> dict[str, str]:
    target = field.target_field if field.is_relation else field  # type: ignore[attr-defined]
    return next((dict(told) for kind, told in _TYPES if isinstance(target, kind)), {"type": "string"})


@cache
def _paths() -> Mapping[Model, str]:
    return {model: path for model, path in paths_to_programme().items() if model._meta.label not in LEFT_OUT}


@cache
def tables() -> tuple[Table, ...]:
    """Every table of an archive, those that others point at first."""
    paths = _paths()
    links = {
        through: f"{field.m2m_field_name()}__{paths[model]}".removesuffix("__pk")
        for model in paths
        for field in model._meta.local_many_to_many
        if (through := field.remote_field.through) is not None
        and through._meta.auto_created
        and field.related_model in paths
    }
    every: dict[Model, str] = {Person: "", **paths, **links}
    order = TopologicalSorter(
        {
            model: {each.related_model for each in model._meta.concrete_fields if each.related_model in every}
            for model in every
        }
    ).static_order()
    return tuple(Table(model, _name_of(model), every[model]) for model in order)


def _name_of(model: Model) -> str:
    if model._meta.auto_created:
        return str(model._meta.db_table.split("_", 1)[1])
    return _NAMES.get(model._meta.label) or f"{model._meta.model_name}s"


def cell(value: Any) -> Any:
    """A value of the record as a cell of its CSV."""
    if value is None:
        return ""
    if isinstance(value, bool):
        return "true" if value else "false"
    if isinstance(value, bytes | memoryview):
        return base64.b64encode(value).decode()
    if isinstance(value, list | dict):
        return json.dumps(value, ensure_ascii=False)
    if hasattr(value, "astimezone"):
        return value.astimezone(UTC).isoformat().replace("+00:00", "Z")
    return value


def reader_of(field: models.Field[Any, Any]) -> Callable[[str], Any]:
    """What reads a cell of a column again.

    The reader raises ``ValueError``, ``TypeError``, or Django's ``ValidationError`` where the text is nothing of the kind.
    """
    target = field.target_field if field.is_relation else field  # type: ignore[attr-defined]
    choices = {str(each) for each, _ in target.flatchoices} if target.choices else None

    def read(text: str) -> Any:
        if text == "" and not isinstance(target, models.CharField):
            if not field.null and not field.has_default():
                raise ValueError("it is empty")
            return None if field.null else field.get_default()
        if isinstance(target, models.JSONField):
            found = json.loads(text, parse_constant=_no_number)
            if isinstance(target, ShapedJSON):
                target.check_shape(found)
            return found
        if isinstance(target, models.BooleanField):
            text = text.capitalize()
        value = None if text == "" and field.null else target.to_python(text)
        if isinstance(value, float) and not math.isfinite(value):
            raise ValueError("it is no finite number")
        if isinstance(value, datetime) and value.tzinfo is None:
            raise ValueError("a time without its zone")
        if choices is not None and value not in (None, "") and str(value) not in choices:
            raise ValueError(f"expected one of {', '.join(sorted(choices))}")
        if value is not None:
            target.run_validators(value)
        return value

    return read


def _no_number(name: str) -> Any:
    raise ValueError(f"{name} is no number")


def all_models() -> set[Model]:
    """Every model of the application's own, for the check that none was forgotten."""
    return {each for each in apps.get_models() if each.__module__.startswith("nailwright.")}
