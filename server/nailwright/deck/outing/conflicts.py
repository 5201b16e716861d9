"""What two people put right differently, neither knowing of the other: both words are in the history, and a person decides."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any
from uuid import UUID

from django.db.models import F, Model, Q
from django.utils import timezone

from nailwright.deck.models import Capture, Event, Outing, Photo, Release, Run, WaterReading
from nailwright.programmes.models import Change, Programme
from nailwright.programmes.record.audit import Act, note_change, plain, value_at
from nailwright.programmes.species.known import species_of
from nailwright_core.common.errors import CoreError
from nailwright_core.deck.events import EVENTS

#: Only what is recent enough to be looked into waits for a person.
RECENT_DAYS = 60
#: Who changes something within this time of another's change could not know of it only because it was on its way.
ON_ITS_WAY = timedelta(minutes=1)
#: Tables whose rows are put right from tablets and at the desk, with the way from a row to its outing.
_TABLES: dict[str, tuple[type[Model], str]] = {
    "capture": (Capture, "run__outing"),
    "release": (Release, "capture__run__outing"),
    "run": (Run, "outing"),
    "event": (Event, "outing"),
    "photo": (Photo, "outing"),
    "waterreading": (WaterReading, "outing"),
}
#: Said beside the figure they belong to.
_BESIDE = ("_text", "_unit", "_type", "_basis")


@dataclass(frozen=True)
class Word:
    """What one of them said of a field."""

    value: Any
    person: str
    at: datetime


@dataclass(frozen=True)
class Crossed:
    """Two words on one field of a row; ``change`` is one of the changes by which they were said."""

    change: UUID
    table: str
    row: UUID
    what: str
    outing: UUID
    outing_name: str
    field: str
    stands: Word
    other: Word


def crossed_of(programme: Programme) -> list[Crossed]:
    """All that waits to be looked at, the newest first.

    A correction crossed another's where it reached the server after a later one of the same field, or was made before the other,
    of somebody else, had reached it. It is looked at once a later change touches that field, or says that it was looked at.
    """
    recent = programme.changes.filter(
        table__in=_TABLES, server_time__gte=timezone.now() - timedelta(days=RECENT_DAYS)
    ).filter(~Q(late={}) | Q(server_time__gt=F("device_time") + ON_ITS_WAY))
    rows = {(table, row) for table, row in recent.values_list("table", "row")}
    changes: dict[tuple[str, UUID], list[Change]] = defaultdict(list)
    asked = programme.changes.filter(row__in={row for _, row in rows}).select_related("person")
    for change in asked.order_by("device_time", "server_time"):
        changes[change.table, change.row].append(change)
    found = []
    for there in _rows(programme, rows):
        history = changes[there.table, there.row.pk]
        for field, stands, other in _pairs(there.row, history):
            if _looked_at(history, field, stands, other):
                continue
            words = [Word(_said(each, field), each.person.name, each.device_time) for each in (stands, other)]
            key = next(each.pk for each in (other, stands) if each in history)
            found.append(
                Crossed(key, there.table, there.row.pk, there.words, there.outing.pk, there.outing.name, field, *words)
            )
    return sorted(found, key=lambda each: (each.stands.at, each.row, each.field), reverse=True)


def leave_as_it_stands(act: Act, programme: Programme, change: UUID) -> None:
    """Say that the two words on a row were looked at, and that what stands is right; in the row's history.

    Raises:
        CoreError: ``crossed_unknown``: there is no such change, or a person has looked at it meanwhile.
    """
    found = next((each for each in crossed_of(programme) if each.change == change), None)
    if found is None:
        raise CoreError(
            "crossed_unknown", "Nothing waits to be looked at here; somebody has done it meanwhile.", "change"
        )
    model, _ = _TABLES[found.table]
    note_change(act, programme, model._default_manager.get(pk=found.row), {}, {})


def _pairs(row: Any, changes: list[Change]) -> Iterator[tuple[str, Change, Change]]:
    """Field, the word that stands and the one that it crossed; ``changes`` of the row by the time at which they were made."""
    acts = [_as_made(row, changes), *changes]
    for place, early in enumerate(acts):
        later = acts[place + 1 :]
        for field in filter(_tells, early.late):
            stands = next((each for each in reversed(later) if field in each.after), _as_it_is(row, field))
            if _said(stands, field) != early.late[field]:
                yield field, stands, early
        for field in filter(_tells, early.after):
            after = next((each for each in later if field in each.after), None)
            if (
                after
                and after.person_id != early.person_id
                and after.device_time < early.server_time - ON_ITS_WAY
                and after.after[field] != early.after[field]
            ):
                yield field, after, early


def _as_made(row: Any, changes: list[Change]) -> Change:
    """What whoever made the row said, of the fields that were changed since."""
    before: dict[str, Any] = {}
    for each in changes:
        before = {**each.before, **before}
    at = datetime.fromisoformat(before["device_time"]) if "device_time" in before else row.device_time
    return Change(row=row.pk, person=row.recorder, device_time=at, server_time=row.server_time, after=before)


def _as_it_is(row: Any, field: str) -> Change:
    """What the row says, where nobody changed that since it was made."""
    value = plain(value_at(row, field))
    return Change(
        row=row.pk, person=row.recorder, device_time=row.device_time, server_time=row.server_time, after={field: value}
    )


def _looked_at(changes: Iterable[Change], field: str, stands: Change, other: Change) -> bool:
    since = max(stands.server_time, other.server_time)
    return any(
        each.server_time > since and (field in each.after or not (each.after or each.late))
        for each in changes
        if each not in (stands, other)
    )


def _said(change: Change, field: str) -> Any:
    return change.late[field] if field in change.late else change.after[field]


def _tells(field: str) -> bool:
    return field != "device_time" and not field.endswith(_BESIDE)


@dataclass(frozen=True)
class _There:
    table: str
    row: Any
    outing: Outing
    words: str


def _rows(programme: Programme, keys: set[tuple[str, UUID]]) -> Iterator[_There]:
    """Those of the rows that were not taken out since: of the others nothing is to be decided."""
    for table, (model, way) in _TABLES.items():
        wanted = [row for of, row in keys if of == table]
        present = "capture__deleted_at" if model is Release else "deleted_at"
        rows = model._default_manager.filter(pk__in=wanted, **{present: None}).select_related("recorder", way)
        for row in rows if wanted else ():
            outing: Any = row
            for step in way.split("__"):
                outing = getattr(outing, step)
            yield _There(table, row, outing, _words(programme, row))


def _words(programme: Programme, row: Any) -> str:
    match row:
        case Capture():
            return f"{species_of(programme)[row.species].common_name} {row.length_text}".strip()
        case Release():
            return f"how {_words(programme, row.capture)} left"
        case Run():
            return f"run {row.number}"
        case Event():
            return EVENTS[row.kind].title.lower()
        case Photo():
            return f"photo: {row.get_shows_display().lower()}"
    return "water"
