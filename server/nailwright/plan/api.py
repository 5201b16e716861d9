"""Plans over HTTP."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any
from uuid import UUID

from django.db.models import QuerySet
from django.http import HttpResponse
from django.shortcuts import get_object_or_404
from django.utils import timezone
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework import status
from rest_framework.parsers import MultiPartParser
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from nailwright.common.rows import new_id
from nailwright.jobs.actions import reap_jobs
from nailwright.plan import actions, serializers
from nailwright.plan.enough import show_enough
from nailwright.plan.exports import calendar_of, gpx_of
from nailwright.plan.kit import show_bath, show_deep, show_limits, show_tags
from nailwright.plan.models import Paper, Survey
from nailwright.plan.parts import parts_of
from nailwright.plan.reaches import show_reach
from nailwright.plan.rehearsals import start_rehearsal
from nailwright.plan.settings import r100_readings, show_settings
from nailwright.plan.sheet import sheet_of
from nailwright.plan.shown import show_survey
from nailwright.programmes.audit import Act
from nailwright.programmes.policies import person_of, programme_for, require
from nailwright.waters.actions import set_line
from nailwright.waters.lines import line_from
from nailwright.waters.models import Water
from nailwright.waters.queries import water_of
from nailwright.waters.serializers import ZonesSerializer
from nailwright_core.common.errors import CoreError
from nailwright_core.plan.effort import rod_hours
from nailwright_core.plan.electrofishing import median_r100
from nailwright_core.plan.questions import QUESTIONS as SURVEY_QUESTIONS
from nailwright_core.plan.tag_choice import QUESTIONS


class PlanView(APIView):
    """Surveys, papers, seasons, and who may be named; a post begins a survey."""

    @extend_schema(operation_id="plan", responses=serializers.PlanSerializer)
    def get(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "read")
        return Response(
            serializers.PlanSerializer(
                {
                    "questions": [{"value": value, "label": label} for value, label in SURVEY_QUESTIONS],
                    "surveys": programme.surveys.filter(deleted_at=None).select_related("water"),
                    "papers": programme.papers.all(),
                    "seasons": programme.seasons.all(),
                    "people": list(programme.people.order_by("name").values_list("name", flat=True)),
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
        values = _given(serializers.NewSurveySerializer, request)
        water = water_of(programme, values.pop("water"))
        survey = actions.plan_survey(person_of(request), programme, water, values)
        return Response(show_survey(survey), status.HTTP_201_CREATED)


class SurveyView(APIView):
    @extend_schema(operation_id="survey", responses=serializers.SurveySerializer)
    def get(self, request: Request, survey_id: UUID) -> Response:
        return Response(show_survey(_survey(request, survey_id, "read")))

    @extend_schema(
        operation_id="change_survey", request=serializers.ChangeSurveySerializer, responses=serializers.SurveySerializer
    )
    def post(self, request: Request, survey_id: UUID) -> Response:
        survey = _survey(request, survey_id, "plan")
        values = _given(serializers.ChangeSurveySerializer, request)
        parts = _plain(values.pop("parts", {}))
        return Response(show_survey(actions.change_survey(_act(request), survey, values, parts)))


class SurveyAgainView(APIView):
    """A post plans the same survey from another day on."""

    @extend_schema(
        operation_id="plan_again", request=serializers.AgainSerializer, responses={201: serializers.SurveySerializer}
    )
    def post(self, request: Request, survey_id: UUID) -> Response:
        survey = _survey(request, survey_id, "plan")
        again = actions.plan_again(person_of(request), survey, _given(serializers.AgainSerializer, request)["first"])
        return Response(show_survey(again), status.HTTP_201_CREATED)


class SurveyDeletedView(APIView):
    """A post takes the survey out of the plans, or puts it back."""

    @extend_schema(
        operation_id="take_survey_out", request=serializers.TakeOutSerializer, responses=serializers.TakeOutSerializer
    )
    def post(self, request: Request, survey_id: UUID) -> Response:
        survey = _survey(request, survey_id, "plan", Survey.objects.all())
        values = _given(serializers.TakeOutSerializer, request)
        act = Act(values["id"], person_of(request), timezone.now())
        survey = actions.take_out(act, survey, values["deleted"])
        return Response({"id": str(values["id"]), "deleted": survey.deleted_at is not None})


class SurveySitesView(APIView):
    """A post lays the sites out anew, as the layout says."""

    @extend_schema(operation_id="lay_out_sites", request=None, responses=serializers.SurveySerializer)
    def post(self, request: Request, survey_id: UUID) -> Response:
        survey = _survey(request, survey_id, "plan")
        actions.lay_out(_act(request), survey)
        return Response(show_survey(survey))


class MoveSiteView(APIView):
    @extend_schema(
        operation_id="move_site", request=serializers.MoveSiteSerializer, responses=serializers.SurveySerializer
    )
    def post(self, request: Request, survey_id: UUID) -> Response:
        survey = _survey(request, survey_id, "plan")
        values = _given(serializers.MoveSiteSerializer, request)
        actions.move_site(_act(request, values["reason"]), survey, values["number"], values["start_m"])
        return Response(show_survey(survey))


class SurveySettingsView(APIView):
    @extend_schema(operation_id="survey_settings", responses=serializers.SettingsSerializer)
    def get(self, request: Request, survey_id: UUID) -> Response:
        survey = _survey(request, survey_id, "read")
        return Response(serializers.SettingsSerializer(show_settings(survey, parts_of(survey.parts).electro)).data)


class SurveyKitView(APIView):
    @extend_schema(operation_id="survey_kit", responses=serializers.KitSerializer)
    def get(self, request: Request, survey_id: UUID) -> Response:
        survey = _survey(request, survey_id, "read")
        parts = parts_of(survey.parts)
        kit: dict[str, Any] = {
            "limits": show_limits(parts.limits),
            "bath": None,
            "bath_refused": "",
            "tags": None,
            "tags_refused": "",
            "deep": show_deep(survey),
            "rod_hours": rod_hours(parts.angling.rods, parts.angling.bouts, parts.angling.bout_min),
            "questions": QUESTIONS,
        }
        today = timezone.now().date()
        asked: dict[str, Callable[[], Any]] = {
            "bath": lambda: show_bath(parts.bath) if parts.bath.agent else None,
            "tags": lambda: show_tags(survey, parts.tags, today),
        }
        for name, show in asked.items():
            try:
                kit[name] = show()
            except CoreError as refused:
                kit[f"{name}_refused"] = refused.message
        return Response(serializers.KitSerializer(kit).data)


class EnoughView(APIView):
    @extend_schema(
        operation_id="enough", parameters=[serializers.EnoughQuerySerializer], responses=serializers.EnoughSerializer
    )
    def get(self, request: Request, programme_id: UUID) -> Response:
        programme_for(person_of(request), programme_id, "read")
        query = serializers.EnoughQuerySerializer(data=request.query_params)
        query.is_valid(raise_exception=True)
        return Response(serializers.EnoughSerializer(show_enough(query.validated_data)).data)


class RehearsalsView(APIView):
    """Rehearsals of a survey, newest first; a post starts one."""

    @extend_schema(operation_id="rehearsals", responses=serializers.RehearsalSerializer(many=True))
    def get(self, request: Request, survey_id: UUID) -> Response:
        reap_jobs()
        survey = _survey(request, survey_id, "read")
        rows = survey.rehearsals.select_related("job")[:8]
        return Response(serializers.RehearsalSerializer(rows, many=True).data)

    @extend_schema(
        operation_id="rehearse",
        request=serializers.NewRehearsalSerializer,
        responses={201: serializers.RehearsalSerializer},
    )
    def post(self, request: Request, survey_id: UUID) -> Response:
        survey = _survey(request, survey_id, "plan")
        row = start_rehearsal(person_of(request), survey, **_given(serializers.NewRehearsalSerializer, request))
        return Response(serializers.RehearsalSerializer(row).data, status.HTTP_201_CREATED)


class SurveyOutingView(APIView):
    """A plan becomes an outing."""

    @extend_schema(
        operation_id="make_outing", request=serializers.MakeOutingSerializer, responses=serializers.SurveySerializer
    )
    def post(self, request: Request, survey_id: UUID) -> Response:
        survey = _survey(request, survey_id, "open_outing")
        values = _given(serializers.MakeOutingSerializer, request)
        actions.make_outing(_act(request, values["override"]), survey, values["id"], values["date"])
        return Response(show_survey(survey))


class SurveyGpxView(APIView):
    @extend_schema(operation_id="survey_gpx", responses={(200, "application/gpx+xml"): OpenApiTypes.STR})
    def get(self, request: Request, survey_id: UUID) -> HttpResponse:
        return _file(gpx_of(_survey(request, survey_id, "read")), "application/gpx+xml", "sites.gpx")


class SurveyCalendarView(APIView):
    @extend_schema(operation_id="survey_calendar", responses={(200, "text/calendar"): OpenApiTypes.STR})
    def get(self, request: Request, survey_id: UUID) -> HttpResponse:
        calendar = calendar_of(_survey(request, survey_id, "read"), timezone.now())
        return _file(calendar, "text/calendar; charset=utf-8", "survey.ics")


class SurveySheetView(APIView):
    """The field sheet, printed."""

    @extend_schema(
        operation_id="survey_sheet",
        parameters=[OpenApiParameter("paper", enum=["a4", "letter"], default="a4")],
        responses={(200, "application/pdf"): OpenApiTypes.BINARY},
    )
    def get(self, request: Request, survey_id: UUID) -> HttpResponse:
        survey = _survey(request, survey_id, "read")
        return _file(sheet_of(survey, request.query_params.get("paper", "a4")), "application/pdf", "field-sheet.pdf")


class ReachView(APIView):
    @extend_schema(operation_id="reach", responses=serializers.ReachSerializer)
    def get(self, request: Request, water_id: UUID) -> Response:
        return Response(serializers.ReachSerializer(show_reach(_water(request, water_id, "read"))).data)


class ReachLineView(APIView):
    """A post gives the water its line, from a file."""

    parser_classes = [MultiPartParser]

    @extend_schema(
        operation_id="set_line", request=serializers.LineUploadSerializer, responses=serializers.ReachSerializer
    )
    def post(self, request: Request, water_id: UUID) -> Response:
        water = _water(request, water_id, "plan")
        upload = request.FILES.get("file")
        if upload is None:
            raise CoreError("file_missing", "Expected a file in the form's field 'file'; got none.", "file")
        turn = str(request.POST.get("turn", "")).lower() in ("true", "1", "on")
        water = set_line(_act(request), water, line_from(upload.read()), turn)
        return Response(serializers.ReachSerializer(show_reach(water)).data)


class ZonesView(APIView):
    @extend_schema(operation_id="set_zones", request=ZonesSerializer, responses=serializers.ReachSerializer)
    def post(self, request: Request, water_id: UUID) -> Response:
        water = _water(request, water_id, "plan")
        given = _given(ZonesSerializer, request)
        actions.change_zones(_act(request, given["reason"]), water, given["zones"], given["confirmed"])
        return Response(serializers.ReachSerializer(show_reach(water)).data)


class UnitsView(APIView):
    """Control boxes with their limits, and what past runs say of the boat's resistance; a post enters one."""

    @extend_schema(operation_id="units", responses=serializers.ElectroUnitsSerializer)
    def get(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "read")
        readings = r100_readings(programme, "boat_electrofishing")
        middle = median_r100([(each["volts"], each["amps"], each["us_cm"]) for each in readings])
        shown = {"units": programme.units.all(), "r100_ohm": middle, "readings": readings}
        return Response(serializers.ElectroUnitsSerializer(shown).data)

    @extend_schema(
        operation_id="enter_unit",
        request=serializers.ElectroUnitSerializer,
        responses={201: serializers.ElectroUnitSerializer},
    )
    def post(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "plan")
        unit = actions.enter_unit(person_of(request), programme, _given(serializers.ElectroUnitSerializer, request))
        return Response(serializers.ElectroUnitSerializer(unit).data, status.HTTP_201_CREATED)


