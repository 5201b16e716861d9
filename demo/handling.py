"""What was said between net and release in the made-up basin: tonight's lanes, a winter's day of fish from depth, surgeries."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from datetime import datetime, timedelta
from typing import Any

import numpy as np

from demo.keys import Keys
from nailwright.deck.models import Capture, Event, Outing, Run
from nailwright_core.deck.surgery import STEPS, VERSION

#: Strengths (mg/L of tricaine) of the winters' baths: the second is what the first one's slow fish led to.
_STRENGTHS = (80.0, 100.0, 120.0)


class _Recorder:
    """Makes events, each with a key of its moment."""

    def __init__(self, keys: Keys) -> None:
        self.keys = keys

    def of(self, capture: Capture, at: datetime, kind: str, **details: Any) -> Event:
        return self._event(capture.run, capture, at, kind, details)

    def during(self, run: Run, at: datetime, kind: str, **details: Any) -> Event:
        return self._event(run, None, at, kind, details)

    def at(self, outing: Outing, run: Run, at: datetime, kind: str, **details: Any) -> Event:
        event = self._event(run, None, at, kind, details)
        event.run = None
        return event

    def _event(self, run: Run, capture: Capture | None, at: datetime, kind: str, details: dict[str, Any]) -> Event:
        return Event(
            id=self.keys.at(at), outing=run.outing, run=run, capture=capture, kind=kind, details=details, recorder=run.recorder,
            device_time=at, server_time=at,
        )  # fmt: skip


def tonight(run: Run, fish: Sequence[Capture], now: datetime, seed: int) -> list[Event]:
    """The third run's four called fish stand in four lanes; five more of their batch wait to be called."""
    record = _Recorder(Keys(np.random.default_rng(seed)))
    first, second, third, _ = fish
    ago = lambda seconds: now - timedelta(seconds=seconds)  # noqa: E731 - read below as words
    return [
        record.at(
            run.outing, run, ago(3000), "bath_filled", bath="Bath", agent="tricaine", purpose="measure", litres=60.0
        ),
        record.at(run.outing, run, ago(2980), "bath_dosed", bath="Bath", ml=42.0),
        record.at(run.outing, run, ago(2900), "bath_read", bath="Bath", temperature_c=6.1, oxygen_mg_l=9.4),
        record.at(run.outing, run, ago(600), "bath_exchanged", bath="Bath", litres=10.0),
        record.during(run, ago(340), "power", volts=run.volts, amps=run.amps),
        record.during(run, ago(335), "response", what="drawn"),
        record.during(run, ago(320), "not_netted", n=3),
        record.during(run, ago(310), "batch", n=9),
        record.of(first, ago(230), "lane", lane="table"),
        record.of(first, ago(180), "found", what="scrape", part="left", degree="slight", seen="arrival"),
        record.of(first, ago(170), "lane", lane="recovery"),
        record.of(second, ago(200), "lane", lane="bath"),
        record.of(second, ago(64), "stage", stage="4"),
        record.of(second, ago(48), "lane", lane="table"),
        record.of(third, ago(150), "lane", lane="bath"),
        record.of(third, ago(40), "stage", stage="2"),
    ]


_ANGLERS = ("Maren Oskvold", "Tove Harrowell")


