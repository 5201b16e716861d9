"""Rewards over HTTP."""

from __future__ import annotations

from uuid import UUID

from django.shortcuts import get_object_or_404
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from nailwright.common.bodies import given
from nailwright.programmes.policies import person_of, programme_for, require
from nailwright.programmes.record.acts import act_of
from nailwright.returns.models import Return
from nailwright.returns.rewards.budget import budget_of
from nailwright.returns.rewards.paying import pay
from nailwright.returns.rewards.serializers import BudgetSerializer, PaySerializer, RewardSerializer


class BudgetView(APIView):
    """What rewards cost, and what is to be paid."""

    @extend_schema(operation_id="rewards", responses=BudgetSerializer)
    def get(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "read_returns")
        return Response(BudgetSerializer(budget_of(programme)).data)


class RewardView(APIView):
    """A reward is paid, with its proof, or was not after all."""

    @extend_schema(operation_id="pay_reward", request=PaySerializer, responses=RewardSerializer)
    def post(self, request: Request, return_id: UUID) -> Response:
        report = get_object_or_404(Return.objects.select_related("programme"), pk=return_id)
        require(person_of(request), report.programme, "verify_returns")
        asked = given(PaySerializer, request)
        row = pay(act_of(request, asked["reason"]), report, asked["paid"], asked["proof"])
        return Response(RewardSerializer(row).data)
