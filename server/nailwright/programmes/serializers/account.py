"""Shapes of one's own account, and of programmes that are begun."""

from drf_spectacular.utils import extend_schema_field
from rest_framework import serializers

from nailwright.programmes.models import (
    DATE_LANGUAGES,
    LENGTH_UNITS,
    MASS_UNITS,
    Person,
    ShortCode,
)


def _password() -> serializers.CharField:
    return serializers.CharField(max_length=200, trim_whitespace=False)


class NewPersonSerializer(serializers.Serializer):
    username = serializers.RegexField(
        r"^[\w.@+-]+$", max_length=60, help_text="To sign in with: letters, figures and . @ + - _"
    )
    name = serializers.CharField(max_length=80, help_text="As it shall stand in the record")
    password = _password()

    def validate_username(self, username: str) -> str:
        if username.lower().startswith("demo-"):
            raise serializers.ValidationError("Names that begin with demo- are the made-up people's; choose another.")
        return username


class FirstPersonSerializer(NewPersonSerializer):
    email = serializers.EmailField(required=False, allow_blank=True)


class ProgrammeSerializer(serializers.Serializer):
    name = serializers.CharField(max_length=120)
    time_zone = serializers.CharField(max_length=40, help_text="Such as Europe/Oslo")
    length_unit = serializers.ChoiceField(LENGTH_UNITS, default="mm")
    mass_unit = serializers.ChoiceField(MASS_UNITS, default="g")
    date_language = serializers.ChoiceField(DATE_LANGUAGES, default="en-GB")
    currency = serializers.CharField(
        max_length=8, allow_blank=True, default="", help_text="Of prices and rewards, such as EUR"
    )
    licence = serializers.CharField(max_length=60, allow_blank=True, default="")
    citation = serializers.CharField(max_length=300, allow_blank=True, default="")


class ChangeProgrammeSerializer(serializers.Serializer):
    """What is left out stays as it is."""

    name = serializers.CharField(max_length=120, required=False)
    time_zone = serializers.CharField(max_length=40, required=False)
    length_unit = serializers.ChoiceField(LENGTH_UNITS, required=False)
    mass_unit = serializers.ChoiceField(MASS_UNITS, required=False)
    date_language = serializers.ChoiceField(DATE_LANGUAGES, required=False)
    currency = serializers.CharField(max_length=8, allow_blank=True, required=False)
    licence = serializers.CharField(max_length=60, allow_blank=True, required=False)
    citation = serializers.CharField(max_length=300, allow_blank=True, required=False)


class ClaimSerializer(serializers.Serializer):
    code = serializers.CharField(max_length=40, help_text="As the server printed it when it started")
    person = FirstPersonSerializer()
    programme = ProgrammeSerializer()


class AccountSerializer(serializers.Serializer):
    username = serializers.CharField()
    name = serializers.CharField()
    email = serializers.CharField()
    length_unit = serializers.ChoiceField(("", *LENGTH_UNITS), help_text="Empty: the programme's")
    mass_unit = serializers.ChoiceField(("", *MASS_UNITS))
    date_language = serializers.ChoiceField(("", *DATE_LANGUAGES))
    second_step = serializers.BooleanField()
    recovery_codes_left = serializers.SerializerMethodField()
    has_password = serializers.BooleanField(source="has_usable_password")
    has_short_code = serializers.SerializerMethodField()

    def get_has_short_code(self, person: Person) -> bool:
        return ShortCode.objects.filter(person=person).exists()

    @extend_schema_field(serializers.IntegerField())
    def get_recovery_codes_left(self, person: Person) -> int:
        return len(person.recovery_codes)


class ChangeAccountSerializer(serializers.Serializer):
    """What is left out stays as it is."""

    name = serializers.CharField(max_length=80, required=False)
    email = serializers.EmailField(required=False, allow_blank=True)
    length_unit = serializers.ChoiceField(("", *LENGTH_UNITS), required=False)
    mass_unit = serializers.ChoiceField(("", *MASS_UNITS), required=False)
    date_language = serializers.ChoiceField(("", *DATE_LANGUAGES), required=False)


class ShortCodeSerializer(serializers.Serializer):
    code = serializers.CharField(max_length=8, allow_blank=True, help_text="4 to 8 figures; empty: none any more")


class ForgetMeSerializer(serializers.Serializer):
    password = serializers.CharField(max_length=200, trim_whitespace=False)


class ChangePasswordSerializer(serializers.Serializer):
    old = _password()
    new = _password()


class ForgottenSerializer(serializers.Serializer):
    username = serializers.CharField(max_length=254, help_text="The name one signs in with, or the mail address")


class ResetSerializer(serializers.Serializer):
    person = serializers.UUIDField()
    token = serializers.CharField(max_length=100)
    password = _password()


class OfferedSerializer(serializers.Serializer):
    key = serializers.CharField()
    picture = serializers.CharField(help_text="The key as a square of dots for a phone's camera, SVG")


class BeginSecondStepSerializer(serializers.Serializer):
    password = _password()
    key = serializers.CharField(max_length=64)
    code = serializers.CharField(max_length=40)


class RecoverySerializer(serializers.Serializer):
    codes = serializers.ListField(child=serializers.CharField(), help_text="Each good once, when the phone is lost")


class CodeSerializer(serializers.Serializer):
    code = serializers.CharField(max_length=40)
