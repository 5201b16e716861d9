"""Handling over HTTP."""

from __future__ import annotations

from uuid import UUID

from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from nailwright.deck.handling.inductions import inductions_of
from nailwright.deck.serializers.inductions import BathAskedSerializer, InductionsSerializer
from nailwright.programmes.policies import person_of, programme_for


class InductionsView(APIView):
    """How long fish took to lose balance in earlier baths of an agent, and what that suggests for the next one."""

    @extend_schema(operation_id="inductions", parameters=[BathAskedSerializer], responses=InductionsSerializer)
    def get(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "read")
        asked = BathAskedSerializer(data=request.query_params)
        asked.is_valid(raise_exception=True)
        return Response(InductionsSerializer(inductions_of(programme, **asked.validated_data)).data)
