"""Settings of the public page, and its notice."""

from __future__ import annotations

from uuid import UUID

from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from nailwright.common.bodies import given
from nailwright.programmes.policies import person_of, programme_for
from nailwright.programmes.record.acts import act_of
from nailwright.returns import serializers
from nailwright.returns.page import change_page, notice_pdf, settings_of


class PageSettingsView(APIView):
    @extend_schema(operation_id="public_page_settings", responses=serializers.PageSettingsSerializer)
    def get(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "read_returns")
        return Response(serializers.PageSettingsSerializer(settings_of(programme)).data)

    @extend_schema(
        operation_id="change_public_page",
        request=serializers.PageSettingsSerializer,
        responses=serializers.PageSettingsSerializer,
    )
    def post(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "lead")
        page = change_page(act_of(request), programme, given(serializers.PageSettingsSerializer, request))
        return Response(serializers.PageSettingsSerializer(page).data)


class NoticeView(APIView):
    """The notice to print, with the page's address as a QR code."""

    takes_long = True

    @extend_schema(
        operation_id="public_notice",
        parameters=[serializers.NoticeQuerySerializer],
        responses={(200, "application/pdf"): OpenApiTypes.BINARY},
    )
    def get(self, request: Request, programme_id: UUID) -> HttpResponse:
        programme = programme_for(person_of(request), programme_id, "read_returns")
        asked = serializers.NoticeQuerySerializer(data=request.query_params)
        asked.is_valid(raise_exception=True)
        page = settings_of(programme)
        link = request.build_absolute_uri(f"/r/{page.address}")
        return HttpResponse(notice_pdf(page, link, **asked.validated_data), content_type="application/pdf")
