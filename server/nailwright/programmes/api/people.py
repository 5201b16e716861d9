"""People of a programme over HTTP: members, invitations, and what a link opens."""

from __future__ import annotations

from uuid import UUID

from django.contrib.auth import login, update_session_auth_hash
from django.shortcuts import get_object_or_404
from drf_spectacular.utils import extend_schema
from rest_framework import status
from rest_framework.permissions import AllowAny
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from nailwright.common.bodies import given
from nailwright.programmes import serializers
from nailwright.programmes.api.account import site_of
from nailwright.programmes.api.session import BACKEND, session_of
from nailwright.programmes.models import Invitation, Membership, Person
from nailwright.programmes.people.invitations import accept, invite, look_at, withdraw
from nailwright.programmes.people.members import change_member, password_link, shut_out
from nailwright.programmes.people.own_data import forget_member
from nailwright.programmes.policies import person_of, programme_for, require
from nailwright.programmes.queries import people_of
from nailwright.programmes.record.acts import act_of


class PeopleView(APIView):
    """Who is in a programme, who was, and who is invited."""

    @extend_schema(operation_id="people", responses=serializers.PeopleSerializer)
    def get(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "read")
        return Response(serializers.PeopleSerializer(people_of(person_of(request), programme)).data)


class InvitationsView(APIView):
    @extend_schema(
        operation_id="invite", request=serializers.InviteSerializer, responses={201: serializers.InvitedSerializer}
    )
    def post(self, request: Request, programme_id: UUID) -> Response:
        programme = programme_for(person_of(request), programme_id, "lead")
        values = given(serializers.InviteSerializer, request)
        row, link, mailed = invite(person_of(request), programme, **values, site=site_of(request))
        told = {"invitation": row, "link": link, "mailed": mailed}
        return Response(serializers.InvitedSerializer(told).data, status.HTTP_201_CREATED)


class InvitationView(APIView):
    @extend_schema(operation_id="withdraw_invitation", request=None, responses={204: None})
    def delete(self, request: Request, invitation_id: UUID) -> Response:
        row = get_object_or_404(Invitation.objects.select_related("programme"), pk=invitation_id)
        withdraw(person_of(request), row)
        return Response(status=status.HTTP_204_NO_CONTENT)


class LookView(APIView):
    """What an invitation's link is for. A post, so that no log of addresses holds the key."""

    permission_classes = [AllowAny]

    @extend_schema(
        operation_id="look_at_invitation",
        request=serializers.LinkKeySerializer,
        responses=serializers.InvitationShownSerializer,
    )
    def post(self, request: Request) -> Response:
        row = look_at(given(serializers.LinkKeySerializer, request)["key"])
        return Response(serializers.InvitationShownSerializer(row).data)


class JoinView(APIView):
    """Comes in by an invitation, as who is signed in or as somebody new, who then is signed in."""

    permission_classes = [AllowAny]

    @extend_schema(operation_id="join", request=serializers.JoinSerializer, responses=serializers.SessionSerializer)
    def post(self, request: Request) -> Response:
        values = given(serializers.JoinSerializer, request)
        signed_in = request.user if isinstance(request.user, Person) else None
        person = accept(values["key"], signed_in, values.get("person"))
        if signed_in is None:
            login(request, person, backend=BACKEND)
        return Response(session_of(request))


def _member_for(request: Request, member_id: UUID) -> Membership:
    row = get_object_or_404(Membership.objects.select_related("programme", "person"), pk=member_id)
    require(person_of(request), row.programme, "read")
    return row


class MemberView(APIView):
    """A post changes role or number, or says that somebody left or is back."""

    @extend_schema(
        operation_id="change_member", request=serializers.ChangeMemberSerializer, responses=serializers.MemberSerializer
    )
    def post(self, request: Request, member_id: UUID) -> Response:
        member = _member_for(request, member_id)
        changed = change_member(act_of(request), member, given(serializers.ChangeMemberSerializer, request))
        if changed.left_at and changed.person_id == person_of(request).pk:
            update_session_auth_hash(
                request._request, changed.person
            )  # who leaves by themselves stays here, in no programme
        return Response(serializers.MemberSerializer(changed).data)


class ShutOutView(APIView):
    """Ends every sign-in of a member's: for a tablet that was lost."""

    @extend_schema(operation_id="shut_out", request=None, responses={204: None})
    def post(self, request: Request, member_id: UUID) -> Response:
        shut_out(person_of(request), _member_for(request, member_id))
        return Response(status=status.HTTP_204_NO_CONTENT)


class PasswordLinkView(APIView):
    """A link for a new password, to be handed to a member who has no mail."""

    @extend_schema(operation_id="make_password_link", request=None, responses={201: serializers.LinkSerializer})
    def post(self, request: Request, member_id: UUID) -> Response:
        link = password_link(person_of(request), _member_for(request, member_id), site_of(request))
        return Response({"link": link}, status.HTTP_201_CREATED)


class ForgetMemberView(APIView):
    """Somebody who has left is forgotten: the name goes, what they recorded stays."""

    @extend_schema(operation_id="forget_member", request=None, responses=serializers.PeopleSerializer)
    def post(self, request: Request, gone_id: UUID) -> Response:
        member = get_object_or_404(Membership.objects.select_related("programme", "person"), pk=gone_id)
        require(person_of(request), member.programme, "lead")
        forget_member(act_of(request, "asked to be forgotten"), member)
        return Response(serializers.PeopleSerializer(people_of(person_of(request), member.programme)).data)