class PapersView(APIView):
    @extend_schema(
        operation_id="enter_paper", request=serializers.PaperSerializer, responses={201: serializers.PaperSerializer}
    )
    def post(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "plan")
        paper = actions.enter_paper(person_of(request), programme, _given(serializers.PaperSerializer, request))
        return Response(serializers.PaperSerializer(paper).data, status.HTTP_201_CREATED)


class PaperView(APIView):
    @extend_schema(
        operation_id="change_paper", request=serializers.PaperSerializer, responses=serializers.PaperSerializer
    )
    def post(self, request: Request, paper_id: UUID) -> Response:
        paper = get_object_or_404(Paper.objects.select_related("programme"), pk=paper_id)
        require(person_of(request), paper.programme, "plan")
        kept = actions.change_paper(_act(request), paper, _given(serializers.PaperSerializer, request))
        return Response(serializers.PaperSerializer(kept).data)


class SeasonsView(APIView):
    @extend_schema(
        operation_id="enter_season",
        request=serializers.NewSeasonSerializer,
        responses={201: serializers.SeasonSerializer},
    )
    def post(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "plan")
        values = _given(serializers.NewSeasonSerializer, request)
        key = values.pop("water")
        water = water_of(programme, key) if key else None
        season = actions.enter_season(person_of(request), programme, water, values)
        return Response(serializers.SeasonSerializer(season).data, status.HTTP_201_CREATED)


