"""Shapes of marks and fish."""

from rest_framework import serializers

from nailwright.tags.models import Encounter, Placement, Scan, TagKind, TagState


class MarkSerializer(serializers.Serializer):
    kind = serializers.ChoiceField(TagKind.choices)
    number = serializers.CharField()


class CarriedMarkSerializer(MarkSerializer):
    unknown = serializers.BooleanField(help_text="It is no tag of this programme's: the fish was met with it")


class ScanSerializer(MarkSerializer):
    """A number that was read on a fish, and what it was known as then."""

    result = serializers.ChoiceField(Scan.Result.choices)


class PlacedMarkSerializer(MarkSerializer):
    placed_at = serializers.DateTimeField(allow_null=True, help_text="Null: another programme placed it")
    state = serializers.ChoiceField(TagState.choices, help_text="Where it is now")
    body_site = serializers.CharField(help_text="A code of the protocol's body sites")
    quality = serializers.ChoiceField(Placement.Quality.choices, allow_blank=True)


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
    lat = serializers.FloatField(allow_null=True)
    lon = serializers.FloatField(allow_null=True)
    length_mm = serializers.FloatField(allow_null=True)
    mass_g = serializers.FloatField(allow_null=True)
    disposition = serializers.ChoiceField(
        Encounter.Disposition.choices, allow_blank=True, help_text="How the meeting ended; empty where nothing is said"
    )
    let_go_at = serializers.DateTimeField(allow_null=True)
    journey = JourneySerializer(allow_null=True, help_text="From the encounter before to this one")


class OwnerSerializer(serializers.Serializer):
    """Another programme, and how many of its marks are known here."""

    owner = serializers.CharField()
    n = serializers.IntegerField()


class OfOwnerSerializer(serializers.Serializer):
    owner = serializers.CharField(max_length=120)


class ForeignMarkSerializer(MarkSerializer):
    """A tag that another programme told of."""

    owner = serializers.CharField()
    colour = serializers.CharField()
    species = serializers.CharField()
    placed_on = serializers.DateField(allow_null=True)
    water = serializers.CharField()
    contact = serializers.CharField()


class JoinedFishSerializer(serializers.Serializer):
    """Another record that was merged into this fish, or split from it or it from that."""

    fish = serializers.UUIDField(help_text="The one by whose key it is taken back")
    other = serializers.UUIDField()
    what = serializers.ChoiceField(["merged", "split"])
    at = serializers.DateTimeField()
    person = serializers.CharField()
    reason = serializers.CharField()


class MergeFishSerializer(serializers.Serializer):
    other = serializers.UUIDField(help_text="The fish that this one is, too")
    reason = serializers.CharField(max_length=200)


class SplitFishSerializer(serializers.Serializer):
    meetings = serializers.ListField(
        child=serializers.UUIDField(),
        max_length=500,
        help_text="Keys of the captures, cards and reports that were of another fish",
    )
    reason = serializers.CharField(max_length=200)


class TakeBackFishSerializer(serializers.Serializer):
    reason = serializers.CharField(max_length=200)


class FishStorySerializer(serializers.Serializer):
    id = serializers.UUIDField(help_text="Of a fish that was merged with another the other one's")
    species = serializers.CharField()
    joined = JoinedFishSerializer(many=True)
    whose = ForeignMarkSerializer(many=True, help_text="What other programmes told of tags that it carries")
    marks = PlacedMarkSerializer(many=True)
    encounters = EncounterSerializer(many=True)


class HandingOutSerializer(serializers.Serializer):
    """One handing out and what became of it; issued = placed + damaged + lost + returned + out."""

    id = serializers.UUIDField()
    at = serializers.DateTimeField()
    kind = serializers.ChoiceField(TagKind.choices)
    person = serializers.CharField()
    boat = serializers.CharField()
    outing = serializers.UUIDField(allow_null=True)
    issued = serializers.IntegerField()
    placed = serializers.IntegerField()
    damaged = serializers.IntegerField()
    lost = serializers.IntegerField()
    returned = serializers.IntegerField()
    out = serializers.IntegerField(help_text="With the holder still, or missing")
    missing = serializers.ListField(
        child=serializers.CharField(), help_text="Numbers of those that are out, 200 at most"
    )


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
    marks = CarriedMarkSerializer(many=True)
    times_met = serializers.IntegerField()
    last = LastEncounterSerializer()
    notes = serializers.ListField(
        child=serializers.CharField(), help_text="Name or sponsor; how it was treated from depth"
    )


