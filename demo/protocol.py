"""The made-up programme's protocol: what shipped when it began, and what its lead decided two years later."""

from __future__ import annotations

from datetime import UTC, datetime

from demo.keys import Keys
from nailwright.programmes.models import Person, Programme, ProtocolVersion
from nailwright_core.protocol import read_protocol, shipped_protocol

DECIDED = {
    "boarding": [
        {"species": "", "from_mm": 0, "where": "aboard", "how": ""},
        {"species": "nop", "from_mm": 900, "where": "alongside", "how": "in the sling, belly supported"},
    ],
    "lanes": [
        *map(dict, shipped_protocol().rows("lanes")),
        {"code": "keep-net", "word": "Keep net", "most_min": 600.0, "water": "water", "aside": "yes"},
    ],
    # made up for the made-up basin: a real place stands in a real programme's protocol, set by its trained person
    "venting": [
        {"species": "bur", "from_mm": 350, "place": "on the side that the lead marked on the card, under a scale, flat and forward",
         "needle": "17 gauge, 40 mm", "person": "Maren Oskvold"},
    ],
    "signs": [
        {**row, "do": {"stomach-out": "Leave it as it is, never pierce it; send it down.", "eyes": "Send it down without delay."}.get(str(row["code"]), "")}
        for row in shipped_protocol().rows("signs")
    ],
    "deep_water": [{"ways": "both", "share": 0.75, "least_weight_g": 500}],
    "devices": [{"name": "pressure clamp", "lets_go_m": depth} for depth in (15, 30, 45)],
    "extra_measures": [{"code": "girth", "word": "girth", "unit": "mm"}],
    "checklist_lines": [{"checklist": "boat", "line": "The kill switch is round the driver's wrist."}],
    "kit": [
        {"item": "sling", "n": 2}, {"item": "measuring board", "n": 1}, {"item": "balance, tared wet", "n": 1},
        {"item": "spare dip net", "n": 2}, {"item": "conductivity probe", "n": 1}, {"item": "head lamp and spare", "n": 4},
    ],
    "quotas": [
        {"species": "wal", "zone": zone, "from_mm": 300, "to_mm": None, "most": 150} for zone in ("Lower river", "Upper river")
    ],
    "agency_limits": [
        {"name": "River permit 17", "to_us_cm": step, "max_volts": volts, "max_hz": 60, "max_pulse_ms": 5, "max_water_c": 20}
        for step, volts in ((100, 900), (300, 600), (1000, 400))
    ],
}  # fmt: skip


def decide(programme: Programme, lead: Person, keys: Keys, began: datetime) -> tuple[ProtocolVersion, ProtocolVersion]:
    """Both versions, the first one first."""
    first = ProtocolVersion.objects.create(
        id=keys.at(began),
        programme=programme,
        number=1,
        values=shipped_protocol().as_values(),
        why="as it ships",
        made_at=began,
    )
    at = datetime(began.year + 2, 2, 3, 10, tzinfo=UTC)
    called = set(programme.species.values_list("code", flat=True))
    second = ProtocolVersion.objects.create(
        id=keys.at(at), programme=programme, number=2, values=read_protocol(DECIDED, called).as_values(),
        why="permit 17, and what the winter course taught", person=lead, made_at=at,
    )  # fmt: skip
    return first, second
