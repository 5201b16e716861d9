"""Rehearsals over HTTP."""

from __future__ import annotations

from uuid import UUID

from drf_spectacular.utils import extend_schema
from rest_framework import status
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from nailwright.common.bodies import given
from nailwright.jobs.actions import reap_jobs
from nailwright.plan.http import survey_for
from nailwright.plan.rehearsal import serializers
from nailwright.plan.rehearsal.running import start_rehearsal
from nailwright.programmes.policies import person_of


class RehearsalsView(APIView):
    """Rehearsals of a survey, newest first; a post starts one."""

    @extend_schema(operation_id="rehearsals", responses=serializers.RehearsalSerializer(many=True))
    def get(self, request: Request, survey_id: UUID) -> Response:
        reap_jobs()
        survey = survey_for(request, survey_id, "read")
        rows = survey.rehearsals.select_related("job")[:8]
        return Response(serializers.RehearsalSerializer(rows, many=True).data)

    @extend_schema(
        operation_id="rehearse",
        request=serializers.NewRehearsalSerializer,
        responses={201: serializers.RehearsalSerializer},
    )
    def post(self, request: Request, survey_id: UUID) -> Response:
        survey = survey_for(request, survey_id, "plan")
        row = start_rehearsal(person_of(request), survey, **given(serializers.NewRehearsalSerializer, request))
        return Response(serializers.RehearsalSerializer(row).data, status.HTTP_201_CREATED)
