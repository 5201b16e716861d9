"""Shapes of programmes and people."""

from rest_framework import serializers

from nailwright.programmes.models import Role


class ErrorSerializer(serializers.Serializer):
    code = serializers.CharField()
    message = serializers.CharField()
    field = serializers.CharField(allow_null=True)


class MembershipSerializer(serializers.Serializer):
    programme = serializers.UUIDField(source="programme_id")
    programme_name = serializers.CharField(source="programme.name")
    time_zone = serializers.CharField(source="programme.time_zone")
    role = serializers.ChoiceField(Role.choices)
    may = serializers.ListField(child=serializers.CharField())


class PersonSerializer(serializers.Serializer):
    id = serializers.UUIDField()
    username = serializers.CharField()
    name = serializers.CharField()


class DemoPersonSerializer(serializers.Serializer):
    username = serializers.CharField()
    name = serializers.CharField()
    role = serializers.ChoiceField(Role.choices)


class SessionSerializer(serializers.Serializer):
    person = PersonSerializer(allow_null=True)
    memberships = MembershipSerializer(many=True)
    demo_people = DemoPersonSerializer(many=True)


class SignInSerializer(serializers.Serializer):
    username = serializers.CharField(max_length=150)
    password = serializers.CharField(max_length=200, trim_whitespace=False)


class TokenSerializer(serializers.Serializer):
    token = serializers.CharField(help_text="Send it as the header Authorization: Token ...; it is shown this once.")


class DemoSignInSerializer(serializers.Serializer):
    username = serializers.CharField(max_length=150)
