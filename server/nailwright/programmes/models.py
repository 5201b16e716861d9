"""People and what they share."""

from __future__ import annotations

from django.contrib.auth.models import AbstractUser
from django.db import models
from django.utils import timezone

from nailwright.common.rows import Keyed, KeyField, new_id


class Role(models.TextChoices):
    """What a person is in a programme; what each may do stands in ``policies``."""

    LEAD = "lead", "Lead"
    BIOLOGIST = "biologist", "Biologist"
    CREW = "crew", "Crew"
    VOLUNTEER = "volunteer", "Volunteer"
    VIEWER = "viewer", "Viewer"


class Person(AbstractUser):
    """Somebody who signs in."""

    id = KeyField(primary_key=True, default=new_id, editable=False)
    name = models.CharField(max_length=80)


class ApiToken(Keyed):
    """A token of a person's, by the digest of what they were shown once."""

    class Scope(models.TextChoices):
        READ = "read", "Read"
        RECORD = "record", "Read and send entries"
        ALL = "all", "Do whatever its person may"

    digest = models.CharField(max_length=64, unique=True)
    person = models.OneToOneField(Person, models.CASCADE, related_name="api_token")
    scope = models.CharField(max_length=6, choices=Scope, default=Scope.READ)
    made_at = models.DateTimeField(default=timezone.now)
    ends_at = models.DateTimeField()


class WrongPassword(models.Model):
    """One failed try to sign in; kept for as long as it counts."""

    at = models.DateTimeField(default=timezone.now, db_index=True)
    name = models.CharField(max_length=150)
    address = models.CharField(max_length=45)


class Programme(Keyed):
    """One study with its people, waters and fish; everything else belongs to one."""

    name = models.CharField(max_length=120)
    time_zone = models.CharField(max_length=40, default="UTC")
    people = models.ManyToManyField(Person, through="Membership", related_name="programmes")

    def __str__(self) -> str:
        return self.name


class Membership(Keyed):
    """A person's role in a programme."""

    programme = models.ForeignKey(Programme, models.CASCADE, related_name="memberships")
    person = models.ForeignKey(Person, models.CASCADE, related_name="memberships")
    role = models.CharField(max_length=10, choices=Role)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["programme", "person"], name="one_role_each")]


class ProgrammeSpecies(Keyed):
    """A species this programme handles; ``code`` is core's."""

    programme = models.ForeignKey(Programme, models.CASCADE, related_name="species")
    code = models.CharField(max_length=8)
    order = models.PositiveSmallIntegerField(default=0)

    class Meta:
        ordering = ["order", "code"]
        constraints = [models.UniqueConstraint(fields=["programme", "code"], name="species_once")]


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
    before = models.JSONField()
    after = models.JSONField()
    late = models.JSONField(default=dict, help_text="What this act wanted, where a later one stands")

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
    kind = models.CharField(max_length=40)
    digest = models.CharField(max_length=64, blank=True)
    clock_offset_s = models.FloatField(default=0)
    server_time = models.DateTimeField(default=timezone.now)
