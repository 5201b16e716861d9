"""Files that were brought in."""

from __future__ import annotations

import builtins
import gzip

from django.db import models
from django.utils import timezone

from nailwright.common.rows import Keyed
from nailwright.common.shaped_json import ShapedJSON
from nailwright.jobs.models import Job
from nailwright.programmes.models import Person, Programme


class Import(Keyed):
    """One file of measured fish on its way into the record.

    The file itself stays beside it, packed, so that what was brought in can be read again; a backup holds it too.
    ``answers`` is how a person said that it is to be read, ``result`` what the last try or the bringing in found.
    """

    class State(models.TextChoices):
        READING = "reading", "Being read"
        TAKEN = "taken", "Taken, not tried yet"
        TRIED = "tried", "Tried"
        IN = "in", "Brought in"
        BACK = "back", "Taken back"

    programme = models.ForeignKey(Programme, models.CASCADE, related_name="imports")
    person = models.ForeignKey(Person, models.PROTECT)
    file_name = models.CharField(max_length=200)
    sha256 = models.CharField(max_length=64)
    bytes = models.PositiveIntegerField()
    packed = models.BinaryField()
    state = models.CharField(max_length=7, choices=State, default=State.TAKEN)
    preview = ShapedJSON()
    answers = ShapedJSON()
    result = ShapedJSON(null=True)
    rejects = models.BinaryField(null=True)
    job = models.ForeignKey(Job, models.SET_NULL, null=True)
    made_at = models.DateTimeField(default=timezone.now)
    in_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["-made_at"]

    def content(self) -> builtins.bytes:
        """The file as it was sent."""
        return gzip.decompress(self.packed)


class Mapping(Keyed):
    """How files of one kind are read, by a name: answers that the next such file starts with."""

    programme = models.ForeignKey(Programme, models.CASCADE, related_name="mappings")
    name = models.CharField(max_length=60)
    answers = ShapedJSON()
    person = models.ForeignKey(Person, models.PROTECT, related_name="+")
    saved_at = models.DateTimeField(default=timezone.now)

    class Meta:
        ordering = ["name"]
        constraints = [models.UniqueConstraint(fields=["programme", "name"], name="mapping_once")]
