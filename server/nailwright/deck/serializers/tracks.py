"""Shapes of tracks."""

from rest_framework import serializers


class TrackSerializer(serializers.Serializer):
    run = serializers.UUIDField()
    length_m = serializers.FloatField(help_text="Along all pieces; nothing is drawn across a gap")
    gaps = serializers.IntegerField()
    left_out = serializers.IntegerField(help_text="Positions that cannot have been")
    off_water = serializers.IntegerField(
        help_text="Positions that lie off the water as it is drawn: on land, or elsewhere"
    )
    off_water_m = serializers.FloatField(help_text="How far the farthest of them is off, m")
    pieces = serializers.ListField(
        child=serializers.ListField(child=serializers.ListField(child=serializers.FloatField())),
        help_text="Each a list of latitude and longitude, thinned",
    )
