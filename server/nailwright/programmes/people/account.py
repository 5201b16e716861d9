"""One's own account: made, named, its password, its sign-ins."""

from __future__ import annotations

from hashlib import sha256
from typing import Any

from django.contrib.auth.password_validation import validate_password
from django.contrib.auth.tokens import PasswordResetTokenGenerator
from django.core.exceptions import ValidationError
from django.db import IntegrityError, transaction

from nailwright.common.rows import new_id
from nailwright.programmes.models import ApiToken, CarryKey, Person, StreamTicket
from nailwright_core.common.errors import CoreError

#: Made of the password's hash and the last sign-in: good once, and for as long as PASSWORD_RESET_TIMEOUT says.
reset_links = PasswordResetTokenGenerator()


def make_person(username: str, name: str, password: str, email: str = "") -> Person:
    """A new person.

    Raises:
        CoreError: ``name_taken``, ``password_weak``.
    """
    person = Person(username=username.strip(), name=name.strip(), email=email)
    check_password(password, person)
    person.set_password(password)
    try:
        with transaction.atomic():
            person.save(force_insert=True)
    except IntegrityError as error:
        raise CoreError(
            "name_taken",
            f"Somebody signs in as '{person.username}' already. Choose another name to sign in with.",
            "username",
        ) from error
    return person


def check_password(password: str, person: Person) -> None:
    """Raises CoreError ``password_weak``, with all that is wrong with it."""
    try:
        validate_password(password, person)
    except ValidationError as wrong:
        raise CoreError("password_weak", " ".join(wrong.messages), "password") from wrong


def change_password(person: Person, old: str, new: str) -> None:
    """Set another password; every other sign-in of this person ends, and every token.

    Raises:
        CoreError: ``password_wrong``, ``password_weak``.
    """
    if not person.check_password(old):
        raise CoreError("password_wrong", "This is not the password that you have now.", "old")
    set_password(person, new)


def set_password(person: Person, new: str) -> None:
    """Set a password; all that opened the account before ends: sign-ins, tokens, tickets for a stream."""
    check_password(new, person)
    person.set_password(new)
    person.save(update_fields=["password"])
    sign_out_everywhere(person)


def change_account(person: Person, values: dict[str, Any]) -> Person:
    """Name, mail address, units and language of dates."""
    for name, value in values.items():
        setattr(person, name, value)
    person.save(update_fields=list(values))
    return person


def sign_out_everywhere(person: Person) -> None:
    """End every sign-in of a person, on whatever device, and every token and ticket that speaks for them."""
    person.sessions_since = new_id()
    person.save(update_fields=["sessions_since"])
    end_tokens(person)


def end_tokens(person: Person) -> None:
    """End every token that speaks for a person, every stream that is open for them, and every key of a lost device."""
    ApiToken.objects.filter(person=person).delete()
    StreamTicket.objects.filter(person=person).delete()
    CarryKey.objects.filter(person=person).delete()


def session_digest(session_key: str | None) -> str:
    """By which a ticket knows the sign-in that it came from; the key itself opens it and is kept nowhere else."""
    return sha256(session_key.encode()).hexdigest() if session_key else ""


def end_tickets_of(session_key: str | None) -> None:
    """End the streams of a sign-in that ends."""
    if session_key:
        StreamTicket.objects.filter(session=session_digest(session_key)).delete()


def reset_password(key: str, token: str, new: str) -> Person:
    """Set a password by a link that was sent or handed over; the link is good once.

    Raises:
        CoreError: ``link_spent``, ``password_weak``.
    """
    person = Person.objects.filter(pk=key, is_active=True).first()
    if person is None or not reset_links.check_token(person, token):
        raise CoreError("link_spent", "This link has been used or is too old. Ask for a new one.", "token")
    set_password(person, new)
    return person
