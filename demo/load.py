"""Writes the made-up basin into an empty database. One seed, so that two loads on one day are alike to the key."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from datetime import UTC, date, datetime, time, timedelta
from zoneinfo import ZoneInfo

import numpy as np
from django.db import transaction

from demo.basin import TIME_ZONE, waters
from demo.fish import catch
from demo.flow import flow
from demo.handling import tonight as handled_tonight
from demo.handling import winter_day
from demo.keys import Keys
from demo.marks import FOREIGN, Marking
from demo.people import PEOPLE, PROGRAMME, SPECIES_ORDER, WALLEYE
from demo.plans import COLLECTING, load_plans
from demo.protocol import decide
from demo.returns import load_kit, load_returns
from demo.saved_findings import save_findings
from demo.season import ANGLING, BOAT, ROUND, TARGETS, TONIGHT, Visit, day_of
from demo.shedding import shed_tags
from demo.three_passes import fish_three_passes
from demo.truth import BYCATCH, SEED, SPECIES, YEARS
from nailwright.deck.encounters import rebuild_encounters
from nailwright.deck.handling.summary import rebuild_handling
from nailwright.deck.models import Capture, Event, Outing, Release, Run, Signature, Target, WaterReading
from nailwright.deck.outing.checklists import CHECKLISTS, needed_for
from nailwright.deck.outing.visits import find_groups, visit_before
from nailwright.permits.counting import allowances_of
from nailwright.permits.models import Allowance, Permit
from nailwright.programmes.models import Change, Membership, Person, Programme, ProgrammeSpecies, ProtocolVersion
from nailwright.tags.models import Fish, Placement, Scan, Tag, TagBatch
from nailwright.waters.models import Site, Water, Zone
from nailwright_core.common import species as species_table
from nailwright_core.common.species_values import species_values

MAX_MINUTES_PER_RUN = 28


@dataclass
class Ground:
    """What every outing needs."""

    keys: Keys
    rng: np.random.Generator
    programme: Programme
    people: dict[str, Person]
    waters: dict[str, Water]
    sites: dict[str, list[Site]]
    protocols: tuple[ProtocolVersion, ...]


@transaction.atomic
def load(now: datetime | None = None, years: Sequence[int] = YEARS) -> Programme:
    """Load everything; ``now`` is when the tablet stands in tonight's third run, ``years`` are those of the outings before."""
    now = now or datetime.now(UTC).replace(microsecond=0)
    today = now.astimezone(ZoneInfo(TIME_ZONE)).date()
    ground = _ground(np.random.default_rng(SEED), years[0])
    marking = Marking(ground.programme, Keys(np.random.default_rng(SEED + 2)))
    outings, runs, readings, captures, events = [], [], [], [], []
    for outing, worked in _history(ground, today, years):
        outings.append(outing)
        for run, fish in worked:
            runs.append(run)
            if run.gear == BOAT and run.site.river_km is not None:
                fish = [*fish, *marking.work(run, fish, ground.sites[run.site.water.name])]
            captures.extend(fish)
        readings.append(_reading(ground, outing, worked[0][0]))
        if outing.gear == ANGLING:
            events.extend(winter_day(worked, outing.date.year, SEED + 8))
    released = len(captures)
    # tonight's fish are drawn apart: how many outings came before does not change them
    ground.rng = np.random.default_rng(SEED + 10)
    tonight, worked = _tonight(ground, today, now)
    for place, (run, fish) in enumerate(worked):
        if run.ended_at:
            worked[place] = run, [*fish, *marking.work(run, fish, ground.sites[run.site.water.name])]
    marking.stock()
    outings.append(tonight)
    stranger = next(each for each in worked[1][1] if each.scanned and not each.fish_id)
    stranger.scanned = Capture.Scanned.FOREIGN
    marking.read(stranger.pk, FOREIGN, None, stranger.run, stranger.device_time)
    for run, fish in worked:
        runs.append(run)
        captures.extend(fish)
    readings.append(_reading(ground, tonight, worked[0][0]))
    events.extend(handled_tonight(*worked[-1], now, SEED + 9))
    earlier = [each for each in captures[released:] if each.run.ended_at]
    releases = list(_releases(ground, [*captures[:released], *earlier]))
    shed = shed_tags(ground.programme, marking)
    written = (
        (Fish, marking.fish), (TagBatch, list(marking.batches.values())), (Tag, marking.tags), (Outing, outings), (Run, runs),
        (WaterReading, readings), (Capture, captures), (Placement, marking.placements), (Scan, marking.scans), (Release, releases),
        (Event, events), (Change, shed), (Target, list(_targets(ground, tonight))),
    )  # fmt: skip
    for model, rows in written:
        model.objects.bulk_create(rows, batch_size=2000)
    fish_three_passes(ground.programme, ground.people["crew"], ground.waters, ground.sites, ground.protocols, today)
    _plans_and_findings(ground, tonight, now, years[0])
    return ground.programme


