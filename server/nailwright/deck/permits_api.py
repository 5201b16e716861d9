"""Allowances of permits over HTTP."""

from __future__ import annotations

from uuid import UUID

from django.shortcuts import get_object_or_404
from drf_spectacular.utils import extend_schema
from rest_framework import status
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from nailwright.common.bodies import given
from nailwright.deck import serializers
from nailwright.deck.models import Allowance
from nailwright.deck.permits import allowances_of, set_allowance, take_out_allowance
from nailwright.programmes.policies import person_of, programme_for, require
from nailwright.programmes.record.acts import act_of


class AllowancesView(APIView):
    """What permits allow and what is counted against it; a post enters one more."""

    @extend_schema(operation_id="allowances", responses=serializers.AllowanceSerializer(many=True))
    def get(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "read")
        return Response(serializers.AllowanceSerializer(allowances_of(programme), many=True).data)

    @extend_schema(
        operation_id="enter_allowance",
        request=serializers.NewAllowanceSerializer,
        responses={201: serializers.AllowanceSerializer(many=True)},
    )
    def post(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "plan")
        set_allowance(act_of(request), programme, given(serializers.NewAllowanceSerializer, request))
        return Response(
            serializers.AllowanceSerializer(allowances_of(programme), many=True).data, status.HTTP_201_CREATED
        )


class AllowanceView(APIView):
    @extend_schema(
        operation_id="change_allowance",
        request=serializers.NewAllowanceSerializer,
        responses=serializers.AllowanceSerializer(many=True),
    )
    def post(self, request: Request, allowance_id: UUID) -> Response:
        row = _allowance(request, allowance_id)
        set_allowance(act_of(request), row.programme, given(serializers.NewAllowanceSerializer, request), row)
        return Response(serializers.AllowanceSerializer(allowances_of(row.programme), many=True).data)


class AllowanceDeletedView(APIView):
    """Takes an allowance out, or puts it back."""

    @extend_schema(
        operation_id="take_out_allowance",
        request=serializers.TakenOutSerializer,
        responses=serializers.AllowanceSerializer(many=True),
    )
    def post(self, request: Request, allowance_id: UUID) -> Response:
        row = _allowance(request, allowance_id)
        take_out_allowance(act_of(request), row, given(serializers.TakenOutSerializer, request)["deleted"])
        return Response(serializers.AllowanceSerializer(allowances_of(row.programme), many=True).data)


def _allowance(request: Request, key: UUID) -> Allowance:
    row = get_object_or_404(Allowance.objects.select_related("programme"), pk=key)
    require(person_of(request), row.programme, "plan")
    return row
