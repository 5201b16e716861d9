"""The whole deck: everything that a tablet needs to work an outing with no signal."""

from typing import Any

from drf_spectacular.utils import extend_schema_field
from rest_framework import serializers

from nailwright.deck.serializers.captures import CaptureSerializer
from nailwright.deck.serializers.checklists import (
    AllowanceSerializer,
    OrdersSerializer,
    OutingChecklistSerializer,
    TargetSerializer,
)
from nailwright.deck.serializers.outings import OutingSerializer, RunSerializer, WaterReadingSerializer
from nailwright.programmes.serializers.protocol import RowsField
from nailwright.tags.serializers import DeckMarksSerializer
from nailwright.waters.serializers import SiteSerializer


class CategorySerializer(serializers.Serializer):
    name = serializers.CharField()
    from_mm = serializers.FloatField()


class MassTableSerializer(serializers.Serializer):
    length_mm = serializers.ListField(child=serializers.FloatField())
    far_low_g = serializers.ListField(child=serializers.FloatField())
    low_g = serializers.ListField(child=serializers.FloatField())
    high_g = serializers.ListField(child=serializers.FloatField())
    far_high_g = serializers.ListField(child=serializers.FloatField())


class DeckLookalikeSerializer(serializers.Serializer):
    name = serializers.CharField()
    check = serializers.CharField(help_text="What tells the two apart")


class DeckSpeciesSerializer(serializers.Serializer):
    code = serializers.CharField()
    name = serializers.CharField()
    scientific_name = serializers.CharField()
    words = serializers.ListField(child=serializers.CharField(), help_text="Further words by which it is called")
    length_type = serializers.CharField()
    legal_mm = serializers.ListField(child=serializers.FloatField(allow_null=True), min_length=2, max_length=2)
    smallest_to_tag_mm = serializers.FloatField(allow_null=True)
    lookalikes = DeckLookalikeSerializer(many=True)
    special_interest = serializers.BooleanField()
    categories = CategorySerializer(many=True)
    line_is_own = serializers.BooleanField()
    usual_mm = serializers.ListField(child=serializers.FloatField(), min_length=2, max_length=2)
    bounds_mm = serializers.ListField(child=serializers.FloatField(), min_length=2, max_length=2)
    mass_table = MassTableSerializer()
    last_visit_mm = serializers.ListField(child=serializers.FloatField())


class UnitTableSerializer(serializers.Serializer):
    factors = serializers.DictField(child=serializers.FloatField())
    spellings = serializers.DictField(child=serializers.CharField())
    compound = serializers.DictField(child=serializers.CharField())


class UnitsSerializer(serializers.Serializer):
    length = UnitTableSerializer()
    mass = UnitTableSerializer()


class SlipSerializer(serializers.Serializer):
    code = serializers.CharField()
    label = serializers.CharField()  # type: ignore[assignment]
    what = serializers.ChoiceField(["length", "mass"])
    factor = serializers.FloatField()


class SkySerializer(serializers.Serializer):
    sunrise = serializers.DateTimeField(allow_null=True)
    sunset = serializers.DateTimeField(allow_null=True)
    moon_share = serializers.FloatField(help_text="Of its face that is lit, about")
    moon = serializers.CharField(help_text="waxing or waning, new or full")


class ReadingSerializer(serializers.Serializer):
    code = serializers.CharField()
    title = serializers.CharField()
    unit = serializers.CharField()
    low = serializers.FloatField()
    high = serializers.FloatField()
    choices = serializers.ListField(child=serializers.CharField())
    whole = serializers.BooleanField()
    asked = serializers.ChoiceField([("", "not asked"), ("outing", "each outing"), ("run", "each run")])


class CrewCodeSerializer(serializers.Serializer):
    person = serializers.UUIDField()
    name = serializers.CharField()
    salt = serializers.CharField(help_text="Hexadecimal")
    digest = serializers.CharField(help_text="PBKDF2 with SHA-256 of the code, hexadecimal")
    rounds = serializers.IntegerField()


class DeckProtocolSerializer(serializers.Serializer):
    number = serializers.IntegerField(help_text="0: from before there were protocols; what ships holds")
    values = RowsField()


class DeckSerializer(serializers.Serializer):
    outing = OutingSerializer()
    checklists = OutingChecklistSerializer(many=True)
    orders = serializers.SerializerMethodField()
    crew = CrewCodeSerializer(many=True, help_text="Who can take over this tablet by a short code")
    protocol = DeckProtocolSerializer(help_text="What this outing goes by")
    targets = TargetSerializer(many=True)
    allowances = AllowanceSerializer(
        many=True, help_text="Of permits that hold on the day; ``counted`` without this outing"
    )
    marks = serializers.SerializerMethodField()
    sites = SiteSerializer(many=True)
    species = DeckSpeciesSerializer(many=True)
    units = UnitsSerializer()
    slips = SlipSerializer(many=True)
    runs = RunSerializer(many=True)
    sky = SkySerializer(
        allow_null=True, help_text="Sun and moon over the water that day; nothing where nobody knows where it is"
    )
    readings = ReadingSerializer(many=True, help_text="What can be read, and when the programme asks for it")
    captures = serializers.SerializerMethodField()
    water_readings = WaterReadingSerializer(many=True)

    @extend_schema_field(DeckMarksSerializer)
    def get_marks(self, deck: dict[str, Any]) -> Any:
        return deck["marks"]  # plain values already

    @extend_schema_field(CaptureSerializer(many=True))
    def get_captures(self, deck: dict[str, Any]) -> Any:
        return deck["captures"]  # plain values already

    @extend_schema_field(OrdersSerializer(allow_null=True))
    def get_orders(self, deck: dict[str, Any]) -> Any:
        return OrdersSerializer(deck["orders"]).data if deck["orders"] else None
