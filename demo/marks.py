"""Marked walleye of the river: who was tagged where, met again when, grown by how much. Truth as in ``demo.truth``."""

from __future__ import annotations

import math
import uuid
from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass, field
from datetime import datetime, timedelta

import numpy as np

from demo.keys import Keys
from demo.truth import SEED, SPECIES, condition_factor
from nailwright.deck.models import Capture, Run
from nailwright.programmes.models import Programme
from nailwright.tags.models import Fish, Placement, Scan, Tag, TagBatch, TagKind, TagState
from nailwright.waters.models import Site

#: Numbers of the demo's tags: 999 is the country code for tests, so that no real animal is meant.
FIRST_PIT = 999_000_000_120_001
FIRST_T_BAR = 1001
SHORTEST_MM = 250
TAGGED_SHARE = 0.26
DOUBLE_TAGGED_SHARE = 0.5
#: Chance that a run meets a marked fish again: at its home site, elsewhere in its reach, in another reach.
MET_AT_HOME, MET_IN_REACH, MET_BEYOND = 0.10, 0.008, 0.002
SURVIVAL_A_YEAR = 0.66
SPARE_PIT, SPARE_T_BAR = 180, 120
MM_PER_YEAR_SPREAD = 0.12
#: Marks read at the boat that this programme never gave out.
FOREIGN = "999000000777013"


@dataclass
class Marked:
    """A living marked fish."""

    row: Fish
    site: Site
    length_mm: float
    seen_at: datetime
    l_infinity: float
    female: bool
    pit: str


