"""Findings that somebody kept."""

from __future__ import annotations

from django.db import models
from django.utils import timezone

from nailwright.common.rows import Keyed
from nailwright.programmes.models import Person, Programme


class KeptFinding(Keyed):
    """A finding as it was: what was asked, what came out, by which seed, and a mark of the rows behind it."""

    programme = models.ForeignKey(Programme, models.CASCADE, related_name="kept_findings")
    kind = models.CharField(max_length=24)
    title = models.CharField(max_length=120, blank=True)
    query = models.JSONField()
    result = models.JSONField()
    seed = models.BigIntegerField(null=True)
    rows_mark = models.CharField(max_length=60)
    keeper = models.ForeignKey(Person, models.PROTECT)
    kept_at = models.DateTimeField(default=timezone.now)

    class Meta:
        ordering = ["-kept_at"]
