"""Shapes of the home screen."""

from rest_framework import serializers

from nailwright.deck.models import Target
from nailwright.deck.serializers.outings import OutingSerializer


class TargetProgressSerializer(serializers.Serializer):
    species = serializers.CharField()
    what = serializers.ChoiceField(Target.What.choices)
    from_mm = serializers.FloatField(allow_null=True)
    zone = serializers.CharField()
    wanted = serializers.IntegerField()
    done = serializers.IntegerField()


class OpenOutingTodaySerializer(serializers.Serializer):
    outing = OutingSerializer()
    aboard = serializers.IntegerField(help_text="Fish that were called and have not left")
    in_well = serializers.IntegerField(help_text="Of them in the live well")
    to_call = serializers.IntegerField(help_text="Netted, and not called yet")
    current_on_s = serializers.FloatField()
    targets = TargetProgressSerializer(many=True)


class WaitingSerializer(serializers.Serializer):
    code = serializers.CharField()
    text = serializers.CharField()
    outing = serializers.UUIDField(allow_null=True)
    n = serializers.IntegerField()


class StepSerializer(serializers.Serializer):
    code = serializers.ChoiceField(["water", "species", "people", "protocol", "permit", "plan", "tags", "outing"])
    done = serializers.BooleanField()


class TodaySerializer(serializers.Serializer):
    steps = StepSerializer(many=True, help_text="What is needed before a programme's first outing; empty after it")
    outings = OpenOutingTodaySerializer(many=True)
    waiting = WaitingSerializer(many=True)
    recent = OutingSerializer(many=True)
