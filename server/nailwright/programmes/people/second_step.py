"""One-time codes as a second step of signing in (RFC 6238, by the library pyotp), and what helps when the phone is lost."""

from __future__ import annotations

import time
from typing import Any

import pyotp
import segno
from django.db import transaction

from nailwright.programmes.models import Person
from nailwright.programmes.people.secrets import digest_of_code, spoken_code
from nailwright_core.common.errors import CoreError

_STEP_S = 30
_RECOVERY_CODES = 8


def offer(person: Person) -> dict[str, Any]:
    """A new key for a code application, as text and as a picture; nothing changes until a code of it was typed."""
    key = pyotp.random_base32()
    address = pyotp.TOTP(key).provisioning_uri(name=person.username, issuer_name="Nailwright")
    return {"key": key, "picture": segno.make(address, error="m").svg_inline(scale=4, border=2)}


def begin(person: Person, key: str, code: str) -> list[str]:
    """From now on a code is asked for. Gives codes for when the phone is lost, told this once.

    Raises:
        CoreError: ``key_unreadable``, ``one_time_code_wrong``.
    """
    step = _step_of(key, code, 0)
    if step is None:
        raise _wrong()
    codes = [spoken_code() for _ in range(_RECOVERY_CODES)]
    person.second_step, person.second_step_last = key, step
    person.recovery_codes = [digest_of_code(each) for each in codes]
    person.save(update_fields=["second_step", "second_step_last", "recovery_codes"])
    return codes


def end(person: Person, code: str) -> None:
    """Ask for no code any more; needs one for the last time."""
    check(person, code)
    Person.objects.filter(pk=person.pk).update(second_step="", recovery_codes=[])


def check(person: Person, code: str) -> None:
    """Take a code, each but once.

    Raises:
        CoreError: ``one_time_code_wrong``.
    """
    with transaction.atomic():
        locked = Person.objects.select_for_update().get(pk=person.pk)  # the same code at the same moment counts once
        step = _step_of(locked.second_step, code, locked.second_step_last)
        if step is not None:
            locked.second_step_last = step
            locked.save(update_fields=["second_step_last"])
            return
        spent = digest_of_code(code)
        if spent not in locked.recovery_codes:
            raise _wrong()
        locked.recovery_codes = [each for each in locked.recovery_codes if each != spent]
        locked.save(update_fields=["recovery_codes"])


def _step_of(key: str, code: str, after: int) -> int | None:
    """The time step that a code is of: this one, the one before or the next; None where it is none, or was used."""
    typed = code.replace(" ", "")
    now = int(time.time()) // _STEP_S
    try:
        codes = {step: pyotp.TOTP(key).at(step * _STEP_S) for step in (now, now - 1, now + 1)}
    except ValueError as error:
        raise CoreError("key_unreadable", "Expected the key as it was shown.", "key") from error
    return next((step for step, each in codes.items() if step > after and pyotp.utils.strings_equal(each, typed)), None)


def _wrong() -> CoreError:
    told = "This code does not fit, or was used already. Wait for the next one; is the phone's clock right?"
    return CoreError("one_time_code_wrong", told, "code")
