"""Tags, the fish that carry them, and which carries which."""

from __future__ import annotations

from django.db import models
from django.utils import timezone

from nailwright.programmes.models import Person, Programme
from nailwright.programmes.rows import Keyed, Recorded


class Fish(Keyed):
    """An individual known by a mark."""

    programme = models.ForeignKey(Programme, models.CASCADE, related_name="fish")
    species = models.CharField(max_length=8)
    server_time = models.DateTimeField(default=timezone.now)


class Tag(Keyed):
    """One tag with its number: in stock, in a fish, or spent."""

    class Kind(models.TextChoices):
        PIT = "pit", "PIT"
        T_BAR = "tbar", "T-bar"

    class State(models.TextChoices):
        STOCK = "stock", "In stock"
        PLACED = "placed", "In a fish"
        SPOILED = "spoiled", "Spoiled"
        LOST = "lost", "Lost"

    programme = models.ForeignKey(Programme, models.CASCADE, related_name="tags")
    kind = models.CharField(max_length=8, choices=Kind)
    number = models.CharField(max_length=24)
    batch = models.CharField(max_length=40, blank=True)
    state = models.CharField(max_length=8, choices=State, default=State.STOCK)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["programme", "kind", "number"], name="tag_number_once")]


class Placement(Recorded):
    """A tag put into or onto a fish.

    ``living_tag`` holds the tag's key while it sits in a living fish and nothing otherwise: its uniqueness is what keeps
    one number on one living fish, also where two tablets place it at the same moment.
    """

    tag = models.ForeignKey(Tag, models.PROTECT, related_name="placements")
    fish = models.ForeignKey(Fish, models.CASCADE, related_name="placements")
    capture = models.ForeignKey("deck.Capture", models.CASCADE, related_name="placements")
    living_tag = models.UUIDField(null=True, unique=True)
    recorder = models.ForeignKey(Person, models.PROTECT)
