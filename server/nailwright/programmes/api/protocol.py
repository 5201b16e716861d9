"""Protocols over HTTP: the one that holds, those of before, and the next."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.db.models import Count
from django.shortcuts import get_object_or_404
from django.utils import timezone
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework import serializers, status
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from nailwright.common.bodies import given
from nailwright.programmes.models import Person, Programme, ProtocolVersion
from nailwright.programmes.policies import may, person_of, programme_for
from nailwright.programmes.protocols import decide, standing_version
from nailwright.programmes.record.audit import Act
from nailwright.programmes.serializers.protocol import DecideSerializer, ProtocolSerializer
from nailwright_core.protocol import SECTIONS


class NumberSerializer(serializers.Serializer):
    number = serializers.IntegerField(min_value=1, max_value=2**31 - 1)


class ProtocolView(APIView):
    """What the programme's crews go by; a post decides anew, as the next version."""

    @extend_schema(
        operation_id="protocol",
        parameters=[OpenApiParameter("number", int, description="An earlier version; the one that holds without it")],
        responses=ProtocolSerializer,
    )
    def get(self, request: Request, programme_id: UUID) -> Response:
        person = person_of(request)
        programme = programme_for(person, programme_id, "read")
        version = standing_version(programme)
        if "number" in request.query_params:
            asked = NumberSerializer(data=request.query_params)
            asked.is_valid(raise_exception=True)
            version = get_object_or_404(programme.protocols, number=asked.validated_data["number"])
        return Response(_told(programme, version, person))

    @extend_schema(operation_id="decide_protocol", request=DecideSerializer, responses={201: ProtocolSerializer})
    def post(self, request: Request, programme_id: UUID) -> Response:
        person = person_of(request)
        programme = programme_for(person, programme_id, "plan")
        values = given(DecideSerializer, request)
        act = Act(values["id"], person, timezone.now(), values["why"])
        version = decide(act, programme, values["sections"], values["based_on"])
        return Response(_told(programme, version, person), status.HTTP_201_CREATED)


def _told(programme: Programme, version: ProtocolVersion, person: Person) -> Any:
    versions = list(
        programme.protocols.select_related("person").annotate(n_outings=Count("outings")).order_by("-number")
    )
    return ProtocolSerializer(
        {
            "number": version.number,
            "standing": version.number == versions[0].number,
            "version": version,
            "sections": SECTIONS.values(),
            "versions": versions,
            "with_mail": may(person, programme, "plan"),
        }
    ).data
