"""Marked fish over HTTP."""

from __future__ import annotations

from uuid import UUID

from django.shortcuts import get_object_or_404
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from nailwright.programmes.places import places_of
from nailwright.programmes.policies import person_of, require
from nailwright.tags import serializers
from nailwright.tags.models import Fish
from nailwright.tags.queries import story_of


class FishView(APIView):
    """A fish's story: every encounter, and growth and distance between them."""

    @extend_schema(operation_id="fish_story", responses=serializers.FishStorySerializer)
    def get(self, request: Request, fish_id: UUID) -> Response:
        fish = get_object_or_404(Fish.objects.select_related("programme"), pk=fish_id)
        require(person_of(request), fish.programme, "read")
        places = places_of(person_of(request), fish.programme)
        return Response(serializers.FishStorySerializer(story_of(fish, places)).data)
