"""Findings over HTTP. The address holds the whole question, so that it can be shared."""

from __future__ import annotations

from django.http import StreamingHttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from nailwright.findings import serializers
from nailwright.findings.answers import condition_finding, size_finding
from nailwright.findings.comparisons import cohorts_finding, condition_compared, size_compared
from nailwright.findings.rows import csv_lines
from nailwright.findings.selections import captures_in, selection_options
from nailwright.programmes.policies import programme_for
from nailwright_core.common import species as species_table


class SelectionOptionsView(APIView):
    @extend_schema(operation_id="selection_options", responses=serializers.SelectionOptionsSerializer)
    def get(self, request: Request, programme_id: str) -> Response:
        programme = programme_for(request.user, programme_id, "read_findings")
        options = selection_options(programme)
        options["species"] = [species_table.get(code) for code in options["species"]]
        return Response(serializers.SelectionOptionsSerializer(options).data)


class SizeView(APIView):
    @extend_schema(
        operation_id="size_finding",
        parameters=[serializers.SizeQuerySerializer],
        responses=serializers.SizeFindingSerializer,
    )
    def get(self, request: Request, programme_id: str) -> Response:
        programme = programme_for(request.user, programme_id, "read_findings")
        query = serializers.read_query(serializers.SizeQuerySerializer, request.query_params)
        values = query.validated_data
        finding = size_finding(programme, query.selection(), values.get("bin_mm"), values["level"])
        return Response(serializers.SizeFindingSerializer(finding).data)


class ConditionView(APIView):
    @extend_schema(
        operation_id="condition_finding",
        parameters=[serializers.ConditionQuerySerializer],
        responses=serializers.ConditionFindingSerializer,
    )
    def get(self, request: Request, programme_id: str) -> Response:
        programme = programme_for(request.user, programme_id, "read_findings")
        query = serializers.read_query(serializers.ConditionQuerySerializer, request.query_params)
        finding = condition_finding(programme, query.selection(), query.validated_data["level"])
        return Response(serializers.ConditionFindingSerializer(finding).data)


class SizeComparedView(APIView):
    @extend_schema(
        operation_id="size_compared",
        parameters=[serializers.ComparedQuerySerializer],
        responses=serializers.SizeComparedSerializer,
    )
    def get(self, request: Request, programme_id: str) -> Response:
        programme = programme_for(request.user, programme_id, "read_findings")
        query = serializers.read_query(serializers.ComparedQuerySerializer, request.query_params)
        values = query.validated_data
        finding = size_compared(programme, query.selection(), values["by"], values.get("bin_mm"), values["level"])
        return Response(serializers.SizeComparedSerializer(finding).data)


class ConditionComparedView(APIView):
    @extend_schema(
        operation_id="condition_compared",
        parameters=[serializers.ComparedQuerySerializer],
        responses=serializers.ConditionComparedSerializer,
    )
    def get(self, request: Request, programme_id: str) -> Response:
        programme = programme_for(request.user, programme_id, "read_findings")
        query = serializers.read_query(serializers.ComparedQuerySerializer, request.query_params)
        values = query.validated_data
        finding = condition_compared(programme, query.selection(), values["by"], values["level"])
        return Response(serializers.ConditionComparedSerializer(finding).data)


class CohortsView(APIView):
    @extend_schema(
        operation_id="cohorts", parameters=[serializers.CohortsQuerySerializer], responses=serializers.CohortsSerializer
    )
    def get(self, request: Request, programme_id: str) -> Response:
        programme = programme_for(request.user, programme_id, "read_findings")
        query = serializers.read_query(serializers.CohortsQuerySerializer, request.query_params)
        values = query.validated_data
        finding = cohorts_finding(
            programme,
            query.selection(),
            values.get("k"),
            values["spread"],
            values["start"],
            values.get("bin_mm"),
            values["level"],
        )
        return Response(serializers.CohortsSerializer(finding).data)


class RowsView(APIView):
    """The rows behind a finding: every capture of the selection, used or left out."""

    @extend_schema(
        operation_id="captures_csv",
        parameters=[serializers.SelectionSerializer],
        responses={(200, "text/csv"): OpenApiTypes.STR},
    )
    def get(self, request: Request, programme_id: str) -> StreamingHttpResponse:
        programme = programme_for(request.user, programme_id, "export_rows")
        query = serializers.read_query(serializers.SelectionSerializer, request.query_params)
        selection = query.selection()
        species_table.get(selection.species)
        response = StreamingHttpResponse(
            csv_lines(captures_in(programme, selection)), content_type="text/csv; charset=utf-8"
        )
        response["Content-Disposition"] = f'attachment; filename="captures-{selection.species}.csv"'
        return response
