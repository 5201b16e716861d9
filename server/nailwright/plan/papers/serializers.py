"""Shapes of papers and seasons."""

from __future__ import annotations

from datetime import date

from rest_framework import serializers

from nailwright.deck.models import Gear
from nailwright.plan.models import Paper, Season
from nailwright.plan.readiness import paper_state


class PaperSerializer(serializers.ModelSerializer):
    state = serializers.SerializerMethodField()

    class Meta:
        model = Paper
        fields = ["id", "kind", "name", "holder", "number", "gears", "first", "last", "state"]
        read_only_fields = ["id", "state"]

    gears = serializers.ListField(child=serializers.ChoiceField(Gear.choices), default=list)

    def get_state(self, paper: Paper) -> str:
        return paper_state(paper, date.today())


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
