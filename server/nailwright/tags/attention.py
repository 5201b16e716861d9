"""Lines of Today about tags that were handed out."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from nailwright.programmes.models import Programme
from nailwright.tags.balance import unaccounted

_NAMED = 4


def attention_of(programme: Programme) -> Iterator[dict[str, Any]]:
    """Tags of an earlier day's boat or outing that nobody accounts for, by their numbers."""
    numbers = unaccounted(programme)
    n = len(numbers)
    if not n:
        return
    named = ", ".join(numbers[:_NAMED]) + (f" and {n - _NAMED} more" if n > _NAMED else "")
    text = f"{n} {'tag' if n == 1 else 'tags'} handed out on an earlier day not accounted for: {named}."
    yield {"code": "tags_unbalanced", "text": text, "outing": None, "n": n}
