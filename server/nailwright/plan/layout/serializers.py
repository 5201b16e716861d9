"""Shapes of planned sites."""

from __future__ import annotations

from rest_framework import serializers


class PlannedSiteSerializer(serializers.Serializer):
    number = serializers.IntegerField()
    start_m = serializers.FloatField()
    end_m = serializers.FloatField()
    zone = serializers.CharField()
    moved = serializers.CharField()
    lon = serializers.FloatField(allow_null=True)
    lat = serializers.FloatField(allow_null=True)


class MoveSiteSerializer(serializers.Serializer):
    number = serializers.IntegerField()
    start_m = serializers.FloatField()
    reason = serializers.CharField(max_length=200, allow_blank=True)
