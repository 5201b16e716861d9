"""The whole deck: everything that a tablet needs to work an outing with no signal."""

from typing import Any

from drf_spectacular.utils import extend_schema_field
from rest_framework import serializers

from nailwright.common.field_shapes import FieldSerializer
from nailwright.deck.orders import OrdersSerializer
from nailwright.deck.serializers.captures import CaptureSerializer
from nailwright.deck.serializers.checklists import (
    AllowanceSerializer,
    OutingChecklistSerializer,
    TargetSerializer,
)
from nailwright.deck.serializers.events import EventKindSerializer, EventSerializer
from nailwright.deck.serializers.outings import (
    HandoverSerializer,
    OutingSerializer,
    RunSerializer,
    WaterReadingSerializer,
)
from nailwright.deck.serializers.photos import PhotoSerializer
from nailwright.programmes.serializers.protocol import RowsField
from nailwright.tags.serializers import DeckMarksSerializer
from nailwright.waters.serializers import SiteSerializer
from nailwright_core.common.species import SWIM_BLADDERS


class CategorySerializer(serializers.Serializer):
    name = serializers.CharField()
    from_mm = serializers.FloatField()


class MassTableSerializer(serializers.Serializer):
    length_mm = serializers.ListField(child=serializers.FloatField())
    far_low_g = serializers.ListField(child=serializers.FloatField())
    expected_g = serializers.ListField(
        child=serializers.FloatField(), help_text="By the line that masses are judged by"
    )
    low_g = serializers.ListField(child=serializers.FloatField())
    high_g = serializers.ListField(child=serializers.FloatField())
    far_high_g = serializers.ListField(child=serializers.FloatField())
    standard_g = serializers.ListField(
        child=serializers.FloatField(allow_null=True), help_text="Standard weight; nothing where it is not defined"
    )


class DeckLookalikeSerializer(serializers.Serializer):
    name = serializers.CharField()
    check = serializers.CharField(help_text="What tells the two apart")
    unsure = serializers.CharField(help_text="What to do where that fails; empty where nothing was said")
    photo = serializers.BooleanField(help_text="A photo is asked for")
    picture = serializers.CharField(help_text="What to look at, JPEG as base64; empty where there is none")


class LengthGroupSerializer(serializers.Serializer):
    mean_mm = serializers.FloatField()
    sd_mm = serializers.FloatField()
    n = serializers.IntegerField(help_text="Fish in it, about")
    apart = serializers.BooleanField(help_text="It can be told from its neighbours")


class DeckConversionSerializer(serializers.Serializer):
    from_type = serializers.CharField()
    intercept_mm = serializers.FloatField()
    slope = serializers.FloatField()


class DeckSpeciesSerializer(serializers.Serializer):
    code = serializers.CharField()
    name = serializers.CharField()
    scientific_name = serializers.CharField()
    words = serializers.ListField(child=serializers.CharField(), help_text="Further words by which it is called")
    length_type = serializers.CharField()
    conversions = DeckConversionSerializer(many=True, help_text="From other types of length to its own")
    legal_mm = serializers.ListField(child=serializers.FloatField(allow_null=True), min_length=2, max_length=2)
    legal_bag = serializers.IntegerField(allow_null=True)
    smallest_to_tag_mm = serializers.FloatField(allow_null=True)
    lookalikes = DeckLookalikeSerializer(many=True)
    special_interest = serializers.BooleanField()
    swim_bladder = serializers.ChoiceField(SWIM_BLADDERS)
    categories = CategorySerializer(many=True)
    line_is_own = serializers.BooleanField()
    usual_mm = serializers.ListField(child=serializers.FloatField(), min_length=2, max_length=2)
    bounds_mm = serializers.ListField(child=serializers.FloatField(), min_length=2, max_length=2)
    mass_table = MassTableSerializer()
    last_visit_mm = serializers.ListField(child=serializers.FloatField())
    last_visit_groups = LengthGroupSerializer(many=True, help_text="Groups among those lengths, the shortest first")
    longest_mm = serializers.FloatField(allow_null=True, help_text="Measured in this water so far")


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


