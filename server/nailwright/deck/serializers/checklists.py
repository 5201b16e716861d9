"""Shapes of what an outing has to keep to: checklists, targets, allowances."""

from rest_framework import serializers

from nailwright.deck.models import Target
from nailwright_core.deck.permits import COUNTED


class TargetSerializer(serializers.ModelSerializer):
    zone = serializers.CharField(source="zone_name", help_text="Its name; empty: any")

    class Meta:
        model = Target
        fields = ["id", "species", "what", "wanted", "from_mm", "zone"]
        read_only_fields = fields


class SignatureSerializer(serializers.Serializer):
    signed = serializers.BooleanField(help_text="False: the outing went on without it, and note says why")
    name = serializers.CharField()
    note = serializers.CharField()
    at = serializers.DateTimeField()


class OutingChecklistSerializer(serializers.Serializer):
    code = serializers.CharField()
    version = serializers.IntegerField()
    title = serializers.CharField()
    lines = serializers.ListField(child=serializers.CharField())
    note = serializers.CharField()
    signature = SignatureSerializer(allow_null=True)


class AllowanceSerializer(serializers.Serializer):
    """What a permit allows, with what is counted against it: the room of permits fills it in."""

    id = serializers.UUIDField()
    permit_id = serializers.UUIDField()
    permit = serializers.CharField(help_text="Its name")
    species = serializers.CharField(allow_blank=True, help_text="Empty: all species together")
    species_name = serializers.CharField()
    what = serializers.ChoiceField(COUNTED)
    most = serializers.IntegerField()
    first = serializers.DateField()
    last = serializers.DateField()
    counted = serializers.IntegerField()
    standing = serializers.ChoiceField(["open", "near", "last", "over"])


class TakenOutSerializer(serializers.Serializer):
    deleted = serializers.BooleanField()
