"""The shape of a plan's orders, as an outing keeps them."""

from rest_framework import serializers


class GoalSerializer(serializers.Serializer):
    us_cm = serializers.FloatField(help_text="Ambient conductivity of the water for which it holds")
    volts = serializers.FloatField()
    amps = serializers.FloatField()
    most_volts = serializers.FloatField(help_text="What the unit, or the limits that were chosen, allow there")


class UnitOrdersSerializer(serializers.Serializer):
    id = serializers.UUIDField()
    name = serializers.CharField()
    r100_ohm = serializers.FloatField(help_text="Resistance at 100 µS/cm that the settings are reckoned with")


class ElectroOrdersSerializer(serializers.Serializer):
    unit = UnitOrdersSerializer(allow_null=True, default=None)
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
    species = serializers.ListField(
        child=serializers.CharField(), default=list, help_text="That the plan tags; empty: any"
    )
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
    trial_fish = serializers.IntegerField(default=0, help_text="Fish of a trial before others go in; 0: none")


class StationOrdersSerializer(serializers.Serializer):
    person = serializers.CharField()
    station = serializers.CharField(help_text="Such as pedal or netter")


class FeedingOrdersSerializer(serializers.Serializer):
    first_s = serializers.FloatField(help_text="Between feeds while the bed is built")
    first_for_s = serializers.FloatField(help_text="For how long it is built, from the start of the run")
    later_s = serializers.FloatField(help_text="Between feeds after that")


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
    feeding = FeedingOrdersSerializer(allow_null=True, default=None)
    stations = StationOrdersSerializer(
        many=True, default=list, help_text="Where the plan has somebody of the crew stand"
    )
