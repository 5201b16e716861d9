"""The in-box of reports, for those who decide them."""

from __future__ import annotations

from uuid import UUID

from django.http import Http404, HttpResponse
from django.shortcuts import get_object_or_404
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework import status
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from nailwright.common.bodies import given
from nailwright.common.pictures import picture_response
from nailwright.programmes.models import Programme
from nailwright.programmes.people.mail import mail_is_set
from nailwright.programmes.policies import person_of, programme_for, require
from nailwright.programmes.record.acts import act_of
from nailwright.returns import serializers
from nailwright.returns.contacts import erase_due
from nailwright.returns.deciding import correct_report, decide, decide_many, match_report
from nailwright.returns.inbox import counts_of, reports_of, whole_report
from nailwright.returns.letters import question_letter, send_letter, thanks_letter
from nailwright.returns.models import Return
from nailwright.returns.public_links import key_of
from nailwright.returns.reporting import take_report


def link_to(request: Request, report: Return) -> str:
    """The private link of a report."""
    return request.build_absolute_uri(f"/r/{_page_of(report.programme)}#{key_of(report)}")


def _page_of(programme: Programme) -> str:
    page = getattr(programme, "public_page", None)
    return page.address if page else "answer"


class ReturnsView(APIView):
    @extend_schema(
        operation_id="returns",
        parameters=[serializers.ReturnsQuerySerializer],
        responses=serializers.ReturnBoxSerializer,
    )
    def get(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "read_returns")
        erase_due(programme)
        asked = serializers.ReturnsQuerySerializer(data=request.query_params)
        asked.is_valid(raise_exception=True)
        values = asked.validated_data
        reports = reports_of(programme, list(values["state"]), values.get("before"))
        return Response(serializers.ReturnBoxSerializer({"counts": counts_of(programme), "reports": reports}).data)

    @extend_schema(
        operation_id="enter_return",
        request=serializers.EnterReportSerializer,
        responses={201: serializers.WholeReturnSerializer},
    )
    def post(self, request: Request, programme_id: UUID) -> Response:
        person = person_of(request)
        programme = programme_for(person, programme_id, "enter_return")
        values = given(serializers.EnterReportSerializer, request)
        report, _ = take_report(programme, values.pop("id"), values, values["channel"], person)
        return Response(serializers.WholeReturnSerializer(whole_report(report)).data, status.HTTP_201_CREATED)


class ReturnView(APIView):
    @extend_schema(operation_id="return", responses=serializers.WholeReturnSerializer)
    def get(self, request: Request, return_id: UUID) -> Response:
        return _whole(_report(request, return_id, "read_returns"))

    @extend_schema(
        operation_id="correct_return", request=serializers.SaidSerializer, responses=serializers.WholeReturnSerializer
    )
    def post(self, request: Request, return_id: UUID) -> Response:
        report = _report(request, return_id, "enter_return")
        correct_report(act_of(request), report, given(serializers.SaidSerializer, request))
        return _whole(_report(request, return_id, "enter_return"))


class MatchView(APIView):
    @extend_schema(
        operation_id="match_return", request=serializers.MatchSerializer, responses=serializers.WholeReturnSerializer
    )
    def post(self, request: Request, return_id: UUID) -> Response:
        report = _report(request, return_id, "verify_returns")
        match_report(act_of(request), report, **given(serializers.MatchSerializer, request))
        return _whole(_report(request, return_id, "verify_returns"))


class DecisionsView(APIView):
    """One decision on one report or several; those that may not be decided so stay, each with why."""

    @extend_schema(
        operation_id="decide_returns", request=serializers.DecisionSerializer, responses=serializers.DecidedSerializer
    )
    def post(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "verify_returns")
        asked = given(serializers.DecisionSerializer, request)
        act = act_of(request, asked["reason"])
        if len(asked["reports"]) == 1:
            rows = Return.objects.select_related("programme")
            one = get_object_or_404(rows, pk=asked["reports"][0], programme=programme)
            done = [one.pk] if decide(act, one, asked["state"], asked["seen"]) else []
            refused: list[tuple[UUID, str]] = []
        else:
            done, refused = decide_many(act, programme, asked["reports"], asked["state"])
        letters = _write_to(request, done) if asked["letter"] else 0
        told = {
            "done": done,
            "refused": [{"report": key, "why": why} for key, why in refused],
            "letters": letters,
        }
        return Response(serializers.DecidedSerializer(told).data)


class LegendPhotoView(APIView):
    """The picture that came with a report, as JPEG."""

    @extend_schema(operation_id="return_photo", responses={(200, "image/jpeg"): OpenApiTypes.BINARY})
    def get(self, request: Request, return_id: UUID) -> HttpResponse:
        report = _report(request, return_id, "read_returns")
        if not hasattr(report, "photo"):
            raise Http404
        return picture_response(report.photo.jpeg)


def _write_to(request: Request, reports: list[UUID]) -> int:
    """Write to the finders of reports that were decided; how many letters go out."""
    rows = Return.objects.filter(pk__in=reports).select_related("programme__public_page", "fish", "tag", "finder")
    return sum(_write(request, each) for each in rows)


def _write(request: Request, report: Return) -> int:
    """Write to the finder that their report is verified, or what is asked; 1 where a letter goes out."""
    finder = getattr(report, "finder", None)
    if not mail_is_set() or finder is None or not finder.email:
        return 0
    link = link_to(request, report)
    if report.state == Return.State.VERIFIED:
        subject, text = thanks_letter(report, link)
    elif report.state == Return.State.ASKED:
        subject, text = question_letter(report, report.reason, link)
    else:
        return 0
    send_letter.enqueue(str(report.pk), subject, text)
    return 1


def _report(request: Request, key: UUID, permission: str) -> Return:
    rows = Return.objects.select_related("programme__public_page", "fish", "tag", "recorder")
    report = get_object_or_404(rows, pk=key)
    require(person_of(request), report.programme, permission)
    return report


def _whole(report: Return) -> Response:
    return Response(serializers.WholeReturnSerializer(whole_report(report)).data)
