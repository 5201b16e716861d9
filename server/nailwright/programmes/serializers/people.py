"""Shapes of members and invitations."""

from rest_framework import serializers

from nailwright.programmes.models import (
    Role,
)
from nailwright.programmes.serializers.account import NewPersonSerializer


class MemberSerializer(serializers.Serializer):
    id = serializers.UUIDField()
    person = serializers.UUIDField(source="person_id")
    name = serializers.CharField(source="person.name")
    username = serializers.CharField(source="person.username")
    email = serializers.CharField(default="", help_text="To leads")
    role = serializers.ChoiceField(Role.choices)
    number = serializers.CharField()
    joined_at = serializers.DateTimeField()
    left_at = serializers.DateTimeField(allow_null=True)
    last_seen = serializers.DateTimeField(
        source="person.last_login", allow_null=True, help_text="When they signed in last"
    )


class ChangeMemberSerializer(serializers.Serializer):
    """What is left out stays as it is."""

    role = serializers.ChoiceField(Role.choices, required=False)
    number = serializers.CharField(max_length=20, required=False, allow_blank=True)
    here = serializers.BooleanField(required=False, help_text="False: has left; true: is back")


class InvitationSerializer(serializers.Serializer):
    id = serializers.UUIDField()
    name = serializers.CharField()
    email = serializers.CharField()
    role = serializers.ChoiceField(Role.choices)
    inviter = serializers.CharField(source="inviter.name")
    ends_at = serializers.DateTimeField()


class PeopleSerializer(serializers.Serializer):
    members = MemberSerializer(many=True)
    invitations = InvitationSerializer(many=True)


class InviteSerializer(serializers.Serializer):
    name = serializers.CharField(max_length=80)
    role = serializers.ChoiceField(Role.choices)
    email = serializers.EmailField(required=False, allow_blank=True, default="")


class InvitedSerializer(serializers.Serializer):
    invitation = InvitationSerializer()
    link = serializers.CharField(help_text="Told this once")
    mailed = serializers.BooleanField()


class LinkKeySerializer(serializers.Serializer):
    key = serializers.CharField(max_length=100)


class InvitationShownSerializer(serializers.Serializer):
    programme = serializers.CharField(source="programme.name")
    inviter = serializers.CharField(source="inviter.name")
    name = serializers.CharField()
    role = serializers.ChoiceField(Role.choices)
    ends_at = serializers.DateTimeField()


class JoinSerializer(LinkKeySerializer):
    person = NewPersonSerializer(required=False)


class LinkSerializer(serializers.Serializer):
    link = serializers.CharField()
