"""JSON columns that have a shape: a JSON Schema (draft 2020-12) beside the column, held on every write and on every way in."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from functools import cached_property
from typing import Any

from django.db import models
from django.db.models.expressions import BaseExpression
from jsonschema import Draft202012Validator
from jsonschema.exceptions import best_match
from rest_framework import serializers

from nailwright.common.rendering import finite
from nailwright_core.common.errors import CoreError

Shape = Mapping[str, Any]

CODES: Shape = {"type": "array", "maxItems": 200, "items": {"type": "string", "maxLength": 40}}
SENTENCES: Shape = {"type": "array", "maxItems": 200, "items": {"type": "string", "maxLength": 1000}}
OBJECT: Shape = {"type": "object", "maxProperties": 500}
#: A cell of a form: a figure, a word, a yes or no, some codes.
CELL: Shape = {
    "type": ["number", "string", "boolean", "null", "array"],
    "maxLength": 2000,
    "maxItems": 1000,
    "items": {"type": ["string", "number", "null"]},
}
CELLS: Shape = {"type": "object", "maxProperties": 100, "additionalProperties": CELL}
NUMBERS: Shape = {"type": "array", "maxItems": 10_000, "items": {"type": "number"}}
FIGURES: Shape = {"type": "object", "maxProperties": 100, "additionalProperties": {"type": ["number", "string"]}}
_LON, _LAT = {"type": "number", "minimum": -180, "maximum": 180}, {"type": "number", "minimum": -90, "maximum": 90}
_AT: Shape = {"type": "array", "prefixItems": [_LON, _LAT], "items": {"type": "number"}, "minItems": 2, "maxItems": 3}
_LINE: Shape = {"type": "array", "items": _AT, "minItems": 2, "maxItems": 500_000}


def _geometry(kind: str, coordinates: Shape) -> Shape:
    return {
        "type": "object",
        "required": ["type", "coordinates"],
        "properties": {"type": {"const": kind}, "coordinates": coordinates},
    }


#: GeoJSON (RFC 7946) as waters and sites have it.
POINT = _geometry("Point", _AT)
GEOMETRY: Shape = {
    "if": {"properties": {"type": {"const": "Point"}}},
    "then": POINT,
    "else": {
        "if": {"properties": {"type": {"const": "LineString"}}},
        "then": _geometry("LineString", _LINE),
        "else": _geometry("Polygon", {"type": "array", "items": _LINE, "minItems": 1, "maxItems": 1000}),
    },
}


class ShapedJSON(models.JSONField):
    """A JSON field with a shape.

    Args:
        shape: the schema, or what gives it when it is first needed.
    """

    def __init__(self, *args: Any, shape: Shape | Callable[[], Shape] = OBJECT, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self._shape = shape

    def deconstruct(self) -> Any:
        """As a plain JSON field: a shape is no affair of the database's."""
        name, _, args, kwargs = super().deconstruct()
        return name, "django.db.models.JSONField", args, kwargs

    @cached_property
    def _validator(self) -> Draft202012Validator:
        return Draft202012Validator(self._shape() if callable(self._shape) else self._shape)

    def check_shape(self, value: Any) -> None:
        """Refuse what has another shape.

        Raises:
            CoreError: ``shape_unreadable``, with the place within the value.
        """
        if value is None and self.null:
            return
        check_shape(self._validator, value, self.name)

    def get_db_prep_save(self, value: Any, connection: Any) -> Any:
        if not isinstance(value, BaseExpression):
            value = finite(value)
            self.check_shape(value)
        return super().get_db_prep_save(value, connection)


def check_shape(validator: Draft202012Validator, value: Any, name: str) -> None:
    """Refuse a value that a schema does not describe.

    Raises:
        CoreError: ``shape_unreadable``.
    """
    try:
        wrong = best_match(validator.iter_errors(value))
    except RecursionError as deep:
        raise CoreError("shape_unreadable", f"What {name} holds is nested too deeply.", name) from deep
    if wrong is not None:
        place = ".".join(map(str, (name, *wrong.absolute_path)))
        raise CoreError("shape_unreadable", f"{place[:120]}: {wrong.message[:160]}.", name)


def shape_of(field: serializers.Field[Any, Any, Any, Any]) -> dict[str, Any]:
    """The JSON Schema of what a serializer writes: types and names; what has a default there is not required."""
    told = _shape_of(field)
    return {"anyOf": [told, {"type": "null"}]} if field.allow_null and told else told


def _shape_of(field: serializers.Field[Any, Any, Any, Any]) -> dict[str, Any]:
    match field:
        case serializers.ListSerializer() | serializers.ListField():
            child: Any = field.child
            return {"type": "array", "items": shape_of(child)}
        case serializers.DictField():
            return {"type": "object", "additionalProperties": shape_of(field.child)}
        case serializers.Serializer():
            properties = {name: shape_of(each) for name, each in field.fields.items()}
            needed = [name for name, each in field.fields.items() if each.required]
            return {"type": "object", "properties": properties, "required": needed}
        case serializers.BooleanField():
            return {"type": "boolean"}
        case serializers.IntegerField():
            return {"type": "integer"}
        case serializers.FloatField():
            return {"type": "number"}
        case serializers.ChoiceField():
            return {"enum": [*field.choices, *([""] if field.allow_blank else [])]}
        case serializers.CharField() | serializers.UUIDField() | serializers.DateField() | serializers.DateTimeField():
            return {"type": "string"}
    return {}


def without_required(shape: Any) -> Any:
    """A shape in which all may be missing: what is kept in part, or was kept by an earlier release that said less."""
    if isinstance(shape, Mapping):
        return {name: without_required(each) for name, each in shape.items() if name != "required"}
    return [without_required(each) for each in shape] if isinstance(shape, list) else shape
