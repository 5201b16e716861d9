"""Reports of tags, who sent them, and the public page through which they come."""

from __future__ import annotations

from django.db import models
from django.utils import timezone

from nailwright.common.rows import Keyed, Recorded
from nailwright.programmes.models import Person, Programme
from nailwright.tags.models import Fish, Tag, TagKind


class PublicPage(Keyed):
    """Where finders of a programme's tags report them without an account: its short address and what stands on it."""

    programme = models.OneToOneField(Programme, models.CASCADE, related_name="public_page")
    address = models.SlugField(max_length=24, unique=True)
    open = models.BooleanField(default=False)
    telephone = models.CharField(max_length=40, blank=True)
    email = models.EmailField(blank=True)
    greeting = models.CharField(max_length=400, blank=True, help_text="In the programme's own words, above the form")
    answers_at_once = models.BooleanField(
        default=True, help_text="Whether a finder is shown the fish's story before anybody has looked at the report"
    )
    contact_days = models.PositiveSmallIntegerField(
        default=365, help_text="So long after a report is decided a finder's contact is kept"
    )


class Return(Keyed):
    """Somebody's report of a tag. What they said stays as they said it; what a person decides of it stands beside, with history.

    ``tag`` and ``fish`` are what the number was matched with; a report becomes an encounter when it is verified.
    """

    class Channel(models.TextChoices):
        WEB = "web", "Public page"
        TELEPHONE = "telephone", "Telephone"
        LETTER = "letter", "Letter or e-mail"
        PERSON = "person", "In person"

    class State(models.TextChoices):
        RECEIVED = "received", "Received"
        MATCHED = "matched", "Matched"
        ASKED = "asked", "Asked back"
        VERIFIED = "verified", "Verified"
        REJECTED = "rejected", "Rejected"

    class FishFate(models.TextChoices):
        RELEASED = "released", "Released alive"
        KEPT = "kept", "Harvested"
        DEAD = "dead", "Found dead or died"

    class TagFate(models.TextChoices):
        LEFT = "left", "Left in the fish"
        REMOVED = "removed", "Removed"

    class Means(models.TextChoices):
        ROD = "rod", "Rod and line"
        NET = "net", "Net"
        TRAP = "trap", "Trap or pot"
        DEAD = "dead", "Found dead"
        MARKET = "market", "Market or cleaning table"
        OTHER = "other", "Something else"

    programme = models.ForeignKey(Programme, models.CASCADE, related_name="returns")
    received_at = models.DateTimeField(default=timezone.now)
    channel = models.CharField(max_length=10, choices=Channel, default=Channel.WEB)
    recorder = models.ForeignKey(
        Person, models.PROTECT, null=True, related_name="+", help_text="Who wrote it down; null: the finder did"
    )
    language = models.CharField(max_length=5, default="en")
    number_text = models.CharField(max_length=40, blank=True, help_text="As the finder read it")
    species = models.CharField(max_length=8, blank=True)
    found_on = models.DateField(null=True)
    found_within_days = models.PositiveSmallIntegerField(default=0, help_text="How far the day may be off")
    lat = models.FloatField(null=True)
    lon = models.FloatField(null=True)
    error_m = models.FloatField(null=True)
    place_text = models.CharField(max_length=200, blank=True)
    length_text = models.CharField(max_length=40, blank=True)
    length_mm = models.FloatField(null=True)
    length_estimated = models.BooleanField(default=False)
    mass_text = models.CharField(max_length=40, blank=True)
    mass_g = models.FloatField(null=True)
    means = models.CharField(max_length=8, choices=Means, blank=True)
    fish_fate = models.CharField(max_length=8, choices=FishFate, blank=True)
    tag_fate = models.CharField(max_length=8, choices=TagFate, blank=True)
    remarks = models.CharField(max_length=1000, blank=True)

    state = models.CharField(max_length=8, choices=State, default=State.RECEIVED, db_index=True)
    tag = models.ForeignKey(Tag, models.PROTECT, null=True, related_name="returns")
    fish = models.ForeignKey(Fish, models.PROTECT, null=True, related_name="returns")
    told = models.BooleanField(default=False, help_text="Whether the fish's story was shown to the finder")
    decided_at = models.DateTimeField(null=True)
    reason = models.CharField(max_length=200, blank=True, help_text="Why it was rejected or asked back")

    class Meta:
        ordering = ["-received_at", "-id"]
        indexes = [models.Index(fields=["programme", "state", "received_at"], name="return_box")]


class Finder(Keyed):
    """How to reach who sent a report, where they want an answer or a reward; empty once its purpose is over."""

    report = models.OneToOneField(Return, models.CASCADE, related_name="finder")
    name = models.CharField(max_length=80, blank=True)
    email = models.EmailField(blank=True)
    telephone = models.CharField(max_length=40, blank=True)
    post = models.CharField(max_length=300, blank=True)
    consent_at = models.DateTimeField(help_text="When they agreed that it is kept")
    guardian = models.CharField(max_length=80, blank=True, help_text="Who agreed for a finder under age")
    erased_at = models.DateTimeField(null=True)


