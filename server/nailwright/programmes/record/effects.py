"""What a change did to other rows with it, so that its undo is its exact inverse.

The effects lie in the change itself, in ``before`` under ``WITH_IT``, which no screen shows. Undone, each field goes back to what it was,
unless a later act has changed it since: that one stands.
"""

from __future__ import annotations

from collections.abc import Collection, Iterable, Mapping
from typing import Any

from django.db import models
from django.db.models import QuerySet

from nailwright.programmes.models import Change
from nailwright.programmes.record.audit import plain

WITH_IT = "with_it"


class Effects:
    """Fields that are set along with a change."""

    def __init__(self) -> None:
        self.rows: list[dict[str, Any]] = []

    def set(self, row: models.Model, **values: Any) -> None:
        """Set fields of a row that the caller has locked, and note what they were."""
        self.note(row, **values)
        for name, value in values.items():
            setattr(row, name, value)
        row.save(update_fields=list(values))

    def note(self, row: models.Model, **values: Any) -> None:
        """Note what fields are before somebody else sets them."""
        before = {name: plain(getattr(row, name)) for name in values}
        after = {name: plain(value) for name, value in values.items()}
        self.rows.append({"model": row._meta.label_lower, "row": str(row.pk), "before": before, "after": after})


def effects_of(row: models.Model, field: str) -> list[dict[str, Any]] | None:
    """What the newest change of a row's field did with it; None where that is from before effects were noted."""
    changes = Change.objects.filter(row=row.pk, table=row._meta.model_name).order_by("-server_time", "-id")
    newest = next((each for each in changes if field in each.after), None)
    return newest.before.get(WITH_IT) if newest else None


def undo(
    effects: Iterable[dict[str, Any]], among: Mapping[type[models.Model], tuple[QuerySet[Any], Collection[str]]]
) -> list[models.Model]:
    """Put back what still is as the change left it, the last first; the rows that were.

    Args:
        among: the rows of each model that may be changed, and their fields: a change may have come in an archive from elsewhere.
    """
    allowed = {model._meta.label_lower: (model, *of) for model, of in among.items()}
    undone = []
    for each in reversed(list(effects)):
        if each["model"] not in allowed:
            continue
        model, rows, fields = allowed[each["model"]]
        row = rows.select_for_update().filter(pk=each["row"]).first()
        if row is None:
            continue
        names = [name for name, after in each["after"].items() if name in fields and plain(getattr(row, name)) == after]
        for name in names:
            field: Any = model._meta.get_field(name)
            setattr(row, name, field.to_python(each["before"].get(name)))
        if names:
            row.save(update_fields=names)
            undone.append(row)
    return undone