class DeckMarksSerializer(serializers.Serializer):
    stock = StockedTagSerializer(many=True)
    fish = MarkedFishSerializer(many=True)
    sites = KnownSiteSerializer(many=True)


class NewBatchSerializer(serializers.Serializer):
    name = serializers.CharField(max_length=40)
    colour = serializers.CharField(max_length=30, allow_blank=True, default="")
    size_mm = serializers.FloatField(
        min_value=1, max_value=1000, allow_null=True, default=None, help_text="Length of the tag"
    )
    mass_g = serializers.FloatField(min_value=0.001, max_value=5000, allow_null=True, default=None, help_text="In air")
    battery_days = serializers.FloatField(min_value=0.1, max_value=10_000, allow_null=True, default=None)
    note = serializers.CharField(max_length=200, allow_blank=True, default="")
    received = serializers.DateField(allow_null=True, default=None)
    supplier = serializers.CharField(max_length=80, allow_blank=True, default="")
    price_each = serializers.FloatField(
        min_value=0, max_value=100_000, allow_null=True, default=None, help_text="In the programme's currency"
    )
    meaning = serializers.CharField(
        max_length=60, allow_blank=True, default="", help_text="What the colour says, such as a sex, a tank or a year"
    )
    reward = serializers.FloatField(
        min_value=0.01,
        max_value=100_000,
        allow_null=True,
        default=None,
        help_text="Promised to whoever reports it, in the programme's currency",
    )
    frequency_khz = serializers.FloatField(min_value=1, max_value=1_000_000, allow_null=True, default=None)
    code_space = serializers.CharField(max_length=40, allow_blank=True, default="")


class EnterBatchSerializer(NewBatchSerializer):
    id = serializers.UUIDField(help_text="Key of the batch; sending it twice enters it once.")
    kind = serializers.ChoiceField(TagKind.choices)
    numbers = serializers.CharField(
        allow_blank=True, default="", max_length=4_000_000, help_text="A list, or first and last as in W1001-W1100"
    )


class NumbersSerializer(serializers.Serializer):
    numbers = serializers.CharField(max_length=4_000_000)
    only_try = serializers.BooleanField(default=False, help_text="Only say what would become of them")


class TryNumbersSerializer(serializers.Serializer):
    kind = serializers.ChoiceField(TagKind.choices)
    numbers = serializers.CharField(max_length=4_000_000)


class OfKindSerializer(serializers.Serializer):
    kind = serializers.ChoiceField(TagKind.choices)


class UnreadSerializer(serializers.Serializer):
    text = serializers.CharField()
    why = serializers.CharField()


class TakenSerializer(serializers.Serializer):
    """What became, or would become, of numbers."""

    new = serializers.IntegerField()
    first = serializers.CharField(help_text="Of the new ones")
    last = serializers.CharField()
    known = serializers.IntegerField(help_text="In the stock before")
    elsewhere = serializers.IntegerField(help_text="Read on fish before anybody entered them")
    twice = serializers.IntegerField()
    unread = UnreadSerializer(many=True, help_text="The first twenty")
    unread_n = serializers.IntegerField()


class ExchangedSerializer(serializers.Serializer):
    """What became of the marks in a file of another programme."""

    new = serializers.IntegerField()
    changed = serializers.IntegerField()
    same = serializers.IntegerField()
    unread = UnreadSerializer(many=True, help_text="The first twenty")
    unread_n = serializers.IntegerField()


class BatchSerializer(NewBatchSerializer):
    id = serializers.UUIDField()
    kind = serializers.ChoiceField(TagKind.choices)
    first_number = serializers.CharField()
    last_number = serializers.CharField()
    counts = serializers.DictField(child=serializers.IntegerField(), help_text="Tags by state")


