"""Shapes of what earlier baths say."""

from rest_framework import serializers

from nailwright_core.deck.handling import AGENTS, PURPOSES


class BathAskedSerializer(serializers.Serializer):
    agent = serializers.ChoiceField(list(AGENTS))
    purpose = serializers.ChoiceField(PURPOSES)


class InductionPointSerializer(serializers.Serializer):
    mg_l = serializers.FloatField()
    seconds = serializers.FloatField(
        help_text="From entering the bath to stage 4, or to when it was last seen below that"
    )
    lay = serializers.BooleanField(help_text="Whether it reached stage 4")
    length_mm = serializers.FloatField(allow_null=True)
    temperature_c = serializers.FloatField(allow_null=True)
    at = serializers.DateTimeField()


class SlopeSerializer(serializers.Serializer):
    value = serializers.FloatField()
    lower = serializers.FloatField()
    upper = serializers.FloatField()


class InductionLineSerializer(serializers.Serializer):
    slope = SlopeSerializer(help_text="Change of log10 seconds with log10 mg/L, 95 %")
    per_degree = SlopeSerializer(allow_null=True)
    n = serializers.IntegerField()
    still_up = serializers.IntegerField(help_text="Fish of these that nobody saw at stage 4")
    baths = serializers.IntegerField()
    suggest_mg_l = serializers.FloatField(allow_null=True)
    suggest_lower = serializers.FloatField(allow_null=True)
    suggest_upper = serializers.FloatField(allow_null=True)
    at_mg_l = serializers.ListField(child=serializers.FloatField())
    mean_s = serializers.ListField(child=serializers.FloatField())
    lower_s = serializers.ListField(child=serializers.FloatField())
    upper_s = serializers.ListField(child=serializers.FloatField())


class InductionsSerializer(serializers.Serializer):
    points = InductionPointSerializer(many=True)
    goal_s = serializers.FloatField()
    low_mg_l = serializers.FloatField(allow_null=True)
    high_mg_l = serializers.FloatField(allow_null=True)
    line = InductionLineSerializer(allow_null=True)
    problem = serializers.CharField(help_text="Why there is no line yet; else empty")
