"""What one part of a selection is: how an address says it, and which rows it chooses among."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from rest_framework import serializers

#: Runs; captures of those runs; or how the sizes of those captures are read.
Of = Literal["runs", "captures", "sizes"]


@dataclass(frozen=True)
class Filter:
    """One filter.

    Attributes:
        of: what it chooses among; which subjects of findings have it follows from that.
        lookup: in Django's ORM, from a row of ``of``; empty where it is not asked of the database.
        read: how an address says it.
    """

    of: Of
    lookup: str
    read: serializers.Field


def of_runs(read: serializers.Field, lookup: str) -> dict[str, Filter]:
    """Metadata of a field of ``Selection`` that chooses runs."""
    return {"filter": Filter("runs", lookup, read)}


def of_captures(read: serializers.Field, lookup: str) -> dict[str, Filter]:
    """Of one that chooses captures."""
    return {"filter": Filter("captures", lookup, read)}


def of_sizes(read: serializers.Field) -> dict[str, Filter]:
    """Of one that says how sizes are read."""
    return {"filter": Filter("sizes", "", read)}


def many(child: serializers.Field) -> serializers.ListField:
    """A list; in an address its key is repeated."""
    return serializers.ListField(child=child, default=list)
