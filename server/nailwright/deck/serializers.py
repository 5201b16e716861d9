"""Shapes of the deck."""

from typing import Any

from drf_spectacular.utils import extend_schema_field
from rest_framework import serializers

from nailwright.deck.actions.removal import MEANT
from nailwright.deck.call import SEX_EVIDENCE
from nailwright.deck.effort import effort_of_run
from nailwright.deck.models import Allowance, Capture, Gear, Outing, Release, Run, Target, WaterReading
from nailwright.programmes.models import LENGTH_UNITS, MASS_UNITS
from nailwright.programmes.protocol_serializers import RowsField
from nailwright.tags.serializers import DeckMarksSerializer, MarkSerializer, ScanSerializer
from nailwright.waters.serializers import SiteSerializer
from nailwright_core.common.quantities import G_PER, MM_PER
from nailwright_core.common.species_values import LENGTH_TYPES
from nailwright_core.deck.gears import EFFORTS


class OutingSerializer(serializers.ModelSerializer):
    water_name = serializers.CharField(source="water.name")
    time_zone = serializers.CharField(source="water.time_zone")
    n_runs = serializers.IntegerField()
    n_fish = serializers.IntegerField()
    gears = serializers.ListField(child=serializers.ChoiceField(Gear.choices))
    protocol = serializers.IntegerField(
        source="protocol.number", default=None, allow_null=True, help_text="Number of its version"
    )

    class Meta:
        model = Outing
        fields = ["id", "programme", "water", "water_name", "time_zone", "name", "date", "gear", "gears", "state",
                  "length_unit", "mass_unit", "n_runs", "n_fish", "protocol"]  # fmt: skip
        read_only_fields = fields  # an answer always holds them all


class OpenOutingSerializer(serializers.Serializer):
    id = serializers.UUIDField()
    water = serializers.UUIDField()
    date = serializers.DateField()
    gear = serializers.ChoiceField(Gear.choices)
    more_gears = serializers.ListField(child=serializers.ChoiceField(Gear.choices), default=list, max_length=11)
    name = serializers.CharField(max_length=120, allow_blank=True, default="")
    length_unit = serializers.ChoiceField(LENGTH_UNITS, default="mm")
    mass_unit = serializers.ChoiceField(MASS_UNITS, default="g")


class OutingStateSerializer(serializers.Serializer):
    id = serializers.UUIDField(help_text="Key of this change; sending it twice changes nothing the second time.")
    state = serializers.ChoiceField(Outing.State.choices)
    reason = serializers.CharField(max_length=200, allow_blank=True, default="")


class EffortSerializer(serializers.Serializer):
    value = serializers.FloatField(allow_null=True, help_text="Nothing where what it takes was not written down")
    unit = serializers.ChoiceField(list(EFFORTS.items()))


class RunSerializer(serializers.ModelSerializer):
    effort = serializers.SerializerMethodField()
    direction = serializers.ChoiceField(["", *Run.Direction.values])

    class Meta:
        model = Run
        fields = ["id", "outing", "site", "number", "gear", "volts", "amps", "pulse_hz", "pulse_width_ms", "current_on_s",
                  "distance_m", "rods", "nets", "mesh_mm", "hauls", "direction", "started_at", "ended_at", "effort"]  # fmt: skip
        read_only_fields = fields  # an answer always holds them all

    @extend_schema_field(EffortSerializer)
    def get_effort(self, run: Run) -> Any:
        return EffortSerializer(effort_of_run(run)).data


@extend_schema_field({"oneOf": [{"type": "number"}, {"type": "string"}]})
class ReadField(serializers.Field):
    """A figure, or a word of a short list."""

    def to_representation(self, value: Any) -> Any:
        return value


class WaterReadingSerializer(serializers.ModelSerializer):
    class Meta:
        model = WaterReading
        fields = ["id", "outing", "run", "device_time", "temperature_c", "ambient_us_cm", "specific_us_cm",
                  "oxygen_mg_l", "secchi_m", "more"]  # fmt: skip
        read_only_fields = fields  # an answer always holds them all

    more = serializers.DictField(child=ReadField(), help_text="What else was read, by its code")


class AnsweredQuestionSerializer(serializers.Serializer):
    code = serializers.CharField()
    answer = serializers.CharField(required=False)
    called = serializers.CharField(required=False)