class EnteredBatchSerializer(serializers.Serializer):
    batch = BatchSerializer()
    taken = TakenSerializer()


class NumbersColumnSerializer(serializers.Serializer):
    name = serializers.CharField()
    n = serializers.IntegerField(help_text="Cells that are numbers of this kind")
    unread = serializers.IntegerField()
    numbers = serializers.CharField(help_text="One a line")


class TagsQuerySerializer(serializers.Serializer):
    number = serializers.CharField(max_length=40, default="", allow_blank=True, help_text="Whole or part")
    batch = serializers.UUIDField(allow_null=True, default=None)
    state = serializers.ChoiceField(TagState.choices, default="", allow_blank=True)
    after = serializers.CharField(
        max_length=60, default="", allow_blank=True, help_text="Kind and number of the last one of the page before"
    )


class FoundTagSerializer(MarkSerializer):
    state = serializers.ChoiceField(TagState.choices)
    batch = serializers.CharField()
    fish = serializers.UUIDField(allow_null=True, help_text="The fish that carries it")
    holder = serializers.CharField(help_text="Who has it, where it was handed out")


class TagMoveSerializer(serializers.Serializer):
    at = serializers.DateTimeField()
    what = serializers.CharField(
        help_text="received, issued, returned, placed, read, shed, removed, spoiled, lost, found, destroyed"
    )
    person = serializers.CharField(help_text="Who did it; empty where nobody is named")
    details = serializers.CharField(help_text="To whom, how well, or why")
    fish = serializers.UUIDField(allow_null=True)


class MoveTagsSerializer(serializers.Serializer):
    kind = serializers.ChoiceField(TagKind.choices)
    numbers = serializers.CharField(max_length=4_000_000)
    state = serializers.ChoiceField([TagState.STOCK, TagState.SPOILED, TagState.LOST, TagState.DESTROYED])
    reason = serializers.CharField(max_length=200)


class MovedSerializer(serializers.Serializer):
    moved = serializers.IntegerField()
    refused = UnreadSerializer(many=True)


class HandOutSerializer(serializers.Serializer):
    """Tags by their numbers, or the next so many of a batch; to a person, a boat or an outing, or back into stock."""

    id = serializers.UUIDField(help_text="Key of the doing; sending it twice does it once.")
    kind = serializers.ChoiceField(TagKind.choices, default=TagKind.PIT)
    numbers = serializers.CharField(max_length=4_000_000, allow_blank=True, default="")
    batch = serializers.UUIDField(allow_null=True, default=None)
    how_many = serializers.IntegerField(min_value=1, max_value=20_000, allow_null=True, default=None)
    person = serializers.UUIDField(allow_null=True, default=None)
    boat = serializers.CharField(max_length=60, allow_blank=True, default="")
    outing = serializers.UUIDField(allow_null=True, default=None)
    back = serializers.BooleanField(default=False, help_text="They come back into stock")


class HandedOutSerializer(serializers.Serializer):
    n = serializers.IntegerField()
    first = serializers.CharField()
    last = serializers.CharField()


class TransmitterSerializer(MarkSerializer):
    batch = serializers.CharField()
    state = serializers.ChoiceField(TagState.choices)
    fish = serializers.UUIDField(allow_null=True)
    species = serializers.CharField()
    since = serializers.DateField(
        allow_null=True, help_text="Day of activation, or of implanting where nobody noted it"
    )
    activated = serializers.BooleanField(help_text="Somebody noted the day of activation")
    battery_days = serializers.FloatField(allow_null=True)
    until = serializers.DateField(allow_null=True, help_text="Last day on which it is expected to be heard")
    life = serializers.ChoiceField(["sending", "soon", "over", "unknown"])


class ActivateTagsSerializer(serializers.Serializer):
    kind = serializers.ChoiceField(TagKind.choices)
    numbers = serializers.CharField(max_length=4_000_000)
    day = serializers.DateField(allow_null=True, help_text="Nothing: it is not known after all")
