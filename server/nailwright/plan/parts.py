"""The choices of a survey over HTTP and in store; what they may hold is core's (``plan.parts``)."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import asdict
from typing import Any

from rest_framework import serializers

from nailwright.common.field_shapes import drf_field
from nailwright.deck.outing.checklists import CODES
from nailwright.findings.request_query import SelectionSerializer
from nailwright_core.common.errors import CoreError
from nailwright_core.deck.handling import Limits
from nailwright_core.plan.parts import LISTS, PARTS, Parts, change, fields_of, parts_from


def _serializer(name: str, kind: type[Any], change_only: bool) -> type[serializers.Serializer[Any]]:
    """The shape of a part: read whole, changed field by field."""
    shape = {name: drf_field(field, required=not change_only) for name, field in fields_of(kind).items()}
    return type(f"{'Change' if change_only else ''}{name}Serializer", (serializers.Serializer,), shape)


_CHOSEN: dict[str, Any] = {
    "crew": lambda: serializers.ListField(child=serializers.CharField(max_length=80), required=False, max_length=40),
    "checklists": lambda: serializers.ListField(child=serializers.ChoiceField(CODES), required=False),
    "pilot": lambda: SelectionSerializer(
        required=False, help_text="Past data to start from; without it species, water and gear"
    ),
}


def _all(change_only: bool) -> dict[str, Any]:
    parts = {
        name: _serializer(f"{name.title()}Part", kind, change_only)(required=not change_only)
        for name, kind in PARTS.items()
    }
    return {
        **parts,
        **{
            name: _serializer(f"Plan{kind.__name__}", kind, change_only)(many=True, required=not change_only)
            for name, kind in LISTS.items()
        },
        **{name: make() for name, make in _CHOSEN.items()},
    }


PartsSerializer = type("PartsSerializer", (serializers.Serializer,), _all(False))
ChangePartsSerializer = type(
    "ChangePartsSerializer",
    (serializers.Serializer,),
    {**_all(True), "__doc__": "Any fields of any parts; what is left out stays as it is."},
)


def parts_of(kept: Mapping[str, Any]) -> Parts:
    """A survey's choices, with the defaults of those that were never set."""
    return parts_from(kept)


#: Choices that stand or fall together where two people set them at about the same time.
TOGETHER = tuple(tuple(f"parts.limits.{name}" for name in names) for names in Limits.STEPS)


def changed_parts(kept: Mapping[str, Any], given: Mapping[str, Any]) -> dict[str, Any]:
    """What is to be set: each field of each part that was given, by its place such as "parts.electro.goal_w".

    Raises:
        CoreError: as ``plan.parts.change``, the field being "parts.electro.goal_w" and the like.
    """
    now = parts_from(kept)
    made: dict[str, Any] = {}
    for name, values in given.items():
        try:
            if name in PARTS:
                read = asdict(change(getattr(now, name), values, name))
                made |= {f"parts.{name}.{field}": read[field] for field in values}
            elif name in LISTS:
                made[f"parts.{name}"] = [asdict(change(LISTS[name](), each, name)) for each in values]
            else:
                made[f"parts.{name}"] = values
        except CoreError as refused:
            raise CoreError(refused.code, refused.message, f"parts.{refused.field}") from refused
    return made
