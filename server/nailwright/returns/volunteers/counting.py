"""Volunteers' fish as permits count them: each card is a fish that was caught."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from datetime import date
from typing import Any, NamedTuple

from django.db.models import Count, Exists, OuterRef, Q, QuerySet
from django.db.models.functions import Coalesce, TruncDate

from nailwright.programmes.models import Programme
from nailwright.returns.models import Card
from nailwright.tags.models import Placement

_TAGGED = Q(Exists(Placement.present.filter(capture_id=OuterRef("pk"))))
#: As ``permits.counting.COUNTS`` of captures. A card knows no dead fish: condition 4 is one that had not recovered.
_COUNTS: dict[str, Q] = {
    "captured": Q(),
    "handled": Q(length_mm__isnull=False) | _TAGGED,
    "tagged": _TAGGED,
    "killed": Q(pk__in=[]),
}


class Counted(NamedTuple):
    """What is counted: ``what`` as permits have it, of one species or (empty) of all, from day to day."""

    what: str
    species: str
    first: date
    last: date


def span_of(asked: Sequence[Counted]) -> tuple[date, date]:
    """From the first day of any to the last."""
    return min(each.first for each in asked), max(each.last for each in asked)


def cards_counted(programme: Programme, asked: Sequence[Counted]) -> list[int]:
    """Cards that count as each."""
    of_each = {
        f"n{place}": Count(
            "pk",
            filter=Q(_COUNTS[each.what], day__range=(each.first, each.last))
            & (Q(species=each.species) if each.species else Q()),
        )
        for place, each in enumerate(asked)
    }
    found = _cards(programme, [], *span_of(asked)).aggregate(**of_each)
    return [found[f"n{place}"] for place in range(len(asked))]


def card_days(programme: Programme, species: Iterable[str], first: date, last: date) -> Iterator[dict[str, Any]]:
    """By day and species what cards count; ``species`` empty: every one. In order of days."""
    counted = {
        what: Count("pk", filter=counts) for what, counts in _COUNTS.items() if what not in ("captured", "killed")
    }
    rows = (
        _cards(programme, list(species), first, last).values("day", "species").annotate(captured=Count("pk"), **counted)
    )
    for row in rows.order_by("day", "species"):
        yield {**row, "killed": 0}


def _cards(programme: Programme, species: list[str], first: date, last: date) -> QuerySet[Any, Any]:
    """A card without a date counts on the day on which it was written down."""
    cards: QuerySet[Any, Any] = Card.present.filter(programme=programme).exclude(species="").order_by()
    if species:
        cards = cards.filter(species__in=species)
    dated: QuerySet[Any, Any] = cards.annotate(day=Coalesce("caught_on", TruncDate("device_time")))
    return dated.filter(day__range=(first, last))