def _plans_and_findings(ground: Ground, tonight: Outing, now: datetime, first_year: int) -> None:
    """What stands on the fish that were written, and the plan that tonight goes out by."""
    today = tonight.date
    rebuild_encounters()
    rebuild_handling()
    before = visit_before(tonight)
    assert before
    find_groups(before)
    load_plans(
        ground.programme,
        ground.people["lead"],
        ground.waters["Ketterwick River"],
        Keys(np.random.default_rng(SEED + 4)),
        tonight,
    )
    Signature.objects.bulk_create(_signatures(ground, tonight))
    load_returns(ground.programme, ground.people["biologist"], now)
    load_kit(ground.programme, ground.people["volunteer"], ground.people["lead"], now)
    _allow(ground, today)
    flow(ground.waters["Ketterwick River"], ground.people["lead"], date(first_year, 1, 1), today)
    save_findings(ground.programme, ground.people["biologist"], Keys(np.random.default_rng(SEED + 5)), now)


def _allow(ground: Ground, today: date) -> None:
    """What the made-up permit allows this year: tags nearly used up, so that Today has something to say."""
    keys, shares = (
        Keys(np.random.default_rng(SEED + 6)),
        {("wal", "captured"): 0.55, ("wal", "tagged"): 0.87, ("bur", "killed"): 0.3},
    )
    permit = Permit.objects.get(programme=ground.programme, number=COLLECTING)
    for species, what in shares:
        Allowance.objects.create(
            id=keys.at(datetime(today.year, 1, 10, 9, tzinfo=UTC)), permit=permit,
            species=species, what=what, most=0, first=date(today.year, 1, 1), last=date(today.year, 12, 31),
        )  # fmt: skip
    for each in allowances_of(ground.programme):
        most = max(20, round(each["counted"] / shares[each["species"], each["what"]]))
        Allowance.objects.filter(pk=each["id"]).update(most=most)


def _ground(rng: np.random.Generator, first_year: int) -> Ground:
    keys = Keys(rng)
    began = datetime(first_year, 1, 10, 9, tzinfo=UTC)
    programme = Programme.objects.create(
        id=keys.at(began), name=PROGRAMME, time_zone=TIME_ZONE, demo=True, licence="CC0-1.0",
        citation="Ossling basin fish, made up for the demo.",
    )  # fmt: skip
    people = {}
    for place, (username, name, role) in enumerate(PEOPLE):
        person = Person(id=keys.at(began), username=username, name=name, date_joined=began + timedelta(minutes=place))
        person.set_unusable_password()
        person.save(force_insert=True)
        Membership.objects.create(id=keys.at(began), programme=programme, person=person, role=role, joined_at=began)
        people[role] = person
    for order, code in enumerate(SPECIES_ORDER):
        own = {**species_values(species_table.get(code)), **WALLEYE} if code == "wal" else None
        ProgrammeSpecies.objects.create(id=keys.at(began), programme=programme, code=code, order=order, own=own)
    rows, sites = {}, {}
    zone_keys = Keys(np.random.default_rng(SEED + 8))  # of their own, so that no later key changes
    for each in waters():
        water = Water.objects.create(
            id=keys.at(began),
            programme=programme,
            name=each.name,
            kind=each.kind,
            time_zone=TIME_ZONE,
            geometry=each.geometry,
        )
        rows[each.name] = water
        zones = {
            name: Zone.objects.create(id=zone_keys.at(began), water=water, name=name)
            for name in dict.fromkeys(site.reach for site in each.sites)
        }
        sites[each.name] = Site.objects.bulk_create(
            Site(
                id=keys.at(began), water=water, name=site.name, zone=zones[site.reach], river_km=site.km,
                geometry={"type": "Point", "coordinates": [round(v, 6) for v in site.at]},
            )
            for site in each.sites
        )  # fmt: skip
    protocols = decide(programme, people["lead"], Keys(np.random.default_rng(SEED + 7)), began)
    return Ground(keys, rng, programme, people, rows, sites, protocols)


