"""Names that stand as text on certificates."""

from __future__ import annotations

from collections.abc import Iterable

from nailwright.permits.models import Permit
from nailwright.programmes.models import Programme


def replace_name(old: str, new: str, programmes: Iterable[Programme]) -> None:
    """As their holder."""
    Permit.objects.filter(programme__in=programmes, holder__iexact=old).update(holder=new)
