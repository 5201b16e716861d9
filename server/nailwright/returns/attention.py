"""Lines of Today about reports."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from django.db.models import Count, Min
from django.utils import timezone

from nailwright.programmes.models import Programme
from nailwright.returns.models import Card, Return

_WAITING: dict[str, tuple[str, str]] = {
    Return.State.RECEIVED: ("to match with a tag", "returns_received"),
    Return.State.MATCHED: ("to verify", "returns_matched"),
    Return.State.ASKED: ("waiting for the finder's answer", "returns_asked"),
}


def attention_of(programme: Programme) -> Iterator[dict[str, Any]]:
    """Reports that wait, and for how long; cards whose tag could not be placed."""
    if n := Card.present.filter(programme=programme).exclude(problem="").count():
        cards = "1 card of a volunteer" if n == 1 else f"{n} cards of volunteers"
        yield {"code": "cards_problem", "text": f"{cards} with a tag to look into.", "outing": None, "n": n}
    rows = Return.objects.filter(programme=programme, state__in=_WAITING).order_by()
    for row in rows.values("state").annotate(n=Count("pk"), oldest=Min("received_at")):
        what, code = _WAITING[row["state"]]
        days = (timezone.now() - row["oldest"]).days
        since = "today" if days == 0 else "since yesterday" if days == 1 else f"for {days} days"
        noun = "report of a tag" if row["n"] == 1 else "reports of tags"
        oldest = since if row["n"] == 1 else f"the oldest {since}"
        yield {"code": code, "text": f"{row['n']} {noun} {what}, {oldest}.", "outing": None, "n": row["n"]}
