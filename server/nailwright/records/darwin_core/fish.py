"""The fish of each event, and what was measured on them and read of the water."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any
from uuid import UUID

from nailwright.deck.models import Capture, WaterReading
from nailwright.programmes.models import Programme
from nailwright.programmes.species.known import species_of
from nailwright.records.darwin_core.events import Events, hidden_key
from nailwright.tags.models import Encounter

_AT_ONCE = 200
_SEX = {Capture.Sex.FEMALE: "female", Capture.Sex.MALE: "male"}
#: Length types as the field spells them out.
LENGTHS = {
    "TL": "total length, tail pressed together", "TLn": "total length, tail as it lies", "FL": "fork length", "SL": "standard length",
    "LJFL": "lower jaw to fork length", "EFL": "eye to fork length", "DW": "disc width",
}  # fmt: skip
_READ = (
    ("temperature_c", "water temperature", "degree Celsius"),
    ("specific_us_cm", "specific conductivity at 25 degrees Celsius", "microsiemens per centimetre"),
    ("ambient_us_cm", "conductivity at the water's temperature", "microsiemens per centimetre"),
    ("oxygen_mg_l", "dissolved oxygen", "milligram per litre"),
    ("secchi_m", "Secchi depth", "metre"),
)


def occurrence_rows(programme: Programme, events: Events) -> Iterator[dict[str, Any]]:
    """Each fish, or so many that were counted, met at an event; a fish that is known by a mark by its key wherever it was met.

    Numbers of tags are not among it: they would let anybody report a tag that they never saw.
    """
    table = species_of(programme)

    def told(event: str, key: str, species: str, n: int, sex: str, fish: UUID | None) -> dict[str, Any]:
        return {
            "eventID": event, "occurrenceID": key, "basisOfRecord": "HumanObservation", "occurrenceStatus": "present", "kingdom": "Animalia",
            "scientificName": table[species].scientific_name, "vernacularName": table[species].common_name, "individualCount": n,
            "sex": sex, "organismID": str(fish or ""),
        }  # fmt: skip

    for each, event, key in _captures(programme, events):
        yield told(event, key, each.species, each.count, _SEX.get(Capture.Sex(each.sex), ""), each.fish_id)
    for met, event in _met(programme, events):
        yield told(event, _fish_at(event), met.fish.species, 1, "", met.fish_id)


def measurement_rows(programme: Programme, events: Events) -> Iterator[dict[str, Any]]:
    """Each length and mass, and each figure of the water at a run."""
    for each, event, key in _captures(programme, events):
        kind = LENGTHS.get(each.length_type, "length")
        yield from _measured(event, key, "length", kind, each.length_mm, "millimetre", each.length_basis)
        yield from _measured(event, key, "mass", "mass", each.mass_g, "gram", each.mass_basis)
    for met, event in _met(programme, events):
        yield from _measured(event, _fish_at(event), "length", "length", met.length_mm, "millimetre", "measured")
        yield from _measured(event, _fish_at(event), "mass", "mass", met.mass_g, "gram", "measured")
    for reading in WaterReading.present.filter(run__in=list(events.runs)).order_by("pk"):
        event = events.runs[reading.run_id] if reading.run_id else ""
        for n, (name, kind, unit) in enumerate(_READ):
            value = getattr(reading, name)
            if value is not None:
                yield _row(event, f"{hidden_key(programme, reading.pk)}:{n}", "", kind, value, unit, "")


def _captures(programme: Programme, events: Events) -> Iterator[tuple[Capture, str, str]]:
    """Captures in the order of their events, each with its event's key and its own."""
    order = sorted(events.runs, key=events.runs.__getitem__)
    for start in range(0, len(order), _AT_ONCE):
        runs = order[start : start + _AT_ONCE]
        rows = Capture.present.filter(programme=programme, run__in=runs).order_by("pk")
        found = sorted(rows.iterator(chunk_size=5000), key=lambda row: events.runs[row.run_id])
        for each in found:
            event = events.runs[each.run_id]
            shown = event == str(each.run_id)
            yield each, event, str(each.pk if shown else hidden_key(programme, each.pk))


def _met(programme: Programme, events: Events) -> Iterator[tuple[Encounter, str]]:
    met = Encounter.objects.filter(fish__programme=programme, source_id__in=list(events.met)).select_related("fish")
    for each in sorted(met, key=lambda row: events.met[row.source_id]):
        yield each, events.met[each.source_id]


def _fish_at(event: str) -> str:
    return f"{event}:fish"


def _measured(
    event: str, fish: str, name: str, kind: str, value: float | None, unit: str, basis: str
) -> Iterator[dict[str, Any]]:
    if value is not None:
        yield _row(event, f"{fish}:{name}", fish, kind, value, unit, basis)


def _row(event: str, key: str, fish: str, kind: str, value: float, unit: str, how: str) -> dict[str, Any]:
    return {
        "eventID": event, "measurementID": key, "occurrenceID": fish, "measurementType": kind, "measurementValue": f"{value:g}",
        "measurementUnit": unit, "measurementMethod": how,
    }  # fmt: skip
