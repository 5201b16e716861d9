"""Sites of a survey over HTTP."""

from __future__ import annotations

from uuid import UUID

from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from nailwright.common.bodies import given
from nailwright.plan.http import file_response, survey_for
from nailwright.plan.layout import serializers
from nailwright.plan.layout.actions import lay_out, move_site
from nailwright.plan.layout.gpx import gpx_of
from nailwright.plan.surveys.serializers import SurveySerializer
from nailwright.plan.surveys.showing import show_survey
from nailwright.programmes.record.acts import act_of


class SurveySitesView(APIView):
    """A post lays the sites out anew, as the layout says."""

    @extend_schema(operation_id="lay_out_sites", request=None, responses=SurveySerializer)
    def post(self, request: Request, survey_id: UUID) -> Response:
        survey = survey_for(request, survey_id, "plan")
        lay_out(act_of(request), survey)
        return Response(show_survey(survey))


class MoveSiteView(APIView):
    @extend_schema(operation_id="move_site", request=serializers.MoveSiteSerializer, responses=SurveySerializer)
    def post(self, request: Request, survey_id: UUID) -> Response:
        survey = survey_for(request, survey_id, "plan")
        values = given(serializers.MoveSiteSerializer, request)
        move_site(act_of(request, values["reason"]), survey, values["number"], values["start_m"])
        return Response(show_survey(survey))


class SurveyGpxView(APIView):
    @extend_schema(operation_id="survey_gpx", responses={(200, "application/gpx+xml"): OpenApiTypes.STR})
    def get(self, request: Request, survey_id: UUID) -> HttpResponse:
        return file_response(gpx_of(survey_for(request, survey_id, "read")), "application/gpx+xml", "sites.gpx")
