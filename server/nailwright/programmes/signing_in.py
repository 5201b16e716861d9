"""Guessing passwords is slow: wrong ones are counted for a name at an address, for an address, and for a name."""

from __future__ import annotations

from datetime import timedelta

from django.contrib.auth import authenticate
from django.db.models import QuerySet
from django.http import HttpRequest
from django.utils import timezone

from nailwright.common.address import address_of
from nailwright.common.errors import Refused
from nailwright.programmes.models import Person, WrongPassword
from nailwright_core.common.errors import CoreError

#: Wrong passwords within the window after which it is waited. One person mistypes; an office shares an address; a name that is
#: tried from everywhere is guessed at, and its owner waits only where very many have tried.
WINDOW = timedelta(minutes=15)
OF_NAME_AT_ADDRESS, OF_ADDRESS, OF_NAME = 10, 40, 200


def sign_in_with(request: HttpRequest, username: str, password: str) -> Person:
    """The person with this name and password.

    Raises:
        Refused: ``too_many_tries``. CoreError: ``sign_in_failed``.
    """
    address, name = address_of(request), username.lower()[:150]
    tries = WrongPassword.objects.filter(at__gt=timezone.now() - WINDOW)
    at_address, of_name = tries.filter(address=address), tries.filter(name=name)
    own = at_address.filter(name=name)
    if _many(own, OF_NAME_AT_ADDRESS) or _many(at_address, OF_ADDRESS) or _many(of_name, OF_NAME):
        raise Refused("too_many_tries", "Too many wrong passwords. Wait a quarter of an hour, then try again.")
    person = authenticate(request, username=username, password=password)
    if not isinstance(person, Person):
        WrongPassword.objects.create(name=name, address=address)
        WrongPassword.objects.filter(at__lt=timezone.now() - 2 * WINDOW).delete()
        raise CoreError("sign_in_failed", "Name and password do not go together. Check both and try again.", "password")
    own.delete()
    return person


def _many(tries: QuerySet[WrongPassword], limit: int) -> bool:
    return tries.count() >= limit
