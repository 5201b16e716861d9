"""What was done to fish, to baths and on runs, and the sum of it for each fish."""

from __future__ import annotations

from django.db import models

from nailwright.common.rows import Recorded
from nailwright.common.shaped_json import CELLS, CODES, ShapedJSON
from nailwright.deck.models.captures import Capture, Release
from nailwright.deck.models.outings import Outing
from nailwright.deck.models.runs import Run
from nailwright.programmes.models import Person


class Event(Recorded):
    """What was said of a fish (``capture``), a run, or a bath between net and release: core's ``deck.events`` has the kinds.

    Lanes, clocks, strengths and orders of treatment are derived from events and never stored.
    """

    outing = models.ForeignKey(Outing, models.CASCADE, related_name="events")
    run = models.ForeignKey(Run, models.CASCADE, null=True, related_name="events")
    capture = models.ForeignKey(Capture, models.CASCADE, null=True, related_name="events")
    kind = models.CharField(max_length=20)
    details = ShapedJSON(default=dict, shape=CELLS, help_text="Its fields by name")
    recorder = models.ForeignKey(Person, models.PROTECT)

    class Meta:
        ordering = ["device_time", "id"]


class Handling(models.Model):
    """What was done to one fish, summed up from its events (core's ``deck.handled``), so that findings read it in one query.

    A fish of which nothing was recorded has no row. It is made anew with each event, release, or correction of the fish.
    """

    capture = models.OneToOneField(Capture, models.CASCADE, primary_key=True, related_name="handling")
    aboard_s = models.FloatField(null=True)
    air_s = models.FloatField(null=True)
    longest_air_s = models.FloatField(null=True)
    deepest_stage = models.PositiveSmallIntegerField(null=True)
    induction_s = models.FloatField(null=True)
    surgery_s = models.FloatField(null=True)
    recovery_s = models.FloatField(null=True)
    injuries = ShapedJSON(default=list, shape=CODES)
    hook_site = models.CharField(max_length=20, blank=True)
    hook_outcome = models.CharField(max_length=20, blank=True)
    signs = ShapedJSON(default=list, shape=CODES)
    vented = models.BooleanField(default=False)
    descended = models.BooleanField(default=False)
    outcome = models.CharField(max_length=20, blank=True)
    reflexes_tried = ShapedJSON(default=list, shape=CODES)
    reflexes_impaired = ShapedJSON(default=list, shape=CODES)
    reflex_score = models.FloatField(null=True)
    cause = models.CharField(max_length=20, blank=True)
    disposition = models.CharField(max_length=8, choices=Release.Fate, blank=True, help_text="Empty while it is aboard")
    condition = models.PositiveSmallIntegerField(null=True, help_text="Release condition, 1 to 4")
