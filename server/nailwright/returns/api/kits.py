"""Kits of volunteers, and their cards."""

from __future__ import annotations

from uuid import UUID

from django.shortcuts import get_object_or_404
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from nailwright.programmes.models import Membership
from nailwright.programmes.policies import person_of, programme_for, require
from nailwright.returns.volunteers import serializers
from nailwright.returns.volunteers.kits import kit_of, kits_in, summary_of


def _member(request: Request, key: UUID) -> Membership:
    """The membership of a kit: one's own, or anybody's for those who read reports.

    Raises:
        Http404: there is none for this person. Refused: ``role_may_not``.
    """
    found = get_object_or_404(Membership.present.select_related("person", "programme"), pk=key)
    person = person_of(request)
    if found.person_id != person.pk:
        require(person, found.programme, "read_returns")
    return found


class KitView(APIView):
    @extend_schema(operation_id="kit", responses=serializers.TaggingKitSerializer)
    def get(self, request: Request, kit_id: UUID) -> Response:
        return Response(serializers.TaggingKitSerializer(kit_of(_member(request, kit_id))).data)


class KitSummaryView(APIView):
    """What became of a volunteer's fish, and how they measure."""

    @extend_schema(operation_id="kit_summary", responses=serializers.KitSummarySerializer)
    def get(self, request: Request, kit_id: UUID) -> Response:
        return Response(serializers.KitSummarySerializer(summary_of(_member(request, kit_id))).data)


class KitsView(APIView):
    """Everybody with tags or cards, and what waits."""

    @extend_schema(operation_id="kits", responses=serializers.ListedKitSerializer(many=True))
    def get(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "read_returns")
        return Response(serializers.ListedKitSerializer(kits_in(programme), many=True).data)
