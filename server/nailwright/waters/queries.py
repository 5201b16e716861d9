"""What is known of the ground."""

from __future__ import annotations

from uuid import UUID

from django.db.models import Count, Q, QuerySet

from nailwright.programmes.models import Programme
from nailwright.waters.models import Water
from nailwright_core.common.errors import CoreError


def waters_of(programme: Programme) -> QuerySet[Water]:
    """The programme's waters by name, each with its number of sites in use."""
    return programme.waters.annotate(n_sites=Count("sites", filter=Q(sites__retired_at=None))).order_by("name")


def water_of(programme: Programme, key: UUID | str) -> Water:
    """A water of the programme.

    Raises:
        CoreError: ``water_unknown``.
    """
    water = Water.objects.filter(pk=key, programme=programme).first()
    if water is None:
        raise CoreError("water_unknown", "No such water in this programme.", "water")
    return water
