"""Surveys over HTTP."""

from __future__ import annotations

from uuid import UUID

from django.http import HttpResponse
from django.utils import timezone
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework import status
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from nailwright.common.bodies import given
from nailwright.plan.http import file_response, plain, survey_for
from nailwright.plan.models import Survey
from nailwright.plan.surveys import serializers
from nailwright.plan.surveys.actions import change_survey, plan_again, plan_survey, take_out
from nailwright.plan.surveys.calendar import calendar_of
from nailwright.plan.surveys.showing import show_survey
from nailwright.programmes.policies import person_of, programme_for
from nailwright.programmes.record.acts import act_of
from nailwright.programmes.record.audit import Act
from nailwright.waters.queries import water_of
from nailwright_core.plan.questions import QUESTIONS as SURVEY_QUESTIONS


class PlanView(APIView):
    """Surveys, permits, seasons, and who may be named; a post begins a survey."""

    @extend_schema(operation_id="plan", responses=serializers.PlanSerializer)
    def get(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "read")
        members = programme.memberships.filter(left_at=None)
        return Response(
            serializers.PlanSerializer(
                {
                    "questions": [{"value": value, "label": label} for value, label in SURVEY_QUESTIONS],
                    "surveys": programme.surveys.filter(deleted_at=None).select_related("water"),
                    "permits": programme.permits.all(),
                    "seasons": programme.seasons.all(),
                    "people": list(members.order_by("person__name").values_list("person__name", flat=True)),
                }
            ).data
        )

    @extend_schema(
        operation_id="plan_survey",
        request=serializers.NewSurveySerializer,
        responses={201: serializers.SurveySerializer},
    )
    def post(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "plan")
        values = given(serializers.NewSurveySerializer, request)
        water = water_of(programme, values.pop("water"))
        survey = plan_survey(person_of(request), programme, water, values)
        return Response(show_survey(survey), status.HTTP_201_CREATED)


class SurveyView(APIView):
    @extend_schema(operation_id="survey", responses=serializers.SurveySerializer)
    def get(self, request: Request, survey_id: UUID) -> Response:
        return Response(show_survey(survey_for(request, survey_id, "read")))

    @extend_schema(
        operation_id="change_survey", request=serializers.ChangeSurveySerializer, responses=serializers.SurveySerializer
    )
    def post(self, request: Request, survey_id: UUID) -> Response:
        survey = survey_for(request, survey_id, "plan")
        values = given(serializers.ChangeSurveySerializer, request)
        parts = plain(values.pop("parts", {}))
        return Response(show_survey(change_survey(act_of(request), survey, values, parts)))


class SurveyAgainView(APIView):
    """A post plans the same survey from another day on."""

    @extend_schema(
        operation_id="plan_again", request=serializers.AgainSerializer, responses={201: serializers.SurveySerializer}
    )
    def post(self, request: Request, survey_id: UUID) -> Response:
        survey = survey_for(request, survey_id, "plan")
        again = plan_again(person_of(request), survey, given(serializers.AgainSerializer, request)["first"])
        return Response(show_survey(again), status.HTTP_201_CREATED)


class SurveyDeletedView(APIView):
    """A post takes the survey out of the plans, or puts it back."""

    @extend_schema(
        operation_id="take_survey_out", request=serializers.TakeOutSerializer, responses=serializers.TakeOutSerializer
    )
    def post(self, request: Request, survey_id: UUID) -> Response:
        survey = survey_for(request, survey_id, "plan", Survey.objects.all())
        values = given(serializers.TakeOutSerializer, request)
        act = Act(values["id"], person_of(request), timezone.now())
        survey = take_out(act, survey, values["deleted"])
        return Response({"id": str(values["id"]), "deleted": survey.deleted_at is not None})


class SurveyCalendarView(APIView):
    @extend_schema(operation_id="survey_calendar", responses={(200, "text/calendar"): OpenApiTypes.STR})
    def get(self, request: Request, survey_id: UUID) -> HttpResponse:
        calendar = calendar_of(survey_for(request, survey_id, "read"), timezone.now())
        return file_response(calendar, "text/calendar; charset=utf-8", "survey.ics")
