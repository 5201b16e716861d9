"""Shapes of waters."""

from __future__ import annotations

from rest_framework import serializers

from nailwright.waters.models import Water, Zone


class WaterSerializer(serializers.Serializer):
    id = serializers.UUIDField()
    name = serializers.CharField()
    kind = serializers.CharField()


class NewWaterSerializer(serializers.Serializer):
    name = serializers.CharField(max_length=120)
    kind = serializers.ChoiceField(Water.Kind.choices)


class SiteSerializer(serializers.Serializer):
    id = serializers.UUIDField()
    name = serializers.CharField()
    reach = serializers.CharField()
    river_km = serializers.FloatField(allow_null=True)


class ZoneSerializer(serializers.Serializer):
    id = serializers.UUIDField(required=False, help_text="Of a zone that is there already")
    kind = serializers.ChoiceField(Zone.Kind.choices)
    name = serializers.CharField(max_length=60)
    start_m = serializers.FloatField()
    end_m = serializers.FloatField()
    note = serializers.CharField(max_length=200, allow_blank=True, default="")


class ZonesSerializer(serializers.Serializer):
    zones = ZoneSerializer(many=True)
    confirmed = serializers.BooleanField(
        default=False, help_text="A person has said that a stretch to keep clear of shall go or shrink"
    )
    reason = serializers.CharField(max_length=200, allow_blank=True, default="")


class LayerSerializer(serializers.Serializer):
    water = serializers.UUIDField()
    name = serializers.CharField()
    kind = serializers.ChoiceField(Water.Kind.choices)
    line = serializers.ListField(child=serializers.ListField(child=serializers.FloatField()))
