"""A reading is corrected figure by figure, taken out, or put back."""

from __future__ import annotations

from typing import Any

from nailwright.common.fields import read_id
from nailwright.deck.models import WaterReading
from nailwright.deck.rows import there
from nailwright.deck.runs.reading_values import changed_values
from nailwright.programmes.models import Programme
from nailwright.programmes.record.audit import Act, already_done, apply_change
from nailwright.programmes.record.operations import Kind, Row


def edit_water(act: Act, programme: Programme, row: Row) -> bool:
    """Change what the row holds of the ``reading`` that it names; ``deleted`` takes it out or puts it back.

    Raises:
        CoreError: ``reading_unknown``, ``outing_closed``, and as core's ``read_readings``.
    """
    reading = there(
        WaterReading, WaterReading.objects.select_for_update().filter(pk=read_id(row, "reading")).first(), programme
    )
    reading.outing.must_be_open(act)
    if already_done(act):
        return False
    values: dict[str, Any] = changed_values(row)
    if isinstance(row.get("deleted"), bool) and row["deleted"] != bool(reading.deleted_at):
        values["deleted_at"] = act.device_time if row["deleted"] else None
    return apply_change(act, programme, reading, values)


KIND = Kind("water.edit", "work_deck", edit_water)
