"""Whether a permit or certificate is valid on a day."""

from __future__ import annotations

from datetime import date, timedelta

from nailwright.permits.models import Permit

#: So many days before it expires it is warned of.
WARN_DAYS = 60


def permit_state(permit: Permit, day: date) -> str:
    """ "expired", "soon", "not yet" or "valid" on a day."""
    if permit.last < day:
        return "expired"
    if permit.first > day:
        return "not yet"
    return "soon" if permit.last - day <= timedelta(days=WARN_DAYS) else "valid"
