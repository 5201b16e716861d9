"""Settings and control boxes over HTTP."""

from __future__ import annotations

from uuid import UUID

from drf_spectacular.utils import extend_schema
from rest_framework import status
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from nailwright.common.bodies import given
from nailwright.plan.electrofishing import serializers
from nailwright.plan.electrofishing.actions import enter_unit
from nailwright.plan.electrofishing.settings import r100_readings, show_settings
from nailwright.plan.http import survey_for
from nailwright.plan.parts import parts_of
from nailwright.programmes.policies import person_of, programme_for
from nailwright_core.plan.electrofishing import median_r100


class SurveySettingsView(APIView):
    @extend_schema(operation_id="survey_settings", responses=serializers.SettingsSerializer)
    def get(self, request: Request, survey_id: UUID) -> Response:
        survey = survey_for(request, survey_id, "read")
        return Response(serializers.SettingsSerializer(show_settings(survey, parts_of(survey.parts).electro)).data)


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
        unit = enter_unit(person_of(request), programme, given(serializers.ElectroUnitSerializer, request))
        return Response(serializers.ElectroUnitSerializer(unit).data, status.HTTP_201_CREATED)
