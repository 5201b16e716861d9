"""Findings over HTTP. The address holds the whole question, so that it can be shared."""

from __future__ import annotations

from django.http import StreamingHttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework import status
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from nailwright.findings import serializers
from nailwright.findings.data_package import package_of
from nailwright.findings.kept import KINDS, compute, keep_finding, kept_of
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


def _view(kind: str) -> type[APIView]:
    """The view of one kind of finding; the address holds the whole question."""
    query_class, _, shown, _ = KINDS[kind]

    class FindingView(APIView):
        @extend_schema(operation_id=f"{kind.replace('-', '_')}_finding", parameters=[query_class], responses=shown)
        def get(self, request: Request, programme_id: str) -> Response:
            programme = programme_for(request.user, programme_id, "read_findings")
            return Response(compute(programme, kind, request.query_params)[1])

    return FindingView


FINDING_VIEWS = {kind: _view(kind) for kind in KINDS}


class KeptFindingsView(APIView):
    """Findings that were kept, each marked where its rows have changed since; a post keeps one."""

    @extend_schema(operation_id="kept_findings", responses=serializers.KeptFindingSerializer(many=True))
    def get(self, request: Request, programme_id: str) -> Response:
        programme = programme_for(request.user, programme_id, "read_findings")
        return Response(serializers.KeptFindingSerializer(kept_of(programme), many=True).data)

    @extend_schema(
        operation_id="keep_finding",
        request=serializers.KeepFindingSerializer,
        responses={201: serializers.KeptFindingSerializer},
    )
    def post(self, request: Request, programme_id: str) -> Response:
        programme = programme_for(request.user, programme_id, "keep_finding")
        given = serializers.KeepFindingSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        values = given.validated_data
        kept = keep_finding(request.user, programme, values["id"], values["kind"], values["query"], values["title"])
        body = serializers.KeptFindingSerializer({"finding": kept, "changed": False}).data
        return Response(body, status.HTTP_201_CREATED)


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
        total = values["total"]
        if total is None:
            total = count_of(programme, selection, values["deleted"])
        rows = page_of(programme, selection, values["sort"], values["row"], values["limit"], values["deleted"], total)
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
