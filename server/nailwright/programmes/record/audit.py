"""Changing a row and writing down what it was before, in one step."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from typing import Any
from uuid import UUID, uuid5

from django.core.serializers.json import DjangoJSONEncoder
from django.db import models
from django.utils import timezone

from nailwright.programmes.models import Change, Person, Programme
from nailwright_core.common.errors import CoreError

_ENCODER = DjangoJSONEncoder()


@dataclass(frozen=True)
class Act:
    """Who does something, when by their device's clock put right, and the key of the doing. ``desk``: a correction of the record, also
    of an outing that is closed; whoever made the act has checked that this person may, and that a reason is given."""

    id: UUID
    person: Person
    device_time: datetime
    reason: str = ""
    clock_offset_s: float = 0.0
    desk: bool = False

    def put_right(self, moment: datetime) -> datetime:
        """Another time that the same device told, with its clock's error added; never in the future, where there is one."""
        return put_right(moment, self.clock_offset_s)

    def part(self, name: object) -> Act:
        """The same doing on one of several rows: its key follows from this one's and the row's name."""
        return replace(self, id=uuid5(self.id, str(name)))


def put_right(moment: datetime, offset_s: float) -> datetime:
    """A device's time with its clock's error added; never in the future, where its clock is known to be wrong."""
    return min(moment + timedelta(seconds=offset_s), timezone.now()) if offset_s else moment


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


def apply_change(
    act: Act,
    programme: Programme,
    row: models.Model,
    values: Mapping[str, Any],
    groups: Sequence[Sequence[str]] = (),
    also: tuple[Mapping[str, Any], Mapping[str, Any]] = ({}, {}),
) -> bool:
    """Set ``values`` on a row the caller has locked, and keep what they replaced.

    The later act wins, whatever the order in which they arrive: a field that a later act has changed already stays, and
    what came late is kept in the history as ``late``. Fields of one group stand or fall together. A name such as
    "parts.electro.goal_w" is a place in a JSON field of the row; all other places of that field stay as they are.
    ``also`` is what was and is now of something that changed with it and is no field of the row.

    Returns:
        False where nothing differed, and then nothing is written.
    """
    differing = {name: value for name, value in values.items() if value_at(row, name) != value}
    if not differing and not also[1]:
        return False
    outdone = _with_groups(changed_since(row, act.device_time), groups)
    late = {name: value for name, value in differing.items() if any(_overlap(name, each) for each in outdone)}
    stands = {name: value for name, value in differing.items() if name not in late}
    before = {name: value_at(row, name) for name in stands}
    for name, value in stands.items():
        _set(row, name, value)
    if stands:
        row.save(update_fields={name.split(".")[0] for name in stands})
    note_change(act, programme, row, {**before, **also[0]}, {**stands, **also[1]}, late)
    return True


def note_change(
    act: Act,
    programme: Programme,
    row: models.Model,
    before: Mapping[str, Any],
    after: Mapping[str, Any],
    late: Mapping[str, Any] | None = None,
) -> None:
    """Write a change into the history."""
    Change.objects.create(
        id=act.id,
        programme=programme,
        table=str(row._meta.model_name),
        row=row.pk,
        person=act.person,
        device_time=act.device_time,
        server_time=timezone.now(),
        reason=act.reason,
        before={name: plain(value) for name, value in before.items()},
        after={name: plain(value) for name, value in after.items()},
        late={name: plain(value) for name, value in (late or {}).items()},
    )


def value_at(row: models.Model, name: str) -> Any:
    """A field's value, or what is at a place in a JSON field; None where nothing is there, as of a field of an earlier release."""
    first, *places = name.split(".")
    value = getattr(row, first, None)
    for place in places:
        value = value.get(place) if isinstance(value, Mapping) else None
    return value


def _set(row: models.Model, name: str, value: Any) -> None:
    first, *places = name.split(".")
    setattr(row, first, _with(getattr(row, first), places, value))


def _with(kept: Any, places: Sequence[str], value: Any) -> Any:
    """JSON with one place of it set."""
    if not places:
        return value
    kept = kept or {}
    return {**kept, places[0]: _with(kept.get(places[0]), places[1:], value)}


def _overlap(one: str, other: str) -> bool:
    """Whether two names are the same place, or one holds the other."""
    return f"{one}.".startswith(f"{other}.") or f"{other}.".startswith(f"{one}.")


def changed_since(row: models.Model, moment: datetime) -> set[str]:
    """Fields of a row that were changed by acts later than a moment."""
    later = Change.objects.filter(row=row.pk, table=row._meta.model_name, device_time__gt=moment)
    return {name for after in later.values_list("after", flat=True) for name in after}


def _with_groups(names: set[str], groups: Iterable[Sequence[str]]) -> set[str]:
    """These fields, and all that belong together with one of them."""
    return names | {name for group in groups if names & set(group) for name in group}


def plain(value: Any) -> Any:
    """A field's value as JSON can hold it."""
    if value is None or isinstance(value, str | int | float | bool | list | dict):
        return value
    if isinstance(value, models.Model):
        return str(value.pk)
    return _ENCODER.default(value)
