"""Names that stand as text on the deck."""

from __future__ import annotations

from collections.abc import Iterable

from nailwright.deck.models import Event, Handover, Signature
from nailwright.programmes.models import Programme
from nailwright_core.deck.events import EVENTS


def replace_name(old: str, new: str, programmes: Iterable[Programme]) -> None:
    """Under checklists and handovers, and where somebody is named as surgeon, netter and the like."""
    for model in (Signature, Handover):
        model.objects.filter(outing__programme__in=programmes, name__iexact=old).update(name=new)
    texts = [code for code, kind in EVENTS.items() if any(each.column.kind == "text" for each in kind.fields)]
    for event in Event.objects.filter(outing__programme__in=programmes, kind__in=texts).iterator():
        said = {name: new if _is(value, old) else value for name, value in event.said.items()}
        if said != event.said:
            event.said = said
            event.save(update_fields=["said"])


def _is(value: object, name: str) -> bool:
    return isinstance(value, str) and value.casefold() == name.casefold()
