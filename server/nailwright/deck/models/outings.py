"""Outings, what they are to bring, and who signed for them."""

from __future__ import annotations

from django.db import models
from django.utils import timezone

from nailwright.common.errors import Refused
from nailwright.common.rows import Keyed
from nailwright.common.shaped_json import CELLS, CODES, OBJECT, SENTENCES, Shape, ShapedJSON, shape_of
from nailwright.deck.models.gears import Gear, shape_of_gears
from nailwright.deck.orders import OrdersSerializer
from nailwright.deck.outing.checklists import CODES as CHECKLIST_CODES
from nailwright.programmes.models import Membership, Person, Programme, ProtocolVersion, Role
from nailwright.programmes.record.audit import Act
from nailwright.waters.models import Water, Zone
from nailwright_core.common.errors import CoreError


def _shape_of_orders() -> Shape:
    return {"anyOf": [{"type": "object", "maxProperties": 0}, shape_of(OrdersSerializer())]}


def _shape_of_checklists() -> Shape:
    return {**CODES, "items": {"enum": list(CHECKLIST_CODES)}}


class Outing(Keyed):
    """A day or night on one water."""

    class State(models.TextChoices):
        OPEN = "open", "Open"
        CLOSED = "closed", "Closed"

    programme = models.ForeignKey(Programme, models.CASCADE, related_name="outings")
    water = models.ForeignKey(Water, models.PROTECT, related_name="outings")
    name = models.CharField(max_length=120)
    date = models.DateField()
    gear = models.CharField(max_length=24, choices=Gear)
    more_gears = ShapedJSON(default=list, shape=shape_of_gears, help_text="Codes of further gears that are used")
    state = models.CharField(max_length=8, choices=State, default=State.OPEN)
    length_unit = models.CharField(max_length=2, default="mm")
    mass_unit = models.CharField(max_length=2, default="g")
    checklists = ShapedJSON(
        default=list, shape=_shape_of_checklists, help_text="Codes of those to be signed before current flows"
    )
    orders = ShapedJSON(
        default=dict, shape=_shape_of_orders, help_text="What the plan tells the deck, as OrdersSerializer has it"
    )
    protocol = models.ForeignKey(
        ProtocolVersion, models.PROTECT, null=True, related_name="outings", help_text="Under which it was made"
    )
    opened_by = models.ForeignKey(
        Person, models.PROTECT, null=True, related_name="+", help_text="Nobody knows, of outings of before"
    )
    server_time = models.DateTimeField(default=timezone.now)

    class Meta:
        ordering = ["-date", "-server_time"]
        indexes = [models.Index(fields=["programme", "date"])]

    def __str__(self) -> str:
        return self.name

    @property
    def gears(self) -> list[str]:
        """Every gear that it uses, the first one first."""
        return list(dict.fromkeys((self.gear, *self.more_gears)))

    def must_be_open(self, act: Act) -> None:
        """Something is to be recorded on it.

        Raises:
            CoreError: ``outing_closed`` where it is not open, unless the act is one of the desk. Refused: as ``must_be_theirs``.
        """
        self.must_be_theirs(act.person)
        if self.state != self.State.OPEN and not act.desk:
            raise CoreError(
                "outing_closed",
                f"{self.name} of {self.date} is closed. A lead or biologist can open it again; this stays here until then.",
                "outing",
            )

    def must_be_theirs(self, person: Person) -> None:
        """Raises Refused ``role_may_not`` for a volunteer who did not open it."""
        if self.opened_by_id == person.pk:
            return
        if Membership.present.filter(programme=self.programme_id, person=person, role=Role.VOLUNTEER).exists():
            raise Refused(
                "role_may_not",
                f"{self.name} is another's outing: a volunteer records on their own. Open an outing, then call the fish there.",
            )


class Handover(Keyed):
    """An outing handed over at the quay: who signed that it is closed, and what was not complete then. Its key is the act's."""

    outing = models.ForeignKey(Outing, models.CASCADE, related_name="handovers")
    name = models.CharField(max_length=80)
    note = models.CharField(max_length=300, blank=True)
    lines = ShapedJSON(default=list, shape=SENTENCES, help_text="What was not complete, in sentences")
    person = models.ForeignKey(Person, models.PROTECT)
    at = models.DateTimeField(default=timezone.now)

    class Meta:
        ordering = ["at"]


class VisitGroups(models.Model):
    """Groups of lengths among the fish of a visit, for the board of the next one: computed, and can be again."""

    outing = models.OneToOneField(Outing, models.CASCADE, related_name="groups", primary_key=True)
    touch = models.PositiveBigIntegerField(
        help_text="Of the captures that they were computed from, as CaptureTally has it"
    )
    by_species = ShapedJSON(default=dict, shape={**OBJECT, "additionalProperties": {"type": "array", "items": CELLS}})


class Target(Keyed):
    """What an outing is to bring: so many fish of a species measured, or marked, from a length on, in one zone or any."""

    class What(models.TextChoices):
        MEASURED = "measured", "measured"
        MARKED = "marked", "marked"

    outing = models.ForeignKey(Outing, models.CASCADE, related_name="targets")
    species = models.CharField(max_length=8)
    what = models.CharField(max_length=8, choices=What)
    wanted = models.PositiveIntegerField()
    from_mm = models.FloatField(null=True)
    zone = models.ForeignKey(Zone, models.PROTECT, null=True, related_name="targets")

    @property
    def zone_name(self) -> str:
        """Of the zone that it asks for; empty: any."""
        return self.zone.name if self.zone else ""


class Signature(Keyed):
    """A checklist read and signed for an outing, with the words and version that were signed.

    Where ``signed`` is false, ``name`` let the outing go on without it, and ``note`` says why.
    """

    outing = models.ForeignKey(Outing, models.CASCADE, related_name="signatures")
    checklist = models.CharField(max_length=20)
    version = models.PositiveSmallIntegerField()
    lines = ShapedJSON(shape=SENTENCES)
    signed = models.BooleanField(default=True)
    name = models.CharField(max_length=80)
    note = models.CharField(max_length=300, blank=True)
    person = models.ForeignKey(Person, models.PROTECT)
    at = models.DateTimeField(default=timezone.now)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["outing", "checklist"], name="signed_once")]
