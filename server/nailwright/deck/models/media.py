"""Photos."""

from __future__ import annotations

from django.db import models

from nailwright.common.rows import Keyed, Recorded
from nailwright.deck.models.captures import Capture
from nailwright.deck.models.outings import Outing
from nailwright.programmes.models import Person


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
