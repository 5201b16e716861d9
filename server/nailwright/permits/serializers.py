"""Shapes of permits, certificates and allowances."""

from __future__ import annotations

from datetime import date

from rest_framework import serializers

from nailwright.deck.models import Gear
from nailwright.permits.models import Allowance, Permit
from nailwright.permits.states import permit_state


class PermitSerializer(serializers.ModelSerializer):
    state = serializers.SerializerMethodField()

    class Meta:
        model = Permit
        fields = ["id", "kind", "name", "holder", "number", "gears", "first", "last", "state"]
        read_only_fields = ["id", "state"]

    gears = serializers.ListField(child=serializers.ChoiceField(Gear.choices), default=list)

    def get_state(self, permit: Permit) -> str:
        return permit_state(permit, date.today())


class NewAllowanceSerializer(serializers.Serializer):
    permit = serializers.UUIDField()
    species = serializers.CharField(max_length=8, allow_blank=True, default="", help_text="Empty: all species together")
    what = serializers.ChoiceField(Allowance.What.choices)
    most = serializers.IntegerField(min_value=0, max_value=100_000_000)
    first = serializers.DateField()
    last = serializers.DateField()


class PermitReportQuerySerializer(serializers.Serializer):
    form = serializers.ChoiceField(["pdf", "csv"], default="pdf")
    paper = serializers.ChoiceField(["a4", "letter"], default="a4")
