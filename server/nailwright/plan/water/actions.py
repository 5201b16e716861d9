"""Zones of a water, told to the outings that are out."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from django.db import transaction

from nailwright.plan.outings.orders import renew_orders
from nailwright.programmes.record.audit import Act
from nailwright.waters.actions import set_zones
from nailwright.waters.models import Water


def change_zones(act: Act, water: Water, zones: Sequence[dict[str, Any]], confirmed: bool) -> None:
    """Say what zones a water has now; outings that are out hear of it."""
    with transaction.atomic():
        set_zones(act, water, zones, confirmed)
        renew_orders(water.surveys.filter(deleted_at=None))
