"""Shapes of marks and fish."""

from rest_framework import serializers

from nailwright.tags.models import Encounter, Scan, TagKind


class MarkSerializer(serializers.Serializer):
    kind = serializers.ChoiceField(TagKind.choices)
    number = serializers.CharField()


class ScanSerializer(MarkSerializer):
    """A number that was read on a fish, and what it was known as then."""

    result = serializers.ChoiceField(Scan.Result.choices)


class PlacedMarkSerializer(MarkSerializer):
    placed_at = serializers.DateTimeField()


class JourneySerializer(serializers.Serializer):
    days = serializers.FloatField()
    distance_m = serializers.FloatField(allow_null=True)
    moved = serializers.ChoiceField(["moved", "within error", "unknown"])
    along_km = serializers.FloatField(allow_null=True, help_text="Above zero for upstream")
    growth_mm = serializers.FloatField(allow_null=True)
    growth_mm_month = serializers.FloatField(allow_null=True, help_text="Only over 30 days or more")


class EncounterSerializer(serializers.Serializer):
    kind = serializers.ChoiceField(Encounter.Kind.choices)
    source = serializers.UUIDField(help_text="Key of the capture, card, return or hearing that says so")  # type: ignore[assignment]
    at = serializers.DateTimeField()
    time_zone = serializers.CharField()
    water = serializers.CharField()
    site = serializers.CharField()
    river_km = serializers.FloatField(allow_null=True)
    length_mm = serializers.FloatField(allow_null=True)
    mass_g = serializers.FloatField(allow_null=True)
    disposition = serializers.ChoiceField(
        Encounter.Disposition.choices, allow_blank=True, help_text="How the meeting ended; empty where nothing is said"
    )
    let_go_at = serializers.DateTimeField(allow_null=True)
    journey = JourneySerializer(allow_null=True, help_text="From the encounter before to this one")


class FishStorySerializer(serializers.Serializer):
    id = serializers.UUIDField()
    species = serializers.CharField()
    marks = PlacedMarkSerializer(many=True)
    encounters = EncounterSerializer(many=True)


class StockedTagSerializer(MarkSerializer):
    batch = serializers.CharField()


class LastEncounterSerializer(serializers.Serializer):
    at = serializers.DateTimeField()
    outing = serializers.UUIDField(allow_null=True)
    site = serializers.UUIDField(allow_null=True)
    days = serializers.FloatField(help_text="Since then")
    length_mm = serializers.FloatField(allow_null=True)
    months = serializers.FloatField(allow_null=True, help_text="Since the last measured length")


class KnownSiteSerializer(serializers.Serializer):
    id = serializers.UUIDField()
    name = serializers.CharField()
    water = serializers.CharField()
    river_km = serializers.FloatField(allow_null=True)
    east_m = serializers.FloatField(allow_null=True, help_text="In a plane of the outing's water; nothing on others")
    north_m = serializers.FloatField(allow_null=True)


class MarkedFishSerializer(serializers.Serializer):
    id = serializers.UUIDField()
    species = serializers.CharField()
    marks = MarkSerializer(many=True)
    times_met = serializers.IntegerField()
    last = LastEncounterSerializer()
    notes = serializers.ListField(
        child=serializers.CharField(), help_text="Name or sponsor; how it was treated from depth"
    )


class DeckMarksSerializer(serializers.Serializer):
    stock = StockedTagSerializer(many=True)
    fish = MarkedFishSerializer(many=True)
    sites = KnownSiteSerializer(many=True)
