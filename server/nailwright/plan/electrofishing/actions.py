"""Entering a control box."""

from __future__ import annotations

from typing import Any

from django.db import transaction

from nailwright.plan.models import Unit
from nailwright.plan.outings.orders import renew_orders
from nailwright.programmes.models import Person, Programme
from nailwright.programmes.policies import require


def enter_unit(person: Person, programme: Programme, values: dict[str, Any]) -> Unit:
    """Enter a control box with the limits on its plate; a plan that had none to reckon with has one now."""
    require(person, programme, "plan")
    with transaction.atomic():
        unit = Unit.objects.create(programme=programme, **values)
        renew_orders(programme.surveys.filter(deleted_at=None))
    return unit
