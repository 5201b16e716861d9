"""The resistance of a boat in water of 100 µS/cm, as it was read on the water, goes back into its control box."""

from __future__ import annotations

from nailwright.common.fields import read_id
from nailwright.plan.electrofishing.actions import set_resistance
from nailwright.plan.models import Unit
from nailwright.programmes.models import Programme
from nailwright.programmes.record.audit import Act
from nailwright.programmes.record.operations import Kind, Row
from nailwright_core.common.errors import CoreError


def set_resistance_of_row(act: Act, programme: Programme, row: Row) -> bool:
    """Set ``r100_ohm`` of the ``unit`` that the row names.

    Raises:
        CoreError: ``unit_unknown``, and as ``set_resistance``.
    """
    unit = Unit.objects.select_for_update().filter(pk=read_id(row, "unit"), programme=programme).first()
    if unit is None:
        raise CoreError("unit_unknown", "Expected one of this programme's control boxes; got none of them.", "unit")
    return set_resistance(act, unit, row)


KIND = Kind("unit.resistance", "calibrate_unit", set_resistance_of_row)
