"""Fish in hand, and how they left."""

from __future__ import annotations

from django.db import models

from nailwright.common.rows import KeyField, Recorded
from nailwright.common.shaped_json import Shape, ShapedJSON
from nailwright.deck.models.runs import Run
from nailwright.programmes.models import Person, Programme
from nailwright.tags.models import Fish, Placement, Scan

_QUESTIONS: Shape = {
    "type": "array",
    "maxItems": 40,
    "items": {"type": "object", "required": ["code"], "additionalProperties": {"type": "string", "maxLength": 200}},
}


class Capture(Recorded):
    """One fish in hand once, or ``count`` fish that were only counted.

    ``length_text`` and ``mass_text`` are what was called, ``length_unit`` and ``mass_unit`` the units in which they were
    read (empty where nobody knows any more), ``length_mm`` and ``mass_g`` what core read in them.
    ``questions`` lists the doubts raised, each with its answer: kept as called, or which repair was taken.
    ``scanned`` sums up the scans, whose rows hold the numbers. ``brought_in_id`` is the key of the file that brought it.
    """

    class Basis(models.TextChoices):
        MEASURED = "measured", "Measured"
        ESTIMATED = "estimated", "Estimated"

    class Sex(models.TextChoices):
        UNKNOWN = "u", "Unknown"
        FEMALE = "f", "Female"
        MALE = "m", "Male"

    class Scanned(models.TextChoices):
        NOT = "", "Not scanned"
        NONE = "none", "Scanned, none found"
        KNOWN = "known", "A mark known here"
        FOREIGN = "foreign", "A mark not known here"

    programme = models.ForeignKey(Programme, models.CASCADE, related_name="captures")
    run = models.ForeignKey(Run, models.CASCADE, related_name="captures")
    species = models.CharField(max_length=8)
    count = models.PositiveIntegerField(default=1)
    length_mm = models.FloatField(null=True)
    length_type = models.CharField(max_length=4, blank=True)
    length_basis = models.CharField(max_length=9, choices=Basis, blank=True)
    length_text = models.CharField(max_length=40, blank=True)
    length_unit = models.CharField(max_length=2, blank=True)
    mass_g = models.FloatField(null=True)
    mass_basis = models.CharField(max_length=9, choices=Basis, blank=True)
    mass_text = models.CharField(max_length=40, blank=True)
    mass_unit = models.CharField(max_length=2, blank=True)
    sex = models.CharField(max_length=1, choices=Sex, default=Sex.UNKNOWN)
    sex_evidence = models.CharField(max_length=20, blank=True)
    fish = models.ForeignKey(Fish, models.PROTECT, null=True, related_name="captures")
    scanned = models.CharField(max_length=8, choices=Scanned, blank=True)
    note = models.CharField(max_length=200, blank=True)
    questions = ShapedJSON(default=list, shape=_QUESTIONS)
    recorder = models.ForeignKey(Person, models.PROTECT)
    brought_in_id = KeyField(null=True, db_index=True)

    #: Numbers read on it and how tags were placed there, where ``queries.with_marks`` has put them beside it.
    scans: list[Scan]
    placed: list[Placement]

    class Meta:
        ordering = ["device_time"]
        indexes = [
            # A finding reads only these columns, so the index alone answers it.
            models.Index(
                fields=[
                    "programme",
                    "species",
                    "run",
                    "deleted_at",
                    "count",
                    "length_mm",
                    "length_basis",
                    "length_type",
                    "mass_g",
                    "mass_basis",
                    "sex",
                ],
                name="capture_finding",
            ),
            # The register's three orders; the key follows by itself, so an index alone tells a page's keys.
            models.Index(fields=["programme", "deleted_at", "device_time"], name="capture_by_time"),
            models.Index(fields=["programme", "deleted_at", "length_mm"], name="capture_by_length"),
            models.Index(fields=["programme", "deleted_at", "mass_g"], name="capture_by_mass"),
        ]


class CaptureTally(models.Model):
    """How many captures of one species a run holds, and a number that is new whenever one of them was touched.

    The database keeps it itself, by triggers (migration 0012), so that no way of writing can forget it: what was computed
    from captures is still true as long as their touches are the same. Each connection has one of the ``slot`` rows, so
    that two tablets that send fish of one run do not wait for each other; ``present`` and ``taken_out`` are to be summed.
    """

    pk = models.CompositePrimaryKey("programme_id", "species", "run_id", "slot")
    programme_id = KeyField()
    species = models.CharField(max_length=8)
    run_id = KeyField()
    slot = models.PositiveSmallIntegerField()
    touch = models.PositiveBigIntegerField(help_text="Never given twice, not even after a restart or from a backup")
    present = models.IntegerField()
    taken_out = models.IntegerField()


class Release(Recorded):
    """How a fish that came aboard left again; without one it is still aboard.

    ``strength`` (1 to 4) and ``reason`` belong to one that was released, ``taken_to`` to one that was taken somewhere; what
    the codes mean stands in the outing's protocol. ``word`` is what was said where that is none of these codes.
    """

    class Fate(models.TextChoices):
        RELEASED = "released", "Released"
        DEAD = "dead", "Dead"
        KEPT = "kept", "Kept"
        ESCAPED = "escaped", "Escaped before release"
        TAKEN = "taken", "Taken to"

    capture = models.OneToOneField(Capture, models.CASCADE, related_name="release")
    fate = models.CharField(max_length=8, choices=Fate)
    strength = models.PositiveSmallIntegerField(null=True)
    reason = models.CharField(max_length=20, blank=True)
    taken_to = models.CharField(max_length=20, blank=True)
    word = models.CharField(max_length=20, blank=True)
    recorder = models.ForeignKey(Person, models.PROTECT)
