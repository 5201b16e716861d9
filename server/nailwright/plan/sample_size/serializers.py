"""Shapes of sample sizes."""

from __future__ import annotations

from rest_framework import serializers


class EnoughQuerySerializer(serializers.Serializer):
    catch_mean = serializers.FloatField(min_value=-1e9, max_value=1e9, default=20)
    catch_variance = serializers.FloatField(min_value=-1e9, max_value=1e9, default=200)
    cv = serializers.FloatField(min_value=-1e9, max_value=1e9, default=0.2)
    frame_size = serializers.IntegerField(
        min_value=1, max_value=1_000_000, required=False, allow_null=True, default=None
    )
    psd = serializers.FloatField(min_value=-1e9, max_value=1e9, default=60)
    psd_half = serializers.FloatField(min_value=-1e9, max_value=1e9, default=8)
    psd_other = serializers.FloatField(min_value=-1e9, max_value=1e9, default=45)
    sd_mm = serializers.FloatField(min_value=-1e9, max_value=1e9, default=90)
    mean_half_mm = serializers.FloatField(min_value=-1e9, max_value=1e9, default=10)
    death_low = serializers.FloatField(min_value=-1e9, max_value=1e9, default=5)
    death_high = serializers.FloatField(min_value=-1e9, max_value=1e9, default=15)
    population = serializers.FloatField(min_value=-1e9, max_value=5e6, default=5000)


class MarksCurveSerializer(serializers.Serializer):
    name = serializers.CharField()
    accuracy = serializers.FloatField()
    catch = serializers.ListField(child=serializers.FloatField(allow_null=True))


class EnoughSerializer(serializers.Serializer):
    sites = serializers.IntegerField()
    fish_psd = serializers.IntegerField()
    fish_mean = serializers.IntegerField()
    fish_difference = serializers.IntegerField()
    fish_mortality = serializers.IntegerField()
    marks = serializers.ListField(child=serializers.FloatField())
    curves = MarksCurveSerializer(many=True)
