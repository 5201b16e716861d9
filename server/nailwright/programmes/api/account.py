"""One's own account over HTTP."""

from __future__ import annotations

import json
from uuid import UUID

from django.contrib.auth import login, logout, update_session_auth_hash
from django.db.models import Q
from django.http import HttpResponse
from django.shortcuts import get_object_or_404
from django.utils import timezone
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework import status
from rest_framework.permissions import AllowAny
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from nailwright.common.bodies import given
from nailwright.programmes import serializers
from nailwright.programmes.api.session import BACKEND, session_of
from nailwright.programmes.models import ApiToken, Person
from nailwright.programmes.people import account as accounts
from nailwright.programmes.people import second_step
from nailwright.programmes.people.mail import send_mail
from nailwright.programmes.people.members import link_for
from nailwright.programmes.people.own_data import data_of, forget_myself
from nailwright.programmes.people.short_codes import set_short_code
from nailwright.programmes.people.signing_in import counted
from nailwright.programmes.people.tokens import make_token
from nailwright.programmes.policies import person_of
from nailwright.programmes.record.acts import act_of
from nailwright_core.common.errors import CoreError


def site_of(request: Request) -> str:
    """Where this installation was reached."""
    return request.build_absolute_uri("/")[:-1]


def key_of(request: Request) -> str:
    """Under what wrong words of who is signed in are counted."""
    return person_of(request).username


class AccountView(APIView):
    """Name, mail address, units and language of dates. What is left out stays."""

    @extend_schema(operation_id="account", responses=serializers.AccountSerializer)
    def get(self, request: Request) -> Response:
        return Response(serializers.AccountSerializer(person_of(request)).data)

    @extend_schema(
        operation_id="change_account",
        request=serializers.ChangeAccountSerializer,
        responses=serializers.AccountSerializer,
    )
    def post(self, request: Request) -> Response:
        values = given(serializers.ChangeAccountSerializer, request)
        return Response(serializers.AccountSerializer(accounts.change_account(person_of(request), values)).data)


class PasswordView(APIView):
    """Another password; every other sign-in ends, this one stays."""

    @extend_schema(operation_id="change_password", request=serializers.ChangePasswordSerializer, responses={204: None})
    def post(self, request: Request) -> Response:
        person, values = person_of(request), given(serializers.ChangePasswordSerializer, request)
        with counted(request._request, key_of(request)):
            accounts.change_password(person, **values)
        update_session_auth_hash(request._request, person)
        return Response(status=status.HTTP_204_NO_CONTENT)


class ForgottenView(APIView):
    """Asks for a link by mail. The answer is the same whether there is such a person or not."""

    permission_classes = [AllowAny]

    @extend_schema(operation_id="forgot_password", request=serializers.ForgottenSerializer, responses={204: None})
    def post(self, request: Request) -> Response:
        name = given(serializers.ForgottenSerializer, request)["username"]
        try:
            with counted(request._request, f"forgotten {name}"):
                self._send(name, site_of(request))
                raise CoreError("asked", "counted as a try, so that nobody's box is filled")
        except CoreError:
            return Response(status=status.HTTP_204_NO_CONTENT)

    @staticmethod
    def _send(name: str, site: str) -> None:
        known = Person.objects.filter(Q(username=name) | Q(email__iexact=name), is_active=True).exclude(email="")
        for person in known[:3]:
            text = (
                f"Somebody, you we hope, asked for a new password for '{person.username}'.\n\nOpen this link within a day to "
                f"choose it:\n\n{link_for(person, site)}\n\nIf it was not you, throw this away: nothing changes.\n"
            )
            send_mail(person.email, "A new password", text)


class ResetView(APIView):
    """A new password by a link from a mail or from a lead; one is signed in after it where there is no second step."""

    permission_classes = [AllowAny]

    @extend_schema(
        operation_id="reset_password", request=serializers.ResetSerializer, responses=serializers.SessionSerializer
    )
    def post(self, request: Request) -> Response:
        values = given(serializers.ResetSerializer, request)
        with counted(request._request, f"link {values['person']}"):
            person = accounts.reset_password(str(values["person"]), values["token"], values["password"])
        if not person.second_step:
            login(request, person, backend=BACKEND)
        return Response(session_of(request))


