"""A whole programme over HTTP: taken home, and brought in."""

from __future__ import annotations

from uuid import UUID

from django.http import StreamingHttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework import serializers, status
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from nailwright.common.parsing import Form
from nailwright.common.uploads import uploaded
from nailwright.programmes.policies import person_of, programme_for
from nailwright.records.archive import archive_of, bring_programme


class ArchiveFileSerializer(serializers.Serializer):
    file = serializers.FileField(
        help_text="An archive of a programme, at most 64 MB; larger ones by manage.py bring_programme"
    )


class BroughtSerializer(serializers.Serializer):
    programme = serializers.UUIDField()
    name = serializers.CharField()
    new = serializers.IntegerField(help_text="Rows that came in")
    there = serializers.IntegerField(help_text="Rows that were here already")


class ArchiveView(APIView):
    """A programme whole, as a Data Package: a CSV for each table, with the keys between them."""

    takes_long = True

    @extend_schema(operation_id="programme_archive", responses={(200, "application/zip"): OpenApiTypes.BINARY})
    def get(self, request: Request, programme_id: UUID) -> StreamingHttpResponse:
        programme = programme_for(person_of(request), programme_id, "lead")
        response = StreamingHttpResponse(archive_of(programme), content_type="application/zip")
        response["Content-Disposition"] = 'attachment; filename="programme.zip"'
        return response


class BringProgrammeView(APIView):
    """A programme comes in from an archive of elsewhere, with its keys; the second time nothing is doubled."""

    takes_long = True
    parser_classes = [Form]

    @extend_schema(operation_id="bring_programme", request=ArchiveFileSerializer, responses={201: BroughtSerializer})
    def post(self, request: Request) -> Response:
        brought = bring_programme(person_of(request), uploaded(request).read())
        return Response(BroughtSerializer(brought).data, status.HTTP_201_CREATED)
