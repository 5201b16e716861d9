"""Findings that somebody kept, and answers that need not be computed anew."""

from __future__ import annotations

from django.core.serializers.json import DjangoJSONEncoder
from django.db import models
from django.utils import timezone

from nailwright.common.rows import Keyed
from nailwright.common.shaped_json import CELLS, OBJECT, ShapedJSON
from nailwright.jobs.models import Job
from nailwright.programmes.models import Person, Programme


class SavedFinding(Keyed):
    """A finding as it was: what was asked, what came out, by which seed, and a fingerprint of the rows behind it."""

    programme = models.ForeignKey(Programme, models.CASCADE, related_name="saved_findings")
    kind = models.CharField(max_length=24)
    title = models.CharField(max_length=120, blank=True)
    query = ShapedJSON(shape=CELLS)
    result = ShapedJSON(shape={**OBJECT, "required": ["sentence"], "properties": {"sentence": {"type": "string"}}})
    seed = models.BigIntegerField(null=True)
    fingerprint = models.CharField(max_length=60)
    saved_by = models.ForeignKey(Person, models.PROTECT)
    saved_at = models.DateTimeField(default=timezone.now)

    class Meta:
        ordering = ["-saved_at"]


class FindingAnswer(Keyed):
    """What a finding came to for one question (``key``) and the very rows that ``fingerprint`` is of; or the job working it out."""

    programme = models.ForeignKey(Programme, models.CASCADE, related_name="+")
    kind = models.CharField(max_length=24)
    key = models.CharField(max_length=64)
    fingerprint = models.CharField(max_length=60)
    address = models.TextField(blank=True)
    result = ShapedJSON(null=True, encoder=DjangoJSONEncoder)
    job = models.ForeignKey(Job, models.SET_NULL, null=True, related_name="+")
    made_at = models.DateTimeField(default=timezone.now)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["programme", "key"], name="one_answer_each")]
        indexes = [models.Index(fields=["programme", "made_at"])]


class LongSelection(Keyed):
    """A selection too long for an address, under a key that follows from what it says."""

    programme = models.ForeignKey(Programme, models.CASCADE, related_name="+")
    key = models.CharField(max_length=16)
    query = ShapedJSON(shape=CELLS)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["programme", "key"], name="selection_once")]