class ShortCodeView(APIView):
    """The short code by which one takes over a shared tablet."""

    @extend_schema(
        operation_id="set_short_code", request=serializers.ShortCodeSerializer, responses=serializers.AccountSerializer
    )
    def post(self, request: Request) -> Response:
        set_short_code(person_of(request), given(serializers.ShortCodeSerializer, request)["code"])
        return Response(serializers.AccountSerializer(person_of(request)).data)


class OwnDataView(APIView):
    """Everything that is stored about whoever asks, as a file."""

    takes_long = True

    @extend_schema(operation_id="own_data", responses={(200, "application/json"): OpenApiTypes.OBJECT})
    def get(self, request: Request) -> HttpResponse:
        response = HttpResponse(json.dumps(data_of(person_of(request)), default=str, indent=2), "application/json")
        response["Content-Disposition"] = 'attachment; filename="about-me.json"'
        return response


class ForgetMeView(APIView):
    """The account and the name go; what was recorded stays. One is signed out after it."""

    @extend_schema(
        operation_id="forget_me", request=serializers.ForgetMeSerializer, responses=serializers.SessionSerializer
    )
    def post(self, request: Request) -> Response:
        values = given(serializers.ForgetMeSerializer, request)
        with counted(request._request, key_of(request)):
            forget_myself(act_of(request), values["password"])
        logout(request)
        return Response(session_of(request))


class SignOutEverywhereView(APIView):
    """Ends every sign-in of one's own, this one among them, and every token."""

    @extend_schema(operation_id="sign_out_everywhere", request=None, responses=serializers.SessionSerializer)
    def post(self, request: Request) -> Response:
        accounts.sign_out_everywhere(person_of(request))
        logout(request)
        return Response(session_of(request))


class TokensView(APIView):
    """The tokens with which programs speak to the API as this person."""

    @extend_schema(operation_id="tokens", responses=serializers.TokenSerializer(many=True))
    def get(self, request: Request) -> Response:
        rows = ApiToken.objects.filter(person=person_of(request), ends_at__gt=timezone.now())
        return Response(serializers.TokenSerializer(rows, many=True).data)

    @extend_schema(
        operation_id="make_token",
        request=serializers.NewTokenSerializer,
        responses={201: serializers.MadeTokenSerializer},
    )
    def post(self, request: Request) -> Response:
        key, row = make_token(person_of(request), **given(serializers.NewTokenSerializer, request))
        told = {**serializers.TokenSerializer(row).data, "token": key}
        return Response(told, status.HTTP_201_CREATED)


class TokenView(APIView):
    @extend_schema(operation_id="end_token", request=None, responses={204: None})
    def delete(self, request: Request, token_id: UUID) -> Response:
        get_object_or_404(ApiToken, pk=token_id, person=person_of(request)).delete()
        return Response(status=status.HTTP_204_NO_CONTENT)


class SecondStepView(APIView):
    """One-time codes as a second step of signing in: a get offers a key, a post begins with it."""

    @extend_schema(operation_id="offer_second_step", responses=serializers.OfferedSerializer)
    def get(self, request: Request) -> Response:
        return Response(serializers.OfferedSerializer(second_step.offer(person_of(request))).data)

    @extend_schema(
        operation_id="begin_second_step",
        request=serializers.BeginSecondStepSerializer,
        responses=serializers.RecoverySerializer,
    )
    def post(self, request: Request) -> Response:
        person, values = person_of(request), given(serializers.BeginSecondStepSerializer, request)
        with counted(request._request, key_of(request)):
            if not person.check_password(values.pop("password")):
                raise CoreError("password_wrong", "This is not the password that you have now.", "password")
            codes = second_step.begin(person, **values)
        return Response({"codes": codes})


class EndSecondStepView(APIView):
    @extend_schema(operation_id="end_second_step", request=serializers.CodeSerializer, responses={204: None})
    def post(self, request: Request) -> Response:
        with counted(request._request, key_of(request)):
            second_step.end(person_of(request), given(serializers.CodeSerializer, request)["code"])
        return Response(status=status.HTTP_204_NO_CONTENT)
