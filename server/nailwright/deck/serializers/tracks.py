"""Shapes of tracks."""

from typing import Any

from rest_framework import serializers


def _lines(**more: Any) -> serializers.ListField:
    """Each a list of latitude and longitude."""
    place = serializers.ListField(child=serializers.FloatField())
    return serializers.ListField(child=serializers.ListField(child=place), **more)


class WaterNearSerializer(serializers.Serializer):
    """What of the water lies round a track, as it is drawn."""

    areas = _lines(help_text="Water within an outline")
    islands = _lines(help_text="Holes in it")
    lines = _lines(help_text="A river's line")


class TrackSerializer(serializers.Serializer):
    run = serializers.UUIDField()
    length_m = serializers.FloatField(help_text="Along all pieces; nothing is drawn across a gap")
    gaps = serializers.IntegerField()
    left_out = serializers.IntegerField(help_text="Positions that cannot have been")
    off_water = serializers.IntegerField(
        help_text="Positions that lie off the water as it is drawn: on land, or elsewhere"
    )
    off_water_m = serializers.FloatField(help_text="How far the farthest of them is off, m")
    pieces = _lines(help_text="Between gaps, thinned")
    water = WaterNearSerializer()