def _given(serializer: Any, request: Request) -> dict[str, Any]:
    given = serializer(data=request.data)
    given.is_valid(raise_exception=True)
    return dict(given.validated_data)


def _plain(value: Any) -> Any:
    """Nested values as JSON holds them."""
    if isinstance(value, dict):
        return {key: _plain(each) for key, each in value.items()}
    if isinstance(value, list):
        return [_plain(each) for each in value]
    return value if value is None or isinstance(value, bool | int | float | str) else str(value)


def _act(request: Request, reason: str = "") -> Act:
    return Act(new_id(), person_of(request), timezone.now(), reason)


def _survey(request: Request, survey_id: UUID, permission: str, among: QuerySet[Survey] | None = None) -> Survey:
    """A survey of the plans, or ``among`` others, that the person may do ``permission`` with."""
    surveys = Survey.objects.filter(deleted_at=None) if among is None else among
    survey = get_object_or_404(surveys.select_related("programme", "water"), pk=survey_id)
    require(person_of(request), survey.programme, permission)
    return survey


def _water(request: Request, water_id: UUID, permission: str) -> Water:
    water = get_object_or_404(Water.objects.select_related("programme"), pk=water_id)
    require(person_of(request), water.programme, permission)
    return water


def _file(content: str | bytes, kind: str, name: str) -> HttpResponse:
    response = HttpResponse(content, content_type=kind)
    response["Content-Disposition"] = f'attachment; filename="{name}"'
    return response
