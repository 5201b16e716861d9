"""What permits put into the document of an outing, as tablets hold it."""

from __future__ import annotations

from typing import Any

from nailwright.deck.models import Outing
from nailwright.permits.counting import allowances_for


def parts_of(outing: Outing) -> dict[str, Any]:
    """Allowances that hold on its day."""
    return {"allowances": allowances_for(outing)}