def _left(capture: Capture) -> Release | None:
    release: Release | None = getattr(capture, "release", None)
    return release if release and release.deleted_at is None else None


class CaptureSerializer(serializers.ModelSerializer):
    questions = AnsweredQuestionSerializer(many=True, read_only=True)
    length_basis = serializers.CharField(read_only=True, help_text="measured, estimated, or empty with no length")
    mass_basis = serializers.CharField(read_only=True, help_text="measured, estimated, or empty with no mass")

    release = serializers.SerializerMethodField(help_text="How it left; empty while it is aboard")
    strength = serializers.SerializerMethodField(help_text="How strongly a released fish went, 1 to 4")
    reason = serializers.SerializerMethodField(help_text="Why it was released: a code of the protocol's reasons")
    taken_to = serializers.SerializerMethodField(help_text="A code of the protocol's places")
    scans = ScanSerializer(many=True, read_only=True)
    placed = MarkSerializer(many=True, read_only=True)

    @extend_schema_field(serializers.ChoiceField(["", *Release.Fate.values]))
    def get_release(self, capture: Capture) -> str:
        release = _left(capture)
        return release.fate if release else ""

    @extend_schema_field(serializers.IntegerField(allow_null=True))
    def get_strength(self, capture: Capture) -> int | None:
        release = _left(capture)
        return release.strength if release else None

    def get_reason(self, capture: Capture) -> str:
        release = _left(capture)
        return release.reason if release else ""

    def get_taken_to(self, capture: Capture) -> str:
        release = _left(capture)
        return release.taken_to if release else ""

    class Meta:
        model = Capture
        fields = ["id", "run", "species", "count", "length_mm", "length_type", "length_basis", "length_text",
                  "length_unit", "mass_g", "mass_basis", "mass_text", "mass_unit", "sex", "sex_evidence", "note", "questions", "fish",
                  "scanned", "scans", "release", "strength", "reason", "taken_to", "placed", "device_time"]  # fmt: skip
        read_only_fields = fields  # an answer always holds them all


class DeletedSerializer(serializers.Serializer):
    id = serializers.UUIDField(help_text="Key of this change; sending it twice changes nothing the second time.")
    deleted = serializers.BooleanField()
    reason = serializers.CharField(max_length=200, allow_blank=True)
    meant = serializers.ChoiceField(
        ["", *MEANT], default="", help_text="Asked for where the call marked a fish that later calls know by that mark"
    )


class CaptureInPlaceSerializer(serializers.Serializer):
    """A fish with where and when it was caught."""

    capture = CaptureSerializer()
    deleted = serializers.BooleanField()
    outing = serializers.UUIDField()
    outing_name = serializers.CharField()
    date = serializers.DateField()
    time_zone = serializers.CharField()
    site = serializers.CharField()
    run = serializers.IntegerField()
    recorder = serializers.CharField()


class CorrectionSerializer(serializers.Serializer):
    """Only what is sent changes; a length or mass is read in the unit that is sent beside it."""

    id = serializers.UUIDField(help_text="Key of this change; sending it twice changes nothing the second time.")
    reason = serializers.CharField(max_length=200, allow_blank=True)
    species = serializers.CharField(max_length=8, required=False)
    length = serializers.CharField(max_length=40, required=False, allow_blank=True)
    length_unit = serializers.ChoiceField(list(MM_PER), required=False)
    length_type = serializers.ChoiceField(LENGTH_TYPES, required=False)
    mass = serializers.CharField(max_length=40, required=False, allow_blank=True)
    mass_unit = serializers.ChoiceField(list(G_PER), required=False)
    sex = serializers.ChoiceField(Capture.Sex.choices, required=False)
    sex_evidence = serializers.ChoiceField(SEX_EVIDENCE, required=False, allow_blank=True)
    count = serializers.IntegerField(required=False)
    note = serializers.CharField(max_length=200, required=False, allow_blank=True)
    questions = AnsweredQuestionSerializer(many=True, required=False)


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


class TargetSerializer(serializers.ModelSerializer):
    class Meta:
        model = Target
        fields = ["id", "species", "what", "wanted", "from_mm", "reach"]
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