Worked = list[tuple[Run, list[Capture]]]


def _history(ground: Ground, today: date, years: Sequence[int]) -> Iterator[tuple[Outing, Worked]]:
    for year in years:
        for visit in ROUND:
            day = day_of(visit, year, int(ground.rng.integers(-3, 4)))
            if day >= today:
                continue
            night = visit.gear == BOAT
            begin = datetime.combine(day, time(22 if night else 11), UTC)
            outing = _outing(ground, visit, day, begin, Outing.State.CLOSED)
            yield outing, _work(ground, outing, visit, begin, visit.runs)


def _tonight(ground: Ground, today: date, now: datetime) -> tuple[Outing, Worked]:
    begin = now - timedelta(minutes=84)
    outing = _outing(ground, TONIGHT, today, begin, Outing.State.OPEN)
    worked = _work(ground, outing, TONIGHT, begin, TONIGHT.runs)
    last, fish = worked[-1]
    last.started_at = last.device_time = now - timedelta(minutes=6)
    last.ended_at, last.current_on_s = None, 96
    last.id = ground.keys.at(last.started_at)
    keep = fish[:4]
    for place, capture in enumerate(keep):
        capture.run = last
        capture.device_time = capture.server_time = last.started_at + timedelta(seconds=60 + 20 * place)
    worked[-1] = (last, keep)
    return outing, worked


def _outing(ground: Ground, visit: Visit, day: date, begin: datetime, state: str) -> Outing:
    words = {BOAT: "boat electrofishing", ANGLING: "angling"}.get(visit.gear, "backpack electrofishing")
    place = visit.reach if visit.reach == visit.water else f"{visit.water}, {visit.reach[0].lower()}{visit.reach[1:]}"
    return Outing(
        id=ground.keys.at(begin),
        programme=ground.programme,
        water=ground.waters[visit.water],
        name=f"{place}, {words}",
        date=day,
        gear=visit.gear,
        state=state,
        checklists=list(needed_for(visit.gear)),
        protocol=next(each for each in reversed(ground.protocols) if each.made_at <= begin),
        server_time=begin,
    )


def _work(ground: Ground, outing: Outing, visit: Visit, begin: datetime, n_runs: int) -> Worked:
    """Runs one after another, about half an hour each, with their fish."""
    rng = ground.rng
    sites = [site for site in ground.sites[visit.water] if site.zone_name == visit.reach]
    worked: Worked = []
    at = begin + timedelta(minutes=10)
    for number in range(1, n_runs + 1):
        electric = visit.gear != ANGLING
        boat = visit.gear == BOAT
        effort = float(rng.integers(620, 980)) if electric else 0.0
        run = Run(
            id=ground.keys.at(at),
            outing=outing,
            site=sites[(number - 1) % len(sites)],
            number=number,
            gear=visit.gear,
            volts=float(rng.integers(17, 22) * 10) if boat else 250.0 if electric else None,
            amps=round(float(rng.uniform(7, 11)), 1) if boat else 0.6 if electric else None,
            pulse_hz=30.0 if electric else None,
            pulse_width_ms=4.0 if electric else None,
            current_on_s=effort,
            rods=None if electric else 2,
            started_at=at,
            ended_at=at + timedelta(seconds=effort * 1.6 if electric else 5400),
            recorder=ground.people["crew"],
            device_time=at,
            server_time=at,
        )
        worked.append((run, _captures(ground, run, visit, outing.date)))
        at = run.ended_at + timedelta(minutes=8)
    return worked


