"""Waters over HTTP."""

from __future__ import annotations

from uuid import UUID

from drf_spectacular.utils import extend_schema
from rest_framework import status
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from nailwright.common.bodies import given
from nailwright.programmes.policies import person_of, programme_for
from nailwright.waters import serializers
from nailwright.waters.actions import make_water
from nailwright.waters.reaches import layers_of


class WatersView(APIView):
    @extend_schema(operation_id="waters", responses=serializers.WaterSerializer(many=True))
    def get(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "read")
        return Response(serializers.WaterSerializer(programme.waters.order_by("name"), many=True).data)


class NewWaterView(APIView):
    @extend_schema(
        operation_id="make_water", request=serializers.NewWaterSerializer, responses={201: serializers.WaterSerializer}
    )
    def post(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "plan")
        water = make_water(person_of(request), programme, **given(serializers.NewWaterSerializer, request))
        return Response(serializers.WaterSerializer(water).data, status.HTTP_201_CREATED)


class LayersView(APIView):
    """Lines of all waters, thinned out: the ground of a map."""

    @extend_schema(operation_id="layers", responses=serializers.LayerSerializer(many=True))
    def get(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "read")
        return Response(serializers.LayerSerializer(layers_of(programme), many=True).data)
