"""Findings over HTTP. The address holds the whole question, so that it can be shared."""

from __future__ import annotations

from uuid import UUID

from drf_spectacular.utils import extend_schema
from rest_framework import status
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from nailwright.findings import serializers
from nailwright.findings.kept import KINDS, compute, keep_finding, kept_of
from nailwright.findings.selections import selection_options
from nailwright.programmes.policies import person_of, programme_for
from nailwright_core.common import species as species_table


class SelectionOptionsView(APIView):
    @extend_schema(operation_id="selection_options", responses=serializers.SelectionOptionsSerializer)
    def get(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "read_findings")
        options = selection_options(programme)
        options["species"] = [species_table.get(code) for code in options["species"]]
        return Response(serializers.SelectionOptionsSerializer(options).data)


def _view(kind: str) -> type[APIView]:
    """The view of one kind of finding; the address holds the whole question."""
    query_class, _, shown, _ = KINDS[kind]

    class FindingView(APIView):
        @extend_schema(operation_id=f"{kind.replace('-', '_')}_finding", parameters=[query_class], responses=shown)
        def get(self, request: Request, programme_id: UUID) -> Response:
            programme = programme_for(person_of(request), programme_id, "read_findings")
            return Response(compute(programme, kind, request.query_params)[1])

    return FindingView


FINDING_VIEWS = {kind: _view(kind) for kind in KINDS}


class KeptFindingsView(APIView):
    """Findings that were kept, each marked where its rows have changed since; a post keeps one."""

    @extend_schema(operation_id="kept_findings", responses=serializers.KeptFindingSerializer(many=True))
    def get(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "read_findings")
        return Response(serializers.KeptFindingSerializer(kept_of(programme), many=True).data)

    @extend_schema(
        operation_id="keep_finding",
        request=serializers.KeepFindingSerializer,
        responses={201: serializers.KeptFindingSerializer},
    )
    def post(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "keep_finding")
        given = serializers.KeepFindingSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        values = given.validated_data
        kept = keep_finding(
            person_of(request), programme, values["id"], values["kind"], values["query"], values["title"]
        )
        body = serializers.KeptFindingSerializer({"finding": kept, "changed": False}).data
        return Response(body, status.HTTP_201_CREATED)
