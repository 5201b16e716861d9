"""Shapes of who is signed in, and of what tablets send."""

from drf_spectacular.utils import extend_schema_field
from rest_framework import serializers

from nailwright.programmes.models import (
    DATE_LANGUAGES,
    LENGTH_UNITS,
    MASS_UNITS,
    ApiToken,
    Membership,
    Role,
)
from nailwright.programmes.people.tokens import LONGEST_DAYS
from nailwright.programmes.policies import PERMISSIONS
from nailwright.programmes.record.receiving import STATES


class ErrorSerializer(serializers.Serializer):
    code = serializers.CharField()
    message = serializers.CharField()
    field = serializers.CharField(allow_null=True)


class MembershipSerializer(serializers.Serializer):
    id = serializers.UUIDField()
    programme = serializers.UUIDField(source="programme_id")
    programme_name = serializers.CharField(source="programme.name")
    time_zone = serializers.CharField(source="programme.time_zone")
    currency = serializers.CharField(source="programme.currency", help_text="Of prices and rewards; empty: not said")
    role = serializers.ChoiceField(Role.choices)
    demo = serializers.BooleanField(source="programme.demo")
    length_unit = serializers.SerializerMethodField(help_text="In which this person calls lengths in this programme")
    mass_unit = serializers.SerializerMethodField()
    date_language = serializers.SerializerMethodField()
    may = serializers.SerializerMethodField()

    @extend_schema_field(serializers.ChoiceField(LENGTH_UNITS))
    def get_length_unit(self, membership: Membership) -> str:
        return membership.person.length_unit or membership.programme.length_unit

    @extend_schema_field(serializers.ChoiceField(MASS_UNITS))
    def get_mass_unit(self, membership: Membership) -> str:
        return membership.person.mass_unit or membership.programme.mass_unit

    @extend_schema_field(serializers.ChoiceField(DATE_LANGUAGES))
    def get_date_language(self, membership: Membership) -> str:
        return membership.person.date_language or membership.programme.date_language

    @extend_schema_field(serializers.ListField(child=serializers.CharField()))
    def get_may(self, membership: Membership) -> list[str]:
        return [name for name, (roles, _) in PERMISSIONS.items() if membership.role in roles]


class PersonSerializer(serializers.Serializer):
    id = serializers.UUIDField()
    username = serializers.CharField()
    name = serializers.CharField()


class DemoPersonSerializer(serializers.Serializer):
    username = serializers.CharField()
    name = serializers.CharField()
    role = serializers.ChoiceField(Role.choices)


class CarryKeySerializer(serializers.Serializer):
    """With which this sign-in's device signs entries that are carried in a file."""

    id = serializers.UUIDField()
    secret = serializers.CharField()


class SessionSerializer(serializers.Serializer):
    version = serializers.CharField(help_text="Of the server")
    server_time = serializers.DateTimeField(help_text="For the device to compare its clock with")
    person = PersonSerializer(allow_null=True)
    memberships = MembershipSerializer(many=True)
    carry_key = CarryKeySerializer(allow_null=True)
    demo_people = DemoPersonSerializer(many=True)
    claimed = serializers.BooleanField(help_text="Whether somebody real has an account here")
    mail = serializers.BooleanField(help_text="Whether this installation can send mail")


class SignInSerializer(serializers.Serializer):
    username = serializers.CharField(max_length=150)
    password = serializers.CharField(max_length=200, trim_whitespace=False)
    code = serializers.CharField(
        max_length=40, required=False, help_text="One-time code, where the person has that step"
    )


class NewTokenSerializer(serializers.Serializer):
    name = serializers.CharField(max_length=60, default="Token", help_text="What it is for")
    scope = serializers.ChoiceField(ApiToken.Scope.choices, default=ApiToken.Scope.READ)
    days = serializers.IntegerField(min_value=1, max_value=LONGEST_DAYS, default=90)


class TokenSerializer(serializers.Serializer):
    id = serializers.UUIDField()
    name = serializers.CharField()
    scope = serializers.ChoiceField(ApiToken.Scope.choices)
    made_at = serializers.DateTimeField()
    ends_at = serializers.DateTimeField()
    last_used_at = serializers.DateTimeField(allow_null=True)


class MadeTokenSerializer(TokenSerializer):
    token = serializers.CharField(help_text="Send it as the header Authorization: Token ...; it is shown this once.")


class DemoSignInSerializer(serializers.Serializer):
    username = serializers.CharField(max_length=150)


class CarriedSerializer(serializers.Serializer):
    """An entry as it stands in a file that somebody else brings."""

    key = serializers.CharField(allow_blank=True, help_text="Of the sign-in that signed it; empty where none did")
    mac = serializers.CharField(
        allow_blank=True, help_text="HMAC-SHA256 of the text under that key's secret, hexadecimal"
    )
    text = serializers.CharField(help_text="The entry as JSON, with person; it counts, whatever stands beside it")


class OperationSerializer(serializers.Serializer):
    """For the schema only: ``receiving`` reads entries itself, one by one, so that a bad one holds up no other."""

    id = serializers.UUIDField()
    kind = serializers.CharField(help_text="Such as capture.record")
    device_time = serializers.DateTimeField()
    clock_offset_s = serializers.FloatField(
        required=False, help_text="How far the device knew its clock to be behind when it made the entry, s"
    )
    reason = serializers.CharField(required=False)
    desk = serializers.BooleanField(
        required=False, help_text="A correction of the record: also of a closed outing, and with a reason"
    )
    by = serializers.UUIDField(required=False, help_text="Who had taken over the tablet: the entry is theirs")
    carried = CarriedSerializer(required=False)
    row = serializers.DictField()


class SyncRequestSerializer(serializers.Serializer):
    person = serializers.UUIDField(
        required=False, help_text="Whose entries these are; where another is signed in, nothing is taken"
    )
    device_now = serializers.DateTimeField(required=False, help_text="The device's clock as it sends")
    operations = OperationSerializer(many=True)


class OperationResultSerializer(serializers.Serializer):
    id = serializers.CharField()
    state = serializers.ChoiceField(STATES)
    error = ErrorSerializer(allow_null=True)


class SyncResponseSerializer(serializers.Serializer):
    server_time = serializers.DateTimeField(help_text="For the device to compare its clock with")
    results = OperationResultSerializer(many=True)


class SyncRefusedSerializer(ErrorSerializer):
    server_time = serializers.DateTimeField()
    results = OperationResultSerializer(many=True)
