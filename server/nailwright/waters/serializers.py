"""Shapes of waters."""

from __future__ import annotations

from typing import Any

from drf_spectacular.utils import extend_schema_field
from rest_framework import serializers

from nailwright.waters.models import Site, Water, Zone


@extend_schema_field(serializers.FloatField(allow_null=True))
class _PartOfPosition(serializers.ReadOnlyField):
    """Latitude or longitude of what has a ``position``."""

    def __init__(self, place: int, **more: Any) -> None:
        super().__init__(source="position", **more)
        self.place = place

    def to_representation(self, value: Any) -> Any:
        return value[self.place]


def _latitude(words: str | None = None) -> _PartOfPosition:
    return _PartOfPosition(0, help_text=words)


def _longitude() -> _PartOfPosition:
    return _PartOfPosition(1)


class WaterSerializer(serializers.Serializer):
    id = serializers.UUIDField()
    name = serializers.CharField()
    kind = serializers.ChoiceField(Water.Kind.choices)
    shape = serializers.SerializerMethodField(help_text="Point, LineString, Polygon, or empty where it has none yet")
    n_sites = serializers.IntegerField(default=0)
    latitude = _latitude("Of one that is a point")
    longitude = _longitude()

    @extend_schema_field(serializers.CharField())
    def get_shape(self, water: Water) -> str:
        return str((water.geometry or {}).get("type", ""))


class _PlacedSerializer(serializers.Serializer):
    """Something that may have a point; both figures or none."""

    latitude = serializers.FloatField(min_value=-90, max_value=90, required=False, allow_null=True)
    longitude = serializers.FloatField(min_value=-180, max_value=180, required=False, allow_null=True)

    def validate(self, given: dict[str, Any]) -> dict[str, Any]:
        at = given.pop("longitude", None), given.pop("latitude", None)
        if (at[0] is None) != (at[1] is None):
            raise serializers.ValidationError({"latitude": "Expected latitude and longitude, both or none."})
        return {**given, "point": None if at[0] is None else at}


class NewWaterSerializer(_PlacedSerializer):
    name = serializers.CharField(max_length=120)
    kind = serializers.ChoiceField(Water.Kind.choices)


class NewSiteSerializer(_PlacedSerializer):
    id = serializers.UUIDField(
        required=False, help_text="Made by the client, so that a second touch makes no second site"
    )
    name = serializers.CharField(max_length=60)
    zone = serializers.CharField(
        max_length=60, required=False, allow_blank=True, default="", help_text="Its name; made where there is none"
    )


class SiteSerializer(serializers.Serializer):
    id = serializers.UUIDField()
    name = serializers.CharField()
    zone = serializers.CharField(source="zone_name", help_text="Its name")
    river_km = serializers.FloatField(allow_null=True)


class PlacedSiteSerializer(SiteSerializer):
    """A site with its position, for those who may add sites."""

    latitude = _latitude()
    longitude = _longitude()
    deleted = serializers.SerializerMethodField(help_text="Nobody goes there any more")

    def get_deleted(self, site: Site) -> bool:
        return site.retired_at is not None

    def to_representation(self, site: Site) -> dict[str, Any]:
        shown = super().to_representation(site)
        return shown if self.context.get("placed", True) else {**shown, "latitude": None, "longitude": None}


class _ChangePlacedSerializer(_PlacedSerializer):
    """What is left out stays as it is, the place too."""

    reason = serializers.CharField(max_length=200, required=False, allow_blank=True, default="")


class ChangeWaterSerializer(_ChangePlacedSerializer):
    name = serializers.CharField(max_length=120, required=False)
    kind = serializers.ChoiceField(Water.Kind.choices, required=False)


class ChangeSiteSerializer(_ChangePlacedSerializer):
    name = serializers.CharField(max_length=60, required=False)
    zone = serializers.CharField(
        max_length=60, required=False, allow_blank=True, help_text="Its name; made where there is none"
    )


class SiteDeletedSerializer(serializers.Serializer):
    deleted = serializers.BooleanField()


class ZoneSerializer(serializers.Serializer):
    id = serializers.UUIDField(required=False, help_text="Of a zone that is there already")
    kind = serializers.ChoiceField(Zone.Kind.choices)
    name = serializers.CharField(max_length=60)
    start_m = serializers.FloatField()
    end_m = serializers.FloatField()
    note = serializers.CharField(max_length=200, allow_blank=True, default="")


class ZonesSerializer(serializers.Serializer):
    zones = ZoneSerializer(many=True)
    confirmed = serializers.BooleanField(
        default=False, help_text="A person has said that a stretch to keep clear of shall go or shrink"
    )
    reason = serializers.CharField(max_length=200, allow_blank=True, default="")


class LayerSerializer(serializers.Serializer):
    water = serializers.UUIDField()
    name = serializers.CharField()
    kind = serializers.ChoiceField(Water.Kind.choices)
    line = serializers.ListField(child=serializers.ListField(child=serializers.FloatField()))


class SeriesSerializer(serializers.Serializer):
    """Readings from elsewhere."""

    id = serializers.UUIDField()
    water = serializers.UUIDField(source="water_id")
    water_name = serializers.CharField(source="water.name")
    name = serializers.CharField()
    unit = serializers.CharField()
    source = serializers.CharField()  # type: ignore[assignment]
    n = serializers.IntegerField()
    first = serializers.DateTimeField(allow_null=True)
    last = serializers.DateTimeField(allow_null=True)


class NewSeriesSerializer(serializers.Serializer):
    name = serializers.CharField(max_length=60)
    unit = serializers.CharField(max_length=20, allow_blank=True, default="")
    source = serializers.CharField(  # type: ignore[assignment]
        max_length=200, help_text="Who measured it, and where it was taken from"
    )
    file = serializers.FileField(help_text="CSV: a day or time, and a figure")


class BroughtSeriesSerializer(serializers.Serializer):
    series = SeriesSerializer(many=True)
    new = serializers.IntegerField()
    changed = serializers.IntegerField()
    same = serializers.IntegerField()
    empty = serializers.IntegerField(help_text="Lines without a figure")


class SeriesDeletedSerializer(serializers.Serializer):
    deleted = serializers.BooleanField()
