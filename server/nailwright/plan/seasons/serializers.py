"""Shapes of seasons."""

from __future__ import annotations

from rest_framework import serializers

from nailwright.plan.models import Season


class SeasonSerializer(serializers.ModelSerializer):
    class Meta:
        model = Season
        fields = ["id", "water", "kind", "name", "first_day", "last_day"]
        read_only_fields = ["id"]


class NewSeasonSerializer(serializers.Serializer):
    water = serializers.UUIDField(allow_null=True, default=None)
    kind = serializers.ChoiceField(Season.Kind.choices)
    name = serializers.CharField(max_length=120)
    first_day = serializers.CharField(max_length=5, help_text="MM-DD")
    last_day = serializers.CharField(max_length=5, help_text="MM-DD")
