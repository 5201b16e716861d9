"""The address of a finding that holds groups against each other."""

from __future__ import annotations

from rest_framework import serializers

from nailwright.findings.groups import GROUPINGS
from nailwright.findings.request_query import SizeQuerySerializer


class ComparedQuerySerializer(SizeQuerySerializer):
    by = serializers.ChoiceField(GROUPINGS, default="year")
