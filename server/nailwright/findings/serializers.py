"""Shapes of kept findings and of what can be selected."""

from __future__ import annotations

from rest_framework import serializers

from nailwright.findings.shapes import SpeciesNameSerializer


class NewSelectionSerializer(serializers.Serializer):
    query = serializers.DictField(help_text="A selection as an address would hold it, with lists as lists")


class LongSelectionSerializer(NewSelectionSerializer):
    key = serializers.CharField(help_text="Goes into an address as chosen=..., in place of what it stands for")


class SaveFindingSerializer(serializers.Serializer):
    id = serializers.UUIDField(help_text="Key of the kept finding; sending it twice keeps it once.")
    kind = serializers.CharField(max_length=24)
    query = serializers.DictField(help_text="The question, as it stands in the finding's address")
    title = serializers.CharField(max_length=120, allow_blank=True, default="")


class SavedFindingSerializer(serializers.Serializer):
    id = serializers.UUIDField(source="finding.id")
    kind = serializers.CharField(source="finding.kind")
    title = serializers.CharField(source="finding.title")
    query = serializers.DictField(source="finding.query")
    sentence = serializers.CharField(source="finding.result.sentence")
    result = serializers.DictField(source="finding.result")
    seed = serializers.IntegerField(source="finding.seed", allow_null=True)
    saved_by = serializers.CharField(source="finding.saved_by.name")
    saved_at = serializers.DateTimeField(source="finding.saved_at")
    changed = serializers.BooleanField(help_text="Whether the rows behind it have changed since")


class SiteOptionSerializer(serializers.Serializer):
    id = serializers.UUIDField()
    name = serializers.CharField()
    zone = serializers.CharField(source="zone_name")


class WaterOptionSerializer(serializers.Serializer):
    id = serializers.UUIDField()
    name = serializers.CharField()
    sites = SiteOptionSerializer(many=True)


class OutingOptionSerializer(serializers.Serializer):
    id = serializers.UUIDField()
    name = serializers.CharField()
    date = serializers.DateField()
    water = serializers.UUIDField(source="water_id")
    gear = serializers.CharField()


class GearOptionSerializer(serializers.Serializer):
    code = serializers.CharField()
    label = serializers.CharField()  # type: ignore[assignment]


class KindFiltersSerializer(serializers.Serializer):
    kind = serializers.CharField()
    filters = serializers.ListField(child=serializers.CharField(), help_text="Parts of a selection that it reads")
    species = serializers.CharField(help_text="To begin with; empty: the first of the programme")


class SelectionOptionsSerializer(serializers.Serializer):
    species = SpeciesNameSerializer(many=True)
    outings = OutingOptionSerializer(many=True)
    waters = WaterOptionSerializer(many=True)
    gears = GearOptionSerializer(many=True)
    kinds = KindFiltersSerializer(many=True, help_text="Kinds of finding, each with the filters of its subject")


class SeriesDaySerializer(serializers.Serializer):
    day = serializers.DateField()
    mean = serializers.FloatField()
    n = serializers.IntegerField(help_text="Readings of that day")


class SeriesOutingSerializer(serializers.Serializer):
    date = serializers.DateField()
    name = serializers.CharField()
    fish = serializers.IntegerField()
    mean = serializers.FloatField(allow_null=True, help_text="Nothing where the series has no reading that day")


class OverlaidSeriesSerializer(serializers.Serializer):
    id = serializers.UUIDField()
    name = serializers.CharField()
    unit = serializers.CharField()
    source = serializers.CharField()  # type: ignore[assignment]


class SeriesOverlaySerializer(serializers.Serializer):
    series = OverlaidSeriesSerializer()
    days = SeriesDaySerializer(many=True)
    outings = SeriesOutingSerializer(many=True)
