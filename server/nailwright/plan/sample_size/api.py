"""How much is enough, over HTTP."""

from __future__ import annotations

from uuid import UUID

from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from nailwright.plan.sample_size import serializers
from nailwright.plan.sample_size.answers import show_enough
from nailwright.programmes.policies import person_of, programme_for


class EnoughView(APIView):
    @extend_schema(
        operation_id="enough", parameters=[serializers.EnoughQuerySerializer], responses=serializers.EnoughSerializer
    )
    def get(self, request: Request, programme_id: UUID) -> Response:
        programme_for(person_of(request), programme_id, "read")
        query = serializers.EnoughQuerySerializer(data=request.query_params)
        query.is_valid(raise_exception=True)
        return Response(serializers.EnoughSerializer(show_enough(query.validated_data)).data)
