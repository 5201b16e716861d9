"""Guessing passwords is slow: wrong ones are counted for a name at an address, for an address, and for a name."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from datetime import timedelta

from django.contrib.auth import authenticate
from django.db.models import QuerySet
from django.http import HttpRequest
from django.utils import timezone

from nailwright.common.address import address_of
from nailwright.common.errors import Refused
from nailwright.programmes.models import Person, WrongPassword
from nailwright.programmes.people import second_step
from nailwright_core.common.errors import CoreError

#: Wrong passwords within the window after which it is waited. One person mistypes; an office shares an address; a name that is
#: tried from everywhere is guessed at, and its owner waits only where very many have tried.
WINDOW = timedelta(minutes=15)
OF_NAME_AT_ADDRESS, OF_ADDRESS, OF_NAME, OF_CODE = 10, 40, 200, 10


def sign_in_with(request: HttpRequest, username: str, password: str, code: str = "") -> Person:
    """The person with this name and password, and with a one-time code where they have a second step.

    Raises:
        Refused: ``too_many_tries``. CoreError: ``sign_in_failed``, ``code_needed``, ``one_time_code_wrong``.
    """
    with counted(request, username):
        person = authenticate(request, username=username, password=password)
        if not isinstance(person, Person):
            told = "Name and password do not go together. Check both and try again."
            raise CoreError("sign_in_failed", told, "password")
        if person.second_step and code:
            # who comes here knows the password: of a million codes three are good at a time, so few may be tried from anywhere
            with counted(request, f"code of {username}", OF_CODE):
                second_step.check(person, code)
    if person.second_step and not code:
        raise CoreError(
            "code_needed", "Type the code that your phone shows now, or one of those you wrote down.", "code"
        )
    # only now: who knows the password alone must not start the counting of codes anew
    WrongPassword.objects.filter(name=_counted_name(username), address=address_of(request)).delete()
    return person


@contextmanager
def counted(request: HttpRequest, name: str, most: int = OF_NAME) -> Iterator[None]:
    """A try to open something with a word that may be guessed at: a refusal within counts, and too many are not tried, ``most`` for a
    name from wherever they come.

    Raises:
        Refused: ``too_many_tries``.
    """
    address, name = address_of(request), _counted_name(name)
    tries = WrongPassword.objects.filter(at__gt=timezone.now() - WINDOW)
    at_address, of_name = tries.filter(address=address), tries.filter(name=name)
    if _many(at_address.filter(name=name), OF_NAME_AT_ADDRESS) or _many(at_address, OF_ADDRESS) or _many(of_name, most):
        raise Refused("too_many_tries", "Too many wrong passwords or codes. Wait a quarter of an hour, then try again.")
    try:
        yield
    except CoreError:
        WrongPassword.objects.create(name=name, address=address)
        WrongPassword.objects.filter(at__lt=timezone.now() - 2 * WINDOW).delete()
        raise


def _counted_name(name: str) -> str:
    return name.lower()[:150]


def _many(tries: QuerySet[WrongPassword], limit: int) -> bool:
    return tries.count() >= limit
