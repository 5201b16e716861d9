"""What is counted against each allowance, from the record over all outings."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date
from typing import Any

from django.db.models import Q, QuerySet, Sum

from nailwright.deck.models import Capture, Outing
from nailwright.deck.tagging.quotas import marked
from nailwright.permits.models import Allowance
from nailwright.programmes.models import Programme
from nailwright.programmes.species.known import species_of
from nailwright.returns.volunteers.counting import Counted, cards_counted, span_of
from nailwright_core.deck.permits import standing

#: Which captures an allowance counts, by what it allows: core's ``deck.counted.for_permit``.
COUNTS: dict[str, Q] = {
    "captured": Q(),
    "handled": Q(length_mm__isnull=False) | Q(mass_g__isnull=False) | Q(marked()),
    "tagged": Q(marked()),
    "killed": Q(release__fate__in=("dead", "kept"), release__deleted_at=None),
}


def allowances_of(programme: Programme, day: date | None = None) -> list[dict[str, Any]]:
    """Every allowance, or those that hold on a day, with what is counted against it and where that stands; those that run out
    first are the first."""
    found = _present(programme)
    if day:
        found = found.filter(first__lte=day, last__gte=day)
    rows = list(found.order_by("last", "species", "what"))
    return [_with_count(row, counted) for row, counted in zip(rows, _counted(rows), strict=True)]


def allowances_for(outing: Outing) -> list[dict[str, Any]]:
    """Those that hold on an outing's day, with what was counted against each before it: the Deck counts its own."""
    rows = list(_present(outing.programme).filter(first__lte=outing.date, last__gte=outing.date))
    counts = _counted(rows, Capture.present.exclude(run__outing=outing))
    return [_with_count(row, counted) for row, counted in zip(rows, counts, strict=True)]


def _present(programme: Programme) -> QuerySet[Allowance]:
    return Allowance.present.filter(permit__programme=programme).select_related("permit__programme")


def _counted(rows: Sequence[Allowance], captures: QuerySet[Capture] | None = None) -> list[int]:
    """Fish counted against each of one programme: captures of crews, and cards of volunteers. All are counted in one look."""
    if not rows:
        return []
    programme = rows[0].permit.programme
    asked = [Counted(row.what, row.species, row.first, row.last) for row in rows]
    of_each = {
        f"n{place}": Sum(
            "count",
            filter=Q(COUNTS[each.what], run__outing__date__range=(each.first, each.last))
            & (Q(species=each.species) if each.species else Q()),
        )
        for place, each in enumerate(asked)
    }
    found = (
        (captures if captures is not None else Capture.present.all())
        .filter(programme=programme, run__deleted_at=None, run__outing__date__range=span_of(asked))
        .aggregate(**of_each)
    )
    cards = cards_counted(programme, asked)
    return [(found[f"n{place}"] or 0) + of_cards for place, of_cards in enumerate(cards)]


def _with_count(row: Allowance, counted: int) -> dict[str, Any]:
    name = species_of(row.permit.programme)[row.species].common_name if row.species else "all species"
    return {
        "id": row.pk,
        "permit_id": row.permit_id,
        "permit": row.permit.name,
        "species": row.species,
        "species_name": name,
        "what": row.what,
        "most": row.most,
        "first": row.first,
        "last": row.last,
        "counted": counted,
        "standing": standing(counted, 0, row.most),
    }
