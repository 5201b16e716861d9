"""A survey's water over HTTP."""

from __future__ import annotations

from uuid import UUID

from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from nailwright.common.bodies import given
from nailwright.common.parsing import Form
from nailwright.plan.water import serializers
from nailwright.plan.water.actions import change_zones
from nailwright.plan.water.reaches import show_reach
from nailwright.programmes.places import places_of
from nailwright.programmes.policies import person_of
from nailwright.programmes.record.acts import act_of
from nailwright.waters.actions import set_line
from nailwright.waters.http import water_for
from nailwright.waters.lines import line_from
from nailwright.waters.serializers import ZonesSerializer
from nailwright_core.common.errors import CoreError


class ReachView(APIView):
    @extend_schema(operation_id="reach", responses=serializers.ReachSerializer)
    def get(self, request: Request, water_id: UUID) -> Response:
        water = water_for(request, water_id, "read")
        places = places_of(person_of(request), water.programme)
        return Response(serializers.ReachSerializer(show_reach(water, places)).data)


class ReachLineView(APIView):
    """A post gives the water its line, from a file."""

    parser_classes = [Form]

    @extend_schema(
        operation_id="set_line", request=serializers.LineUploadSerializer, responses=serializers.ReachSerializer
    )
    def post(self, request: Request, water_id: UUID) -> Response:
        water = water_for(request, water_id, "plan")
        upload = request.FILES.get("file")
        if upload is None:
            raise CoreError("file_missing", "Expected a file in the form's field 'file'; got none.", "file")
        turn = str(request.POST.get("turn", "")).lower() in ("true", "1", "on")
        water = set_line(act_of(request), water, line_from(upload.read()), turn)
        return Response(serializers.ReachSerializer(show_reach(water)).data)


class ZonesView(APIView):
    @extend_schema(operation_id="set_zones", request=ZonesSerializer, responses=serializers.ReachSerializer)
    def post(self, request: Request, water_id: UUID) -> Response:
        water = water_for(request, water_id, "plan")
        asked = given(ZonesSerializer, request)
        change_zones(act_of(request, asked["reason"]), water, asked["zones"], asked["confirmed"])
        return Response(serializers.ReachSerializer(show_reach(water)).data)