class Reward(Keyed):
    """What a verified report of a tag with a reward earned: promised once a tag, then paid with a proof."""

    report = models.OneToOneField(Return, models.CASCADE, related_name="reward")
    amount = models.FloatField(help_text="In the programme's currency")
    promised_at = models.DateTimeField()
    paid_at = models.DateTimeField(null=True)
    proof = models.CharField(max_length=200, blank=True, help_text="Number of the transfer, or who signed")


class ReturnPhoto(Keyed):
    """A picture of the legend or the fish, made smaller, without what a camera writes into it."""

    report = models.OneToOneField(Return, models.CASCADE, related_name="photo")
    jpeg = models.BinaryField()
    small = models.BinaryField()


class Card(Recorded):
    """A fish that a volunteer had in hand: tagged, or let go without a tag. As they told it; its tag is placed where that can be.

    ``problem`` says why a tag could not be placed; a card that is not complete, or has a problem, is kept and waits for a person.
    """

    class Channel(models.TextChoices):
        PHONE = "phone", "Phone"
        PAPER = "paper", "Paper card"

    class Basis(models.TextChoices):
        MEASURED = "measured", "Measured"
        ESTIMATED = "estimated", "Estimated"

    class Bleeding(models.TextChoices):
        NONE = "none", "None"
        LITTLE = "little", "A little"
        MUCH = "much", "Much"

    programme = models.ForeignKey(Programme, models.CASCADE, related_name="cards")
    channel = models.CharField(max_length=5, choices=Channel, default=Channel.PHONE)
    tagger = models.ForeignKey(Person, models.PROTECT, related_name="cards")
    recorder = models.ForeignKey(Person, models.PROTECT, related_name="+")
    tagger_number = models.CharField(max_length=20, blank=True)
    tag_kind = models.CharField(max_length=10, choices=TagKind, blank=True)
    number_text = models.CharField(max_length=40, blank=True, help_text="As it was told; empty: let go without a tag")
    fish = models.ForeignKey(Fish, models.PROTECT, null=True, related_name="cards")
    problem = models.CharField(max_length=200, blank=True)
    met_again = models.BooleanField(
        default=False, help_text="Somebody said that it is a second meeting of that day, and not one told twice"
    )
    species = models.CharField(max_length=8, blank=True)
    caught_on = models.DateField(null=True)
    block = models.CharField(max_length=10, blank=True, help_text="Of the day, as core's BLOCKS")
    lat = models.FloatField(null=True)
    lon = models.FloatField(null=True)
    error_m = models.FloatField(null=True)
    place_text = models.CharField(max_length=200, blank=True)
    length_text = models.CharField(max_length=40, blank=True)
    length_mm = models.FloatField(null=True)
    length_type = models.CharField(max_length=5, blank=True)
    length_basis = models.CharField(max_length=9, choices=Basis, blank=True)
    condition = models.PositiveSmallIntegerField(null=True, help_text="At release, 1 to 4 as the protocol has it")
    fight_s = models.FloatField(null=True, help_text="From hook-up to hand")
    air_s = models.FloatField(null=True, help_text="Out of the water")
    hook_kind = models.CharField(max_length=10, blank=True)
    hook_site = models.CharField(max_length=10, blank=True)
    line_kg = models.FloatField(null=True, help_text="Breaking strength of the tackle")
    bleeding_landed = models.CharField(max_length=6, choices=Bleeding, blank=True)
    bleeding_released = models.CharField(max_length=6, choices=Bleeding, blank=True)
    remarks = models.CharField(max_length=1000, blank=True)

    class Meta:
        ordering = ["-device_time", "-id"]
        indexes = [models.Index(fields=["programme", "tagger", "device_time"], name="cards_of")]


class CardPhoto(Recorded):
    """A picture that came with a card, made smaller, without what a camera writes into it."""

    card = models.ForeignKey(Card, models.CASCADE, related_name="photos")
    recorder = models.ForeignKey(Person, models.PROTECT, related_name="+")
    jpeg = models.BinaryField()
    small = models.BinaryField()

    class Meta:
        ordering = ["device_time", "id"]


class CardRequest(Keyed):
    """A letter to a volunteer that asks for what their cards do not say."""

    programme = models.ForeignKey(Programme, models.CASCADE, related_name="+")
    tagger = models.ForeignKey(Person, models.PROTECT, related_name="+")
    sender = models.ForeignKey(Person, models.PROTECT, related_name="+")
    sent_at = models.DateTimeField(default=timezone.now)
    cards = models.PositiveIntegerField(help_text="How many it named")

    class Meta:
        ordering = ["-sent_at", "-id"]


class PublicTry(models.Model):
    """One report through a public page, by a digest of its address; kept for as long as it counts (``limits``)."""

    at = models.DateTimeField(default=timezone.now, db_index=True)
    programme = models.ForeignKey(Programme, models.CASCADE, related_name="+")
    sender = models.CharField(max_length=64)
    told = models.BooleanField(default=False)
    missed = models.BooleanField(default=False, help_text="Its number belongs to no fish that is known")

    class Meta:
        indexes = [models.Index(fields=["programme", "sender", "at"], name="public_sender")]
