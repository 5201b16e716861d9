"""Shapes of photos."""

from rest_framework import serializers

from nailwright.deck.models import Photo


class PhotoSerializer(serializers.Serializer):
    id = serializers.UUIDField()
    capture = serializers.UUIDField(source="capture_id", allow_null=True)
    shows = serializers.ChoiceField(Photo.Shows.choices)
    note = serializers.CharField()
    device_time = serializers.DateTimeField()


class PhotoQuerySerializer(serializers.Serializer):
    small = serializers.BooleanField(default=False)