def winter_day(worked: Sequence[tuple[Run, Sequence[Capture]]], winter: int, seed: int) -> Iterator[Event]:
    """Burbot from 25 to 45 m with both ways down; whitefish in a bath and through surgery. One strength of bath a winter."""
    rng = np.random.default_rng((seed, winter))
    record = _Recorder(Keys(rng))
    strength = _STRENGTHS[winter % len(_STRENGTHS)]
    first = worked[0][0]
    filled = first.started_at - timedelta(minutes=20)
    yield record.at(
        first.outing, first, filled, "bath_filled", bath="Bath", agent="tricaine", purpose="surgery", litres=50.0
    )
    yield record.at(first.outing, first, filled + timedelta(seconds=40), "bath_dosed", bath="Bath", ml=strength / 2)
    yield record.at(
        first.outing,
        first,
        filled + timedelta(seconds=90),
        "bath_read",
        bath="Bath",
        temperature_c=round(float(rng.uniform(3, 6)), 1),
    )
    for run, fish in worked:
        depth = float(rng.choice((25, 35, 45)))
        yield record.during(
            run, run.started_at, "rig", rig="dropper above a lead", bait="cut fish", hook="circle", depth_m=depth
        )
        yield record.during(run, run.started_at, "anglers", names=", ".join(_ANGLERS))
        yield record.during(run, run.started_at, "fed", casts=6, bait="cut fish")
        for capture in fish:
            at = capture.device_time
            fought = float(rng.uniform(60, 200))
            yield record.during(run, at - timedelta(seconds=fought), "hooked", angler=str(rng.choice(_ANGLERS)))
            yield from (
                _burbot(record, rng, capture, depth, fought)
                if capture.species == "bur"
                else _whitefish(record, rng, capture, strength)
            )


def _burbot(
    record: _Recorder, rng: np.random.Generator, capture: Capture, depth: float, fought: float
) -> Iterator[Event]:
    at = capture.device_time
    yield record.of(capture, at, "depth", caught_m=depth, ascent_s=round(fought), stops=int(rng.integers(0, 2)))
    signs = [
        code
        for code, share in (("tight-belly", 0.7), ("stomach-out", depth / 90), ("eyes", depth / 150))
        if rng.random() < share
    ]
    yield record.of(capture, at + timedelta(seconds=20), "signs", **({"signs": signs} if signs else {}))
    if rng.random() < 0.25 and (capture.length_mm or 0) >= 350:
        yield record.of(
            capture, at + timedelta(seconds=45), "vented", place="on the side that the lead marked on the card, under a scale, flat and forward",
            needle="17 gauge, 40 mm", person="Maren Oskvold", gas="little", ended="righted", cleaned="yes",
        )  # fmt: skip
    yield record.of(
        capture, at + timedelta(seconds=float(rng.uniform(60, 200))), "sent_down", device="pressure-clamp", weight_g=900.0,
        let_go_m=max(each for each in (15.0, 30.0, 45.0) if each <= depth),
    )  # fmt: skip
    yield record.of(
        capture,
        at + timedelta(seconds=260),
        "way_down",
        outcome=str(rng.choice(("down", "floated", "unseen"), p=[0.88, 0.05, 0.07])),
    )


def _whitefish(record: _Recorder, rng: np.random.Generator, capture: Capture, strength: float) -> Iterator[Event]:
    at = capture.device_time + timedelta(seconds=60)
    yield record.of(capture, at, "lane", lane="bath")
    at += timedelta(seconds=float(10 ** (4.6 - 1.2 * np.log10(strength) + rng.normal(0, 0.06))))
    yield record.of(capture, at, "stage", stage="4")
    yield record.of(capture, at + timedelta(seconds=6), "air", where="out")  # carried over to the sling
    at += timedelta(seconds=15)
    yield record.of(capture, at, "lane", lane="table")
    yield record.of(
        capture,
        at,
        "surgery",
        surgeon="Maren Oskvold",
        monitor="Tove Harrowell",
        licence="animal care 12",
        version=VERSION,
    )
    for code, _ in STEPS:
        at += timedelta(seconds=float(rng.uniform(10, 45)))
        yield record.of(capture, at, "step", step=code, done="done")
        if code == "incision":
            yield record.of(capture, at, "gills", beats=int(rng.integers(40, 75)), colour="red")
    yield record.of(capture, at, "incision", place="left", length_mm=24.0, sutures=3, material="absorbable")
    yield record.of(capture, at + timedelta(seconds=8), "lane", lane="recovery")
