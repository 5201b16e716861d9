"""Findings that the demo's biologist kept; the rows behind one of them have changed since."""

from __future__ import annotations

from datetime import datetime

from demo.keys import Keys
from demo.truth import LOWER_RIVER
from nailwright.deck.calling.corrections import correct_capture
from nailwright.deck.models import Capture
from nailwright.findings.saved import save_finding
from nailwright.programmes.models import Person, Programme
from nailwright.programmes.record.audit import Act

KEPT: tuple[tuple[str, dict[str, object]], ...] = (
    ("condition", {"species": "wal", "zone": [LOWER_RIVER]}),
    ("size", {"species": "yep"}),
    ("size", {"species": "wal", "zone": [LOWER_RIVER]}),
)


def save_findings(programme: Programme, person: Person, keys: Keys, now: datetime) -> None:
    """Keep them; then a perch's length is put right, as one was found swapped on the sheet."""
    for kind, query in KEPT:
        save_finding(person, programme, keys.at(now), kind, query, "")
    fish = Capture.present.filter(programme=programme, species="yep", length_basis="measured").order_by("id")[0]
    act = Act(keys.at(now), person, now, "digits swapped on the sheet", desk=True)
    assert fish.length_mm is not None
    correct_capture(act, programme, fish.pk, {"length": str(round(fish.length_mm) + 9), "length_unit": "mm"})
