"""Signing in and out, and who one is."""

from __future__ import annotations

from typing import Any

from django.conf import settings
from django.contrib.auth import login, logout
from django.utils import timezone
from django.utils.decorators import method_decorator
from django.views.decorators.csrf import ensure_csrf_cookie
from drf_spectacular.utils import extend_schema
from rest_framework.permissions import AllowAny
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from nailwright import __version__
from nailwright.common.bodies import given
from nailwright.common.errors import Refused
from nailwright.programmes import serializers
from nailwright.programmes.models import Membership, Person
from nailwright.programmes.people.account import end_tickets_of
from nailwright.programmes.people.beginning import demo_people, is_claimed
from nailwright.programmes.people.signing_in import sign_in_with
from nailwright.programmes.record.carrying import carry_key
from nailwright_core.common.errors import CoreError

BACKEND = "django.contrib.auth.backends.ModelBackend"


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
        login(request, person, backend=BACKEND)
        return Response(session_of(request))

    @extend_schema(operation_id="sign_out", responses={200: serializers.SessionSerializer})
    def delete(self, request: Request) -> Response:
        end_tickets_of(request.session.session_key)
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
        person = demo_people().filter(username=username).first()
        if person is None:
            raise CoreError("no_such_person", "The demo has nobody by that name.", "username")
        login(request, person, backend=BACKEND)
        return Response(session_of(request))


def session_of(request: Request) -> dict[str, Any]:
    """The session as the screens want it."""
    person = request.user if isinstance(request.user, Person) else None
    here = (
        Membership.present.filter(person=person)
        .select_related("programme", "person")
        .order_by("programme__demo", "programme__made_at")
    )
    memberships = here if person else []
    demo = [
        {"username": each.username, "name": each.name, "role": each.memberships.all()[0].role}
        for each in (demo_people().prefetch_related("memberships") if settings.DEMO else [])
        if each.memberships.all()
    ]
    told = {
        "version": __version__,
        "carry_key": carry_key(person, request.session.session_key) if person else None,
        "server_time": timezone.now(),
        "person": person,
        "memberships": memberships,
        "demo_people": demo,
    }
    return serializers.SessionSerializer({**told, "claimed": is_claimed(), "mail": bool(settings.EMAIL_HOST)}).data
