"""What a survey is to do, and what it stands on: control boxes, seasons."""

from __future__ import annotations

from django.db import models
from django.utils import timezone

from nailwright.common.rows import Keyed
from nailwright.common.shaped_json import CODES, NUMBERS, OBJECT, Shape, ShapedJSON, shape_of, without_required
from nailwright.deck.models import Gear, Outing, shape_of_gears
from nailwright.jobs.models import Job
from nailwright.programmes.models import Person, Programme
from nailwright.waters.models import Site, Water, Zone
from nailwright_core.plan.questions import QUESTIONS


def _shape_of_parts() -> Shape:
    from nailwright.plan.parts import PartsSerializer

    kept: Shape = without_required(shape_of(PartsSerializer()))
    return kept


def _shape_of_rehearsal() -> Shape:
    from nailwright.plan.rehearsal.serializers import RehearsalResultSerializer

    return shape_of(RehearsalResultSerializer())


class Unit(Keyed):
    """A control box with its generator and boat: its limits, and how it stands in water of 100 µS/cm."""

    programme = models.ForeignKey(Programme, models.CASCADE, related_name="units")
    name = models.CharField(max_length=60)
    gear = models.CharField(max_length=24, choices=Gear)
    max_volts = models.FloatField()
    max_amps = models.FloatField()
    max_watts = models.FloatField()
    max_hz = models.FloatField(default=120)
    max_duty = models.FloatField(default=1.0)
    r100_ohm = models.FloatField()

    class Meta:
        ordering = ["name"]


class Season(Keyed):
    """Days of the year in which a rule closes a water, or fish spawn."""

    class Kind(models.TextChoices):
        CLOSED = "closed", "Closed by rule"
        SPAWNING = "spawning", "Spawning"

    programme = models.ForeignKey(Programme, models.CASCADE, related_name="seasons")
    water = models.ForeignKey(Water, models.CASCADE, null=True, related_name="seasons")
    kind = models.CharField(max_length=8, choices=Kind)
    name = models.CharField(max_length=120)
    first_day = models.CharField(max_length=5, help_text="MM-DD")
    last_day = models.CharField(max_length=5, help_text="MM-DD")


class Survey(Keyed):
    """One planned survey of one water. ``parts`` holds its choices, each checked by its serializer when it is set."""

    programme = models.ForeignKey(Programme, models.CASCADE, related_name="surveys")
    water = models.ForeignKey(Water, models.PROTECT, related_name="surveys")
    name = models.CharField(max_length=120)
    question = models.CharField(max_length=8, choices=QUESTIONS)
    species = ShapedJSON(default=list, shape={**CODES, "minItems": 1})
    gear = models.CharField(max_length=24, choices=Gear)
    more_gears = ShapedJSON(default=list, shape=shape_of_gears, help_text="Codes of further gears that are used")
    first = models.DateField()
    last = models.DateField()
    visits = models.PositiveSmallIntegerField(default=1)
    effort_s = models.PositiveIntegerField(default=900)
    revisit_years = models.PositiveSmallIntegerField(null=True)
    parts = ShapedJSON(default=dict, shape=_shape_of_parts)
    person = models.ForeignKey(Person, models.PROTECT)
    made_at = models.DateTimeField(default=timezone.now)
    outings = models.ManyToManyField(Outing, related_name="surveys")
    deleted_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["-first"]

    @property
    def gears(self) -> list[str]:
        """Every gear that it uses, the first one first."""
        return list(dict.fromkeys((self.gear, *self.more_gears)))


class PlannedSite(Keyed):
    """A site of a survey, metres along the water's line; ``moved`` says why it stands elsewhere than it was laid out."""

    survey = models.ForeignKey(Survey, models.CASCADE, related_name="sites")
    number = models.PositiveSmallIntegerField()
    start_m = models.FloatField()
    end_m = models.FloatField()
    zone = models.ForeignKey(Zone, models.SET_NULL, null=True, related_name="planned")
    moved = models.CharField(max_length=200, blank=True)
    site = models.ForeignKey(Site, models.SET_NULL, null=True, related_name="planned")

    class Meta:
        ordering = ["number"]

    @property
    def zone_name(self) -> str:
        """Of its zone; empty where it is in none."""
        return self.zone.name if self.zone else ""

    @property
    def middle_m(self) -> float:
        """Half way along it."""
        return (self.start_m + self.end_m) / 2


class Rehearsing(Keyed):
    """A rehearsal of a survey, or a sweep over one choice: what was asked, and what came of it."""

    survey = models.ForeignKey(Survey, models.CASCADE, related_name="rehearsals")
    person = models.ForeignKey(Person, models.PROTECT)
    kind = models.CharField(max_length=8)
    design = ShapedJSON(shape={**OBJECT, "additionalProperties": {"type": "number"}})
    choice = models.CharField(max_length=20, blank=True)
    values = ShapedJSON(default=list, shape=NUMBERS)
    replicates = models.PositiveIntegerField()
    seed = models.PositiveIntegerField()
    confirmed = models.BooleanField(default=False, help_text="Whether it shall run however long it takes")
    estimate = ShapedJSON(null=True, shape=NUMBERS, help_text="Seconds of one process for each design, from a trial")
    result = ShapedJSON(null=True, shape=_shape_of_rehearsal)
    job = models.ForeignKey(Job, models.SET_NULL, null=True)
    made_at = models.DateTimeField(default=timezone.now)

    class Meta:
        ordering = ["-made_at"]
