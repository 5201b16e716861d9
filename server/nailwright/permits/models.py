"""Permits, certificates, and what a permit allows."""

from __future__ import annotations

from django.db import models

from nailwright.common.rows import Keyed, PresentManager
from nailwright.common.shaped_json import ShapedJSON
from nailwright.deck.models import shape_of_gears
from nailwright.programmes.models import Programme


class Permit(Keyed):
    """A permit of the programme, or a certificate of a person (``holder``), with the days on which it is valid."""

    class Kind(models.TextChoices):
        PERMIT = "permit", "Permit"
        CERTIFICATE = "certificate", "Certificate"

    programme = models.ForeignKey(Programme, models.CASCADE, related_name="permits")
    kind = models.CharField(max_length=11, choices=Kind)
    name = models.CharField(max_length=120)
    holder = models.CharField(max_length=80, blank=True)
    number = models.CharField(max_length=60, blank=True)
    gears = ShapedJSON(
        default=list,
        shape=shape_of_gears,
        help_text="That it is for. None: a permit is for any, a certificate for no gear, such as first aid",
    )
    first = models.DateField()
    last = models.DateField()

    class Meta:
        ordering = ["last"]


class Allowance(Keyed):
    """How many fish a permit allows to be captured, handled, tagged or killed from one day to another; of all species where none is named."""

    class What(models.TextChoices):
        CAPTURED = "captured", "Captured"
        HANDLED = "handled", "Measured, weighed or marked"
        TAGGED = "tagged", "Given a tag"
        KILLED = "killed", "Dead or kept"

    permit = models.ForeignKey(Permit, models.PROTECT, related_name="allowances")
    species = models.CharField(max_length=8, blank=True)
    what = models.CharField(max_length=8, choices=What)
    most = models.PositiveIntegerField()
    first = models.DateField()
    last = models.DateField()
    deleted_at = models.DateTimeField(null=True)

    objects = models.Manager()
    present = PresentManager()
