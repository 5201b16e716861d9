"""Shapes of programmes and people."""

from drf_spectacular.utils import extend_schema_field
from rest_framework import serializers

from nailwright.programmes.models import (
    DATE_LANGUAGES,
    LENGTH_UNITS,
    MASS_UNITS,
    ApiToken,
    Membership,
    Person,
    Role,
    ShortCode,
)
from nailwright.programmes.policies import PERMISSIONS
from nailwright.programmes.receiving import STATES
from nailwright.programmes.tokens import LONGEST_DAYS
from nailwright_core.common.species import Species
from nailwright_core.common.species_values import LENGTH_TYPES


class ErrorSerializer(serializers.Serializer):
    code = serializers.CharField()
    message = serializers.CharField()
    field = serializers.CharField(allow_null=True)


class MembershipSerializer(serializers.Serializer):
    id = serializers.UUIDField()
    programme = serializers.UUIDField(source="programme_id")
    programme_name = serializers.CharField(source="programme.name")
    time_zone = serializers.CharField(source="programme.time_zone")
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


class SessionSerializer(serializers.Serializer):
    version = serializers.CharField(help_text="Of the server")
    person = PersonSerializer(allow_null=True)
    memberships = MembershipSerializer(many=True)
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


class OperationSerializer(serializers.Serializer):
    """For the schema only: ``receiving`` reads entries itself, one by one, so that a bad one holds up no other."""

    id = serializers.UUIDField()
    kind = serializers.CharField(help_text="Such as capture.record")
    device_time = serializers.DateTimeField()
    clock_offset_s = serializers.FloatField(
        required=False, help_text="How far the device knew its clock to be behind when it made the entry, s"
    )
    reason = serializers.CharField(required=False)
    by = serializers.UUIDField(required=False, help_text="Who had taken over the tablet: the entry is theirs")
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
    licence = serializers.CharField(max_length=60, allow_blank=True, default="")
    citation = serializers.CharField(max_length=300, allow_blank=True, default="")


class ChangeProgrammeSerializer(serializers.Serializer):
    """What is left out stays as it is."""

    name = serializers.CharField(max_length=120, required=False)
    time_zone = serializers.CharField(max_length=40, required=False)
    length_unit = serializers.ChoiceField(LENGTH_UNITS, required=False)
    mass_unit = serializers.ChoiceField(MASS_UNITS, required=False)
    date_language = serializers.ChoiceField(DATE_LANGUAGES, required=False)
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


class KnownSpeciesSerializer(serializers.Serializer):
    code = serializers.CharField()
    name = serializers.CharField(source="common_name")
    scientific_name = serializers.CharField()
    length_type = serializers.CharField()
    has_categories = serializers.SerializerMethodField()
    has_standard_weight = serializers.SerializerMethodField()

    @extend_schema_field(serializers.BooleanField())
    def get_has_categories(self, kind: Species) -> bool:
        return kind.size_categories is not None

    @extend_schema_field(serializers.BooleanField())
    def get_has_standard_weight(self, kind: Species) -> bool:
        return kind.standard_weight is not None


class SpeciesListSerializer(serializers.Serializer):
    listed = serializers.ListField(child=serializers.CharField(), help_text="In the order in which they are offered")
    retired = serializers.ListField(child=serializers.CharField(), help_text="Not called any more; their fish stay")
    own = serializers.ListField(child=serializers.CharField(), help_text="Described by the programme itself")
    known = KnownSpeciesSerializer(many=True)


class SetSpeciesSerializer(serializers.Serializer):
    codes = serializers.ListField(child=serializers.CharField(max_length=8), max_length=100, allow_empty=True)


def _source() -> serializers.CharField:
    return serializers.CharField(max_length=200, help_text="Where it is from")


class LineSerializer(serializers.Serializer):
    """log10 mass (g) = log10_a + b log10 length (mm)."""

    log10_a = serializers.FloatField()
    b = serializers.FloatField()
    sd = serializers.FloatField(help_text="Residual SD of log10 mass")
    source = _source()  # type: ignore[assignment]


class StandardWeightSerializer(serializers.Serializer):
    """log10 standard weight (g) = a + b log10 length (mm), from min_mm upward."""

    a = serializers.FloatField()
    b = serializers.FloatField()
    min_mm = serializers.FloatField()
    source = _source()  # type: ignore[assignment]


class CategoriesSerializer(serializers.Serializer):
    stock = serializers.FloatField(help_text="mm and longer, as all five")
    quality = serializers.FloatField()
    preferred = serializers.FloatField()
    memorable = serializers.FloatField()
    trophy = serializers.FloatField()
    source = serializers.CharField(max_length=200)  # type: ignore[assignment]


class ConversionSerializer(serializers.Serializer):
    """Length of the species' own type = intercept_mm + slope x length of from_type."""

    from_type = serializers.ChoiceField(LENGTH_TYPES)
    intercept_mm = serializers.FloatField()
    slope = serializers.FloatField()
    residual_sd_mm = serializers.FloatField(allow_null=True)
    source = _source()  # type: ignore[assignment]


class LegalSerializer(serializers.Serializer):
    min_mm = serializers.FloatField(allow_null=True)
    max_mm = serializers.FloatField(allow_null=True)
    bag = serializers.IntegerField(allow_null=True, help_text="Fish a person and day")
    source = _source()  # type: ignore[assignment]


class LookalikeSerializer(serializers.Serializer):
    code = serializers.CharField(max_length=8)
    check = serializers.CharField(max_length=200, help_text="What tells the two apart")


class SpeciesValuesSerializer(serializers.Serializer):
    """All that is known of a species; what each may be is core's (``species_values``)."""

    common_name = serializers.CharField(max_length=60)
    scientific_name = serializers.CharField(max_length=80, allow_blank=True)
    words = serializers.ListField(child=serializers.CharField(max_length=40), max_length=12, default=list)
    length_type = serializers.ChoiceField(LENGTH_TYPES)
    usual_from_mm = serializers.FloatField()
    usual_to_mm = serializers.FloatField()
    least_mm = serializers.FloatField()
    most_mm = serializers.FloatField()
    line = LineSerializer()
    standard_weight = StandardWeightSerializer(allow_null=True, default=None)
    categories = CategoriesSerializer(allow_null=True, default=None)
    conversions = ConversionSerializer(many=True, default=list)
    legal = LegalSerializer(allow_null=True, default=None)
    smallest_to_tag_mm = serializers.FloatField(allow_null=True, default=None)
    lookalikes = LookalikeSerializer(many=True, default=list)
    special_interest = serializers.BooleanField(default=False)
    places_hidden = serializers.BooleanField(default=False)
