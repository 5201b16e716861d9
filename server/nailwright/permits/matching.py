"""To which permit an allowance belonged while it named one by text (before version 0.10)."""

from __future__ import annotations

from collections.abc import Iterable
from typing import TypeVar
from uuid import UUID, uuid5

Key = TypeVar("Key")


def matching_permit(text: str, permits: Iterable[tuple[Key, str, str]]) -> Key | None:
    """The first permit (key, name, number) that is so called or has that number."""
    wanted = text.strip().lower()
    return next(
        (key for key, name, number in permits if wanted in (name.strip().lower(), number.strip().lower())), None
    )


def key_of_new_permit(programme: UUID, text: str) -> UUID:
    """Key of a permit that only its allowances named: the same each time, so that an archive imported twice adds it once."""
    return uuid5(programme, f"permit {text.strip().lower()}")
