"""Shapes of rehearsals."""

from __future__ import annotations

from rest_framework import serializers

from nailwright.jobs.serializers import JobSerializer


class NewRehearsalSerializer(serializers.Serializer):
    kind = serializers.ChoiceField(["marks", "removal", "trend"])
    design = serializers.DictField(child=serializers.FloatField(min_value=-1e9, max_value=1e9))
    choice = serializers.CharField(max_length=20, allow_blank=True, default="")
    values = serializers.ListField(child=serializers.FloatField(min_value=-1e9, max_value=1e9), default=list)
    replicates = serializers.IntegerField(min_value=100, max_value=20_000, default=1000)
    seed = serializers.IntegerField(min_value=0, max_value=2**31 - 1, default=1)
    confirmed = serializers.BooleanField(default=False)


class RehearsedDesignSerializer(serializers.Serializer):
    design = serializers.DictField(child=serializers.FloatField())
    truth = serializers.FloatField()
    bias = serializers.FloatField(allow_null=True)
    median = serializers.FloatField(allow_null=True)
    low = serializers.FloatField(allow_null=True)
    high = serializers.FloatField(allow_null=True)
    coverage = serializers.FloatField()
    coverage_low = serializers.FloatField()
    coverage_high = serializers.FloatField()
    useless = serializers.FloatField()
    within = serializers.FloatField()
    cost = serializers.FloatField()
    counts = serializers.ListField(child=serializers.IntegerField())
    edges = serializers.ListField(child=serializers.FloatField())


class RehearsalResultSerializer(serializers.Serializer):
    sentence = serializers.CharField(default="", help_text="Empty in results from before there were any")
    designs = RehearsedDesignSerializer(many=True)


class RehearsalSerializer(serializers.Serializer):
    id = serializers.UUIDField()
    kind = serializers.CharField()
    design = serializers.DictField(child=serializers.FloatField())
    choice = serializers.CharField()
    values = serializers.ListField(child=serializers.FloatField())
    replicates = serializers.IntegerField()
    seed = serializers.IntegerField()
    estimate = serializers.ListField(
        child=serializers.FloatField(), allow_null=True, help_text="Seconds of one process for each design"
    )
    made_at = serializers.DateTimeField()
    result = RehearsalResultSerializer(allow_null=True)
    job = JobSerializer(allow_null=True)
