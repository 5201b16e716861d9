"""Changing a row and writing down what it was before, in one step."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from typing import Any
from uuid import UUID

from django.core.serializers.json import DjangoJSONEncoder
from django.db import models
from django.utils import timezone

from nailwright.programmes.models import Change, Person, Programme
from nailwright_core.common.errors import CoreError

_ENCODER = DjangoJSONEncoder()


@dataclass(frozen=True)
class Act:
    """Who does something, when by their device, and the key of the doing."""

    id: UUID
    person: Person
    device_time: datetime
    reason: str = ""


def must_say_why(act: Act, example: str) -> None:
    """Refuse an act that needs a reason and has none.

    Raises:
        CoreError: ``reason_missing``.
    """
    if len(act.reason.strip()) < 3:
        raise CoreError("reason_missing", f"Say in a few words why, such as '{example}'.", "reason")


def already_done(act: Act) -> bool:
    """Whether this very change has been made before."""
    return Change.objects.filter(pk=act.id).exists()


def apply_change(act: Act, programme: Programme, row: models.Model, values: dict[str, Any]) -> bool:
    """Set ``values`` on a row the caller has locked, and keep what they replaced.

    Returns:
        False where nothing differed, and then nothing is written.
    """
    before = {name: getattr(row, name) for name in values}
    differing = {name: value for name, value in values.items() if before[name] != value}
    if not differing:
        return False
    for name, value in differing.items():
        setattr(row, name, value)
    row.save(update_fields=list(differing))
    Change.objects.create(
        id=act.id,
        programme=programme,
        table=row._meta.model_name,
        row=row.pk,
        person=act.person,
        device_time=act.device_time,
        server_time=timezone.now(),
        reason=act.reason,
        before={name: plain(before[name]) for name in differing},
        after={name: plain(value) for name, value in differing.items()},
    )
    return True


def plain(value: Any) -> Any:
    """A field's value as JSON can hold it."""
    if value is None or isinstance(value, str | int | float | bool | list | dict):
        return value
    if isinstance(value, models.Model):
        return str(value.pk)
    return _ENCODER.default(value)
