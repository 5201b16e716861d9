"""Runs, and what was read while they went."""

from __future__ import annotations

from django.db import models

from nailwright.common.rows import Recorded
from nailwright.common.shaped_json import FIGURES, Shape, ShapedJSON
from nailwright.deck.models.gears import Gear
from nailwright.deck.models.outings import Outing
from nailwright.programmes.models import Person
from nailwright.waters.models import Site

_FIXES: Shape = {
    "type": "array",
    "maxItems": 1000,
    "items": {"type": "array", "minItems": 3, "maxItems": 3, "items": {"type": "number"}},
}


class Run(Recorded):
    """One stretch of effort at one site: an electrofishing pass, an angling bout, nets that stand, a haul, a tow."""

    class Direction(models.TextChoices):
        UP = "up", "Upstream"
        DOWN = "down", "Downstream"
        ALONG = "along", "Along the shore"
        ACROSS = "across", "Across"

    outing = models.ForeignKey(Outing, models.CASCADE, related_name="runs")
    site = models.ForeignKey(Site, models.PROTECT, related_name="runs")
    number = models.PositiveSmallIntegerField()
    gear = models.CharField(max_length=24, choices=Gear)
    volts = models.FloatField(null=True)
    amps = models.FloatField(null=True)
    pulse_hz = models.FloatField(null=True)
    pulse_width_ms = models.FloatField(null=True)
    current_on_s = models.FloatField(default=0)
    distance_m = models.FloatField(null=True)
    rods = models.PositiveSmallIntegerField(null=True)
    nets = models.PositiveSmallIntegerField(null=True)
    mesh_mm = models.FloatField(null=True)
    hauls = models.PositiveSmallIntegerField(null=True)
    direction = models.CharField(max_length=8, choices=Direction, blank=True)
    started_at = models.DateTimeField()
    ended_at = models.DateTimeField(null=True)
    recorder = models.ForeignKey(Person, models.PROTECT)

    class Meta:
        ordering = ["number"]


class WaterReading(Recorded):
    """What was read at a site; conductivity is kept as it was read, ambient or at 25 C.

    ``more`` holds what else was read, by its code in core's ``deck.readings``.
    """

    outing = models.ForeignKey(Outing, models.CASCADE, related_name="water_readings")
    run = models.ForeignKey(Run, models.CASCADE, null=True, related_name="water_readings")
    temperature_c = models.FloatField(null=True)
    ambient_us_cm = models.FloatField(null=True)
    specific_us_cm = models.FloatField(null=True)
    oxygen_mg_l = models.FloatField(null=True)
    secchi_m = models.FloatField(null=True)
    more = ShapedJSON(default=dict, shape=FIGURES)
    recorder = models.ForeignKey(Person, models.PROTECT)

    class Meta:
        ordering = ["device_time"]


class TrackPart(Recorded):
    """Positions of a receiver during a run, as they were told: ``fixes`` of seconds since 1970 and degrees."""

    run = models.ForeignKey(Run, models.CASCADE, related_name="track_parts")
    fixes = ShapedJSON(shape=_FIXES, help_text="Lists of time (s since 1970), latitude and longitude")
    recorder = models.ForeignKey(Person, models.PROTECT)

    class Meta:
        ordering = ["device_time", "id"]
