"""``python -m bench [part...]``: every measurement, or those named."""

import sys

import django

django.setup()

from bench import (  # noqa: E402  # the models need Django to be set up
    browser,
    cold_start,
    coverage,
    crowd,
    deck,
    findings,
    imports,
    instruments,
    register,
    rehearsal,
    sync,
    tablets,
)

PARTS = {
    "sync": sync.measure,
    "tablets": tablets.measure,
    "crowd": crowd.measure,
    "deck": deck.measure,
    "imports": imports.measure,
    "browser": browser.measure,
    "cold-start": cold_start.measure,
    "instruments": instruments.measure,
    "findings": findings.measure,
    "rehearsal": rehearsal.measure,
    "register": register.measure,
    "coverage": coverage.measure,
}
#: How often intervals hold the truth takes a quarter of an hour, and is no speed: only by its name.
EVERY = [name for name in PARTS if name != "coverage"]

for name in sys.argv[1:] or EVERY:
    PARTS[name]()
