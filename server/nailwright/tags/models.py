"""Tags, the fish that carry them, what was read on a fish, and where each individual was met.

Rows of later rooms (captures, outings, cards) are named here by their key as a plain value: the ground knows nothing of
what stands on it.
"""

from __future__ import annotations

from django.db import models
from django.utils import timezone

from nailwright.common.rows import Keyed, KeyField, Recorded
from nailwright.programmes.models import Person, Programme
from nailwright.waters.models import Site


class Fish(Keyed):
    """An individual known by a mark."""

    programme = models.ForeignKey(Programme, models.CASCADE, related_name="fish")
    species = models.CharField(max_length=8)
    server_time = models.DateTimeField(default=timezone.now)
    merged_into_id = KeyField(
        null=True, help_text="The fish that this one was found to be: all that was its is that one's"
    )
    split_from_id = KeyField(null=True, help_text="The fish whose meetings were found to be this one's")


class TagKind(models.TextChoices):
    """Kinds of tag; for visible ones the head is part of the kind, since it decides how they are placed and lost."""

    PIT = "pit", "PIT"
    T_BAR = "tbar", "T-bar"
    DART = "dart", "Dart, one barb"
    DART_TWO = "dart2", "Dart, two barbs"
    METAL = "metal", "Metal head"
    DISC = "disc", "Disc"
    ACOUSTIC = "acoustic", "Acoustic"
    RADIO = "radio", "Radio"
    SATELLITE = "satellite", "Satellite"
    ARCHIVAL = "archival", "Archival"


class TagBatch(Keyed):
    """Tags that came together: one kind, one colour and size, a row of numbers. What nobody said is empty."""

    programme = models.ForeignKey(Programme, models.CASCADE, related_name="tag_batches")
    kind = models.CharField(max_length=10, choices=TagKind)
    name = models.CharField(max_length=40)
    colour = models.CharField(max_length=30, blank=True)
    size_mm = models.FloatField(null=True, help_text="Length of the tag")
    mass_g = models.FloatField(null=True, help_text="In air")
    battery_days = models.FloatField(
        null=True, help_text="From activation, as its maker says; nothing where it has none"
    )
    note = models.CharField(max_length=200, blank=True)
    received = models.DateField(null=True)
    supplier = models.CharField(max_length=80, blank=True)
    price_each = models.FloatField(null=True, help_text="In the programme's currency")
    meaning = models.CharField(
        max_length=60, blank=True, help_text="What the colour says, such as a sex, a tank or a year"
    )
    reward = models.FloatField(
        null=True, help_text="Promised on the tag to whoever reports it, in the programme's currency"
    )
    frequency_khz = models.FloatField(null=True, help_text="At which it sends")
    code_space = models.CharField(max_length=40, blank=True, help_text="Within which its code is alone")

    class Meta:
        constraints = [models.UniqueConstraint(fields=["programme", "kind", "name"], name="batch_once")]

    def __str__(self) -> str:
        return self.name


class TagState(models.TextChoices):
    """Where a tag is; which changes are allowed stands in ``states``."""

    STOCK = "stock", "In stock"
    ISSUED = "issued", "Issued"
    PLACED = "placed", "In a fish"
    SHED = "shed", "Shed"
    REMOVED = "removed", "Taken out of a fish"
    SPOILED = "spoiled", "Spoiled"
    LOST = "lost", "Lost"
    DESTROYED = "destroyed", "Destroyed"
    ELSEWHERE = "elsewhere", "Seen on a fish, not of this stock"


class Tag(Keyed):
    """One tag with its number."""

    programme = models.ForeignKey(Programme, models.CASCADE, related_name="tags")
    kind = models.CharField(max_length=10, choices=TagKind)
    number = models.CharField(max_length=24)
    batch = models.ForeignKey(TagBatch, models.PROTECT, null=True, related_name="tags")
    state = models.CharField(max_length=10, choices=TagState, default=TagState.STOCK)
    activated_on = models.DateField(
        null=True, help_text="From when its battery is used; nothing: from when it was implanted"
    )

    class Meta:
        constraints = [models.UniqueConstraint(fields=["programme", "kind", "number"], name="tag_number_once")]


class TagIssue(Keyed):
    """A tag handed to a person, a boat or an outing, until it is placed or comes back."""

    tag = models.ForeignKey(Tag, models.CASCADE, related_name="issues")
    doing_id = KeyField(null=True, db_index=True, help_text="Key of the handing out, which may be of many tags")
    person = models.ForeignKey(Person, models.PROTECT, null=True, related_name="+")
    boat = models.CharField(max_length=60, blank=True)
    outing_id = KeyField(null=True)
    issuer = models.ForeignKey(Person, models.PROTECT, related_name="+")
    issued_at = models.DateTimeField(default=timezone.now)
    returned_at = models.DateTimeField(null=True)


class Placement(Recorded):
    """A tag put into or onto a fish, at the capture ``capture_id``.

    ``living_tag`` holds the tag's key while it sits in a living fish and nothing otherwise: its uniqueness is what keeps
    one number on one living fish, also where two tablets place it at the same moment. ``tag_before`` is where the tag was
    before, so that taking the placement back puts it there again.
    """

    class Quality(models.TextChoices):
        GOOD = "good", "Good"
        DOUBTFUL = "doubtful", "Doubtful"
        SECOND_TRY = "second", "Second try"

    tag = models.ForeignKey(Tag, models.PROTECT, related_name="placements")
    fish = models.ForeignKey(Fish, models.CASCADE, related_name="placements")
    capture_id = KeyField(db_index=True)
    living_tag = KeyField(null=True, unique=True)
    tag_before = models.CharField(max_length=10, choices=TagState, default=TagState.STOCK)
    body_site = models.CharField(max_length=20, blank=True, help_text="A code of the protocol's body sites")
    quality = models.CharField(max_length=8, choices=Quality, blank=True)
    recorder = models.ForeignKey(Person, models.PROTECT)


