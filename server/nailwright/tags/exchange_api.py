"""Marks of other programmes over HTTP."""

from __future__ import annotations

from uuid import UUID

from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from nailwright.common.bodies import given
from nailwright.common.parsing import Form
from nailwright.common.sources import open_table
from nailwright.common.uploads import uploaded
from nailwright.programmes.policies import person_of, programme_for
from nailwright.programmes.record.acts import act_of
from nailwright.tags import serializers
from nailwright.tags.exchange import forget_marks, owners_of, take_marks


class ForeignMarksView(APIView):
    """Programmes whose marks are known here; a post takes a file of theirs in."""

    parser_classes = [Form]

    @extend_schema(operation_id="foreign_marks", responses=serializers.OwnerSerializer(many=True))
    def get(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "keep_tags")
        return Response(serializers.OwnerSerializer(owners_of(programme), many=True).data)

    @extend_schema(
        operation_id="take_foreign_marks",
        request={
            "multipart/form-data": {"type": "object", "properties": {"file": {"type": "string", "format": "binary"}}}
        },
        responses=serializers.ExchangedSerializer,
    )
    def post(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "keep_tags")
        taken = take_marks(act_of(request), programme, open_table(uploaded(request).read()))
        told = {
            "new": taken.new,
            "changed": taken.changed,
            "same": taken.same,
            "unread": [{"text": f"line {line}", "why": why} for line, why in taken.unread[:20]],
            "unread_n": len(taken.unread),
        }
        return Response(serializers.ExchangedSerializer(told).data)


class ForgetForeignMarksView(APIView):
    @extend_schema(
        operation_id="forget_foreign_marks",
        request=serializers.OfOwnerSerializer,
        responses=serializers.OwnerSerializer(many=True),
    )
    def post(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "keep_tags")
        forget_marks(act_of(request), programme, given(serializers.OfOwnerSerializer, request)["owner"])
        return Response(serializers.OwnerSerializer(owners_of(programme), many=True).data)
