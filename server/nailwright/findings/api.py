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
from nailwright.findings.data_package import package_of
from nailwright.findings.register import count_of, page_of
from nailwright.findings.rows import csv_lines
from nailwright.findings.selections import Selection, captures_in, selection_options
from nailwright.programmes.models import Programme
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


class RegisterView(APIView):
    """A page of the register, and how many rows there are in all."""

    @extend_schema(
        operation_id="register",
        parameters=[serializers.RegisterQuerySerializer],
        responses=serializers.RegisterSerializer,
    )
    def get(self, request: Request, programme_id: str) -> Response:
        programme = programme_for(request.user, programme_id, "read_findings")
        query = serializers.read_query(serializers.RegisterQuerySerializer, request.query_params)
        selection, values = query.selection(), query.validated_data
        rows = page_of(programme, selection, values["sort"], values["row"], values["limit"], values["deleted"])
        total = count_of(programme, selection, values["deleted"])
        return Response(serializers.RegisterSerializer({"total": total, "rows": rows}).data)


class RowsView(APIView):
    """The rows behind a finding: every capture of the selection, used or left out."""

    @extend_schema(
        operation_id="captures_csv",
        parameters=[serializers.RowsQuerySerializer],
        responses={(200, "text/csv"): OpenApiTypes.STR},
    )
    def get(self, request: Request, programme_id: str) -> StreamingHttpResponse:
        programme, selection = _asked_rows(request, programme_id)
        lines = csv_lines(captures_in(programme, selection))
        response = StreamingHttpResponse(lines, content_type="text/csv; charset=utf-8")
        response["Content-Disposition"] = f'attachment; filename="captures-{selection.species or "all"}.csv"'
        return response


class DataPackageView(APIView):
    """The same rows as a Data Package: their columns and units described beside them."""

    @extend_schema(
        operation_id="captures_zip",
        parameters=[serializers.RowsQuerySerializer],
        responses={(200, "application/zip"): OpenApiTypes.BINARY},
    )
    def get(self, request: Request, programme_id: str) -> StreamingHttpResponse:
        programme, selection = _asked_rows(request, programme_id)
        pieces = package_of(programme, selection, captures_in(programme, selection))
        response = StreamingHttpResponse(pieces, content_type="application/zip")
        response["Content-Disposition"] = f'attachment; filename="captures-{selection.species or "all"}.zip"'
        return response


def _asked_rows(request: Request, programme_id: str) -> tuple[Programme, Selection]:
    programme = programme_for(request.user, programme_id, "export_rows")
    selection = serializers.read_query(serializers.RowsQuerySerializer, request.query_params).selection()
    if selection.species:
        species_table.get(selection.species)
    return programme, selection
