"""Waters over HTTP."""

from __future__ import annotations

from uuid import UUID

from django.shortcuts import get_object_or_404
from drf_spectacular.utils import extend_schema
from rest_framework import status
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from nailwright.common.bodies import given
from nailwright.common.parsing import Form
from nailwright.common.uploads import uploaded
from nailwright.programmes.places import places_of
from nailwright.programmes.policies import may, person_of, programme_for, require
from nailwright.programmes.record.acts import act_of
from nailwright.waters import serializers
from nailwright.waters.actions import add_site, make_water
from nailwright.waters.corrections import change_site, change_water, delete_site, delete_water
from nailwright.waters.http import site_for, water_for
from nailwright.waters.models import Series
from nailwright.waters.queries import waters_of
from nailwright.waters.reaches import layers_of
from nailwright.waters.series import bring_series, series_of, take_out_series


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

    @extend_schema(operation_id="sites", responses=serializers.PlacedSiteSerializer(many=True))
    def get(self, request: Request, water_id: UUID) -> Response:
        water = water_for(request, water_id, "read")
        secret = places_of(person_of(request), water.programme).secret
        rows = water.sites.filter(retired_at=None).exclude(pk__in=secret).order_by("river_km", "name")
        placed = {"placed": may(person_of(request), water.programme, "add_site")}
        return Response(serializers.PlacedSiteSerializer(rows, many=True, context=placed).data)

    @extend_schema(
        operation_id="add_site",
        request=serializers.NewSiteSerializer,
        responses={201: serializers.PlacedSiteSerializer},
    )
    def post(self, request: Request, water_id: UUID) -> Response:
        water = water_for(request, water_id, "add_site")
        values = given(serializers.NewSiteSerializer, request)
        site = add_site(person_of(request), water, key=values.pop("id", None), **values)
        return Response(serializers.PlacedSiteSerializer(site).data, status.HTTP_201_CREATED)


class WaterView(APIView):
    """Changes a water: its name, its kind, the place of one that is a point."""

    @extend_schema(
        operation_id="change_water", request=serializers.ChangeWaterSerializer, responses=serializers.WaterSerializer
    )
    def post(self, request: Request, water_id: UUID) -> Response:
        water = water_for(request, water_id, "plan")
        values = given(serializers.ChangeWaterSerializer, request)
        water = change_water(act_of(request, values.pop("reason")), water, values)
        return Response(serializers.WaterSerializer(waters_of(water.programme).get(pk=water.pk)).data)


class WaterDeletedView(APIView):
    """Deletes a water at which nothing was fished and nothing is planned."""

    @extend_schema(operation_id="delete_water", request=None, responses=serializers.WaterSerializer(many=True))
    def post(self, request: Request, water_id: UUID) -> Response:
        water = water_for(request, water_id, "plan")
        delete_water(act_of(request), water)
        return Response(serializers.WaterSerializer(waters_of(water.programme), many=True).data)


class SiteView(APIView):
    """Changes a site: its name, its zone, its place."""

    @extend_schema(
        operation_id="change_site", request=serializers.ChangeSiteSerializer, responses=serializers.PlacedSiteSerializer
    )
    def post(self, request: Request, site_id: UUID) -> Response:
        site = site_for(request, site_id, "add_site")
        values = given(serializers.ChangeSiteSerializer, request)
        site = change_site(act_of(request, values.pop("reason")), site, values)
        return Response(serializers.PlacedSiteSerializer(site).data)


class SiteDeletedView(APIView):
    """Takes a site out of use, or back into it; what was recorded there stays."""

    @extend_schema(
        operation_id="delete_site",
        request=serializers.SiteDeletedSerializer,
        responses=serializers.PlacedSiteSerializer,
    )
    def post(self, request: Request, site_id: UUID) -> Response:
        site = site_for(request, site_id, "add_site")
        site = delete_site(act_of(request), site, given(serializers.SiteDeletedSerializer, request)["deleted"])
        return Response(serializers.PlacedSiteSerializer(site).data)


class LayersView(APIView):
    """Lines of all waters, thinned out: the ground of a map."""

    @extend_schema(operation_id="layers", responses=serializers.LayerSerializer(many=True))
    def get(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "read")
        return Response(serializers.LayerSerializer(layers_of(programme), many=True).data)


class SeriesListView(APIView):
    """Series of a programme's waters."""

    @extend_schema(operation_id="series", responses=serializers.SeriesSerializer(many=True))
    def get(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "read")
        return Response(serializers.SeriesSerializer(series_of(programme), many=True).data)


class BringSeriesView(APIView):
    """A file of readings from elsewhere: a new series of a water, or more of one that it has."""

    takes_long = True
    parser_classes = [Form]

    @extend_schema(
        operation_id="bring_series",
        request=serializers.NewSeriesSerializer,
        responses={201: serializers.BroughtSeriesSerializer},
    )
    def post(self, request: Request, water_id: UUID) -> Response:
        water = water_for(request, water_id, "plan")
        content = uploaded(request).read()
        told = given(serializers.NewSeriesSerializer, request)
        told.pop("file")
        _, n = bring_series(act_of(request), water, told, content)
        shown = {"series": series_of(water.programme), **n}
        return Response(serializers.BroughtSeriesSerializer(shown).data, status.HTTP_201_CREATED)


class SeriesDeletedView(APIView):
    """Takes a series out, or puts it back."""

    @extend_schema(
        operation_id="take_out_series",
        request=serializers.SeriesDeletedSerializer,
        responses=serializers.SeriesSerializer(many=True),
    )
    def post(self, request: Request, series_id: UUID) -> Response:
        series = get_object_or_404(Series.objects.select_related("water__programme"), pk=series_id)
        programme = series.water.programme
        require(person_of(request), programme, "plan")
        take_out_series(act_of(request), series, given(serializers.SeriesDeletedSerializer, request)["deleted"])
        return Response(serializers.SeriesSerializer(series_of(programme), many=True).data)
