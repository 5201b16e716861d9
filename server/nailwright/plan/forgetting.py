"""Names that stand as text in plans."""

from __future__ import annotations

from collections.abc import Iterable

from nailwright.plan.models import Survey
from nailwright.programmes.models import Programme


def replace_name(old: str, new: str, programmes: Iterable[Programme]) -> None:
    """In crews."""
    for survey in Survey.objects.select_for_update().filter(programme__in=programmes):
        crew = survey.parts.get("crew") or []
        if any(name.strip().lower() == old.lower() for name in crew):
            survey.parts["crew"] = [new if name.strip().lower() == old.lower() else name for name in crew]
            survey.save(update_fields=["parts"])