class Scan(Recorded):
    """One number read on one fish at one time: by whom, with what, and what it was known as then.

    ``source_id`` is the key of the capture (or of another room's row) in which the fish was in hand.
    """

    class Result(models.TextChoices):
        KNOWN = "known", "A mark known here"
        FOREIGN = "foreign", "A mark not known here"

    programme = models.ForeignKey(Programme, models.CASCADE, related_name="scans")
    source_id = KeyField(db_index=True)
    kind = models.CharField(max_length=10, choices=TagKind)
    number = models.CharField(max_length=24)
    result = models.CharField(max_length=8, choices=Result)
    fish = models.ForeignKey(Fish, models.PROTECT, null=True, related_name="scans")
    reader = models.CharField(max_length=40, blank=True)
    recorder = models.ForeignKey(Person, models.PROTECT)

    class Meta:
        ordering = ["device_time", "id"]
        indexes = [models.Index(fields=["programme", "kind", "number"], name="scan_number")]


class Encounter(Keyed):
    """An individual met once: the one table that all that is known of a fish's life is read from.

    ``source_id`` is the key of the row that says so (a capture, a card, a return, a gate's hearing). ``at`` and ``site`` are of the
    meeting, ``let_go_at``, ``let_go_lat`` and ``let_go_lon`` of how it ended, where the fish swims on. A fish that is dead, retained
    or lost ends a history there; one of which nothing is said may still be in hand, or nobody wrote it down.
    """

    class Kind(models.TextChoices):
        CAPTURE = "capture", "Capture"
        CARD = "card", "Card"
        RETURN = "return", "Return"
        GATE = "gate", "Gate"

    class Disposition(models.TextChoices):
        RELEASED = "released", "Released"
        RETAINED = "retained", "Kept or taken elsewhere"
        DEAD = "dead", "Dead"
        LOST = "lost", "Lost to the record"

    #: With these a history ends.
    LOSSES = (Disposition.RETAINED, Disposition.DEAD, Disposition.LOST)

    fish = models.ForeignKey(Fish, models.CASCADE, related_name="encounters")
    kind = models.CharField(max_length=8, choices=Kind)
    source_id = KeyField()
    outing_id = KeyField(null=True)
    occasion_id = KeyField(null=True, help_text="Key of the occasion at which it was met, where it was at one")
    at = models.DateTimeField()
    at_error_s = models.FloatField(default=0)
    site = models.ForeignKey(Site, models.PROTECT, null=True, related_name="encounters")
    lat = models.FloatField(null=True)
    lon = models.FloatField(null=True)
    error_m = models.FloatField(null=True)
    length_mm = models.FloatField(null=True)
    mass_g = models.FloatField(null=True)
    disposition = models.CharField(max_length=8, choices=Disposition, blank=True)
    let_go_at = models.DateTimeField(null=True)
    let_go_lat = models.FloatField(null=True)
    let_go_lon = models.FloatField(null=True)
    let_go_error_m = models.FloatField(null=True)

    class Meta:
        ordering = ["at", "id"]
        constraints = [models.UniqueConstraint(fields=["kind", "source_id", "fish"], name="met_once")]
        indexes = [models.Index(fields=["fish", "at"], name="encounter_life")]


class Occasion(Keyed):
    """Where and how long was fished or listened, whether a fish was met or none: with encounters, what histories are read from.

    Its key is that of the row that says so (a run, a gate's night).
    """

    class Kind(models.TextChoices):
        RUN = "run", "Run"
        GATE = "gate", "Gate"

    programme = models.ForeignKey(Programme, models.CASCADE, related_name="occasions")
    kind = models.CharField(max_length=8, choices=Kind)
    outing_id = KeyField(null=True)
    site = models.ForeignKey(Site, models.PROTECT, related_name="occasions")
    gear = models.CharField(max_length=24)
    day = models.DateField(help_text="Of the outing, by which years and visits are told apart")
    began_at = models.DateTimeField()
    ended_at = models.DateTimeField(null=True)
    effort = models.FloatField(null=True, help_text="None where what it takes was not written down")
    effort_unit = models.CharField(max_length=20, blank=True)
    distance_m = models.FloatField(null=True)

    class Meta:
        ordering = ["began_at", "id"]
        indexes = [models.Index(fields=["programme", "day"], name="occasion_days")]


class ForeignMark(Keyed):
    """A tag at large that another programme gave out, as that one told it: so that whose it is can be said at once."""

    programme = models.ForeignKey(Programme, models.CASCADE, related_name="foreign_marks")
    owner = models.CharField(max_length=120, help_text="The programme that gave it out")
    kind = models.CharField(max_length=10, choices=TagKind)
    number = models.CharField(max_length=24)
    colour = models.CharField(max_length=30, blank=True)
    species = models.CharField(max_length=80, blank=True, help_text="Scientific name, as they told it")
    placed_on = models.DateField(null=True)
    water = models.CharField(max_length=120, blank=True)
    lat = models.FloatField(null=True, help_text="Roughly")
    lon = models.FloatField(null=True)
    contact = models.CharField(max_length=200, blank=True)

    class Meta:
        # it is there once by its key (``exchange``): the database takes names for the same that differ in an accent
        indexes = [models.Index(fields=["programme", "kind", "number"], name="foreign_mark_number")]
