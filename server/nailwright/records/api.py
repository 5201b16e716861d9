"""Files over HTTP."""

from __future__ import annotations

import gzip
from typing import Any
from uuid import UUID

from django.http import FileResponse, Http404, HttpResponse, StreamingHttpResponse
from django.shortcuts import get_object_or_404
from django.utils import timezone
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework import status
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from nailwright.common.bodies import given
from nailwright.common.parsing import Form
from nailwright.common.rows import new_id
from nailwright.common.uploads import uploaded
from nailwright.findings.long_selections import spelled_out
from nailwright.findings.request_query import AnySpeciesSerializer, read_query
from nailwright.findings.selections import Selection, captures_in
from nailwright.jobs.actions import reap_jobs
from nailwright.programmes.models import Programme
from nailwright.programmes.places import places_of
from nailwright.programmes.policies import person_of, programme_for, require
from nailwright.programmes.record.audit import Act
from nailwright.programmes.species.known import species_of
from nailwright.records import serializers
from nailwright.records.actions import (
    bring_in,
    delete_mapping,
    forget_file,
    save_mapping,
    take_file,
    take_import_back,
    try_file,
)
from nailwright.records.columns import READ, REGISTER
from nailwright.records.csv_rows import csv_lines
from nailwright.records.darwin_core.archive import darwin_core_archive
from nailwright.records.data_package import at_large_package, captures_package, marks_package
from nailwright.records.http import asked_marks, attached
from nailwright.records.marked.at_large import at_large_csv
from nailwright.records.models import Import, Mapping
from nailwright.records.register import count_of, page_of
from nailwright.records.workbook import workbook_of

XLSX = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"


class ImportsView(APIView):
    """Files that were brought in or wait for it; a post takes a new one."""

    takes_long = True
    parser_classes = [Form]

    @extend_schema(operation_id="imports", responses=serializers.ImportsSerializer)
    def get(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "import_rows")
        rows = programme.imports.select_related("person").defer("packed", "rejects", "preview")
        return Response(serializers.ImportsSerializer({"kinds": _kinds(programme), "imports": rows}).data)

    @extend_schema(
        operation_id="take_file", request=serializers.UploadSerializer, responses={201: serializers.ImportSerializer}
    )
    def post(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "import_rows")
        upload = uploaded(request)
        row = take_file(person_of(request), programme, upload.name, upload.read())
        return Response(serializers.ImportSerializer(row).data, status.HTTP_201_CREATED)


class ImportView(APIView):
    @extend_schema(operation_id="import", responses=serializers.ImportSerializer)
    def get(self, request: Request, import_id: UUID) -> Response:
        reap_jobs()
        row = _import(request, import_id)
        return Response(serializers.ImportSerializer(row).data)

    @extend_schema(operation_id="forget_file", responses={204: None})
    def delete(self, request: Request, import_id: UUID) -> Response:
        forget_file(person_of(request), _import(request, import_id))
        return Response(status=status.HTTP_204_NO_CONTENT)


class TryView(APIView):
    @extend_schema(
        operation_id="try_file", request=serializers.AnswersSerializer, responses=serializers.ImportSerializer
    )
    def post(self, request: Request, import_id: UUID) -> Response:
        row = _import(request, import_id)
        answers = given(serializers.AnswersSerializer, request)
        return Response(serializers.ImportSerializer(try_file(person_of(request), row, answers)).data)


class BringInView(APIView):
    @extend_schema(operation_id="bring_in", request=None, responses=serializers.ImportSerializer)
    def post(self, request: Request, import_id: UUID) -> Response:
        return Response(serializers.ImportSerializer(bring_in(person_of(request), _import(request, import_id))).data)


class TakeBackView(APIView):
    @extend_schema(operation_id="take_import_back", request=None, responses=serializers.ImportSerializer)
    def post(self, request: Request, import_id: UUID) -> Response:
        act = Act(new_id(), person_of(request), timezone.now())
        return Response(serializers.ImportSerializer(take_import_back(act, _import(request, import_id))).data)


class RejectsView(APIView):
    """The lines that were not taken, as they stand in the file, each with its number, column and reason before it."""

    @extend_schema(operation_id="rejects_csv", responses={(200, "text/csv"): OpenApiTypes.STR})
    def get(self, request: Request, import_id: UUID) -> HttpResponse:
        row = _import(request, import_id)
        if not row.rejects:
            raise Http404
        response = HttpResponse(gzip.decompress(row.rejects), content_type="text/csv; charset=utf-8")
        response["Content-Disposition"] = 'attachment; filename="rejects.csv"'
        return response


def _import(request: Request, import_id: UUID) -> Import:
    rows = Import.objects.select_related("programme", "person", "job").defer("packed", "rejects")
    row = get_object_or_404(rows, pk=import_id)
    require(person_of(request), row.programme, "import_rows")
    return row


def _kinds(programme: Programme) -> list[dict[str, Any]]:
    """Kinds of column with what their words can mean, named as people call it."""
    named: dict[str, dict[str, str]] = {
        "species": {
            code: species_of(programme)[code].common_name for code in programme.species.values_list("code", flat=True)
        },
        "water": {str(key): name for key, name in programme.waters.values_list("pk", "name")},
    }
    return [
        {
            "key": key,
            "label": column.title,
            "units": column.units,
            "choices": named.get(key) or {code: code for code in dict.fromkeys(getattr(column, "known", {}).values())},
        }
        for key, column in READ.items()
    ]


