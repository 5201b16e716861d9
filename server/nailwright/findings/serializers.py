"""Shapes of findings, and of the address that asks for one."""

from __future__ import annotations

from typing import Any

from rest_framework import serializers

from nailwright.deck.models import Capture, Gear
from nailwright.deck.serializers import CategorySerializer
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
        )


class ConditionQuerySerializer(SelectionSerializer):
    level = serializers.FloatField(default=0.95)

    def validate_level(self, value: float) -> float:
        if not 0.5 <= value <= 0.999:
            raise CoreError("level_out_of_range", f"Expected a level from 0.5 to 0.999; got {value}.", "level")
        return value


class SizeQuerySerializer(ConditionQuerySerializer):
    bin_mm = serializers.FloatField(required=False)


class SpeciesNameSerializer(serializers.Serializer):
    code = serializers.CharField()
    name = serializers.CharField(source="common_name")
    scientific_name = serializers.CharField()
    length_type = serializers.CharField()


class EstimateSerializer(serializers.Serializer):
    name = serializers.CharField()
    unit = serializers.CharField()
    value = serializers.FloatField(allow_null=True)
    se = serializers.FloatField(allow_null=True)
    lower = serializers.FloatField(allow_null=True)
    upper = serializers.FloatField(allow_null=True)
    level = serializers.FloatField()
    interval = serializers.CharField()
    n = serializers.IntegerField()


class AssumptionSerializer(serializers.Serializer):
    name = serializers.CharField()
    verdict = serializers.ChoiceField(["holds", "doubtful", "fails", "not checked"])
    detail = serializers.CharField()


class MethodSerializer(serializers.Serializer):
    page = serializers.CharField()
    text = serializers.CharField()
    sources = serializers.ListField(child=serializers.CharField())


class LeftOutSerializer(serializers.Serializer):
    reason = serializers.CharField()
    n = serializers.IntegerField()


class FindingSerializer(serializers.Serializer):
    sentence = serializers.CharField()
    species = SpeciesNameSerializer()
    n = serializers.IntegerField()
    left_out = LeftOutSerializer(many=True)
    assumptions = AssumptionSerializer(many=True)
    method = MethodSerializer()


class FrequencySerializer(serializers.Serializer):
    edges = serializers.ListField(child=serializers.FloatField())
    counts = serializers.ListField(child=serializers.IntegerField())
    bin_mm = serializers.FloatField()
    suggested_mm = serializers.FloatField()
    freedman_diaconis_mm = serializers.FloatField(allow_null=True)
    offered_mm = serializers.ListField(child=serializers.FloatField())


class SizeFindingSerializer(FindingSerializer):
    frequency = FrequencySerializer()
    categories = CategorySerializer(many=True)
    median = EstimateSerializer()
    distribution = EstimateSerializer(many=True)
    n_stock = serializers.IntegerField(allow_null=True)


class CurveSerializer(serializers.Serializer):
    length_mm = serializers.ListField(child=serializers.FloatField())
    mass_g = serializers.ListField(child=serializers.FloatField())
    lower_g = serializers.ListField(child=serializers.FloatField())
    upper_g = serializers.ListField(child=serializers.FloatField())


class PointsSerializer(serializers.Serializer):
    capture = serializers.ListField(child=serializers.CharField())
    length_mm = serializers.ListField(child=serializers.FloatField())
    mass_g = serializers.ListField(child=serializers.FloatField())
    studentised = serializers.ListField(child=serializers.FloatField())
    wr = serializers.ListField(child=serializers.FloatField(allow_null=True))


class IsometrySerializer(serializers.Serializer):
    t = serializers.FloatField(allow_null=True)
    p = serializers.FloatField()


class ConditionFindingSerializer(FindingSerializer):
    line = EstimateSerializer(many=True)
    residual_sd = serializers.FloatField()
    r_squared = serializers.FloatField(allow_null=True)
    length_range_mm = serializers.ListField(child=serializers.FloatField(), min_length=2, max_length=2)
    isometry = IsometrySerializer()
    back_transformation = serializers.FloatField()
    curve = CurveSerializer()
    points = PointsSerializer()
    n_drawn = serializers.IntegerField()
    n_flagged = serializers.IntegerField()
    wr = EstimateSerializer(allow_null=True)
    wr_by_category = EstimateSerializer(many=True)
    wr_trend = EstimateSerializer(allow_null=True)
    wr_undefined = serializers.IntegerField(allow_null=True)


class SiteOptionSerializer(serializers.Serializer):
    id = serializers.UUIDField()
    name = serializers.CharField()
    reach = serializers.CharField()


class WaterOptionSerializer(serializers.Serializer):
    id = serializers.UUIDField()
    name = serializers.CharField()
    sites = SiteOptionSerializer(many=True)


class OutingOptionSerializer(serializers.Serializer):
    id = serializers.UUIDField()
    name = serializers.CharField()
    date = serializers.DateField()
    water = serializers.UUIDField(source="water_id")
    gear = serializers.CharField()


class GearOptionSerializer(serializers.Serializer):
    code = serializers.CharField()
    label = serializers.CharField()


class SelectionOptionsSerializer(serializers.Serializer):
    species = SpeciesNameSerializer(many=True)
    outings = OutingOptionSerializer(many=True)
    waters = WaterOptionSerializer(many=True)
    gears = GearOptionSerializer(many=True)


def read_query(serializer_class: type[SelectionSerializer], params: Any) -> SelectionSerializer:
    """A checked query from an address. Django REST framework reads repeated keys of a QueryDict into lists."""
    given = serializer_class(data=params)
    given.is_valid(raise_exception=True)
    return given
