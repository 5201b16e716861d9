"""People and what they share."""

from __future__ import annotations

from django.contrib.auth.models import AbstractUser
from django.db import models
from django.utils import timezone

from nailwright.programmes.rows import Keyed, new_id


class Role(models.TextChoices):
    """What a person is in a programme; what each may do stands in ``policies``."""

    LEAD = "lead", "Lead"
    BIOLOGIST = "biologist", "Biologist"
    CREW = "crew", "Crew"
    VOLUNTEER = "volunteer", "Volunteer"
    VIEWER = "viewer", "Viewer"


class Person(AbstractUser):
    """Somebody who signs in."""

    id = models.UUIDField(primary_key=True, default=new_id, editable=False)
    name = models.CharField(max_length=80)


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


class Water(Keyed):
    """A lake, river or piece of coast. ``geometry`` is GeoJSON in WGS84."""

    class Kind(models.TextChoices):
        LAKE = "lake", "Lake"
        RIVER = "river", "River"
        COAST = "coast", "Coast"

    programme = models.ForeignKey(Programme, models.CASCADE, related_name="waters")
    name = models.CharField(max_length=120)
    kind = models.CharField(max_length=10, choices=Kind)
    time_zone = models.CharField(max_length=40, default="UTC")
    geometry = models.JSONField(null=True)

    def __str__(self) -> str:
        return self.name


class Site(Keyed):
    """A fixed stretch of a water where effort is spent. ``geometry`` is GeoJSON in WGS84."""

    water = models.ForeignKey(Water, models.CASCADE, related_name="sites")
    name = models.CharField(max_length=60)
    reach = models.CharField(max_length=60, blank=True)
    river_km = models.FloatField(null=True)
    geometry = models.JSONField(null=True)

    def __str__(self) -> str:
        return self.name


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
    row = models.UUIDField()
    person = models.ForeignKey(Person, models.PROTECT)
    device_time = models.DateTimeField(default=timezone.now)
    server_time = models.DateTimeField(default=timezone.now)
    reason = models.CharField(max_length=200, blank=True)
    before = models.JSONField()
    after = models.JSONField()

    class Meta:
        indexes = [models.Index(fields=["row", "server_time"])]
