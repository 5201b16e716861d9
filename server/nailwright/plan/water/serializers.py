"""Shapes of a reach with its zones and sites."""

from __future__ import annotations

from rest_framework import serializers

from nailwright.waters.serializers import ZoneSerializer


class ReachSiteSerializer(serializers.Serializer):
    id = serializers.UUIDField()
    name = serializers.CharField()
    lon = serializers.FloatField()
    lat = serializers.FloatField()
    along_m = serializers.FloatField()
    fish = serializers.IntegerField()
    runs = serializers.IntegerField()


class ReachSerializer(serializers.Serializer):
    water = serializers.UUIDField()
    name = serializers.CharField()
    kind = serializers.CharField()
    length_m = serializers.FloatField()
    line = serializers.ListField(child=serializers.ListField(child=serializers.FloatField()))
    along_m = serializers.ListField(child=serializers.FloatField())
    zones = ZoneSerializer(many=True)
    sites = ReachSiteSerializer(many=True)


class LineUploadSerializer(serializers.Serializer):
    file = serializers.FileField(help_text="GeoJSON, GPX, KML or CSV")
    turn = serializers.BooleanField(default=False)
