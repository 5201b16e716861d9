"""Short codes, by which another of the crew takes over a shared tablet."""

from __future__ import annotations

import hashlib
import re
import secrets
from itertools import pairwise
from typing import Any

from nailwright.programmes.models import Membership, Person, Programme, ShortCode
from nailwright.programmes.policies import WORKING
from nailwright_core.common.errors import CoreError

#: Enough to slow down guessing on a lost tablet, and little enough for the tablet itself (PBKDF2, RFC 8018, with SHA-256).
ROUNDS = 60_000
_CODE = re.compile(r"[0-9]{4,8}")


def digest_of(code: str, salt: str, rounds: int) -> str:
    """The digest that a tablet compares with, as hexadecimal."""
    return hashlib.pbkdf2_hmac("sha256", code.encode(), bytes.fromhex(salt), rounds).hex()


def set_short_code(person: Person, code: str) -> None:
    """Another short code, or none where it is empty.

    Raises:
        CoreError: ``code_weak``.
    """
    if not code:
        ShortCode.objects.filter(person=person).delete()
        return
    steps = {int(b) - int(a) for a, b in pairwise(code)} if _CODE.fullmatch(code) else {0}
    if len(steps) == 1 and steps <= {0, 1, -1}:
        raise CoreError("code_weak", "Expected 4 to 8 figures, neither all the same nor in a row such as 1234.", "code")
    salt = secrets.token_hex(16)
    told = {"salt": salt, "digest": digest_of(code, salt, ROUNDS), "rounds": ROUNDS}
    ShortCode.objects.update_or_create(person=person, defaults=told)


def crew_codes(programme: Programme) -> list[dict[str, Any]]:
    """Who can take over a tablet of the programme, with what the tablet needs to know them by."""
    working = Membership.present.filter(programme=programme, role__in=WORKING)
    rows = working.exclude(person__short_code=None).select_related("person__short_code").order_by("person__name")
    return [
        {
            "person": each.person_id,
            "name": each.person.name,
            "salt": each.person.short_code.salt,
            "digest": each.person.short_code.digest,
            "rounds": each.person.short_code.rounds,
        }
        for each in rows
    ]
