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
from nailwright.waters.actions import add_site, make_water
from nailwright.waters.http import water_for
from nailwright.waters.queries import waters_of
from nailwright.waters.reaches import layers_of


class WatersView(APIView):
    @extend_schema(operation_id="waters", responses=serializers.WaterSerializer(many=True))
    def get(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "read")
        return Response(serializers.WaterSerializer(waters_of(programme), many=True).data)


class NewWaterView(APIView):
    @extend_schema(
        operation_id="make_water", request=serializers.NewWaterSerializer, responses={201: serializers.WaterSerializer}
    )
    def post(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "plan")
        water = make_water(person_of(request), programme, **given(serializers.NewWaterSerializer, request))
        return Response(serializers.WaterSerializer(water).data, status.HTTP_201_CREATED)


class SitesView(APIView):
    """The sites of a water that are in use; a post adds one."""

    @extend_schema(operation_id="sites", responses=serializers.SiteSerializer(many=True))
    def get(self, request: Request, water_id: UUID) -> Response:
        water = water_for(request, water_id, "read")
        rows = water.sites.filter(retired_at=None).order_by("river_km", "name")
        return Response(serializers.SiteSerializer(rows, many=True).data)

    @extend_schema(
        operation_id="add_site", request=serializers.NewSiteSerializer, responses={201: serializers.SiteSerializer}
    )
    def post(self, request: Request, water_id: UUID) -> Response:
        water = water_for(request, water_id, "open_outing")
        values = given(serializers.NewSiteSerializer, request)
        site = add_site(person_of(request), water, key=values.pop("id", None), **values)
        return Response(serializers.SiteSerializer(site).data, status.HTTP_201_CREATED)


class LayersView(APIView):
    """Lines of all waters, thinned out: the ground of a map."""

    @extend_schema(operation_id="layers", responses=serializers.LayerSerializer(many=True))
    def get(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "read")
        return Response(serializers.LayerSerializer(layers_of(programme), many=True).data)
