"""Shapes of long work."""

from rest_framework import serializers

from nailwright.jobs.models import Job
from nailwright.programmes.serializers import ErrorSerializer


class JobSerializer(serializers.Serializer):
    id = serializers.UUIDField()
    title = serializers.CharField()
    state = serializers.ChoiceField(Job.State.choices)
    done = serializers.IntegerField()
    total = serializers.IntegerField(help_text="0 where it is not known yet")
    stop_asked = serializers.BooleanField()
    error = ErrorSerializer(allow_null=True)
