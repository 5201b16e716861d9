"""Shapes of what an outing has to keep to: checklists, orders of the plan, targets, allowances."""

from rest_framework import serializers

from nailwright.deck.models import Target
from nailwright_core.deck.permits import COUNTED


class TargetSerializer(serializers.ModelSerializer):
    zone = serializers.CharField(source="zone_name", help_text="Its name; empty: any")

    class Meta:
        model = Target
        fields = ["id", "species", "what", "wanted", "from_mm", "zone"]
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
    least_oxygen_mg_l = serializers.FloatField(allow_null=True, default=None)
    most_degrees = serializers.FloatField(allow_null=True, default=None, help_text="Apart from the water, at most")


class TagOrdersSerializer(serializers.Serializer):
    kind = serializers.CharField()
    mass_g = serializers.FloatField(allow_null=True, default=None, help_text="Of one tag in air")
    burden = serializers.FloatField(
        allow_null=True, default=None, help_text="Most of the fish's mass that it may be, as a share"
    )
    before = serializers.IntegerField(help_text="Fish tagged in the survey's other outings as the orders were written")
    double = serializers.ListField(
        child=serializers.IntegerField(), help_text="Which fish, from 1, get two tags: drawn at random"
    )
    high_reward = serializers.ListField(child=serializers.IntegerField(), help_text="Which fish get a high-reward tag")


class BathOrdersSerializer(serializers.Serializer):
    agent = serializers.CharField()
    purpose = serializers.CharField()
    litres = serializers.FloatField()
    target_mg_l = serializers.FloatField()
    cap_ml = serializers.FloatField(help_text="What the crew's own measure holds")


class EnoughOrdersSerializer(serializers.Serializer):
    psd_half = serializers.FloatField(help_text="PSD to within so many points")
    cv = serializers.FloatField(help_text="Wanted of the mean catch rate over sites")


class OrdersSerializer(serializers.Serializer):
    """What the plan tells the deck; an outing that was opened without a plan has none."""

    survey = serializers.CharField()
    lines = serializers.ListField(child=serializers.CharField(), help_text="Limits in words")
    electro = ElectroOrdersSerializer(allow_null=True)
    well = WellOrdersSerializer(allow_null=True)
    mark_from_mm = serializers.FloatField(allow_null=True, help_text="The smallest fish that shall carry a tag")
    pull_m = serializers.FloatField(allow_null=True, default=None, help_text="Line in one pull of this crew")
    bath = BathOrdersSerializer(allow_null=True, default=None)
    tags = TagOrdersSerializer(allow_null=True, default=None)
    enough = EnoughOrdersSerializer(allow_null=True, default=None)


class AllowanceSerializer(serializers.Serializer):
    """What a permit allows, with what is counted against it: the room of permits fills it in."""

    id = serializers.UUIDField()
    permit_id = serializers.UUIDField()
    permit = serializers.CharField(help_text="Its name")
    species = serializers.CharField(allow_blank=True, help_text="Empty: all species together")
    species_name = serializers.CharField()
    what = serializers.ChoiceField(COUNTED)
    most = serializers.IntegerField()
    first = serializers.DateField()
    last = serializers.DateField()
    counted = serializers.IntegerField()
    standing = serializers.ChoiceField(["open", "near", "last", "over"])


class TakenOutSerializer(serializers.Serializer):
    deleted = serializers.BooleanField()
