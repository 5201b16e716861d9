"""``python -m bench [part...]``: every measurement, or those named; ``coverage --full [part of a name]``: the grids of circumstances."""

import os
import sys

import django

django.setup()

from bench import (  # noqa: E402  # the models need Django to be set up
    browser,
    circumstances,
    cold_start,
    coverage,
    crowd,
    deck,
    findings,
    full_disk,
    fuzz,
    imports,
    instruments,
    register,
    rehearsal,
    returns,
    sync,
    tablets,
)
from bench.fresh import fresh_database  # noqa: E402

PARTS = {
    "sync": sync.measure,
    "tablets": tablets.measure,
    "crowd": crowd.measure,
    "deck": deck.measure,
    "imports": imports.measure,
    "browser": browser.measure,
    "cold-start": cold_start.measure,
    "instruments": instruments.measure,
    "full-disk": full_disk.measure,
    "findings": findings.measure,
    "rehearsal": rehearsal.measure,
    "register": register.measure,
    "returns": returns.measure,
    "coverage": coverage.measure,
    "fuzz": fuzz.measure,
}
#: How often intervals hold the truth, and whether any of 50,000 requests fails the server, take a quarter of an hour each and are no
#: speeds: only by their names.
EVERY = [name for name in PARTS if name not in ("coverage", "fuzz")]

asked = sys.argv[1:]
if asked[:1] == ["coverage"] and asked[1:2] == ["--full"]:
    circumstances.measure(" ".join(asked[2:]))
    sys.exit()
for name in asked or EVERY:
    fresh_database(os.environ["NAILWRIGHT_BENCH_WHOLE"])
    PARTS[name]()
