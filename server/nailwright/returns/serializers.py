"""Shapes of reports, of the public page and of its answers."""

from rest_framework import serializers

from nailwright.returns.deciding import DECISIONS
from nailwright.returns.models import PublicPage, Return
from nailwright.returns.rewards.serializers import RewardSerializer
from nailwright.returns.wording import languages
from nailwright.tags.models import TagKind, TagState
from nailwright.tags.serializers import ForeignMarkSerializer
from nailwright.waters.models import Water

#: How a report stands, as its finder is told; ways in which staff are told of one.
ANSWER_STATES = ("waiting", "verified", "rejected", "asked")
TOLD_BY = tuple(each for each in Return.Channel.choices if each[0] != Return.Channel.WEB)


class ContactSerializer(serializers.Serializer):
    name = serializers.CharField(max_length=80, allow_blank=True, default="")
    email = serializers.EmailField(allow_blank=True, default="")
    telephone = serializers.CharField(max_length=40, allow_blank=True, default="")
    post = serializers.CharField(max_length=300, allow_blank=True, default="")
    consent = serializers.BooleanField(default=False)
    under_age = serializers.BooleanField(default=False)
    guardian = serializers.CharField(max_length=80, allow_blank=True, default="")


class SaidSerializer(serializers.Serializer):
    """What a report says; anything may be unknown."""

    species = serializers.CharField(max_length=8, allow_blank=True, required=False, help_text="A code; empty: unknown")
    found_on = serializers.DateField(allow_null=True, required=False)
    found_within_days = serializers.IntegerField(min_value=0, max_value=3650, required=False)
    lat = serializers.FloatField(min_value=-90, max_value=90, allow_null=True, required=False)
    lon = serializers.FloatField(min_value=-180, max_value=180, allow_null=True, required=False)
    error_m = serializers.FloatField(min_value=1, max_value=1_000_000, allow_null=True, required=False)
    place_text = serializers.CharField(max_length=200, allow_blank=True, required=False)
    length = serializers.CharField(max_length=40, allow_blank=True, required=False, help_text="With its unit: 42.5 cm")
    length_estimated = serializers.BooleanField(required=False)
    mass = serializers.CharField(max_length=40, allow_blank=True, required=False, help_text="With its unit: 1.2 kg")
    means = serializers.ChoiceField(Return.Means.choices, allow_blank=True, required=False)
    fish_fate = serializers.ChoiceField(Return.FishFate.choices, allow_blank=True, required=False)
    tag_fate = serializers.ChoiceField(Return.TagFate.choices, allow_blank=True, required=False)


class ReportSerializer(SaidSerializer):
    id = serializers.UUIDField(help_text="Made by the sender, so that a report sent twice is one")
    number = serializers.CharField(max_length=40, allow_blank=True, default="")
    remarks = serializers.CharField(max_length=1000, allow_blank=True, default="")
    language = serializers.CharField(max_length=5, default="en")
    photo = serializers.CharField(
        allow_null=True, default=None, help_text="JPEG, PNG or WebP as base64, up to 5 MB", max_length=8_000_000
    )
    contact = ContactSerializer(allow_null=True, default=None)


class EnterReportSerializer(ReportSerializer):
    channel = serializers.ChoiceField(TOLD_BY)


class StorySerializer(serializers.Serializer):
    species = serializers.CharField()
    scientific = serializers.CharField()
    tagged_on = serializers.DateField()
    water = serializers.CharField()
    place = serializers.CharField(help_text="Empty where it is not shown")
    length_mm = serializers.FloatField(allow_null=True, help_text="When it was tagged")
    times_met = serializers.IntegerField()
    days = serializers.IntegerField(allow_null=True, help_text="From tagging to the finder's day")
    distance_m = serializers.FloatField(allow_null=True)
    growth_mm = serializers.FloatField(allow_null=True)
    lines = serializers.ListField(
        child=serializers.CharField(), help_text="The same in sentences of the asked language"
    )


class AnswerQuerySerializer(serializers.Serializer):
    language = serializers.CharField(default="en", max_length=10)


class AnswerSerializer(serializers.Serializer):
    """What a finder is answered: the story, or none and that a person will look."""

    key = serializers.CharField(help_text="Of the report's private link")
    programme = serializers.CharField()
    page = serializers.CharField(help_text="Address of the public page; empty where it is gone")
    number = serializers.CharField()
    found_on = serializers.DateField(allow_null=True)
    state = serializers.ChoiceField(ANSWER_STATES)
    question = serializers.CharField(help_text="What is asked back")
    story = StorySerializer(allow_null=True)
    contact = serializers.BooleanField(help_text="Whether it is stored how to reach the finder")


class PublicSpeciesSerializer(serializers.Serializer):
    code = serializers.CharField()
    name = serializers.CharField()
    scientific = serializers.CharField()


class PublicPageSerializer(serializers.Serializer):
    programme = serializers.CharField()
    telephone = serializers.CharField()
    email = serializers.CharField()
    greeting = serializers.CharField()
    languages = serializers.ListField(child=serializers.CharField())
    contact_days = serializers.IntegerField()
    length_unit = serializers.CharField()
    species = PublicSpeciesSerializer(many=True)


class PublicWaterSerializer(serializers.Serializer):
    name = serializers.CharField()
    kind = serializers.ChoiceField(Water.Kind.choices)
    line = serializers.ListField(child=serializers.ListField(child=serializers.FloatField()))


