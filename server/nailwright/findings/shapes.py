"""Shapes that findings share."""

from __future__ import annotations

from typing import get_args

from rest_framework import serializers

from nailwright_core.common.estimate import Verdict


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


class TrendSerializer(serializers.Serializer):
    slope = EstimateSerializer(help_text="Change with one step along the groups' order")
    p = serializers.FloatField()


class AssumptionSerializer(serializers.Serializer):
    name = serializers.CharField()
    verdict = serializers.ChoiceField(get_args(Verdict))
    detail = serializers.CharField()


class MethodSerializer(serializers.Serializer):
    page = serializers.CharField()
    text = serializers.CharField()
    sources = serializers.ListField(child=serializers.CharField())


class LeftOutSerializer(serializers.Serializer):
    reason = serializers.CharField()
    n = serializers.IntegerField()


class DerivedSerializer(serializers.Serializer):
    from_type = serializers.CharField(help_text="Length type in which they were measured")
    n = serializers.IntegerField()
    sd_mm = serializers.FloatField(
        help_text="Residual SD of the line by which they were turned into the species' own type"
    )
    source = serializers.CharField()  # type: ignore[assignment]


class FindingSerializer(serializers.Serializer):
    sentence = serializers.CharField()
    species = SpeciesNameSerializer()
    n = serializers.IntegerField()
    left_out = LeftOutSerializer(many=True)
    derived = DerivedSerializer(many=True, help_text="Lengths that were measured as another type")
    doubts = serializers.ListField(
        child=serializers.CharField(),
        help_text="Slips that many of these fish share: to be put right before the answer is read",
    )
    assumptions = AssumptionSerializer(many=True)
    method = MethodSerializer()
