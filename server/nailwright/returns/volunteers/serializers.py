"""Shapes of kits and cards."""

from rest_framework import serializers

from nailwright.returns.models import Card
from nailwright.returns.volunteers.cards import HOOK_KINDS, HOOK_SITES
from nailwright.tags.models import TagKind


class KitSpeciesSerializer(serializers.Serializer):
    code = serializers.CharField()
    name = serializers.CharField()
    length_type = serializers.CharField()
    length_range_mm = serializers.ListField(child=serializers.FloatField())
    length_bounds_mm = serializers.ListField(child=serializers.FloatField())


class ConditionSerializer(serializers.Serializer):
    code = serializers.IntegerField()
    words = serializers.CharField()


class KitTagSerializer(serializers.Serializer):
    kind = serializers.ChoiceField(TagKind.choices)
    number = serializers.CharField()


class CardSerializer(serializers.Serializer):
    id = serializers.UUIDField()
    channel = serializers.ChoiceField(Card.Channel.choices)
    tagger_number = serializers.CharField()
    tag_kind = serializers.ChoiceField(TagKind.choices, allow_blank=True)
    number_text = serializers.CharField(help_text="Empty: let go without a tag")
    fish = serializers.UUIDField(allow_null=True)
    problem = serializers.CharField(help_text="Why its tag could not be placed")
    told_twice = serializers.BooleanField(help_text="It may tell of the same meeting as another card of its day")
    met_again = serializers.BooleanField(help_text="Somebody said that it is a second meeting of that day")
    species = serializers.CharField()
    caught_on = serializers.DateField(allow_null=True)
    block = serializers.CharField()
    lat = serializers.FloatField(allow_null=True)
    lon = serializers.FloatField(allow_null=True)
    error_m = serializers.FloatField(allow_null=True)
    place_text = serializers.CharField()
    length_text = serializers.CharField()
    length_mm = serializers.FloatField(allow_null=True)
    length_type = serializers.CharField()
    length_basis = serializers.ChoiceField(Card.Basis.choices, allow_blank=True)
    condition = serializers.IntegerField(allow_null=True)
    fight_s = serializers.FloatField(allow_null=True)
    air_s = serializers.FloatField(allow_null=True)
    hook_kind = serializers.ChoiceField(HOOK_KINDS, allow_blank=True)
    hook_site = serializers.ChoiceField(HOOK_SITES, allow_blank=True)
    line_kg = serializers.FloatField(allow_null=True)
    bleeding_landed = serializers.ChoiceField(Card.Bleeding.choices, allow_blank=True)
    bleeding_released = serializers.ChoiceField(Card.Bleeding.choices, allow_blank=True)
    remarks = serializers.CharField()
    device_time = serializers.DateTimeField()
    missing = serializers.ListField(child=serializers.CharField(), help_text="What the card does not tell, in words")
    photos = serializers.ListField(child=serializers.UUIDField(), help_text="Keys of its photos, in order of time")


class TaggingKitSerializer(serializers.Serializer):
    id = serializers.UUIDField(help_text="Of the membership whose kit it is")
    programme = serializers.UUIDField()
    programme_name = serializers.CharField()
    person_name = serializers.CharField()
    tagger_number = serializers.CharField()
    length_unit = serializers.CharField()
    species = KitSpeciesSerializer(many=True)
    conditions = ConditionSerializer(many=True)
    tags = KitTagSerializer(many=True, help_text="Handed out to the volunteer and not placed yet")
    cards = CardSerializer(many=True)


class ListedKitSerializer(serializers.Serializer):
    id = serializers.UUIDField(help_text="Of the membership")
    name = serializers.CharField()
    number = serializers.CharField()
    tags = serializers.IntegerField(help_text="With them and not placed yet")
    cards = serializers.IntegerField()
    incomplete = serializers.IntegerField()
    problems = serializers.IntegerField(help_text="Cards whose tag has to be looked into")
    last = serializers.DateTimeField(allow_null=True)
    asked_at = serializers.DateTimeField(allow_null=True, help_text="When a letter last asked for what is missing")


class CardLetterSerializer(serializers.Serializer):
    to = serializers.CharField(help_text="Address of the volunteer; empty: none is known")
    subject = serializers.CharField()
    text = serializers.CharField()
    cards = serializers.IntegerField(help_text="How many it names")
    by_mail = serializers.BooleanField(help_text="This installation sends mail, and the address is known")
    asked_at = serializers.DateTimeField(allow_null=True)


class SendCardLetterSerializer(serializers.Serializer):
    by_mail = serializers.BooleanField(help_text="False: it was handed over otherwise, and is only noted")


class DigitsSerializer(serializers.Serializer):
    counts = serializers.ListField(child=serializers.IntegerField(), help_text="Lengths by their last digit, 0 to 9")
    share_0_5 = serializers.FloatField()
    p = serializers.FloatField()
    preferred = serializers.BooleanField()


class OwnTaggingSerializer(serializers.Serializer):
    kind = serializers.ChoiceField(TagKind.choices)
    placed = serializers.IntegerField()
    good = serializers.IntegerField(help_text="Placed well, by their own word")
    doubtful = serializers.IntegerField()
    second = serializers.IntegerField(help_text="At the second try")
    seen = serializers.IntegerField(help_text="Met again and known by another mark")
    kept = serializers.IntegerField(help_text="Of those, still there")
    share = serializers.FloatField(allow_null=True, help_text="Per cent")
    lower = serializers.FloatField(allow_null=True)
    upper = serializers.FloatField(allow_null=True)


class KitSummarySerializer(serializers.Serializer):
    cards = serializers.IntegerField()
    fish = serializers.IntegerField(help_text="Tagged or recaptured")
    returns = serializers.IntegerField(help_text="Verified reports of them")
    furthest_m = serializers.FloatField(allow_null=True)
    since = serializers.DateField(allow_null=True)
    tagging = OwnTaggingSerializer(many=True, help_text="Tags that this person placed, by kind")
    measured = serializers.IntegerField()
    digits = DigitsSerializer(allow_null=True, help_text="Null with fewer than 30 measured lengths")
