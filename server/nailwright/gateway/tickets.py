"""Who may listen: a ticket that the application signs for a person and an outing, good for a day."""

from __future__ import annotations

import os
from dataclasses import dataclass

from django.core import signing

_SALT = "nailwright.gateway"
_GOOD_FOR_S = 86_400


@dataclass(frozen=True)
class Where:
    """Where the gateway is, as a browser reaches it; empty where there is none. ``plays``: its instruments are stand-ins."""

    address: str
    plays: bool


def gateway() -> Where:
    """From NAILWRIGHT_GATEWAY_URL and NAILWRIGHT_STANDINS."""
    return Where(os.environ.get("NAILWRIGHT_GATEWAY_URL", "").rstrip("/"), bool(os.environ.get("NAILWRIGHT_STANDINS")))


def ticket(outing: str, person: str) -> str:
    """A ticket for a stream."""
    return signing.dumps({"outing": outing, "person": person}, salt=_SALT)


def is_good(text: str) -> bool:
    """Whether a ticket is one of ours and not too old."""
    try:
        signing.loads(text, salt=_SALT, max_age=_GOOD_FOR_S)
    except signing.BadSignature:
        return False
    return True
