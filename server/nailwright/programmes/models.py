"""People and what they share."""

from __future__ import annotations

from hashlib import sha256
from typing import Any

from django.contrib.auth.models import AbstractUser
from django.db import models
from django.utils import timezone

from nailwright.common.rows import Keyed, KeyField, new_id
from nailwright.common.shaped_json import CELLS, OBJECT, ShapedJSON


class Role(models.TextChoices):
    """What a person is in a programme; what each may do stands in ``policies``."""

    LEAD = "lead", "Lead"
    BIOLOGIST = "biologist", "Biologist"
    CREW = "crew", "Crew"
    VOLUNTEER = "volunteer", "Volunteer"
    VIEWER = "viewer", "Viewer"


#: Units in which lengths and masses are called and shown, and languages in which days are written.
LENGTH_UNITS = ("mm", "cm", "in")
MASS_UNITS = ("g", "kg", "lb", "oz")
DATE_LANGUAGES = (
    "en-GB", "en-US", "cs", "da", "de", "es", "et", "fi", "fr", "hr", "is", "it", "lt", "lv", "nb", "nl", "pl", "pt", "sl", "sv",
)  # fmt: skip


class Person(AbstractUser):
    """Somebody who signs in. Units and language are their own where they say so, else their programme's."""

    id = KeyField(primary_key=True, default=new_id, editable=False)
    name = models.CharField(max_length=80)
    length_unit = models.CharField(max_length=2, blank=True)
    mass_unit = models.CharField(max_length=2, blank=True)
    date_language = models.CharField(max_length=5, blank=True)
    sessions_since = models.UUIDField(null=True, help_text="Another one: every sign-in of before has ended")
    second_step = models.CharField(max_length=64, blank=True, help_text="Key of the one-time codes; empty without them")
    second_step_last = models.BigIntegerField(default=0, help_text="Time step of the last code: none is taken twice")
    recovery_codes = ShapedJSON(
        default=list, shape={"type": "array", "items": {"type": "string"}}, help_text="Digests of those not used yet"
    )

    def _get_session_auth_hash(self, secret: Any = None) -> str:
        """What a session has to know to stay: it ends with the password, and with all others when somebody wants that."""
        known: str = super()._get_session_auth_hash(secret)  # type: ignore[misc]
        return sha256(f"{known} {self.sessions_since}".encode()).hexdigest() if self.sessions_since else known


class ApiToken(Keyed):
    """A token of a person's, by the digest of what they were shown once."""

    class Scope(models.TextChoices):
        READ = "read", "Read"
        RECORD = "record", "Read and send entries"
        ALL = "all", "Do whatever its person may"

    digest = models.CharField(max_length=64, unique=True)
    person = models.ForeignKey(Person, models.CASCADE, related_name="api_tokens")
    name = models.CharField(max_length=60, default="Token")
    scope = models.CharField(max_length=6, choices=Scope, default=Scope.READ)
    made_at = models.DateTimeField(default=timezone.now)
    ends_at = models.DateTimeField()
    last_used_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["-made_at"]


class StreamTicket(Keyed):
    """That somebody may hear the gateway for a day; gone when their sign-in ends, and the stream with it."""

    person = models.ForeignKey(Person, models.CASCADE, related_name="+")
    session = models.CharField(max_length=64, blank=True, help_text="Digest of the sign-in's key; empty for a token")
    made_at = models.DateTimeField(default=timezone.now, db_index=True)


class CarryKey(Keyed):
    """With which the device of a sign-in signs entries that are carried in a file; gone where the sign-in was shut out."""

    person = models.ForeignKey(Person, models.CASCADE, related_name="+")
    session = models.CharField(max_length=64, blank=True, help_text="Digest of the sign-in's key")
    secret = models.CharField(max_length=64)
    made_at = models.DateTimeField(default=timezone.now)


class ShortCode(models.Model):
    """By which its person takes over a shared tablet, also with no signal: the tablet holds the digest.

    It says who calls; it opens nothing else (docs/decisions/30-short-codes.md).
    """

    person = models.OneToOneField(Person, models.CASCADE, primary_key=True, related_name="short_code")
    salt = models.CharField(max_length=32)
    digest = models.CharField(max_length=64)
    rounds = models.PositiveIntegerField()
    made_at = models.DateTimeField(default=timezone.now)


class WrongPassword(models.Model):
    """One failed try to sign in; kept for as long as it counts."""

    at = models.DateTimeField(default=timezone.now, db_index=True)
    name = models.CharField(max_length=150)
    address = models.CharField(max_length=45)


class Programme(Keyed):
    """One study with its people, waters and fish; everything else belongs to one."""

    name = models.CharField(max_length=120)
    time_zone = models.CharField(max_length=40, default="UTC")
    length_unit = models.CharField(max_length=2, default="mm")
    mass_unit = models.CharField(max_length=2, default="g")
    date_language = models.CharField(max_length=5, default="en-GB")
    species_revision = models.PositiveIntegerField(
        default=0, help_text="Another one whenever a species is described anew"
    )
    demo = models.BooleanField(default=False, help_text="Made up; may be taken out whole")
    licence = models.CharField(max_length=60, blank=True, help_text="Under which the data go out, such as CC-BY-4.0")
    citation = models.CharField(max_length=300, blank=True, help_text="How the data are to be cited")
    currency = models.CharField(max_length=8, blank=True, help_text="Of prices and rewards, such as EUR")
    made_at = models.DateTimeField(default=timezone.now)
    people = models.ManyToManyField(Person, through="Membership", related_name="programmes")

    def __str__(self) -> str:
        return self.name

    @property
    def listed_species(self) -> models.QuerySet[ProgrammeSpecies]:
        """The species that are called now; ``species`` are all that ever were."""
        return self.species.filter(retired_at=None)


