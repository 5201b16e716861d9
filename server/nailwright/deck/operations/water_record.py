"""The water was measured; the entry's key becomes the reading's."""

from __future__ import annotations

from nailwright.common.fields import read_id
from nailwright.deck.models import Run, WaterReading
from nailwright.deck.rows import open_outing_of, same_programme
from nailwright.deck.runs.reading_values import reading_values
from nailwright.programmes.models import Programme
from nailwright.programmes.record.audit import Act
from nailwright.programmes.record.operations import Kind, Row
from nailwright_core.common.errors import CoreError


def record_water(act: Act, programme: Programme, row: Row) -> bool:
    """Keep a reading of the row's ``outing``, with its ``run`` if told."""
    outing = open_outing_of(act, programme, row)
    run = Run.objects.filter(pk=read_id(row, "run"), outing=outing).first() if row.get("run") else None
    values = reading_values(row)
    if not values["more"] and all(value is None for name, value in values.items() if name != "more"):
        raise CoreError(
            "reading_empty", "Expected at least one figure, such as the temperature; got none.", "temperature_c"
        )
    existing = WaterReading.objects.select_related("outing").filter(pk=act.id).first()
    if existing:
        same_programme(existing.outing.programme_id, programme, "water reading")
        return False
    WaterReading.objects.create(
        id=act.id, outing=outing, run=run, recorder=act.person, device_time=act.device_time, **values
    )
    return True


KIND = Kind("water.record", "work_deck", record_water)
