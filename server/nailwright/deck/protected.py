"""Sites where protected species were caught on an outing."""

from __future__ import annotations

from collections.abc import Collection
from uuid import UUID

from django.db.models import Sum

from nailwright.deck.models import CaptureTally, Run
from nailwright.programmes.models import Programme


def protected_sites(programme: Programme, species: Collection[str]) -> set[UUID]:
    """Keys of the sites of every run that has, or had, fish of these species.

    Fish that were taken out count: who took them out may have been wrong, and the history still tells of them.
    """
    tally = CaptureTally.objects.filter(programme_id=programme.pk, species__in=species).values("run_id").order_by()
    runs = tally.annotate(fish=Sum("present") + Sum("taken_out")).filter(fish__gt=0).values("run_id")
    return set(Run.objects.filter(pk__in=runs).order_by().values_list("site_id", flat=True))
