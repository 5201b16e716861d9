"""Waters, their zones, and the sites where effort is spent. Geometry is GeoJSON in WGS84."""

from __future__ import annotations

from typing import Any

from django.db import models
from django.utils import timezone

from nailwright.common.rows import Keyed, PresentManager
from nailwright.common.shaped_json import GEOMETRY, POINT, ShapedJSON
from nailwright.programmes.models import Person, Programme


def _position(geometry: Any) -> tuple[float | None, float | None]:
    if not geometry or geometry.get("type") != "Point":
        return None, None
    lon, lat = geometry["coordinates"][:2]
    return lat, lon


class Water(Keyed):
    """A lake, river or piece of coast."""

    class Kind(models.TextChoices):
        LAKE = "lake", "Lake"
        RIVER = "river", "River"
        COAST = "coast", "Coast"

    programme = models.ForeignKey(Programme, models.CASCADE, related_name="waters")
    name = models.CharField(max_length=120)
    kind = models.CharField(max_length=10, choices=Kind)
    time_zone = models.CharField(max_length=40, default="UTC")
    geometry = ShapedJSON(null=True, shape=GEOMETRY)

    def __str__(self) -> str:
        return self.name

    @property
    def position(self) -> tuple[float | None, float | None]:
        """Latitude and longitude, degrees, of one that is a point; else (None, None)."""
        return _position(self.geometry)

    @property
    def zones(self) -> models.QuerySet[Zone]:
        """Its zones along its line as they are now."""
        return self.all_zones.filter(deleted_at=None, start_m__isnull=False)


class Zone(Keyed):
    """A stretch of a water: a zone to sample by, or one to keep out of round a dam or another point.

    ``start_m`` and ``end_m`` are metres along the water's line; without them only its name is known. One that was deleted
    stays, marked, so that what was said of it in its days can still be read.
    """

    class Kind(models.TextChoices):
        ZONE = "zone", "Zone"
        DAM = "dam", "Dam, keep off"
        NO_GO = "no_go", "Keep out"

    water = models.ForeignKey(Water, models.CASCADE, related_name="all_zones")
    kind = models.CharField(max_length=5, choices=Kind, default=Kind.ZONE)
    name = models.CharField(max_length=60)
    start_m = models.FloatField(null=True)
    end_m = models.FloatField(null=True)
    note = models.CharField(max_length=200, blank=True)
    deleted_at = models.DateTimeField(null=True)

    objects = models.Manager()
    present = PresentManager()

    class Meta:
        ordering = ["start_m"]

    @property
    def ends_m(self) -> tuple[float, float]:
        """Where it begins and ends along the water's line, m; raises ValueError for one of which only the name is known."""
        if self.start_m is None or self.end_m is None:
            raise ValueError(f"Nobody has said where '{self.name}' lies.")
        return self.start_m, self.end_m


class Site(Keyed):
    """A fixed stretch of a water where effort is spent. It never moves: another place is another site.

    ``retired_at`` is set where nobody goes there any more; its name may then be given again.
    """

    water = models.ForeignKey(Water, models.CASCADE, related_name="sites")
    name = models.CharField(max_length=60)
    zone = models.ForeignKey(Zone, models.PROTECT, null=True, related_name="sites")
    river_km = models.FloatField(null=True)
    geometry = ShapedJSON(null=True, shape=POINT)
    retired_at = models.DateTimeField(null=True)

    def __str__(self) -> str:
        return self.name

    @property
    def zone_name(self) -> str:
        """Of its zone; empty where it is in none."""
        return self.zone.name if self.zone else ""

    @property
    def position(self) -> tuple[float | None, float | None]:
        """Latitude and longitude, degrees; (None, None) where it has no point."""
        return _position(self.geometry)


class Series(Keyed):
    """Readings of one thing at a water that come from elsewhere: flow, temperature, anglers counted."""

    water = models.ForeignKey(Water, models.CASCADE, related_name="series")
    name = models.CharField(max_length=60)
    unit = models.CharField(max_length=20, blank=True)
    source = models.CharField(max_length=200, help_text="Who measured it, and where it was taken from")
    person = models.ForeignKey(Person, models.PROTECT)
    made_at = models.DateTimeField(default=timezone.now)
    deleted_at = models.DateTimeField(null=True)

    objects = models.Manager()
    present = PresentManager()

    class Meta:
        ordering = ["name", "made_at"]


class SeriesPoint(Keyed):
    """One reading of a series."""

    series = models.ForeignKey(Series, models.CASCADE, related_name="points")
    at = models.DateTimeField()
    value = models.FloatField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["series", "at"], name="read_once")]
