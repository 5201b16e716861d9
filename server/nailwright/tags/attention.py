"""Lines of Today about tags: those handed out that nobody accounts for, batteries that end."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from nailwright.programmes.models import Programme
from nailwright.tags.balance import unaccounted
from nailwright.tags.models import TagState
from nailwright.tags.transmitters import SOON_DAYS, transmitters_of

_NAMED = 4


def attention_of(programme: Programme) -> Iterator[dict[str, Any]]:
    """Tags of an earlier day's boat or outing that nobody accounts for, and transmitters that soon fall silent, by their numbers."""
    numbers = unaccounted(programme)
    if numbers:
        n = len(numbers)
        text = f"{n} {'tag' if n == 1 else 'tags'} handed out on an earlier day not accounted for: {_named(numbers)}."
        yield {"code": "tags_unbalanced", "text": text, "outing": None, "n": n}
    ending = [
        each["number"]
        for each in transmitters_of(programme)
        if each["life"] == "soon" and each["state"] == TagState.PLACED
    ]
    if ending:
        n = len(ending)
        text = f"{n} {'transmitter' if n == 1 else 'transmitters'} expected to fall silent within {SOON_DAYS} days: {_named(ending)}."
        yield {"code": "batteries_end", "text": text, "outing": None, "n": n}


def _named(numbers: list[str]) -> str:
    n = len(numbers)
    return ", ".join(numbers[:_NAMED]) + (f" and {n - _NAMED} more" if n > _NAMED else "")