def _captures(ground: Ground, run: Run, visit: Visit, day: date) -> list[Capture]:
    rng = ground.rng
    rows: list[Capture] = []
    for code, mean in visit.means.items():
        kind = SPECIES[code]
        # Fish gather: catches vary more than Poisson.
        n = int(rng.negative_binomial(6, 6 / (6 + mean)))
        if n == 0:
            continue
        fish = catch(rng, kind, n, visit.reach, day.year, day.timetuple().tm_yday, 0.82 if code == "wal" else 0.7)
        for length, mass, female in zip(fish.length_mm, fish.mass_g, fish.female, strict=True):
            rows.append(
                _capture(
                    ground, run, code, float(length), None if np.isnan(mass) else float(mass), bool(female), day.month
                )
            )
    rng.shuffle(rows)
    if run.gear == BOAT and rng.random() < 0.3:
        rows.append(Capture(species=BYCATCH, count=int(rng.integers(2, 15)), sex="u"))
    seconds = np.sort(rng.uniform(90, (run.ended_at - run.started_at).total_seconds() + 300, len(rows)))
    for capture, after in zip(rows, seconds, strict=True):
        at = run.started_at + timedelta(seconds=round(float(after), 3))
        capture.id, capture.device_time, capture.server_time = ground.keys.at(at), at, at
        capture.programme, capture.run, capture.recorder = ground.programme, run, run.recorder
    return rows


def _capture(
    ground: Ground, run: Run, code: str, length: float, mass: float | None, female: bool, month: int
) -> Capture:
    rng = ground.rng
    by_eye = length > 600 and rng.random() < 0.08  # too lively: judged at the boat's side, not weighed
    inches = round(length / 25.4)
    ripe = code == "wal" and month in (4, 5) and length > 330 and rng.random() < 0.8
    mass = None if by_eye else mass
    return Capture(
        species=code,
        length_mm=round(inches * 25.4, 1) if by_eye else length,
        length_type=species_table.get(code).length_type,
        length_basis="estimated" if by_eye else "measured",
        length_text=f"~{inches}in" if by_eye else f"{length:g}",
        length_unit="in" if by_eye else "mm",
        mass_g=mass,
        mass_basis="measured" if mass else "",
        mass_text=f"{mass:g}" if mass else "",
        mass_unit="g" if mass else "",
        sex=("f" if female else "m") if ripe else "u",
        sex_evidence="pressure" if ripe else "",
    )


def _releases(ground: Ground, captures: list[Capture]) -> Iterator[Release]:
    """Nearly all leave alive; the well is emptied a quarter of an hour after the run."""
    rng = np.random.default_rng(SEED + 3)
    # the fates in their order, and how strongly those went that were released
    fates = rng.choice(
        ("released", "weak", "dead", "kept", "escaped"), len(captures), p=[0.965, 0.012, 0.006, 0.015, 0.002]
    )
    for capture, fate in zip(captures, fates, strict=True):
        at = (capture.run.ended_at or capture.device_time) + timedelta(minutes=15)
        yield Release(
            id=ground.keys.at(at),
            capture=capture,
            fate="released" if fate == "weak" else str(fate),
            strength={"released": 1, "weak": 3}.get(str(fate)),
            recorder=capture.recorder,
            device_time=at,
            server_time=at,
        )


def _targets(ground: Ground, tonight: Outing) -> Iterator[Target]:
    at = tonight.server_time
    for species, what, wanted, from_mm in TARGETS:
        yield Target(id=ground.keys.at(at), outing=tonight, species=species, what=what, wanted=wanted, from_mm=from_mm)


def _signatures(ground: Ground, tonight: Outing) -> Iterator[Signature]:
    """Read at the landing, before the boat went out."""
    at = tonight.server_time - timedelta(minutes=20)
    for code in tonight.checklists:
        yield Signature(
            id=ground.keys.at(at), outing=tonight, checklist=code, version=CHECKLISTS[code].version, lines=list(CHECKLISTS[code].lines),
            name=ground.people["lead"].name, person=ground.people["crew"], at=at,
        )  # fmt: skip


def _reading(ground: Ground, outing: Outing, run: Run) -> WaterReading:
    rng = ground.rng
    season = 11 - 8 * np.cos(2 * np.pi * (outing.date.timetuple().tm_yday - 20) / 365)
    at = run.started_at - timedelta(minutes=6)
    return WaterReading(
        id=ground.keys.at(at),
        outing=outing,
        temperature_c=round(float(season + rng.normal(0, 1)), 1),
        ambient_us_cm=float(rng.integers(150, 215)),
        oxygen_mg_l=round(float(rng.uniform(8.4, 11.5)), 1),
        secchi_m=round(float(rng.uniform(0.6, 2.4)), 1),
        recorder=ground.people["crew"],
        device_time=at,
        server_time=at,
    )
