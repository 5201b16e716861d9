"""Findings over HTTP. The address holds the whole question, so that it can be shared."""

from __future__ import annotations

from uuid import UUID

from django.shortcuts import get_object_or_404
from drf_spectacular.utils import extend_schema
from rest_framework import serializers, status
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from nailwright.common.bodies import given
from nailwright.findings import serializers as shapes
from nailwright.findings.computing import ask
from nailwright.findings.long_selections import keep_selection, spelled_out
from nailwright.findings.models import LongSelection
from nailwright.findings.registry import FindingKind, finding_kinds
from nailwright.findings.request_query import AnySpeciesSerializer, read_query
from nailwright.findings.saved import save_finding, saved_of
from nailwright.findings.selections import selection_options
from nailwright.findings.series_overlay import series_overlay
from nailwright.jobs.models import Job
from nailwright.jobs.serializers import JobSerializer
from nailwright.programmes.places import places_of
from nailwright.programmes.policies import person_of, programme_for, require
from nailwright.programmes.species.known import species_of
from nailwright.waters.models import Series


class SelectionOptionsView(APIView):
    @extend_schema(operation_id="selection_options", responses=shapes.SelectionOptionsSerializer)
    def get(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "read_findings")
        options = selection_options(programme, places_of(person_of(request), programme))
        options["species"] = [species_of(programme)[code] for code in options["species"]]
        options["kinds"] = [
            {"kind": name, "filters": kind.subject.filters, "species": kind.first_species(programme) if kind.first_species else ""}
            for name, kind in finding_kinds().items()
        ]  # fmt: skip
        return Response(shapes.SelectionOptionsSerializer(options).data)


class SelectionsView(APIView):
    """A post keeps a selection that is too long for an address under a short key."""

    @extend_schema(
        operation_id="keep_selection",
        request=shapes.NewSelectionSerializer,
        responses={201: shapes.LongSelectionSerializer},
    )
    def post(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "read_findings")
        kept = keep_selection(programme, given(shapes.NewSelectionSerializer, request)["query"])
        return Response(shapes.LongSelectionSerializer(kept).data, status.HTTP_201_CREATED)


class SelectionView(APIView):
    @extend_schema(operation_id="selection", responses=shapes.LongSelectionSerializer)
    def get(self, request: Request, programme_id: UUID, key: str) -> Response:
        programme = programme_for(person_of(request), programme_id, "read_findings")
        kept = get_object_or_404(LongSelection, programme=programme, key=key)
        return Response(shapes.LongSelectionSerializer(kept).data)


class SeriesOverlayView(APIView):
    """A series from elsewhere beside the fish of a selection."""

    takes_long = True

    @extend_schema(
        operation_id="series_overlay", parameters=[AnySpeciesSerializer], responses=shapes.SeriesOverlaySerializer
    )
    def get(self, request: Request, series_id: UUID) -> Response:
        series = get_object_or_404(Series.present.select_related("water__programme"), pk=series_id)
        programme = series.water.programme
        require(person_of(request), programme, "read_findings")
        selection = read_query(AnySpeciesSerializer, spelled_out(programme, request.query_params)).selection()
        places = places_of(person_of(request), programme)
        places.check_question(selection.species, selection.site, by_site=False)
        return Response(shapes.SeriesOverlaySerializer(series_overlay(programme, series, selection)).data)


class FindingJobSerializer(serializers.Serializer):
    """An answer that takes long: ask again when the job is done."""

    job = JobSerializer()


def _view(kind: FindingKind) -> type[APIView]:
    """The view of one kind of finding; the address holds the whole question."""

    class FindingView(APIView):
        takes_long = True

        @extend_schema(
            operation_id=f"{kind.name.replace('-', '_')}_finding",
            parameters=[kind.query],
            responses={200: kind.shown, 202: FindingJobSerializer},
        )
        def get(self, request: Request, programme_id: UUID) -> Response:
            programme = programme_for(person_of(request), programme_id, "read_findings")
            answer = ask(person_of(request), programme, kind.name, request.query_params)
            if isinstance(answer, Job):
                return Response(FindingJobSerializer({"job": answer}).data, status.HTTP_202_ACCEPTED)
            return Response(answer)

    return FindingView


FINDING_VIEWS = {name: _view(kind) for name, kind in finding_kinds().items()}


class SavedFindingsView(APIView):
    """Findings that were kept, each marked where its rows have changed since; a post keeps one."""

    takes_long = True

    @extend_schema(operation_id="saved_findings", responses=shapes.SavedFindingSerializer(many=True))
    def get(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "read_findings")
        kept = saved_of(programme, places_of(person_of(request), programme))
        return Response(shapes.SavedFindingSerializer(kept, many=True).data)

    @extend_schema(
        operation_id="save_finding",
        request=shapes.SaveFindingSerializer,
        responses={201: shapes.SavedFindingSerializer},
    )
    def post(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "save_finding")
        values = given(shapes.SaveFindingSerializer, request)
        kept = save_finding(
            person_of(request), programme, values["id"], values["kind"], values["query"], values["title"]
        )
        body = shapes.SavedFindingSerializer({"finding": kept, "changed": False}).data
        return Response(body, status.HTTP_201_CREATED)
