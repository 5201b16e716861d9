"""Entries that somebody else carries to a signal in a file: signed by the sign-in under which they were made, or not.

Each sign-in has a key of its own, which its device keeps. A signed entry stands as whose it was; one that is not stands under whoever
brings it, with the name said in which it came: anybody can write a file.
"""

from __future__ import annotations

import hmac
import json
import secrets
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any
from uuid import UUID

from nailwright.programmes.models import CarryKey, Person
from nailwright.programmes.people.account import session_digest
from nailwright_core.common.errors import CoreError


@dataclass(frozen=True)
class Claim:
    """Whose a carried entry says that it is, and whether its signature bears that out."""

    person: str
    signed: bool


def carry_key(person: Person, session_key: str | None) -> CarryKey:
    """The key with which a sign-in's device signs what it writes into a file."""
    made = {"secret": secrets.token_hex(32)}
    found = CarryKey.objects.filter(person=person, session=session_digest(session_key)).first()
    return found or CarryKey.objects.create(person=person, session=session_digest(session_key), **made)


def opened(operation: Mapping[str, Any]) -> tuple[Mapping[str, Any], Claim | None]:
    """An entry as it was made, and whose it claims to be where it was carried.

    Raises:
        CoreError: ``carried_unreadable``.
    """
    carried = operation.get("carried")
    if carried is None:
        return operation, None
    try:
        key, mac, text = (str(carried[name]) for name in ("key", "mac", "text"))
        inside = json.loads(text)
        person, own = str(inside["person"]).lower(), str(inside["id"])
    except (ValueError, TypeError, KeyError, RecursionError) as error:
        raise CoreError(
            "carried_unreadable", "Expected a carried entry with its key, mac and text.", "carried"
        ) from error
    if own != str(operation.get("id")):
        raise CoreError("carried_unreadable", "Expected a carried entry under its own key.", "carried")
    return inside, Claim(person, _is_signed(key, mac, text, person))


def _is_signed(key: str, mac: str, text: str, person: str) -> bool:
    try:
        row = CarryKey.objects.filter(pk=UUID(key), person=UUID(person)).first()
    except ValueError:
        return False
    made = hmac.new(bytes.fromhex(row.secret), text.encode("utf-8", "surrogatepass"), "sha256") if row else None
    return made is not None and hmac.compare_digest(made.hexdigest(), mac.lower())
