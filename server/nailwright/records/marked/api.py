"""Encounters, histories and reports of marked fish to take home."""

from __future__ import annotations

from uuid import UUID

from django.http import StreamingHttpResponse
from django.shortcuts import get_object_or_404
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from nailwright.programmes.places import places_of
from nailwright.programmes.policies import person_of, programme_for, require
from nailwright.programmes.species.known import species_of
from nailwright.records import serializers
from nailwright.records.http import asked_marks, attached
from nailwright.records.marked.encounters import encounter_csv, encounter_geojson
from nailwright.records.marked.handling import handling_of, photos_of_fish
from nailwright.records.marked.histories import history_csv
from nailwright.records.marked.map_files import encounter_gpx, encounter_kml
from nailwright.records.marked.returns import return_csv
from nailwright.tags.models import Fish

KML = "application/vnd.google-earth.kml+xml"
GPX = "application/gpx+xml"


class EncountersCsvView(APIView):
    """Encounters of marked fish as CSV; of one species or of all."""

    takes_long = True

    @extend_schema(
        operation_id="encounters_csv",
        parameters=[serializers.OfSpeciesSerializer],
        responses={(200, "text/csv"): OpenApiTypes.STR},
    )
    def get(self, request: Request, programme_id: UUID) -> StreamingHttpResponse:
        programme, species = asked_marks(request, programme_id)
        return attached(encounter_csv(programme, species), "text/csv", f"encounters-{species or 'all'}.csv")


class EncountersGeoJsonView(APIView):
    """The same as GeoJSON (RFC 7946)."""

    takes_long = True

    @extend_schema(
        operation_id="encounters_geojson",
        parameters=[serializers.OfSpeciesSerializer],
        responses={(200, "application/geo+json"): OpenApiTypes.STR},
    )
    def get(self, request: Request, programme_id: UUID) -> StreamingHttpResponse:
        programme, species = asked_marks(request, programme_id)
        return attached(
            encounter_geojson(programme, species), "application/geo+json", f"encounters-{species or 'all'}.geojson"
        )


class EncountersKmlView(APIView):
    """The same as KML: those with a position."""

    takes_long = True

    @extend_schema(
        operation_id="encounters_kml",
        parameters=[serializers.OfSpeciesSerializer],
        responses={(200, KML): OpenApiTypes.STR},
    )
    def get(self, request: Request, programme_id: UUID) -> StreamingHttpResponse:
        programme, species = asked_marks(request, programme_id)
        return attached(encounter_kml(programme, species), KML, f"encounters-{species or 'all'}.kml")


class EncountersGpxView(APIView):
    """The same as GPX waypoints: those with a position."""

    takes_long = True

    @extend_schema(
        operation_id="encounters_gpx",
        parameters=[serializers.OfSpeciesSerializer],
        responses={(200, GPX): OpenApiTypes.STR},
    )
    def get(self, request: Request, programme_id: UUID) -> StreamingHttpResponse:
        programme, species = asked_marks(request, programme_id)
        return attached(encounter_gpx(programme, species), GPX, f"encounters-{species or 'all'}.gpx")


class HistoriesCsvView(APIView):
    """Histories of marked fish as CSV of 0 and 1, a column an occasion."""

    takes_long = True

    @extend_schema(
        operation_id="encounter_histories_csv",
        parameters=[serializers.HistoriesQuerySerializer],
        responses={(200, "text/csv"): OpenApiTypes.STR},
    )
    def get(self, request: Request, programme_id: UUID) -> StreamingHttpResponse:
        programme = programme_for(person_of(request), programme_id, "export_rows")
        asked = serializers.HistoriesQuerySerializer(data=request.query_params)
        asked.is_valid(raise_exception=True)
        code, by = species_of(programme)[asked.validated_data["species"]].code, asked.validated_data["by"]
        return attached(history_csv(programme, code, by), "text/csv", f"histories-{code}.csv")


class ReturnsCsvView(APIView):
    """Reports of tags as CSV, without whoever sent them."""

    takes_long = True

    @extend_schema(
        operation_id="returns_csv",
        parameters=[serializers.OfSpeciesSerializer],
        responses={(200, "text/csv"): OpenApiTypes.STR},
    )
    def get(self, request: Request, programme_id: UUID) -> StreamingHttpResponse:
        programme, species = asked_marks(request, programme_id)
        return attached(return_csv(programme, species), "text/csv", f"returns-{species or 'all'}.csv")


class FishHandlingView(APIView):
    """What was done to one fish at each of its meetings, and its photos."""

    @extend_schema(operation_id="fish_handling", responses=serializers.FishHandlingSerializer)
    def get(self, request: Request, fish_id: UUID) -> Response:
        fish = get_object_or_404(Fish.objects.select_related("programme"), pk=fish_id)
        person = person_of(request)
        require(person, fish.programme, "read")
        photos = photos_of_fish(person, fish, places_of(person, fish.programme))
        told = {"meetings": handling_of(person, fish), "photos": photos}
        return Response(serializers.FishHandlingSerializer(told).data)
