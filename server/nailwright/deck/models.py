"""The record of the deck."""

from __future__ import annotations

from django.db import models
from django.utils import timezone

from nailwright.common.rows import Keyed, KeyField, Recorded
from nailwright.common.shaped_json import CELLS, CODES, FIGURES, OBJECT, SENTENCES, Shape, ShapedJSON, shape_of
from nailwright.programmes.models import Person, Programme, ProtocolVersion
from nailwright.tags.models import Fish, Placement, Scan
from nailwright.waters.models import Site, Water, Zone
from nailwright_core.common.errors import CoreError

_QUESTIONS: Shape = {
    "type": "array",
    "maxItems": 40,
    "items": {"type": "object", "required": ["code"], "additionalProperties": {"type": "string", "maxLength": 200}},
}
_FIXES: Shape = {
    "type": "array",
    "maxItems": 1000,
    "items": {"type": "array", "minItems": 3, "maxItems": 3, "items": {"type": "number"}},
}


def _shape_of_orders() -> Shape:
    from nailwright.deck.serializers import OrdersSerializer

    return {"anyOf": [{"type": "object", "maxProperties": 0}, shape_of(OrdersSerializer())]}


def _shape_of_checklists() -> Shape:
    from nailwright.deck.outing.checklists import CODES as CHECKLIST_CODES

    return {**CODES, "items": {"enum": list(CHECKLIST_CODES)}}


def shape_of_gears() -> Shape:
    return {**CODES, "items": {"enum": Gear.values}}


class Gear(models.TextChoices):
    """Core's ``deck.gears``, which knows what each counts."""

    BOAT = "boat_electrofishing", "Boat electrofishing"
    BACKPACK = "backpack_electrofishing", "Backpack electrofishing"
    TOW_BARGE = "towbarge_electrofishing", "Tow-barge electrofishing"
    SHORE = "shore_electrofishing", "Shore electrofishing"
    ANGLING = "angling", "Angling"
    ICE = "ice_fishing", "Ice fishing"
    GILL_NET = "gill_net", "Gill net"
    TRAP_NET = "trap_net", "Trap net"
    FYKE_NET = "fyke_net", "Fyke net"
    SEINE = "seine", "Seine"
    TRAWL = "trawl", "Trawl"


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

    def must_be_open(self) -> None:
        """Raises CoreError ``outing_closed`` where it is not."""
        if self.state != self.State.OPEN:
            raise CoreError(
                "outing_closed",
                f"{self.name} of {self.date} is closed. A lead or biologist can open it again; this stays here until then.",
                "outing",
            )


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
    """How a fish that came aboard left again; without one it is still in the live well.

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


class Event(Recorded):
    """What was said of a fish (``capture``), a run, or a bath between net and release: core's ``deck.events`` has the kinds.

    Lanes, clocks, strengths and orders of treatment are derived from events and never stored.
    """

    outing = models.ForeignKey(Outing, models.CASCADE, related_name="events")
    run = models.ForeignKey(Run, models.CASCADE, null=True, related_name="events")
    capture = models.ForeignKey(Capture, models.CASCADE, null=True, related_name="events")
    kind = models.CharField(max_length=20)
    said = ShapedJSON(default=dict, shape=CELLS, help_text="Its fields by name")
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


class Photo(Recorded):
    """A picture of a fish, of something on it, or of a place; the picture itself is a ``PhotoFile``."""

    class Shows(models.TextChoices):
        FISH = "fish", "The fish"
        MARK = "mark", "A mark or scar"
        MOUTH = "mouth", "Mouth"
        FIN = "fin", "Fins"
        OTOLITH = "otolith", "Otolith or scale"
        PLACE = "place", "The place"
        PERSON = "person", "A person, named in the note"

    outing = models.ForeignKey(Outing, models.CASCADE, related_name="photos")
    capture = models.ForeignKey(Capture, models.CASCADE, null=True, related_name="photos")
    shows = models.CharField(max_length=8, choices=Shows)
    note = models.CharField(max_length=120, blank=True)
    width = models.PositiveSmallIntegerField()
    height = models.PositiveSmallIntegerField()
    lat = models.FloatField(null=True, help_text="Where it was taken; only where that was wanted")
    lon = models.FloatField(null=True)
    recorder = models.ForeignKey(Person, models.PROTECT)

    class Meta:
        ordering = ["device_time", "id"]


class PhotoFile(Keyed):
    """The picture as JPEG, without what a camera writes into it, and a small one for lists."""

    photo = models.OneToOneField(Photo, models.CASCADE, related_name="file")
    jpeg = models.BinaryField()
    small = models.BinaryField()


class TrackPart(Recorded):
    """Positions of a receiver during a run, as they were told: ``fixes`` of seconds since 1970 and degrees."""

    run = models.ForeignKey(Run, models.CASCADE, related_name="track_parts")
    fixes = ShapedJSON(shape=_FIXES, help_text="Lists of time (s since 1970), latitude and longitude")
    recorder = models.ForeignKey(Person, models.PROTECT)

    class Meta:
        ordering = ["device_time", "id"]


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
