"""Names that stand as text on the deck, and pictures of people."""

from __future__ import annotations

from collections.abc import Iterable

from django.utils import timezone

from nailwright.deck.models import Event, Handover, Photo, PhotoFile, Signature
from nailwright.programmes.models import Programme
from nailwright_core.deck.events import EVENTS


def replace_name(old: str, new: str, programmes: Iterable[Programme]) -> None:
    """Under checklists and handovers, and where somebody is named as surgeon, netter and the like."""
    for model in (Signature, Handover):
        model.objects.filter(outing__programme__in=programmes, name__iexact=old).update(name=new)
    _forget_photos(old, new, programmes)
    texts = [code for code, kind in EVENTS.items() if any(each.field.kind == "text" for each in kind.fields)]
    for event in Event.objects.filter(outing__programme__in=programmes, kind__in=texts).iterator():
        details = {name: _without(value, old, new) for name, value in event.details.items()}
        if details != event.details:
            event.details = details
            event.save(update_fields=["details"])


def _forget_photos(old: str, new: str, programmes: Iterable[Programme]) -> None:
    """A photo of the person goes, picture and all; where a note of another one names them, the name does."""
    for photo in Photo.objects.filter(outing__programme__in=programmes).exclude(note=""):
        note = _without(photo.note, old, new)
        if note == photo.note:
            continue
        if photo.shows == Photo.Shows.PERSON:
            PhotoFile.objects.filter(photo=photo).delete()
            photo.deleted_at = photo.deleted_at or timezone.now()
        photo.note = str(note)[: Photo._meta.get_field("note").max_length]
        photo.save(update_fields=["note", "deleted_at"])


def _without(value: object, old: str, new: str) -> object:
    """A text in which a name stands alone, or as one of several with commas between."""
    if not isinstance(value, str):
        return value
    parts = [part.strip() for part in value.split(",")]
    if old.casefold() not in (part.casefold() for part in parts):
        return value
    return ", ".join(new if part.casefold() == old.casefold() else part for part in parts)
