"""Who may listen: a ticket that the application signs, good for a day or until the sign-in ends that it came from.

The gateway asks the database whether a ticket still stands. On a boat without a signal it cannot, and goes by the signature alone:
the Deck hears its instruments there as well.
"""

from __future__ import annotations

import os
from dataclasses import dataclass
from datetime import timedelta
from uuid import UUID

from django.core import signing
from django.db import Error
from django.utils import timezone

from nailwright.programmes.models import Person, StreamTicket
from nailwright.programmes.people.account import session_digest

_SALT = "nailwright.gateway"
_GOOD_FOR = timedelta(days=1)


@dataclass(frozen=True)
class Where:
    """Where the gateway is, as a browser reaches it; empty where there is none. ``plays``: its instruments are stand-ins."""

    address: str
    plays: bool


def gateway() -> Where:
    """From NAILWRIGHT_GATEWAY_URL and NAILWRIGHT_STANDINS."""
    return Where(os.environ.get("NAILWRIGHT_GATEWAY_URL", "").rstrip("/"), bool(os.environ.get("NAILWRIGHT_STANDINS")))


def make_ticket(person: Person, session_key: str | None) -> str:
    """A ticket for a stream, bound to the sign-in by which it was asked for."""
    StreamTicket.objects.filter(made_at__lt=timezone.now() - _GOOD_FOR).delete()
    row = StreamTicket.objects.create(person=person, session=session_digest(session_key))
    return signing.dumps(str(row.pk), salt=_SALT)


def read_ticket(text: str) -> UUID | None:
    """The key of a ticket that is one of ours and not too old."""
    try:
        return UUID(signing.loads(text, salt=_SALT, max_age=_GOOD_FOR))
    except (signing.BadSignature, ValueError, TypeError, AttributeError):
        return None


def has_ended(key: UUID) -> bool:
    """Whether the sign-in of a ticket has ended; where the database does not answer it has not. Waits for the database."""
    try:
        return not StreamTicket.objects.filter(pk=key, person__is_active=True).exists()
    except Error:
        return False
