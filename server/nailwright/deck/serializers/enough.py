"""Shapes of when it is enough."""

from rest_framework import serializers


class EnoughLineSerializer(serializers.Serializer):
    species = serializers.CharField()
    name = serializers.CharField()
    reached = serializers.BooleanField()
    more = serializers.IntegerField(allow_null=True, help_text="Fish or sites; nothing where it cannot be said yet")
    words = serializers.CharField()
