"""Lines of Today about permits."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from django.utils import timezone

from nailwright.deck.outing.attention import newest_line, recent_captures
from nailwright.permits.counting import allowances_of
from nailwright.programmes.models import Programme

_STANDS = {"near": "is nearly used up", "last": "is used up", "over": "is overdrawn: tell whoever issued it"}


def attention_of(programme: Programme) -> Iterator[dict[str, Any]]:
    """Permits of which four fifths or more are used up, and fish kept on the Deck beyond what one allows, with reasons."""
    for each in allowances_of(programme, timezone.now().date()):  # what has run out is not counted at each look
        if each["standing"] == "open":
            continue
        yield {
            "code": f"permit_{each['standing']}",
            "text": f"{each['permit']}: {each['counted']:,} of {each['most']:,} {each['species_name']} {each['what']} until "
            f"{each['last']:%d %b %Y}; it {_STANDS[each['standing']]}.",
            "outing": None,
            "n": each["counted"],
        }
    yield from newest_line(
        recent_captures(programme).filter(questions__icontains='"permit_over"'),
        "permit_over_kept",
        "{n} fish beyond a permit, each with its reason: read them, then tell the agency.",
    )
