"""Which outing and run a fish of a file belongs to: one that is there, or a new one."""

from __future__ import annotations

from datetime import date
from typing import Any
from uuid import UUID

from django.db.models import F

from nailwright.common.rows import new_id
from nailwright.deck.encounters import renew_occasions
from nailwright.deck.models import Gear, Outing, Run
from nailwright.programmes.models import Person, Programme
from nailwright.records.reading import FileFish, Place
from nailwright.waters.models import Site, Zone
from nailwright_core.common.errors import CoreError


class Places:
    """Finds or makes outings, runs and sites. What is new waits in ``new_...`` until it is stored."""

    def __init__(self, programme: Programme, person: Person, new_sites: bool) -> None:
        self._programme, self._person, self._may_make_sites = programme, person, new_sites
        self._waters = {str(water.pk): water for water in programme.waters.all()}
        self._sites = {
            (str(site.water_id), site.name.lower()): site
            for site in Site.objects.filter(water__programme=programme).order_by(F("retired_at").desc(nulls_last=True))
        }
        self._outings: dict[tuple[str, date, str, str], Outing] = {}
        for outing in programme.outings.order_by("-server_time"):
            self._enter(outing)
        self._runs: dict[tuple[UUID, str, int | None], Run] = {}
        self._numbers: dict[UUID, dict[int, UUID]] = {}
        for run in Run.present.filter(outing__programme=programme).select_related("site").order_by("-number"):
            self._runs[run.outing_id, run.site.name.lower(), run.number] = run
            self._runs[run.outing_id, run.site.name.lower(), None] = run
            self._numbers.setdefault(run.outing_id, {})[run.number] = run.site_id
        self._known: dict[Place, Run] = {}
        self._fresh: set[UUID] = set()
        self._zones = {
            (str(zone.water_id), zone.name.lower()): zone
            for zone in Zone.present.filter(water__programme=programme, kind=Zone.Kind.ZONE).order_by(
                F("start_m"), "pk"
            )
        }
        self.new_zones: list[Zone] = []
        self.new_sites: list[Site] = []
        self.new_outings: list[Outing] = []
        self.new_runs: list[Run] = []
        self.counts = {"sites": 0, "outings": 0, "runs": 0}

    def run_for(self, fish: FileFish) -> Run:
        """The run of a fish.

        Raises:
            CoreError: ``site_unknown``, ``outing_open``, ``run_elsewhere``, ``effort_differs``.
        """
        run = self._known.get(fish.place)
        if run is None:
            # found and checked first, made only when nothing stands against it: a refused line leaves nothing behind
            outing = self._find_outing(fish.place)
            site = self._find_site(fish)
            run = self._find_run(fish, outing, site)
            if run is None:
                outing = outing or self._make_outing(fish.place)
                run = self._make_run(fish, outing, site or self._make_site(fish))
            self._check_effort(run, fish.given.get("current_on_s"))
            self._known[fish.place] = run
        else:
            self._check_effort(run, fish.given.get("current_on_s"))
        if run.pk in self._fresh:
            run.started_at = min(run.started_at, fish.at)
            run.ended_at = max(run.ended_at or fish.at, fish.at)
        return run

    def store_new(self) -> None:
        """Write what is new."""
        Zone.objects.bulk_create(self.new_zones)
        Site.objects.bulk_create(self.new_sites)
        Outing.objects.bulk_create(self.new_outings)
        Run.objects.bulk_create(self.new_runs)
        for rows in (self.new_zones, self.new_sites, self.new_outings, self.new_runs):
            rows.clear()

    def store_times(self) -> None:
        """Write when the new runs began and ended, which is known once the last fish is read."""
        fresh = [run for run in self._known.values() if run.pk in self._fresh]
        Run.objects.bulk_update(fresh, ["started_at", "ended_at", "current_on_s"], batch_size=500)
        renew_occasions(run.pk for run in fresh)

    def _find_outing(self, place: Place) -> Outing | None:
        found = self._outings.get((place.water, place.day, place.gear, place.outing))
        if found is None and place.outing:
            found = self._outings.get((place.water, place.day, "", place.outing))
        if found and found.state == Outing.State.OPEN and found.pk not in self._fresh:
            raise CoreError(
                "outing_open",
                f"The outing '{found.name}' of {found.date} is still open on the Deck. Close it, then bring this in.",
                "date",
            )
        return found

    def _make_outing(self, place: Place) -> Outing:
        water = self._waters[place.water]
        outing = Outing(
            id=new_id(),
            programme=self._programme,
            water=water,
            name=place.outing or f"{water.name}, {Gear(place.gear).label.lower()}",
            date=place.day,
            gear=place.gear,
            state=Outing.State.CLOSED,
        )
        self._fresh.add(outing.pk)
        self._enter(outing)
        self._outings[place.water, place.day, place.gear, place.outing] = outing
        self.new_outings.append(outing)
        self.counts["outings"] += 1
        return outing

    def _enter(self, outing: Outing) -> None:
        """By its name where a file gives names, and without one where it does not; the oldest wins."""
        water, name = str(outing.water_id), outing.name
        for gear, called in ((outing.gear, ""), (outing.gear, name), ("", name)):
            self._outings[water, outing.date, gear, called] = outing

    def _find_site(self, fish: FileFish) -> Site | None:
        place = fish.place
        site = self._sites.get((place.water, place.site.lower()))
        if site is None and not self._may_make_sites:
            water = self._waters[place.water].name
            raise CoreError("site_unknown", f"{water} has no site '{place.site}'.", "site")
        return site

    def _make_site(self, fish: FileFish) -> Site:
        place = fish.place
        site = Site(
            id=new_id(),
            water=self._waters[place.water],
            name=place.site,
            zone=self._zone(place.water, fish.given.get("zone", "")),
            river_km=fish.given.get("river_km"),
        )
        self._sites[place.water, place.site.lower()] = site
        self.new_sites.append(site)
        self.counts["sites"] += 1
        return site

    def _zone(self, water: str, name: str) -> Zone | None:
        """As ``waters.zones.zone_called``, without asking for each site."""
        if not name:
            return None
        if (water, name.lower()) not in self._zones:
            self._zones[water, name.lower()] = zone = Zone(id=new_id(), water=self._waters[water], name=name)
            self.new_zones.append(zone)
        return self._zones[water, name.lower()]

    def _find_run(self, fish: FileFish, outing: Outing | None, site: Site | None) -> Run | None:
        number = fish.place.run
        if outing is None:
            return None
        found = self._runs.get((outing.pk, site.name.lower(), number)) if site else None
        if found is None and number in self._numbers.get(outing.pk, {}):
            raise CoreError(
                "run_elsewhere", f"Run {number} of '{outing.name}', {outing.date}, was at another site.", "run"
            )
        return found

    def _make_run(self, fish: FileFish, outing: Outing, site: Site) -> Run:
        number = fish.place.run
        numbers = self._numbers.setdefault(outing.pk, {})
        run = Run(
            id=new_id(),
            outing=outing,
            site=site,
            number=number or max(numbers, default=0) + 1,
            gear=fish.place.gear,
            started_at=fish.at,
            ended_at=fish.at,
            device_time=fish.at,
            recorder=self._person,
        )
        self._fresh.add(run.pk)
        numbers[run.number] = site.pk
        for called in (run.number, None):
            self._runs.setdefault((outing.pk, site.name.lower(), called), run)
        self.new_runs.append(run)
        self.counts["runs"] += 1
        return run

    def _check_effort(self, run: Run, seconds: Any) -> None:
        if seconds is None or run.current_on_s == seconds:
            return
        if run.current_on_s or run.pk not in self._fresh:
            raise CoreError(
                "effort_differs",
                f"The current of run {run.number} was on for {run.current_on_s:g} s by an earlier line; got {seconds:g} s.",
                "current_on_s",
            )
        run.current_on_s = seconds
