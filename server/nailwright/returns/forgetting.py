"""Finders who are forgotten by name."""

from __future__ import annotations

from collections.abc import Iterable

from nailwright.programmes.models import Programme
from nailwright.returns.models import Finder


def replace_name(old: str, new: str, programmes: Iterable[Programme]) -> None:
    """As who sent a report, or agreed for a child."""
    for name in ("name", "guardian"):
        Finder.objects.filter(report__programme__in=programmes, **{f"{name}__iexact": old}).update(**{name: new})