@dataclass
class Marking:
    """Tags fish as the outings go by, and meets them again. Rows gather in the lists until they are stored."""

    programme: Programme
    keys: Keys
    rng: np.random.Generator = field(default_factory=lambda: np.random.default_rng(SEED + 1))
    living: list[Marked] = field(default_factory=list)
    made: Counter[str] = field(default_factory=Counter)
    fish: list[Fish] = field(default_factory=list)
    tags: list[Tag] = field(default_factory=list)
    placements: list[Placement] = field(default_factory=list)
    scans: list[Scan] = field(default_factory=list)
    batches: dict[str, TagBatch] = field(default_factory=dict)

    def work(self, run: Run, captures: list[Capture], sites: list[Site]) -> list[Capture]:
        """One run: who is met again, then who is tagged. Returns the recaptures to add to the run."""
        again = list(self._meet(run, sites))
        for capture in captures:
            capture.scanned = Capture.Scanned.NONE if self._worth_scanning(capture) else ""
            if capture.scanned and self.rng.random() < TAGGED_SHARE:
                self._tag(run, capture)
        return again

    def stock(self) -> None:
        """What is left over for the next outings."""
        for _ in range(SPARE_PIT):
            self._new_tag(TagKind.PIT, TagState.STOCK)
        for _ in range(SPARE_T_BAR):
            self._new_tag(TagKind.T_BAR, TagState.STOCK)

    def _worth_scanning(self, capture: Capture) -> bool:
        return (
            capture.species == "wal"
            and capture.length_basis == "measured"
            and capture.length_mm is not None
            and capture.length_mm >= SHORTEST_MM
        )

    def _tag(self, run: Run, capture: Capture) -> None:
        row = Fish(
            id=self._key(capture.device_time), programme=self.programme, species="wal", server_time=capture.device_time
        )
        self.fish.append(row)
        capture.fish = row
        pit = self._new_tag(TagKind.PIT, TagState.PLACED)
        self._place(pit, row, capture)
        if self.rng.random() < DOUBLE_TAGGED_SHARE:
            self._place(self._new_tag(TagKind.T_BAR, TagState.PLACED), row, capture)
        truth = SPECIES["wal"]
        self.living.append(
            Marked(
                row=row,
                site=run.site,
                length_mm=float(capture.length_mm or 0),
                seen_at=capture.device_time,
                l_infinity=max(
                    truth.l_infinity * (1 + MM_PER_YEAR_SPREAD * self.rng.standard_normal()), capture.length_mm + 5
                ),
                female=bool(self.rng.random() < 0.5),
                pit=pit.number,
            )
        )

    def _meet(self, run: Run, sites: list[Site]) -> Iterator[Capture]:
        survivors = []
        for marked in self.living:
            years = (run.started_at - marked.seen_at).total_seconds() / 31_557_600
            if years > 0.02 and self.rng.random() > SURVIVAL_A_YEAR ** min(years, 0.25):
                continue  # died since; drawn a little at a time, since most outings are weeks apart
            survivors.append(marked)
            if years < 0.02 or marked.site.water_id != run.site.water_id:
                continue
            home, reach = marked.site.pk == run.site.pk, marked.site.zone_id == run.site.zone_id
            if self.rng.random() < (MET_AT_HOME if home else MET_IN_REACH if reach else MET_BEYOND):
                yield self._again(run, marked, years)
        self.living = survivors

    def _again(self, run: Run, marked: Marked, years: float) -> Capture:
        truth = SPECIES["wal"]
        grown = (marked.l_infinity - marked.length_mm) * (1 - math.exp(-truth.k * years))
        length = round(marked.length_mm + grown + self.rng.normal(0, 1.5))
        factor = condition_factor("wal", run.site.zone_name, run.started_at.year)
        mass = (
            10 ** (truth.log10_a + truth.b * math.log10(length) + truth.mass_sd * self.rng.standard_normal()) * factor
        )
        at = run.started_at + timedelta(seconds=round(float(self.rng.uniform(90, 600)), 3))
        marked.site, marked.length_mm, marked.seen_at = run.site, float(length), at
        grams = round(mass / 5) * 5 or 5
        key = self._key(at)
        self.read(key, marked.pit, marked.row, run, at)
        return Capture(
            id=key, programme=self.programme, run=run, recorder=run.recorder, device_time=at, server_time=at,
            species="wal", length_mm=float(length), length_type="TL", length_basis="measured", length_text=str(length),
            length_unit="mm", mass_unit="g",
            mass_g=float(grams), mass_basis="measured", mass_text=str(grams), fish=marked.row,
            scanned=Capture.Scanned.KNOWN,
        )  # fmt: skip

    def _new_tag(self, kind: str, state: str) -> Tag:
        n = self.made[kind]
        self.made[kind] += 1
        number = str(FIRST_PIT + 37 * n) if kind == TagKind.PIT else f"W{FIRST_T_BAR + n}"
        made = datetime.fromisoformat("2022-01-10T09:00:00+00:00")
        name = f"{'12 mm glass' if kind == TagKind.PIT else 'yellow'} {n // 250 + 1}"
        if name not in self.batches:
            told = {"colour": "yellow", "size_mm": 62.0} if kind == TagKind.T_BAR else {"size_mm": 12.0, "mass_g": 0.1}
            self.batches[name] = TagBatch(
                id=self._key(made), programme=self.programme, kind=kind, name=name, received=made.date(), **told
            )
        tag = Tag(
            id=self._key(made),
            programme=self.programme,
            kind=kind,
            number=number,
            batch=self.batches[name],
            state=state,
        )
        self.tags.append(tag)
        return tag

    def _place(self, tag: Tag, fish: Fish, capture: Capture) -> None:
        at = capture.device_time
        self.placements.append(
            Placement(
                id=self._key(at),
                tag=tag,
                fish=fish,
                capture_id=capture.pk,
                living_tag=tag.pk,
                recorder=capture.recorder,
                device_time=at,
                server_time=at,
            )
        )

    def read(self, capture: uuid.UUID, number: str, fish: Fish | None, run: Run, at: datetime) -> None:
        """A number that the reader showed on a fish."""
        self.scans.append(
            Scan(
                id=self._key(at), programme=self.programme, source_id=capture, kind=TagKind.PIT, number=number, fish=fish,
                result=Scan.Result.KNOWN if fish else Scan.Result.FOREIGN, recorder=run.recorder, device_time=at, server_time=at,
            )
        )  # fmt: skip

    def _key(self, at: datetime) -> uuid.UUID:
        return self.keys.at(at)
