"""Signing in and out, and who one is."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.conf import settings
from django.contrib.auth import login, logout
from django.utils import timezone
from django.utils.decorators import method_decorator
from django.views.decorators.csrf import ensure_csrf_cookie
from drf_spectacular.utils import extend_schema
from rest_framework import status
from rest_framework.permissions import AllowAny
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from nailwright import __version__
from nailwright.common.bodies import given
from nailwright.common.errors import Refused, body
from nailwright.programmes import serializers
from nailwright.programmes.models import ApiToken, Membership, Person
from nailwright.programmes.policies import person_of, programme_for
from nailwright.programmes.receiving import receive
from nailwright.programmes.signing_in import sign_in_with
from nailwright.programmes.tokens import make_token
from nailwright_core.common.errors import CoreError


@method_decorator(ensure_csrf_cookie, name="dispatch")
class SessionView(APIView):
    """Who is signed in, and in which programmes."""

    permission_classes = [AllowAny]

    @extend_schema(operation_id="session", responses=serializers.SessionSerializer)
    def get(self, request: Request) -> Response:
        return Response(session_of(request))

    @extend_schema(
        operation_id="sign_in", request=serializers.SignInSerializer, responses=serializers.SessionSerializer
    )
    def post(self, request: Request) -> Response:
        person = sign_in_with(request._request, **given(serializers.SignInSerializer, request))
        login(request, person, backend="django.contrib.auth.backends.ModelBackend")
        return Response(session_of(request))

    @extend_schema(operation_id="sign_out", responses={200: serializers.SessionSerializer})
    def delete(self, request: Request) -> Response:
        logout(request)
        return Response(session_of(request))


class DemoSessionView(APIView):
    """Signing in as one of the demo's invented people, by one touch."""

    permission_classes = [AllowAny]

    @extend_schema(
        operation_id="sign_in_to_demo",
        request=serializers.DemoSignInSerializer,
        responses=serializers.SessionSerializer,
    )
    def post(self, request: Request) -> Response:
        username = given(serializers.DemoSignInSerializer, request)["username"]
        if not settings.DEMO:
            raise Refused("no_demo", "This is not a demo; sign in with your name and password.")
        person = _demo_people().filter(username=username).first()
        if person is None:
            raise CoreError("no_such_person", "The demo has nobody by that name.", "username")
        login(request, person, backend="django.contrib.auth.backends.ModelBackend")
        return Response(session_of(request))


class TokenView(APIView):
    """The token with which a program speaks to the API as this person. Making one ends the one before."""

    @extend_schema(
        operation_id="make_token",
        request=serializers.NewTokenSerializer,
        responses={201: serializers.TokenSerializer},
    )
    def post(self, request: Request) -> Response:
        key, row = make_token(person_of(request), **given(serializers.NewTokenSerializer, request))
        told = {"token": key, "scope": row.scope, "ends_at": row.ends_at}
        return Response(serializers.TokenSerializer(told).data, status.HTTP_201_CREATED)

    @extend_schema(operation_id="end_token", request=None, responses={204: None})
    def delete(self, request: Request) -> Response:
        ApiToken.objects.filter(person=person_of(request)).delete()
        return Response(status=status.HTTP_204_NO_CONTENT)


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
        first = next((each["error"] for each in results if each["state"] == "refused"), None)
        if first is None:
            return Response(told)
        refused = {**body(first["code"], first["message"], first["field"]), **told}
        return Response(refused, status.HTTP_422_UNPROCESSABLE_ENTITY)


def session_of(request: Request) -> dict[str, Any]:
    """The session as the screens want it."""
    person = request.user if isinstance(request.user, Person) else None
    memberships = Membership.objects.filter(person=person).select_related("programme") if person else []
    demo = [
        {"username": each.username, "name": each.name, "role": each.memberships.all()[0].role}
        for each in (_demo_people().prefetch_related("memberships") if settings.DEMO else [])
    ]
    return serializers.SessionSerializer(
        {"version": __version__, "person": person, "memberships": memberships, "demo_people": demo}
    ).data


def _demo_people() -> Any:
    return Person.objects.filter(username__startswith="demo-").order_by("date_joined")
