"""The rows that an entry names, locked where it changes them; each refuses with what was expected."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, TypeVar
from uuid import UUID

from nailwright.common.fields import read_id
from nailwright.deck.models import Capture, Event, Outing, Photo, Run, WaterReading
from nailwright.programmes.models import Programme
from nailwright.programmes.record.operations import NotYet
from nailwright.programmes.record.receiving import key_taken

_Row = TypeVar("_Row", Capture, Event, Photo, Run, WaterReading)
#: How each is called to a person, and the field of an entry that names it.
_NAMES: dict[type, tuple[str, str]] = {
    Capture: ("fish", "capture"), Event: ("entry", "event"), Photo: ("photo", "photo"), Run: ("run", "run"),
    WaterReading: ("reading", "reading"),
}  # fmt: skip


def open_outing_of(programme: Programme, row: Mapping[str, Any]) -> Outing:
    """The outing that a row names; it must be open."""
    outing = Outing.objects.select_related("water").filter(pk=read_id(row, "outing"), programme=programme).first()
    if outing is None:
        raise NotYet("outing_unknown", "The outing this belongs to has not arrived yet.", "outing")
    outing.must_be_open()
    return outing


def locked_capture(programme: Programme, key: UUID) -> Capture:
    """A fish of the programme, locked."""
    there(Capture, Capture.objects.select_for_update().filter(pk=key).first(), programme)
    return Capture.objects.select_related("run__outing__water", "programme").get(pk=key)


def there(model: type[_Row], row: _Row | None, programme: Programme) -> _Row:
    """The row that an entry names, where it is there and the programme's own.

    Raises:
        NotYet: it is neither: what is unknown and what is another programme's are told alike.
    """
    owner = None if row is None else row.programme_id if isinstance(row, Capture) else row.outing.programme_id
    if row is None or owner != programme.pk:
        word, field = _NAMES[model]
        raise NotYet(f"{field}_unknown", f"The {word} this belongs to has not arrived yet.", field)
    return row


def same_programme(programme_id: UUID, programme: Programme, what: str) -> None:
    """Refuse a new row's key that belongs to another programme's row already."""
    if programme_id != programme.pk:
        raise key_taken(what)
