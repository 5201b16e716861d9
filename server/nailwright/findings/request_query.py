"""The address that asks for a finding: a selection, and a question apart from it."""

from __future__ import annotations

from copy import deepcopy
from typing import Any

from rest_framework import serializers

from nailwright.findings.selections import Selection, filters
from nailwright_core.common.errors import CoreError


class SelectionSerializer(serializers.Serializer):
    """A selection as it stands in an address; lists repeat their key."""

    chosen = serializers.CharField(
        max_length=16, required=False, help_text="Key of a selection that is too long for an address"
    )

    def get_fields(self) -> dict[str, serializers.Field]:
        return {name: deepcopy(each.read) for name, each in filters().items()} | super().get_fields()

    def selection(self) -> Selection:
        said = {name: self.validated_data[name] for name in filters() if name in self.validated_data}
        lists = {name: tuple(map(str, value)) for name, value in said.items() if isinstance(value, list)}
        return Selection(**said | lists)


class AnySpeciesSerializer(SelectionSerializer):
    species = serializers.CharField(max_length=8, required=False, default="", allow_blank=True)


class ConditionQuerySerializer(SelectionSerializer):
    level = serializers.FloatField(default=0.95)
    over = serializers.ChoiceField(
        ("sites", "fish"), default="sites", help_text="What intervals are over: fish of one site are alike, or not"
    )

    def validate_level(self, value: float) -> float:
        if not 0.5 <= value <= 0.999:
            raise CoreError("level_out_of_range", f"Expected a level from 0.5 to 0.999; got {value}.", "level")
        return value


class SizeQuerySerializer(ConditionQuerySerializer):
    bin_mm = serializers.FloatField(required=False)


def over_any_year() -> serializers.ChoiceField:
    """``over`` of a question on one group, which may be about the water in any year."""
    return serializers.ChoiceField(
        ("sites", "years", "fish"), default="sites",
        help_text="What intervals are over: sites, in the years that were fished; sites and years, for the water in any year; or fish",
    )  # fmt: skip


def read_query(serializer_class: type[SelectionSerializer], params: Any) -> SelectionSerializer:
    """A checked query from an address. Django REST framework reads repeated keys of a QueryDict into lists."""
    given = serializer_class(data=params)
    given.is_valid(raise_exception=True)
    return given
