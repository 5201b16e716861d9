"""Burbot of the becks, fished in three passes between nets one August.

Truth: 24 to 60 burbot per 100 m, differing between sites; a pass catches 55 % of those left, and each next pass a tenth fewer.
"""

from __future__ import annotations

from datetime import UTC, date, datetime, time, timedelta
from typing import Any

import numpy as np

from demo.fish import catch
from demo.keys import Keys
from demo.season import BACKPACK
from demo.truth import SEED, SPECIES
from nailwright.deck.models import Capture, Outing, Release, Run
from nailwright.programmes.models import Person, Programme, ProtocolVersion
from nailwright.waters.models import Site, Water
from nailwright_core.common import species as species_table

BECKS = ("Skarn Beck", "Hollin Water")
FISH_PER_100_M = (24, 60)
CHANCE, KEPT = 0.55, 0.9
METRES = (80, 130)
PASSES = 3


def fish_three_passes(
    programme: Programme,
    crew: Person,
    waters: dict[str, Water],
    sites: dict[str, list[Site]],
    protocols: list[ProtocolVersion],
    today: date,
) -> None:
    """Both becks, on two days of the last August before ``today``."""
    rng, keys = np.random.default_rng(SEED + 20), Keys(np.random.default_rng(SEED + 21))
    year = today.year if today > date(today.year, 8, 25) else today.year - 1
    rows: dict[Any, list[Any]] = {model: [] for model in (Outing, Run, Capture, Release)}
    for nth, name in enumerate(BECKS):
        at = datetime.combine(date(year, 8, 20 + nth), time(11), UTC)
        outing = Outing(
            id=keys.at(at), programme=programme, water=waters[name], name=f"{name}, three passes", date=at.date(), gear=BACKPACK,
            state=Outing.State.CLOSED, protocol=next(each for each in reversed(protocols) if each.made_at <= at), server_time=at,
        )  # fmt: skip
        rows[Outing].append(outing)
        number = 0
        for site in sites[name]:
            metres = float(rng.integers(*METRES))
            left = int(rng.poisson(rng.uniform(*FISH_PER_100_M) * metres / 100))
            for nth_pass in range(PASSES):
                number += 1
                run = _run(outing, site, number, metres, float(rng.integers(500, 800)), keys, at, crew)
                rows[Run].append(run)
                n = int(rng.binomial(left, CHANCE * KEPT**nth_pass))
                left -= n
                fish = list(_fish(rng, keys, programme, run, name, n))
                rows[Capture] += fish
                at = (run.ended_at or at) + timedelta(minutes=15)
                rows[Release] += [_released(keys, each, at) for each in fish]
    for model, made in rows.items():
        model.objects.bulk_create(made, batch_size=2000)


def _run(
    outing: Outing, site: Site, number: int, metres: float, seconds: float, keys: Keys, at: datetime, crew: Person
) -> Run:
    return Run(
        id=keys.at(at), outing=outing, site=site, number=number, gear=BACKPACK, volts=250.0, amps=0.6, pulse_hz=30.0, pulse_width_ms=4.0,
        current_on_s=seconds, distance_m=metres, started_at=at, ended_at=at + timedelta(seconds=1.6 * seconds), recorder=crew,
        device_time=at, server_time=at,
    )  # fmt: skip


def _fish(rng: np.random.Generator, keys: Keys, programme: Programme, run: Run, reach: str, n: int) -> Any:
    if not n:
        return
    day = run.started_at
    fish = catch(rng, SPECIES["bur"], n, reach, day.year, day.timetuple().tm_yday, 0.7)
    for place, (length, mass) in enumerate(zip(fish.length_mm, fish.mass_g, strict=True)):
        at = run.started_at + timedelta(seconds=60 + 12 * place)
        weighed = not np.isnan(mass)
        yield Capture(
            id=keys.at(at), programme=programme, run=run, recorder=run.recorder, device_time=at, server_time=at, species="bur",
            length_mm=float(length), length_type=species_table.get("bur").length_type, length_basis="measured", length_text=f"{length:g}",
            length_unit="mm", mass_g=float(mass) if weighed else None, mass_basis="measured" if weighed else "",
            mass_text=f"{mass:g}" if weighed else "", mass_unit="g" if weighed else "",
        )  # fmt: skip


def _released(keys: Keys, capture: Capture, at: datetime) -> Release:
    return Release(
        id=keys.at(at),
        capture=capture,
        fate="released",
        strength=1,
        recorder=capture.recorder,
        device_time=at,
        server_time=at,
    )
