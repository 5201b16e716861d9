"""Sites where marked fish of protected species were met, whoever reported them."""

from __future__ import annotations

from collections.abc import Collection
from uuid import UUID

from nailwright.programmes.models import Programme
from nailwright.tags.models import Encounter


def protected_sites(programme: Programme, species: Collection[str]) -> set[UUID]:
    """Keys of the sites of every encounter with fish of these species."""
    met = Encounter.objects.filter(fish__programme=programme, fish__species__in=species).exclude(site=None)
    return {key for key in met.order_by().values_list("site_id", flat=True).distinct() if key}