class StillHere(models.Manager["Membership"]):
    """Those who have not left."""

    def get_queryset(self) -> models.QuerySet[Membership]:
        return super().get_queryset().filter(left_at=None)


class Membership(Keyed):
    """A person's role in a programme."""

    programme = models.ForeignKey(Programme, models.CASCADE, related_name="memberships")
    person = models.ForeignKey(Person, models.CASCADE, related_name="memberships")
    role = models.CharField(max_length=10, choices=Role)
    number = models.CharField(max_length=20, blank=True, help_text="Of a tagger or volunteer, as it stands on cards")
    joined_at = models.DateTimeField(default=timezone.now)
    left_at = models.DateTimeField(null=True, help_text="Since then they may nothing; their name stays in the record")

    objects = models.Manager()
    present = StillHere()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["programme", "person"], name="one_role_each")]


class Invitation(Keyed):
    """A link by which one person comes into a programme, once. Only a digest of what it holds is kept."""

    programme = models.ForeignKey(Programme, models.CASCADE, related_name="invitations")
    digest = models.CharField(max_length=64, unique=True)
    name = models.CharField(max_length=80)
    email = models.EmailField(blank=True)
    role = models.CharField(max_length=10, choices=Role)
    inviter = models.ForeignKey(Person, models.PROTECT, related_name="+")
    made_at = models.DateTimeField(default=timezone.now)
    ends_at = models.DateTimeField()
    used_at = models.DateTimeField(null=True)
    used_by = models.ForeignKey(Person, models.PROTECT, null=True, related_name="+")
    withdrawn_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["-made_at"]


class FirstCode(models.Model):
    """The one code of this installation by which its owner makes the first account; printed at each start, until used."""

    id = models.PositiveSmallIntegerField(primary_key=True, default=1)
    digest = models.CharField(max_length=64)
    made_at = models.DateTimeField(default=timezone.now)
    used_at = models.DateTimeField(null=True)


class ProgrammeSpecies(Keyed):
    """A species this programme handles."""

    programme = models.ForeignKey(Programme, models.CASCADE, related_name="species")
    code = models.CharField(max_length=8)
    order = models.PositiveSmallIntegerField(default=0)
    own = ShapedJSON(
        null=True, help_text="What this programme knows of it, as core's species_values; empty: as shipped"
    )
    retired_at = models.DateTimeField(null=True, help_text="Since then it is not called any more; its fish stay")

    class Meta:
        ordering = ["order", "code"]
        constraints = [models.UniqueConstraint(fields=["programme", "code"], name="species_once")]


class ProtocolVersion(Keyed):
    """What a programme decided for its crews, once and for good: what changes later is the next version.

    ``values`` are core's ``protocol`` values, all sections of them. ``person`` is empty for what ships.
    """

    programme = models.ForeignKey(Programme, models.CASCADE, related_name="protocols")
    number = models.PositiveIntegerField()
    values = ShapedJSON(shape={**OBJECT, "additionalProperties": {"type": "array", "maxItems": 2000, "items": CELLS}})
    why = models.CharField(max_length=200, blank=True)
    person = models.ForeignKey(Person, models.PROTECT, null=True)
    made_at = models.DateTimeField(default=timezone.now)

    class Meta:
        ordering = ["-number"]
        constraints = [models.UniqueConstraint(fields=["programme", "number"], name="version_once")]


class Change(Keyed):
    """One edit, delete or restore of one row: who, when, from what, to what, why.

    The key is made by whoever sends the change, so that the same change sent twice is noticed. A row's making is not
    repeated here: the row itself holds who made it and when.
    """

    programme = models.ForeignKey(Programme, models.CASCADE, related_name="changes")
    table = models.CharField(max_length=20)
    row = KeyField()
    person = models.ForeignKey(Person, models.PROTECT)
    device_time = models.DateTimeField(default=timezone.now)
    server_time = models.DateTimeField(default=timezone.now)
    reason = models.CharField(max_length=200, blank=True)
    before = ShapedJSON()
    after = ShapedJSON()
    late = ShapedJSON(default=dict, help_text="What this act wanted, where a later one stands")

    class Meta:
        indexes = [models.Index(fields=["row", "server_time"])]


class Receipt(models.Model):
    """That an entry from a tablet, a phone or the desk went through: by its key, and a digest of what it said.

    Whatever has a receipt is answered as done when it comes again, whatever happened since. An empty digest is that of an
    entry from before there were receipts: any content is taken for the same. ``clock_offset_s`` is what was added to the
    device's own time.
    """

    id = KeyField(primary_key=True)
    programme = models.ForeignKey(Programme, models.CASCADE, related_name="receipts")
    person = models.ForeignKey(Person, models.PROTECT)
    caller = models.ForeignKey(
        Person,
        models.PROTECT,
        null=True,
        related_name="+",
        help_text="Who had taken over the tablet, where that is somebody else",
    )
    in_name_of = models.ForeignKey(
        Person, models.PROTECT, null=True, related_name="+", help_text="Whose a carried entry said it was, unsigned"
    )
    kind = models.CharField(max_length=40)
    digest = models.CharField(max_length=64, blank=True)
    clock_offset_s = models.FloatField(default=0)
    server_time = models.DateTimeField(default=timezone.now)
