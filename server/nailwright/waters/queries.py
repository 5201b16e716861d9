"""What is known of the ground."""

from __future__ import annotations

from uuid import UUID

from nailwright.programmes.models import Programme
from nailwright.waters.models import Water
from nailwright_core.common.errors import CoreError


def water_of(programme: Programme, key: UUID | str) -> Water:
    """A water of the programme.

    Raises:
        CoreError: ``water_unknown``.
    """
    water = Water.objects.filter(pk=key, programme=programme).first()
    if water is None:
        raise CoreError("water_unknown", "No such water in this programme.", "water")
    return water
