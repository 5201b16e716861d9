"""Entries from tablets and phones over HTTP."""

from __future__ import annotations

from uuid import UUID

from django.utils import timezone
from drf_spectacular.utils import extend_schema
from rest_framework import status
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from nailwright.common.errors import body
from nailwright.programmes import serializers
from nailwright.programmes.policies import person_of, programme_for
from nailwright.programmes.record.receiving import receive


class SyncView(APIView):
    """Entries from a tablet or phone: 200 where all are in, 422 with the same results where a person must act on one.

    Entries of somebody else than who is signed in are not taken at all (409): they wait for their own person.
    """

    scope = "record"

    @extend_schema(
        operation_id="sync",
        request=serializers.SyncRequestSerializer,
        responses={200: serializers.SyncResponseSerializer, 422: serializers.SyncRefusedSerializer},
    )
    def post(self, request: Request, programme_id: UUID) -> Response:
        sent = request.data if isinstance(request.data, dict) else {}
        if sent.get("person") and str(sent["person"]).lower() != str(person_of(request).pk):
            words = (
                f"These entries are another person's; {person_of(request).name} is signed in. They stay on the device."
            )
            return Response(body("other_person", words), status.HTTP_409_CONFLICT)
        programme = programme_for(person_of(request), programme_id, "read")
        results = receive(person_of(request), programme, sent.get("operations"), sent.get("device_now"))
        told = {"results": results, "server_time": timezone.now()}
        first = next((each["error"] for each in results if each["state"] in ("refused", "held")), None)
        if first is None:
            return Response(told)
        refused = {**body(first["code"], first["message"], first["field"]), **told}
        return Response(refused, status.HTTP_422_UNPROCESSABLE_ENTITY)
