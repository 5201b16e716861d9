"""Shapes of passes at a site."""

from rest_framework import serializers


class PassesOfSpeciesSerializer(serializers.Serializer):
    species = serializers.CharField()
    name = serializers.CharField()
    catches = serializers.ListField(child=serializers.IntegerField(), help_text="One count a pass")
    another = serializers.BooleanField(help_text="Whether another pass is advised")
    words = serializers.CharField(help_text="Empty after the first pass")


class PassesSerializer(serializers.Serializer):
    site = serializers.UUIDField()
    name = serializers.CharField()
    passes = serializers.IntegerField()
    species = PassesOfSpeciesSerializer(many=True)
    before = serializers.CharField(help_text="Against the last visit here, in a sentence; empty where there was none")
