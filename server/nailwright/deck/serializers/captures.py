"""Shapes of fish: as called, in their place, corrected, their history."""

from typing import Any

from drf_spectacular.utils import extend_schema_field
from rest_framework import serializers

from nailwright.deck.calling.call import SEX_EVIDENCE
from nailwright.deck.calling.removal import MEANT
from nailwright.deck.models import Capture, Release
from nailwright.deck.serializers.events import EventKindSerializer, EventSerializer
from nailwright.deck.serializers.photos import PhotoSerializer
from nailwright.tags.models import Placement, TagKind
from nailwright.tags.serializers import ScanSerializer
from nailwright_core.common.quantities import G_PER, MM_PER
from nailwright_core.common.species_values import LENGTH_TYPES


class AnsweredQuestionSerializer(serializers.Serializer):
    code = serializers.CharField()
    answer = serializers.CharField(required=False)
    called = serializers.CharField(required=False)


def _left(capture: Capture) -> Release | None:
    release: Release | None = getattr(capture, "release", None)
    return release if release and release.deleted_at is None else None


class PlacedSerializer(serializers.Serializer):
    kind = serializers.ChoiceField(TagKind.choices, source="tag.kind")
    number = serializers.CharField(source="tag.number")
    body_site = serializers.CharField(help_text="A code of the protocol's body sites")
    quality = serializers.ChoiceField([("", "not said"), *Placement.Quality.choices])


class CaptureSerializer(serializers.ModelSerializer):
    questions = AnsweredQuestionSerializer(many=True, read_only=True)
    length_basis = serializers.CharField(read_only=True, help_text="measured, estimated, or empty with no length")
    mass_basis = serializers.CharField(read_only=True, help_text="measured, estimated, or empty with no mass")

    release = serializers.SerializerMethodField(help_text="How it left; empty while it is aboard")
    strength = serializers.SerializerMethodField(help_text="How strongly a released fish went, 1 to 4")
    reason = serializers.SerializerMethodField(help_text="Why it was released: a code of the protocol's reasons")
    taken_to = serializers.SerializerMethodField(help_text="A code of the protocol's places")
    scans = ScanSerializer(many=True, read_only=True)
    placed = PlacedSerializer(many=True, read_only=True)

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


class FoundCaptureSerializer(CaptureSerializer):
    """A fish whose run may be one that is not shown."""

    run: serializers.PrimaryKeyRelatedField = serializers.PrimaryKeyRelatedField(read_only=True, allow_null=True)


class CaptureInPlaceSerializer(serializers.Serializer):
    """A fish with where and when it was caught."""

    capture = FoundCaptureSerializer()
    deleted = serializers.BooleanField()
    outing = serializers.UUIDField()
    outing_name = serializers.CharField()
    date = serializers.DateField()
    time_zone = serializers.CharField()
    site = serializers.CharField()
    run = serializers.IntegerField(allow_null=True, help_text="Its number; nothing where the place is not shown")
    recorder = serializers.CharField(help_text="Who wrote it")
    in_name_of = serializers.CharField(
        help_text="Whose it was said to be in a file without a signature; empty otherwise"
    )
    measured_by = serializers.CharField(help_text="Who called it, by name; empty where nobody was named")
    tagged_by = serializers.CharField(help_text="Whose hands tagged it, by name; empty where nobody was named")
    events = EventSerializer(many=True)
    event_kinds = serializers.SerializerMethodField(help_text="Of the events that are there")
    photos = PhotoSerializer(many=True)

    @extend_schema_field(EventKindSerializer(many=True))
    def get_event_kinds(self, told: dict[str, Any]) -> Any:
        return told["event_kinds"]  # plain values already


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
    run = serializers.UUIDField(required=False, help_text="In which it was caught, maybe of another outing")
    caught_at = serializers.DateTimeField(required=False)
    fate = serializers.ChoiceField(
        Release.Fate.choices,
        required=False,
        allow_null=True,
        help_text="How it left; null: nobody knows, or still aboard",
    )
    strength = serializers.ChoiceField([1, 2, 3, 4], required=False, allow_null=True)


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
