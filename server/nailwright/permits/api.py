"""Permits, certificates and allowances over HTTP."""

from __future__ import annotations

from uuid import UUID

from django.http import HttpResponse
from django.shortcuts import get_object_or_404
from django.utils import timezone
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework import status
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from nailwright.common.bodies import given
from nailwright.deck.serializers import AllowanceSerializer, TakenOutSerializer
from nailwright.permits import serializers
from nailwright.permits.actions import add_permit, change_permit, delete_allowance, set_allowance
from nailwright.permits.counting import allowances_of
from nailwright.permits.models import Allowance, Permit
from nailwright.permits.report import report_csv, report_on, report_pdf
from nailwright.programmes.models import Programme
from nailwright.programmes.policies import person_of, programme_for, require
from nailwright.programmes.record.acts import act_of


class PermitsView(APIView):
    @extend_schema(
        operation_id="add_permit", request=serializers.PermitSerializer, responses={201: serializers.PermitSerializer}
    )
    def post(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "plan")
        permit = add_permit(person_of(request), programme, given(serializers.PermitSerializer, request))
        return Response(serializers.PermitSerializer(permit).data, status.HTTP_201_CREATED)


class PermitView(APIView):
    @extend_schema(
        operation_id="change_permit", request=serializers.PermitSerializer, responses=serializers.PermitSerializer
    )
    def post(self, request: Request, permit_id: UUID) -> Response:
        permit = _permit(request, permit_id, "plan")
        changed = change_permit(act_of(request), permit, given(serializers.PermitSerializer, request))
        return Response(serializers.PermitSerializer(changed).data)


class PermitReportView(APIView):
    """A permit's report, counted from the record: PDF, or CSV with a line for each species on each outing."""

    takes_long = True

    @extend_schema(
        operation_id="permit_report",
        parameters=[serializers.PermitReportQuerySerializer],
        responses={(200, "application/pdf"): OpenApiTypes.BINARY, (200, "text/csv"): OpenApiTypes.STR},
    )
    def get(self, request: Request, permit_id: UUID) -> HttpResponse:
        permit = _permit(request, permit_id, "export_rows")
        query = serializers.PermitReportQuerySerializer(data=request.query_params)
        query.is_valid(raise_exception=True)
        values = query.validated_data
        report = report_on(permit)
        if values["form"] == "csv":
            response = HttpResponse(report_csv(report), content_type="text/csv; charset=utf-8")
        else:
            today = timezone.now().date()
            response = HttpResponse(report_pdf(report, values["paper"], today), content_type="application/pdf")
        response["Content-Disposition"] = f'attachment; filename="permit.{values["form"]}"'
        return response


class AllowancesView(APIView):
    """What permits allow and what is counted against it; a post adds one more."""

    @extend_schema(operation_id="allowances", responses=AllowanceSerializer(many=True))
    def get(self, request: Request, programme_id: UUID) -> Response:
        return _all(programme_for(person_of(request), programme_id, "read"))

    @extend_schema(
        operation_id="add_allowance",
        request=serializers.NewAllowanceSerializer,
        responses={201: AllowanceSerializer(many=True)},
    )
    def post(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "plan")
        set_allowance(act_of(request), programme, given(serializers.NewAllowanceSerializer, request))
        return _all(programme, status.HTTP_201_CREATED)


class AllowanceView(APIView):
    @extend_schema(
        operation_id="change_allowance",
        request=serializers.NewAllowanceSerializer,
        responses=AllowanceSerializer(many=True),
    )
    def post(self, request: Request, allowance_id: UUID) -> Response:
        row = _allowance(request, allowance_id)
        programme = row.permit.programme
        set_allowance(act_of(request), programme, given(serializers.NewAllowanceSerializer, request), row)
        return _all(programme)


class AllowanceDeletedView(APIView):
    """Deletes an allowance, or restores it."""

    @extend_schema(
        operation_id="delete_allowance", request=TakenOutSerializer, responses=AllowanceSerializer(many=True)
    )
    def post(self, request: Request, allowance_id: UUID) -> Response:
        row = _allowance(request, allowance_id)
        delete_allowance(act_of(request), row, given(TakenOutSerializer, request)["deleted"])
        return _all(row.permit.programme)


def _all(programme: Programme, code: int = status.HTTP_200_OK) -> Response:
    return Response(AllowanceSerializer(allowances_of(programme), many=True).data, code)


def _permit(request: Request, key: UUID, action: str) -> Permit:
    permit = get_object_or_404(Permit.objects.select_related("programme"), pk=key)
    require(person_of(request), permit.programme, action)
    return permit


def _allowance(request: Request, key: UUID) -> Allowance:
    row = get_object_or_404(Allowance.objects.select_related("permit__programme"), pk=key)
    require(person_of(request), row.permit.programme, "plan")
    return row
