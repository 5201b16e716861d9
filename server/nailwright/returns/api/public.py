"""The public page: open to everybody, with no account. Nothing here lists numbers or fish."""

from __future__ import annotations

from typing import Any

from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework import status
from rest_framework.permissions import AllowAny
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from nailwright.common.address import address_of
from nailwright.common.bodies import given
from nailwright.returns import serializers
from nailwright.returns.answering import may_be_told, story_for_finder
from nailwright.returns.certificate import certificate_pdf, certificate_svg
from nailwright.returns.contacts import erase_contact
from nailwright.returns.letters import reward_line, story_lines
from nailwright.returns.limits import count_try, room_for
from nailwright.returns.models import PublicPage, Return
from nailwright.returns.page import page_at, shown_page, waters_shown
from nailwright.returns.public_links import key_of, report_of
from nailwright.returns.reporting import take_report
from nailwright.returns.wording import nearest

_STATES = {Return.State.VERIFIED: "verified", Return.State.REJECTED: "rejected", Return.State.ASKED: "asked"}


class OpenView(APIView):
    """No sign-in is asked for, and none is looked at: the answer is the same to everybody."""

    authentication_classes: list[Any] = []
    permission_classes = [AllowAny]


def answer_to(report: Return, language: str) -> dict[str, Any]:
    """What its finder is shown now."""
    told = report.told or report.state == Return.State.VERIFIED
    page = PublicPage.objects.filter(programme=report.programme_id, open=True).first()
    finder = getattr(report, "finder", None)
    return {
        "key": key_of(report),
        "programme": report.programme.name,
        "page": page.address if page else "",
        "number": report.number_text,
        "found_on": report.found_on,
        "state": _STATES.get(Return.State(report.state), "waiting"),
        "question": report.reason if report.state == Return.State.ASKED else "",
        "story": _story(report, language) if told and report.state != Return.State.REJECTED else None,
        "contact": finder is not None and finder.erased_at is None,
    }


def _story(report: Return, language: str) -> dict[str, Any] | None:
    story, spoken = story_for_finder(report), nearest(language)
    if story is None:
        return None
    return {**story, "lines": [*story_lines(story, spoken), *reward_line(report, spoken)]}


def _shown(request: Request, report: Return) -> Response:
    asked = serializers.AnswerQuerySerializer(data=request.query_params)
    asked.is_valid(raise_exception=True)
    return Response(serializers.AnswerSerializer(answer_to(report, asked.validated_data["language"])).data)


class PublicPageView(OpenView):
    @extend_schema(operation_id="public_page", responses=serializers.PublicPageSerializer)
    def get(self, request: Request, address: str) -> Response:
        return Response(serializers.PublicPageSerializer(shown_page(page_at(address))).data)

    @extend_schema(
        operation_id="report_tag",
        request=serializers.ReportSerializer,
        responses={201: serializers.AnswerSerializer},
    )
    def post(self, request: Request, address: str) -> Response:
        page = page_at(address)
        values = given(serializers.ReportSerializer, request)
        room = room_for(page.programme, address_of(request._request))
        report, new = take_report(page.programme, values.pop("id"), values)
        if new:
            fits = may_be_told(report)
            report.told = page.answers_at_once and room.may_tell and fits
            Return.objects.filter(pk=report.pk).update(told=report.told)
            count_try(page.programme, room.sender, told=report.told, missed=not fits)
        return Response(serializers.AnswerSerializer(answer_to(report, report.language)).data, status.HTTP_201_CREATED)


class PublicWatersView(OpenView):
    """Outlines of waters, for the map on which a finder touches the place."""

    @extend_schema(operation_id="public_waters", responses=serializers.PublicWaterSerializer(many=True))
    def get(self, request: Request, address: str) -> Response:
        return Response(serializers.PublicWaterSerializer(waters_shown(page_at(address)), many=True).data)


class PublicReportView(OpenView):
    """The answer to a report, for whoever holds its link."""

    @extend_schema(
        operation_id="public_report",
        parameters=[serializers.AnswerQuerySerializer],
        responses=serializers.AnswerSerializer,
    )
    def get(self, request: Request, link: str) -> Response:
        return _shown(request, report_of(link))


class EraseContactView(OpenView):
    @extend_schema(
        operation_id="erase_contact",
        request=None,
        parameters=[serializers.AnswerQuerySerializer],
        responses=serializers.AnswerSerializer,
    )
    def post(self, request: Request, link: str) -> Response:
        erase_contact(report_of(link))
        return _shown(request, report_of(link))


class CertificateView(OpenView):
    """The certificate as SVG (``form`` svg) or PDF (pdf)."""

    takes_long = True

    @extend_schema(
        operation_id="certificate",
        parameters=[serializers.NoticeQuerySerializer],
        responses={(200, "image/svg+xml"): OpenApiTypes.BINARY, (200, "application/pdf"): OpenApiTypes.BINARY},
    )
    def get(self, request: Request, link: str, form: str) -> HttpResponse:
        asked = serializers.NoticeQuerySerializer(data=request.query_params)
        asked.is_valid(raise_exception=True)
        report, language = report_of(link), nearest(asked.validated_data["language"])
        if form == "svg":
            return HttpResponse(certificate_svg(report, language), content_type="image/svg+xml; charset=utf-8")
        pdf = certificate_pdf(report, language, asked.validated_data["paper"])
        return HttpResponse(pdf, content_type="application/pdf")
