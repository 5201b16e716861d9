"""Seasons over HTTP."""

from __future__ import annotations

from uuid import UUID

from drf_spectacular.utils import extend_schema
from rest_framework import status
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from nailwright.common.bodies import given
from nailwright.plan.seasons import serializers
from nailwright.plan.seasons.actions import add_season
from nailwright.programmes.policies import person_of, programme_for
from nailwright.waters.queries import water_of


class SeasonsView(APIView):
    @extend_schema(
        operation_id="add_season",
        request=serializers.NewSeasonSerializer,
        responses={201: serializers.SeasonSerializer},
    )
    def post(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "plan")
        values = given(serializers.NewSeasonSerializer, request)
        key = values.pop("water")
        water = water_of(programme, key) if key else None
        season = add_season(person_of(request), programme, water, values)
        return Response(serializers.SeasonSerializer(season).data, status.HTTP_201_CREATED)
