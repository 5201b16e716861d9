"""Shapes of settings and control boxes."""

from __future__ import annotations

from rest_framework import serializers

from nailwright.plan.electrofishing.actions import R100_OHM
from nailwright.plan.models import Unit


class ElectroUnitSerializer(serializers.ModelSerializer):
    class Meta:
        model = Unit
        fields = ["id", "name", "gear", "max_volts", "max_amps", "max_watts", "max_hz", "max_duty", "r100_ohm"]
        read_only_fields = ["id"]
        extra_kwargs = {
            name: {"min_value": low, "max_value": high}
            for name, low, high in (
                ("max_volts", 1, 2000), ("max_amps", 0.01, 500), ("max_watts", 1, 100_000), ("max_hz", 1, 1000),
                ("max_duty", 0.001, 1), ("r100_ohm", *R100_OHM),
            )
        }  # fmt: skip


class R100ReadingSerializer(serializers.Serializer):
    date = serializers.DateField()
    volts = serializers.FloatField()
    amps = serializers.FloatField()
    us_cm = serializers.FloatField()
    r100_ohm = serializers.FloatField()


class ElectroUnitsSerializer(serializers.Serializer):
    units = ElectroUnitSerializer(many=True)
    r100_ohm = serializers.FloatField(allow_null=True, help_text="Median of the readings")
    readings = R100ReadingSerializer(many=True, help_text="Resistance at 100 µS/cm from past boat runs")


class SettingsRowSerializer(serializers.Serializer):
    us_cm = serializers.FloatField()
    volts = serializers.FloatField()
    amps = serializers.FloatField()
    watts = serializers.FloatField()
    mean_watts = serializers.FloatField()
    ratio = serializers.FloatField()
    problems = serializers.ListField(child=serializers.CharField())
    today = serializers.BooleanField()


class RampStepSerializer(serializers.Serializer):
    volts = serializers.FloatField()
    watch = serializers.CharField()


class RingSerializer(serializers.Serializer):
    v_cm = serializers.FloatField()
    cm = serializers.FloatField()


class SettingsSerializer(serializers.Serializer):
    unit = ElectroUnitSerializer()
    ambient_us_cm = serializers.FloatField()
    specific_us_cm = serializers.FloatField()
    duty = serializers.FloatField()
    goal = SettingsRowSerializer()
    table = SettingsRowSerializer(many=True)
    ramp = RampStepSerializer(many=True)
    advice_hz = serializers.FloatField()
    advice = serializers.CharField()
    limits = serializers.CharField()
    limits_note = serializers.CharField()
    rings = RingSerializer(many=True)
    caution = serializers.CharField()