class ReadingSerializer(FieldSerializer):
    asked = serializers.ChoiceField([("", "not asked"), ("outing", "each outing"), ("run", "each run")])


class QuotaSerializer(serializers.Serializer):
    species = serializers.CharField()
    zone = serializers.CharField(help_text="Its name; empty: everywhere")
    from_mm = serializers.FloatField()
    to_mm = serializers.FloatField(allow_null=True, help_text="Below this; nothing: any length")
    most = serializers.IntegerField()
    placed = serializers.IntegerField(help_text="Fish given a tag this year in other outings")


class SurgeryStepSerializer(serializers.Serializer):
    code = serializers.CharField()
    words = serializers.CharField()


class SurgerySerializer(serializers.Serializer):
    version = serializers.IntegerField()
    caution = serializers.CharField()
    watch_every_s = serializers.FloatField()
    steps = SurgeryStepSerializer(many=True)


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
    mark = serializers.CharField(
        help_text="Of all in it that others can change: what a tablet asks with, whether anybody did"
    )
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
    species = serializers.SerializerMethodField()
    units = UnitsSerializer()
    slips = SlipSerializer(many=True)
    runs = RunSerializer(many=True)
    sky = SkySerializer(
        allow_null=True, help_text="Sun and moon over the water that day; nothing where nobody knows where it is"
    )
    readings = serializers.SerializerMethodField(help_text="What can be read, and when the programme asks for it")
    captures = serializers.SerializerMethodField()
    water_readings = WaterReadingSerializer(many=True)
    events = serializers.SerializerMethodField(help_text="What was said of fish, baths and runs, as it happened")
    handovers = HandoverSerializer(many=True, help_text="Who signed that it is closed, each time it was")
    photos = PhotoSerializer(many=True, help_text="As they were taken; each picture has an address of its own")
    quotas = QuotaSerializer(many=True, help_text="Tags by zone and length")
    surgery = SurgerySerializer(help_text="Steps of implanting a tag")
    event_kinds = serializers.SerializerMethodField(help_text="What may be said")
    habitats = serializers.DictField(
        child=serializers.DictField(),
        help_text="Bottom and bank of sites as another outing recorded them last, by site",
    )

    @extend_schema_field(DeckSpeciesSerializer(many=True))
    def get_species(self, deck: dict[str, Any]) -> Any:
        return deck["species"]  # plain values already

    @extend_schema_field(ReadingSerializer(many=True))
    def get_readings(self, deck: dict[str, Any]) -> Any:
        return deck["readings"]  # plain values already

    @extend_schema_field(EventSerializer(many=True))
    def get_events(self, deck: dict[str, Any]) -> Any:
        return deck["events"]  # plain values already

    @extend_schema_field(EventKindSerializer(many=True))
    def get_event_kinds(self, deck: dict[str, Any]) -> Any:
        return deck["event_kinds"]  # plain values already

    @extend_schema_field(DeckMarksSerializer)
    def get_marks(self, deck: dict[str, Any]) -> Any:
        return deck["marks"]  # plain values already

    @extend_schema_field(CaptureSerializer(many=True))
    def get_captures(self, deck: dict[str, Any]) -> Any:
        return deck["captures"]  # plain values already

    @extend_schema_field(OrdersSerializer(allow_null=True))
    def get_orders(self, deck: dict[str, Any]) -> Any:
        return OrdersSerializer(deck["orders"]).data if deck["orders"] else None


class DeckPartSerializer(DeckSerializer):
    """What others may do to an outing while a tablet shows it."""

    LIVE = (
        "outing", "checklists", "orders", "targets", "allowances", "runs", "captures", "water_readings", "events", "handovers",
        "photos", "quotas",
    )  # fmt: skip

    def get_fields(self) -> dict[str, serializers.Field]:
        return {name: field for name, field in super().get_fields().items() if name in self.LIVE}


class DeckLiveSerializer(serializers.Serializer):
    mark = serializers.CharField(help_text="To be sent with the next question")
    again_s = serializers.IntegerField(help_text="Seconds after which to ask again")
    protocol = serializers.IntegerField(help_text="Where it is another, the whole deck is to be read anew")
    live = DeckPartSerializer(required=False, help_text="Only where the mark is another")
