"""Papers and seasons over HTTP."""

from __future__ import annotations

from uuid import UUID

from django.shortcuts import get_object_or_404
from drf_spectacular.utils import extend_schema
from rest_framework import status
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from nailwright.common.bodies import given
from nailwright.plan.models import Paper
from nailwright.plan.papers import serializers
from nailwright.plan.papers.actions import change_paper, enter_paper, enter_season
from nailwright.programmes.policies import person_of, programme_for, require
from nailwright.programmes.record.acts import act_of
from nailwright.waters.queries import water_of


class PapersView(APIView):
    @extend_schema(
        operation_id="enter_paper", request=serializers.PaperSerializer, responses={201: serializers.PaperSerializer}
    )
    def post(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "plan")
        paper = enter_paper(person_of(request), programme, given(serializers.PaperSerializer, request))
        return Response(serializers.PaperSerializer(paper).data, status.HTTP_201_CREATED)


class PaperView(APIView):
    @extend_schema(
        operation_id="change_paper", request=serializers.PaperSerializer, responses=serializers.PaperSerializer
    )
    def post(self, request: Request, paper_id: UUID) -> Response:
        paper = get_object_or_404(Paper.objects.select_related("programme"), pk=paper_id)
        require(person_of(request), paper.programme, "plan")
        kept = change_paper(act_of(request), paper, given(serializers.PaperSerializer, request))
        return Response(serializers.PaperSerializer(kept).data)


class SeasonsView(APIView):
    @extend_schema(
        operation_id="enter_season",
        request=serializers.NewSeasonSerializer,
        responses={201: serializers.SeasonSerializer},
    )
    def post(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "plan")
        values = given(serializers.NewSeasonSerializer, request)
        key = values.pop("water")
        water = water_of(programme, key) if key else None
        season = enter_season(person_of(request), programme, water, values)
        return Response(serializers.SeasonSerializer(season).data, status.HTTP_201_CREATED)
