"""What permits allow, counted from the record over all outings."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date
from typing import Any

from django.db import transaction
from django.db.models import Q, QuerySet, Sum

from nailwright.deck.models import Allowance, Capture, Outing
from nailwright.deck.tagging.quotas import marked
from nailwright.programmes.models import Programme
from nailwright.programmes.policies import require
from nailwright.programmes.record.audit import Act, apply_change
from nailwright.programmes.species.known import species_of
from nailwright_core.common.errors import CoreError
from nailwright_core.deck.permits import standing

#: Which captures an allowance counts, by what it allows: core's ``deck.counted.for_permit``.
COUNTS: dict[str, Q] = {
    "captured": Q(),
    "handled": Q(length_mm__isnull=False) | Q(mass_g__isnull=False) | Q(marked()),
    "tagged": Q(marked()),
    "killed": Q(release__fate__in=("dead", "kept"), release__deleted_at=None),
}


def set_allowance(
    act: Act, programme: Programme, values: dict[str, Any], allowance: Allowance | None = None
) -> Allowance:
    """Enter what a permit allows, or change it; what it was is kept.

    Raises:
        CoreError: ``species_not_in_programme``, ``days_out_of_order``.
    """
    require(act.person, programme, "plan")
    if values["last"] < values["first"]:
        raise CoreError("days_out_of_order", "Expected the first day before the last.", "last")
    if values["species"] and not programme.species.filter(code=values["species"]).exists():
        raise CoreError("species_not_in_programme", f"'{values['species']}' is not on the programme's list.", "species")
    with transaction.atomic():
        if allowance is None:
            return Allowance.objects.create(programme=programme, **values)
        locked = Allowance.objects.select_for_update().get(pk=allowance.pk)
        apply_change(act, programme, locked, values)
    return locked


def take_out_allowance(act: Act, allowance: Allowance, deleted: bool) -> Allowance:
    """Take an allowance out, or put it back."""
    require(act.person, allowance.programme, "plan")
    with transaction.atomic():
        locked = Allowance.objects.select_for_update().get(pk=allowance.pk)
        if bool(locked.deleted_at) != deleted:
            apply_change(act, allowance.programme, locked, {"deleted_at": act.device_time if deleted else None})
    return locked


def allowances_of(programme: Programme, day: date | None = None) -> list[dict[str, Any]]:
    """Every allowance, or those that hold on a day, with what is counted against it and where that stands; those that run out
    first are the first."""
    found = Allowance.present.filter(programme=programme)
    if day:
        found = found.filter(first__lte=day, last__gte=day)
    rows = list(found.order_by("last", "species", "what"))
    return [_told(row, counted, programme) for row, counted in zip(rows, _counted(rows), strict=True)]


def allowances_for(outing: Outing) -> list[dict[str, Any]]:
    """Those that hold on an outing's day, with what was counted against each before it: the Deck counts its own."""
    rows = list(Allowance.present.filter(programme=outing.programme, first__lte=outing.date, last__gte=outing.date))
    counts = _counted(rows, Capture.present.exclude(run__outing=outing))
    return [_told(row, counted, outing.programme) for row, counted in zip(rows, counts, strict=True)]


def _counted(rows: Sequence[Allowance], captures: QuerySet[Capture] | None = None) -> list[int]:
    """Fish counted against each."""
    return [
        (captures if captures is not None else Capture.present.all())
        .filter(
            COUNTS[row.what], programme=row.programme_id, run__deleted_at=None, run__outing__date__range=(row.first, row.last),
            **({"species": row.species} if row.species else {}),
        )
        .aggregate(n=Sum("count"))["n"] or 0
        for row in rows
    ]  # fmt: skip


def _told(row: Allowance, counted: int, programme: Programme) -> dict[str, Any]:
    name = species_of(programme)[row.species].common_name if row.species else "all species"
    return {
        "id": row.pk,
        "permit": row.permit,
        "species": row.species,
        "species_name": name,
        "what": row.what,
        "most": row.most,
        "first": row.first,
        "last": row.last,
        "counted": counted,
        "standing": standing(counted, 0, row.most),
    }
