"""A river with kilometres, zones and sites, on which runs and fish are put by a few words."""

from __future__ import annotations

from dataclasses import dataclass, field
from datetime import UTC, date, datetime, timedelta
from typing import Any

from nailwright.deck.encounters import rebuild_encounters
from nailwright.deck.models import Capture, Outing, Run
from nailwright.programmes.models import Person, Programme
from nailwright.tags.models import Fish, Placement, Tag
from nailwright.waters.models import Site, Water, Zone

#: Due north along a meridian: a degree of latitude is 111.2 km there.
KM_PER_DEGREE = 111.23
FIRST_LAT, LON = 50.0, 10.0


@dataclass
class Basin:
    """``sites`` by name; kilometres run upstream from the mouth."""

    programme: Programme
    person: Person
    sites: dict[str, Site] = field(default_factory=dict)
    tags: int = 0

    def __post_init__(self) -> None:
        line = [[LON, FIRST_LAT + km / KM_PER_DEGREE] for km in (0, 20, 40)]
        self.river = Water.objects.create(
            programme=self.programme,
            name="Tarnbeck",
            kind="river",
            geometry={"type": "LineString", "coordinates": line},
        )
        zones = {
            name: Zone.objects.create(water=self.river, name=name, start_m=start, end_m=end)
            for name, start, end in (("low", 0, 20_000), ("high", 20_000, 40_000))
        }
        for name, km in (("T2", 2), ("T10", 10), ("T25", 25), ("T36", 36)):
            at = {"type": "Point", "coordinates": [LON, FIRST_LAT + km / KM_PER_DEGREE]}
            self.sites[name] = Site.objects.create(
                water=self.river, name=name, river_km=km, geometry=at, zone=zones["low" if km < 20 else "high"]
            )

    def run(self, site: str, day: str, seconds: float = 900, number: int = 1, **more: Any) -> Run:
        """A run of current at a site; those of one day are of one outing."""
        outing, _ = Outing.objects.get_or_create(
            programme=self.programme,
            water=self.river,
            date=date.fromisoformat(day),
            gear="boat_electrofishing",
            defaults={"name": day, "state": "closed"},
        )
        at = datetime.fromisoformat(f"{day}T20:00:00+00:00").astimezone(UTC) + timedelta(minutes=30 * number)
        return Run.objects.create(
            outing=outing, site=self.sites[site], number=number, gear="boat_electrofishing", current_on_s=seconds, started_at=at,
            ended_at=at + timedelta(minutes=20), recorder=self.person, **more,
        )  # fmt: skip

    def caught(
        self, run: Run, n: int = 1, fish: Fish | None = None, species: str = "wal", mm: float | None = 400, **more: Any
    ) -> Capture:
        """Fish of a run: one measured, or ``n`` that were counted."""
        told = {"length_mm": mm, "length_type": "TL", "length_basis": "measured"} if n == 1 and mm else {}
        return Capture.objects.create(
            programme=self.programme,
            run=run,
            species=species,
            count=n,
            fish=fish,
            recorder=self.person,
            device_time=run.started_at,
            **(told | more),
        )

    def tagged(self, run: Run, mm: float = 400, species: str = "wal") -> Fish:
        """A fish of a run that gets a tag."""
        fish = Fish.objects.create(programme=self.programme, species=species)
        capture = self.caught(run, fish=fish, mm=mm, species=species, scanned="none")
        self.tags += 1
        tag = Tag.objects.create(programme=self.programme, kind="pit", number=f"9990000{self.tags:08d}", state="placed")
        Placement.objects.create(
            tag=tag,
            fish=fish,
            capture_id=capture.pk,
            living_tag=tag.pk,
            recorder=self.person,
            device_time=run.started_at,
        )
        return fish

    def met(self, run: Run, fish: Fish, mm: float = 400) -> Capture:
        """It is met again."""
        return self.caught(run, fish=fish, mm=mm, species=fish.species, scanned="known")

    def done(self) -> None:
        """Encounters and occasions as the record has them now."""
        rebuild_encounters(self.programme)
