"""From the plan to the deck, over HTTP."""

from __future__ import annotations

from uuid import UUID

from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from nailwright.common.bodies import given
from nailwright.plan.http import file_response, survey_for
from nailwright.plan.outings import serializers
from nailwright.plan.outings.actions import make_outing
from nailwright.plan.outings.field_sheet import sheet_of
from nailwright.plan.surveys.serializers import SurveySerializer
from nailwright.plan.surveys.showing import show_survey
from nailwright.programmes.record.acts import act_of


class SurveyOutingView(APIView):
    """A plan becomes an outing."""

    @extend_schema(operation_id="make_outing", request=serializers.MakeOutingSerializer, responses=SurveySerializer)
    def post(self, request: Request, survey_id: UUID) -> Response:
        survey = survey_for(request, survey_id, "open_planned")
        values = given(serializers.MakeOutingSerializer, request)
        make_outing(act_of(request, values["override"]), survey, values["id"], values["date"])
        return Response(show_survey(survey))


class SurveySheetView(APIView):
    """The field sheet, printed."""

    takes_long = True

    @extend_schema(
        operation_id="survey_sheet",
        parameters=[OpenApiParameter("paper", enum=["a4", "letter"], default="a4")],
        responses={(200, "application/pdf"): OpenApiTypes.BINARY},
    )
    def get(self, request: Request, survey_id: UUID) -> HttpResponse:
        survey = survey_for(request, survey_id, "read")
        return file_response(
            sheet_of(survey, request.query_params.get("paper", "a4")), "application/pdf", "field-sheet.pdf"
        )
