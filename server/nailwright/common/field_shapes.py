"""Shapes over HTTP that come from core's declaration of a field."""

from __future__ import annotations

from collections.abc import Mapping
from functools import cache
from types import MappingProxyType
from typing import Any, get_args

from drf_spectacular.utils import extend_schema_field
from rest_framework import serializers

from nailwright_core.common.field import Field, Kind

KINDS = get_args(Kind)


class ChoiceOfFieldSerializer(serializers.Serializer):
    value = serializers.CharField()
    label = serializers.CharField()  # type: ignore[assignment]


class FieldSerializer(serializers.Serializer):
    """What a field holds, for a form."""

    name = serializers.CharField()
    title = serializers.CharField()
    kind = serializers.ChoiceField(KINDS)
    unit = serializers.CharField()
    low = serializers.FloatField()
    high = serializers.FloatField()
    longest = serializers.IntegerField()
    choices = serializers.SerializerMethodField()
    needed = serializers.BooleanField()
    fixed = serializers.BooleanField()

    @extend_schema_field(ChoiceOfFieldSerializer(many=True))
    def get_choices(self, field: Any) -> list[dict[str, str]]:
        return choices_of(field)


def choices_of(field: Field) -> list[dict[str, str]]:
    """Its choices, each with its label."""
    return [{"value": value, "label": label} for value, label in field.choices]


@cache
def told(field: Field) -> Mapping[str, Any]:
    """A field as ``FieldSerializer`` has it, as plain values; made once, since every deck that is read holds them all."""
    return MappingProxyType(dict(FieldSerializer(field).data))


def drf_field(field: Field, required: bool) -> serializers.Field[Any, Any, Any, Any]:
    """What takes such a value from a request: its form alone, since core holds it against its bounds in words."""
    more: dict[str, Any] = {
        "required": required,
        "help_text": ", ".join(filter(None, (field.note, field.unit))) or None,
    }
    if field.kind == "choice":
        codes = [value for value, _ in field.choices]
        return serializers.ChoiceField(codes, allow_blank="" in codes, **more)
    if field.kind in ("number", "whole"):
        number = serializers.IntegerField if field.kind == "whole" else serializers.FloatField
        return number(allow_null=field.nullable, **more)
    return serializers.CharField(allow_blank=True, allow_null=field.nullable, trim_whitespace=False, **more)
