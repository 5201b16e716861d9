"""Names that stand as text on the deck."""

from __future__ import annotations

from collections.abc import Iterable

from nailwright.deck.models import Signature
from nailwright.programmes.models import Programme


def replace_name(old: str, new: str, programmes: Iterable[Programme]) -> None:
    """Under checklists."""
    Signature.objects.filter(outing__programme__in=programmes, name__iexact=old).update(name=new)
