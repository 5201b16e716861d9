"""The rows that an entry names, locked where it changes them; each refuses with what was expected."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import datetime
from typing import Any, TypeVar
from uuid import UUID

from django.db.models import Max

from nailwright.common.fields import read_id
from nailwright.deck.models import Capture, Event, Outing, Photo, Run, WaterReading
from nailwright.programmes.models import Programme
from nailwright.programmes.record.audit import Act
from nailwright.programmes.record.operations import NotYet
from nailwright.programmes.record.receiving import key_taken
from nailwright.waters.models import Site
from nailwright_core.common.errors import CoreError

_Row = TypeVar("_Row", Capture, Event, Photo, Run, WaterReading)
#: How each is called to a person, and the field of an entry that names it.
_NAMES: dict[type, tuple[str, str]] = {
    Capture: ("fish", "capture"), Event: ("entry", "event"), Photo: ("photo", "photo"), Run: ("run", "run"),
    WaterReading: ("reading", "reading"),
}  # fmt: skip


def open_outing_of(act: Act, programme: Programme, row: Mapping[str, Any]) -> Outing:
    """The outing that a row names; it must be open, except at the desk."""
    outing = Outing.objects.select_related("water").filter(pk=read_id(row, "outing"), programme=programme).first()
    if outing is None:
        raise NotYet("outing_unknown", "The outing this belongs to has not arrived yet.", "outing")
    outing.must_be_open(act)
    return outing


def site_of(outing: Outing, row: Mapping[str, Any]) -> Site:
    """The site that a row names, of the outing's water.

    Raises:
        CoreError: ``site_unknown``.
    """
    site = Site.objects.filter(pk=read_id(row, "site"), water=outing.water_id).first()
    if site is None:
        raise CoreError("site_unknown", f"No such site on {outing.water.name}.", "site")
    return site


def locked_capture(programme: Programme, key: UUID) -> Capture:
    """A fish of the programme, locked."""
    there(Capture, Capture.objects.select_for_update().filter(pk=key).first(), programme)
    return Capture.objects.select_related("run__outing__water", "programme").get(pk=key)


def time_of(act: Act, capture: Capture) -> datetime:
    """When something was done to a fish: as the act says, and for what is added at the desk the last time known of the fish."""
    if not act.desk:
        return act.device_time
    said = Event.present.filter(capture=capture).aggregate(last=Max("device_time"))["last"]
    return max(capture.device_time, said or capture.device_time)


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
