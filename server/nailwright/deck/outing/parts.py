"""What rooms above the deck put into the document of an outing: each has it in its ``outing_parts.py``."""

from __future__ import annotations

from typing import Any

from nailwright.common.discovery import in_each_app
from nailwright.deck.models import Outing


def from_rooms_above(outing: Outing) -> dict[str, Any]:
    """Their parts by name, as ``DeckSerializer`` has them."""
    return {
        name: part for parts_of in in_each_app("outing_parts", "parts_of") for name, part in parts_of(outing).items()
    }