class RegisterView(APIView):
    """A page of the register, and how many rows there are in all."""

    takes_long = True

    @extend_schema(
        operation_id="register",
        parameters=[serializers.RegisterQuerySerializer],
        responses=serializers.RegisterSerializer,
    )
    def get(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "read_findings")
        query = read_query(serializers.RegisterQuerySerializer, spelled_out(programme, request.query_params))
        selection, values = query.selection(), query.validated_data
        places, total = places_of(person_of(request), programme), values["total"]
        places.check_question(selection.species, selection.site, by_site=False)
        if total is None:
            total = count_of(programme, selection, values["deleted"])
        rows = page_of(
            programme, selection, values["sort"], values["row"], values["limit"], values["deleted"], total,
            places,
        )  # fmt: skip
        return Response(serializers.RegisterSerializer({"total": total, "columns": REGISTER, "rows": rows}).data)


class RowsView(APIView):
    """The rows behind a finding: every capture of the selection, used or left out."""

    takes_long = True

    @extend_schema(
        operation_id="captures_csv",
        parameters=[AnySpeciesSerializer],
        responses={(200, "text/csv"): OpenApiTypes.STR},
    )
    def get(self, request: Request, programme_id: UUID) -> StreamingHttpResponse:
        programme, selection = _asked_rows(request, programme_id)
        lines = csv_lines(programme, captures_in(programme, selection))
        return attached(lines, "text/csv", f"captures-{selection.species or 'all'}.csv")


class WorkbookView(APIView):
    """The same rows as a workbook."""

    takes_long = True

    @extend_schema(
        operation_id="captures_xlsx",
        parameters=[AnySpeciesSerializer],
        responses={(200, XLSX): OpenApiTypes.BINARY},
    )
    def get(self, request: Request, programme_id: UUID) -> FileResponse:
        programme, selection = _asked_rows(request, programme_id)
        file = workbook_of(programme, captures_in(programme, selection))
        name = f"captures-{selection.species or 'all'}.xlsx"
        return FileResponse(file, as_attachment=True, filename=name, content_type=XLSX)


class MarksPackageView(APIView):
    """Encounters and reports as a Data Package: their columns and units described beside them."""

    takes_long = True

    @extend_schema(
        operation_id="marks_zip",
        parameters=[serializers.OfSpeciesSerializer],
        responses={(200, "application/zip"): OpenApiTypes.BINARY},
    )
    def get(self, request: Request, programme_id: UUID) -> StreamingHttpResponse:
        programme, species = asked_marks(request, programme_id)
        return attached(marks_package(programme, species), "application/zip", f"marks-{species or 'all'}.zip")


class AtLargeCsvView(APIView):
    """Tags in living fish as CSV, for another programme to take in."""

    takes_long = True

    @extend_schema(operation_id="marks_at_large_csv", responses={(200, "text/csv"): OpenApiTypes.STR})
    def get(self, request: Request, programme_id: UUID) -> StreamingHttpResponse:
        programme = programme_for(person_of(request), programme_id, "lead")
        return attached(at_large_csv(programme), "text/csv", "marks-at-large.csv")


class AtLargePackageView(APIView):
    """The same as a Data Package."""

    takes_long = True

    @extend_schema(operation_id="marks_at_large_zip", responses={(200, "application/zip"): OpenApiTypes.BINARY})
    def get(self, request: Request, programme_id: UUID) -> StreamingHttpResponse:
        programme = programme_for(person_of(request), programme_id, "lead")
        return attached(at_large_package(programme), "application/zip", "marks-at-large.zip")


class DarwinCoreView(APIView):
    """The programme's fish as a Darwin Core archive, with places as everybody may see them."""

    takes_long = True

    @extend_schema(operation_id="darwin_core", responses={(200, "application/zip"): OpenApiTypes.BINARY})
    def get(self, request: Request, programme_id: UUID) -> StreamingHttpResponse:
        programme = programme_for(person_of(request), programme_id, "export_rows")
        return attached(darwin_core_archive(programme), "application/zip", "darwin-core.zip")


class MappingsView(APIView):
    """How files are read, saved by name; a post saves one, in place of another of that name."""

    @extend_schema(operation_id="mappings", responses=serializers.MappingSerializer(many=True))
    def get(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "import_rows")
        return Response(serializers.MappingSerializer(programme.mappings.all(), many=True).data)

    @extend_schema(
        operation_id="save_mapping",
        request=serializers.SaveMappingSerializer,
        responses={201: serializers.MappingSerializer},
    )
    def post(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "import_rows")
        values = given(serializers.SaveMappingSerializer, request)
        mapping = save_mapping(person_of(request), programme, values["id"], values["name"], values["answers"])
        return Response(serializers.MappingSerializer(mapping).data, status.HTTP_201_CREATED)


class MappingView(APIView):
    @extend_schema(operation_id="delete_mapping", responses={204: None})
    def delete(self, request: Request, mapping_id: UUID) -> Response:
        mapping = get_object_or_404(Mapping.objects.select_related("programme"), pk=mapping_id)
        delete_mapping(person_of(request), mapping)
        return Response(status=status.HTTP_204_NO_CONTENT)


class DataPackageView(APIView):
    """The same rows as a Data Package: their columns and units described beside them."""

    takes_long = True

    @extend_schema(
        operation_id="captures_zip",
        parameters=[AnySpeciesSerializer],
        responses={(200, "application/zip"): OpenApiTypes.BINARY},
    )
    def get(self, request: Request, programme_id: UUID) -> StreamingHttpResponse:
        programme, selection = _asked_rows(request, programme_id)
        pieces = captures_package(programme, selection, captures_in(programme, selection))
        return attached(pieces, "application/zip", f"captures-{selection.species or 'all'}.zip")


def _asked_rows(request: Request, programme_id: UUID) -> tuple[Programme, Selection]:
    programme = programme_for(person_of(request), programme_id, "export_rows")
    selection = read_query(AnySpeciesSerializer, spelled_out(programme, request.query_params)).selection()
    if selection.species:
        species_of(programme)[selection.species]
    return programme, selection
