"""Entering a control box."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from django.db import transaction

from nailwright.common.fields import read_number
from nailwright.plan.models import Unit
from nailwright.plan.outings.orders import renew_orders
from nailwright.programmes.models import Person, Programme
from nailwright.programmes.policies import require
from nailwright.programmes.record.audit import Act, already_done, apply_change
from nailwright_core.common.errors import CoreError

#: Lowest and highest resistance at 100 µS/cm, ohm.
R100_OHM = (0.1, 100_000)


def set_resistance(act: Act, unit: Unit, row: Mapping[str, Any]) -> bool:
    """Set a unit's resistance at 100 µS/cm (``r100_ohm`` of the row); plans and outings that go by it are computed anew.

    Args:
        unit: locked by the caller.

    Raises:
        CoreError: ``number_missing``, ``number_out_of_range``.
    """
    ohm = read_number(row, "r100_ohm", *R100_OHM, "ohm")
    if ohm is None:
        raise CoreError("number_missing", "Expected the resistance in ohm at 100 µS/cm; got none.", "r100_ohm")
    if already_done(act):
        return False
    changed = apply_change(act, unit.programme, unit, {"r100_ohm": ohm})
    if changed:
        renew_orders(unit.programme.surveys.filter(deleted_at=None))
    return changed


def enter_unit(person: Person, programme: Programme, values: dict[str, Any]) -> Unit:
    """Enter a control box with the limits on its plate; a plan that had none to reckon with has one now."""
    require(person, programme, "plan")
    with transaction.atomic():
        unit = Unit.objects.create(programme=programme, **values)
        renew_orders(programme.surveys.filter(deleted_at=None))
    return unit
