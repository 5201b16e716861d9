"""The address that asks for a finding: a selection, and a question apart from it."""

from __future__ import annotations

from typing import Any

from rest_framework import serializers

from nailwright.deck.models import Capture, Gear
from nailwright.findings.selections import Selection
from nailwright_core.common.errors import CoreError


class SelectionSerializer(serializers.Serializer):
    """A selection as it stands in an address; lists repeat their key."""

    species = serializers.CharField(max_length=8)
    outing = serializers.ListField(child=serializers.UUIDField(), default=list)
    water = serializers.ListField(child=serializers.UUIDField(), default=list)
    site = serializers.ListField(child=serializers.UUIDField(), default=list)
    reach = serializers.ListField(child=serializers.CharField(max_length=60), default=list)
    gear = serializers.ListField(child=serializers.ChoiceField(Gear.choices), default=list)
    sex = serializers.ListField(child=serializers.ChoiceField(Capture.Sex.choices), default=list)
    first = serializers.DateField(required=False, help_text="First day, YYYY-MM-DD")
    last = serializers.DateField(required=False, help_text="Last day, YYYY-MM-DD")
    estimated = serializers.BooleanField(default=False, help_text="Also lengths and masses judged by eye")
    once = serializers.BooleanField(default=False, help_text="Of a fish caught again only the last capture")
    chosen = serializers.CharField(
        max_length=16, required=False, help_text="Key of a selection that is too long for an address"
    )

    def selection(self) -> Selection:
        values = self.validated_data
        return Selection(
            species=values["species"],
            outings=tuple(map(str, values["outing"])),
            waters=tuple(map(str, values["water"])),
            sites=tuple(map(str, values["site"])),
            reaches=tuple(values["reach"]),
            gears=tuple(values["gear"]),
            sexes=tuple(values["sex"]),
            first=values.get("first"),
            last=values.get("last"),
            estimated=values["estimated"],
            once=values["once"],
        )


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


def read_query(serializer_class: type[SelectionSerializer], params: Any) -> SelectionSerializer:
    """A checked query from an address. Django REST framework reads repeated keys of a QueryDict into lists."""
    given = serializer_class(data=params)
    given.is_valid(raise_exception=True)
    return given
