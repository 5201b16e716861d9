"""``python -m bench [part...]``: every measurement, or those named."""

import sys

import django

django.setup()

from bench import browser, crowd, deck, findings, imports, register, rehearsal, sync  # noqa: E402  # the models need Django to be set up

PARTS = {
    "sync": sync.measure,
    "crowd": crowd.measure,
    "deck": deck.measure,
    "imports": imports.measure,
    "browser": browser.measure,
    "findings": findings.measure,
    "rehearsal": rehearsal.measure,
    "register": register.measure,
}

for name in sys.argv[1:] or PARTS:
    PARTS[name]()