class PageSettingsSerializer(serializers.ModelSerializer):
    languages = serializers.SerializerMethodField(help_text="In which the page and its notice speak")

    class Meta:
        model = PublicPage
        fields = ("address", "open", "telephone", "email", "greeting", "answers_at_once", "contact_days", "languages")
        extra_kwargs = {"address": {"validators": []}, "contact_days": {"min_value": 1, "max_value": 3650}}

    def get_languages(self, page: PublicPage) -> list[str]:
        return list(languages())


class ReturnsQuerySerializer(serializers.Serializer):
    state = serializers.ListField(child=serializers.ChoiceField(Return.State.choices), default=list)
    before = serializers.UUIDField(required=False, help_text="Older ones than this report")


class ReportDoubtSerializer(serializers.Serializer):
    code = serializers.CharField()
    text = serializers.CharField()


class ReportedTagSerializer(serializers.Serializer):
    kind = serializers.ChoiceField(TagKind.choices)
    number = serializers.CharField()


class NearTagSerializer(ReportedTagSerializer):
    state = serializers.ChoiceField(TagState.choices)


class ReturnSerializer(serializers.ModelSerializer):
    tag = ReportedTagSerializer(allow_null=True)
    fish = serializers.UUIDField(allow_null=True)
    recorder = serializers.CharField(help_text="Of staff who wrote it down; empty where the finder did")
    doubts = ReportDoubtSerializer(many=True)

    class Meta:
        model = Return
        fields = (
            "id", "received_at", "channel", "language", "number_text", "species", "found_on", "found_within_days", "lat", "lon",
            "error_m", "place_text", "length_text", "length_mm", "length_estimated", "mass_text", "mass_g", "means", "fish_fate",
            "tag_fate", "remarks", "state", "told", "decided_at", "reason", "tag", "fish", "recorder", "doubts",
        )  # fmt: skip
        read_only_fields = fields


class FinderSerializer(serializers.Serializer):
    name = serializers.CharField()
    email = serializers.CharField()
    telephone = serializers.CharField()
    post = serializers.CharField()
    guardian = serializers.CharField()
    consent_at = serializers.DateTimeField()
    erased_at = serializers.DateTimeField(allow_null=True)


class LastKnownSerializer(serializers.Serializer):
    """Of the fish, until the day on which it was found."""

    tagged = serializers.DateField(allow_null=True)
    met = serializers.DateField(allow_null=True)
    lat = serializers.FloatField(allow_null=True, help_text="Where it was last let go")
    lon = serializers.FloatField(allow_null=True)
    length_mm = serializers.FloatField(allow_null=True)
    measured = serializers.DateField(allow_null=True)


class ReturnChangeSerializer(serializers.Serializer):
    at = serializers.DateTimeField()
    person = serializers.CharField()
    reason = serializers.CharField()
    before = serializers.DictField()
    after = serializers.DictField()


class WholeReturnSerializer(ReturnSerializer):
    species_name = serializers.CharField()
    fish_species_name = serializers.CharField()
    last_known = LastKnownSerializer(allow_null=True)
    finder = FinderSerializer(allow_null=True)
    reward = RewardSerializer(allow_null=True, help_text="What it earned; null: none")
    currency = serializers.CharField(help_text="Of the programme; empty where it named none")
    photo = serializers.BooleanField()
    whose = ForeignMarkSerializer(many=True, help_text="What other programmes told of this number")
    near = NearTagSerializer(many=True)
    others = ReturnSerializer(many=True)
    history = ReturnChangeSerializer(many=True)
    mail = serializers.BooleanField(help_text="Whether this installation has a mail server")

    class Meta(ReturnSerializer.Meta):
        fields = (  # type: ignore[assignment]
            *ReturnSerializer.Meta.fields, "species_name", "fish_species_name", "last_known", "finder", "reward", "currency", "photo", "whose", "near", "others", "history", "mail",
        )  # fmt: skip


class ReturnBoxSerializer(serializers.Serializer):
    counts = serializers.DictField(child=serializers.IntegerField(), help_text="Reports by state")
    reports = ReturnSerializer(many=True)


class DecisionSerializer(serializers.Serializer):
    reports = serializers.ListField(child=serializers.UUIDField(), min_length=1, max_length=200)
    state = serializers.ChoiceField(DECISIONS)
    reason = serializers.CharField(max_length=200, allow_blank=True, default="")
    seen = serializers.ChoiceField(
        Return.State.choices, allow_blank=True, default="", help_text="The state it was seen in"
    )
    letter = serializers.BooleanField(
        default=True, help_text="Whether its finder is written to, where an address is known"
    )


class RefusedReportSerializer(serializers.Serializer):
    report = serializers.UUIDField()
    why = serializers.CharField()


class DecidedSerializer(serializers.Serializer):
    done = serializers.ListField(child=serializers.UUIDField())
    refused = RefusedReportSerializer(many=True)
    letters = serializers.IntegerField(help_text="How many finders are written to")


class MatchSerializer(serializers.Serializer):
    kind = serializers.ChoiceField(TagKind.choices)
    number = serializers.CharField(max_length=40, allow_blank=True, help_text="Empty: it is of no tag of ours")


class NoticeQuerySerializer(serializers.Serializer):
    paper = serializers.CharField(default="a4", max_length=10)
    language = serializers.CharField(default="en", max_length=10, help_text="One of those of the page; else English")