class GoalSerializer(serializers.Serializer):
    us_cm = serializers.FloatField(help_text="Ambient conductivity of the water for which it holds")
    volts = serializers.FloatField()
    amps = serializers.FloatField()
    most_volts = serializers.FloatField(help_text="What the unit, or the limits that were chosen, allow there")


class ElectroOrdersSerializer(serializers.Serializer):
    goals = GoalSerializer(many=True)
    today_us_cm = serializers.FloatField(help_text="Ambient conductivity that the plan reckoned with")
    ambient_shares = serializers.ListField(
        child=serializers.FloatField(), help_text="Ambient over specific conductivity at 0, 1, 2... C"
    )
    pulse_hz = serializers.FloatField()
    pulse_width_ms = serializers.FloatField()
    most_amps = serializers.FloatField()
    most_hz = serializers.FloatField()


class WellOrdersSerializer(serializers.Serializer):
    litres = serializers.FloatField()
    most_fish = serializers.IntegerField(help_text="Large fish, by number")
    most_g = serializers.FloatField(help_text="Load, g")


class OrdersSerializer(serializers.Serializer):
    """What the plan tells the deck; an outing that was opened without a plan has none."""

    survey = serializers.CharField()
    lines = serializers.ListField(child=serializers.CharField(), help_text="Limits in words")
    electro = ElectroOrdersSerializer(allow_null=True)
    well = WellOrdersSerializer(allow_null=True)
    mark_from_mm = serializers.FloatField(allow_null=True, help_text="The smallest fish that shall carry a tag")


class NewAllowanceSerializer(serializers.Serializer):
    permit = serializers.CharField(max_length=120, help_text="Name or number")
    species = serializers.CharField(max_length=8, allow_blank=True, default="", help_text="Empty: all species together")
    what = serializers.ChoiceField(Allowance.What.choices)
    most = serializers.IntegerField(min_value=0, max_value=100_000_000)
    first = serializers.DateField()
    last = serializers.DateField()


class AllowanceSerializer(NewAllowanceSerializer):
    id = serializers.UUIDField()
    species_name = serializers.CharField()
    counted = serializers.IntegerField()
    standing = serializers.ChoiceField(["open", "near", "last", "over"])


class TakenOutSerializer(serializers.Serializer):
    deleted = serializers.BooleanField()


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


class TargetProgressSerializer(serializers.Serializer):
    species = serializers.CharField()
    what = serializers.ChoiceField(Target.What.choices)
    from_mm = serializers.FloatField(allow_null=True)
    reach = serializers.CharField()
    wanted = serializers.IntegerField()
    done = serializers.IntegerField()


class OpenOutingTodaySerializer(serializers.Serializer):
    outing = OutingSerializer()
    aboard = serializers.IntegerField()
    current_on_s = serializers.FloatField()
    targets = TargetProgressSerializer(many=True)


class WaitingSerializer(serializers.Serializer):
    code = serializers.CharField()
    text = serializers.CharField()
    outing = serializers.UUIDField(allow_null=True)
    n = serializers.IntegerField()


class StepSerializer(serializers.Serializer):
    code = serializers.ChoiceField(["water", "species", "people", "outing"])
    done = serializers.BooleanField()


class TodaySerializer(serializers.Serializer):
    steps = StepSerializer(many=True, help_text="What is needed before a programme's first outing; empty after it")
    outings = OpenOutingTodaySerializer(many=True)
    waiting = WaitingSerializer(many=True)
    recent = OutingSerializer(many=True)


class ChangeSerializer(serializers.Serializer):
    id = serializers.UUIDField()
    person = serializers.CharField(source="person.name")
    device_time = serializers.DateTimeField()
    server_time = serializers.DateTimeField()
    reason = serializers.CharField()
    before = serializers.DictField()
    after = serializers.DictField()
    late = serializers.DictField(help_text="What this act wanted, where a later one stands")


class OtherSerializer(serializers.Serializer):
    name = serializers.CharField(help_text="As it was called: what stands first in the note")
    n = serializers.IntegerField(help_text="Fish")


class NameOthersSerializer(serializers.Serializer):
    name = serializers.CharField(max_length=200)
    code = serializers.CharField(max_length=8, help_text="Of a species on the programme's list")


class NamedSerializer(serializers.Serializer):
    named = serializers.IntegerField()
    left = serializers.ListField(child=serializers.CharField(), help_text="Why others of the name could not be of it")
