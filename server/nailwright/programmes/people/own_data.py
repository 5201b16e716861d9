"""What is stored about a person, and forgetting them: the name goes, the record stays.

Names stand as plain text, too, in tables of higher rooms (whose name is under a checklist). Such a room has a module
``forgetting`` with ``replace_name(old, new, programmes)``; nothing here has to know of it.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from functools import cache
from typing import Any

from django.apps import apps
from django.db import models, transaction
from django.utils import timezone

from nailwright.common.discovery import in_each_app
from nailwright.common.errors import Refused
from nailwright.common.rows import new_id
from nailwright.programmes.models import (
    ApiToken,
    Invitation,
    Membership,
    Person,
    Programme,
    Role,
    ShortCode,
    WrongPassword,
)
from nailwright.programmes.people.account import sign_out_everywhere
from nailwright.programmes.people.beginning import DEMO_PREFIX
from nailwright.programmes.people.members import change_member
from nailwright.programmes.people.short_codes import set_short_code
from nailwright.programmes.policies import require
from nailwright.programmes.record.audit import Act, note_change
from nailwright_core.common.errors import CoreError

FORGOTTEN = "Forgotten person"
#: Keys of rows told of each table; beyond that only their number.
MOST_KEYS = 50_000

ReplaceName = Callable[[str, str, Iterable[Programme]], None]


def data_of(person: Person) -> dict[str, Any]:
    """Everything that is stored about a person, as JSON can hold it; no secret of theirs."""
    return {
        "made": timezone.now().isoformat(timespec="seconds"),
        "account": {
            name: getattr(person, name)
            for name in ("id", "username", "name", "email", "length_unit", "mass_unit", "date_language", "date_joined", "last_login")
        }
        | {"second_step": bool(person.second_step)},
        "memberships": list(
            person.memberships.values("programme__name", "role", "number", "joined_at", "left_at").order_by("joined_at")
        ),
        "tokens": list(person.api_tokens.values("name", "scope", "made_at", "ends_at", "last_used_at")),
        "wrong_passwords": list(WrongPassword.objects.filter(name=person.username).values("at", "address")),
        "invitations": list(
            Invitation.objects.filter(models.Q(used_by=person) | models.Q(inviter=person)).values("name", "email", "role", "made_at")
        ),
        "rows_that_name_you": _rows_naming(person),
    }  # fmt: skip


def _rows_naming(person: Person) -> list[dict[str, Any]]:
    told = []
    for model, field in _naming():
        rows = model._base_manager.filter(**{field: person})
        if n := rows.count():
            keys = [str(key) for key in rows.order_by("pk").values_list("pk", flat=True)[:MOST_KEYS]]
            told.append({"table": model._meta.db_table, "as": field, "rows": n, "keys": keys})
    return told


@cache
def _naming() -> tuple[tuple[type[models.Model], str], ...]:
    """Every column that names a person, in tables of the application's own."""
    return tuple(
        (model, field.name)
        for model in apps.get_models()
        if model.__module__.startswith("nailwright.") and model not in (Membership, ApiToken, ShortCode)
        for field in model._meta.concrete_fields
        if field.related_model is Person
    )


def forget_myself(act: Act, password: str) -> None:
    """Be forgotten: whoever asks types their password.

    Raises:
        CoreError: ``password_wrong``, ``last_lead``. Refused: ``demo_person``.
    """
    if not act.person.check_password(password):
        raise CoreError("password_wrong", "This is not the password that you have now.", "password")
    forget(act, act.person)


def forget_member(act: Act, member: Membership) -> None:
    """Forget somebody who has left, where law wants it.

    Raises:
        CoreError: ``still_here``, ``elsewhere_too``. Refused: for whoever does not lead the programme.
    """
    require(act.person, member.programme, "lead")
    if member.left_at is None:
        raise CoreError("still_here", f"{member.person.name} is still a member. Let them leave first.", "here")
    led = Programme.objects.filter(memberships__in=Membership.present.filter(person=act.person, role=Role.LEAD))
    if member.person.memberships.exclude(programme__in=led).exists():
        raise CoreError(
            "elsewhere_too",
            f"{member.person.name} is or was in other programmes, too. Only they themselves can be forgotten in all of them: "
            "under their name, My account.",
        )
    forget(act, member.person)


@transaction.atomic
def forget(act: Act, person: Person) -> None:
    """The name, the account and all that opens it go; what they recorded stays, under another name."""
    if person.username.startswith(DEMO_PREFIX):
        raise Refused("demo_person", "The demo's people are made up; there is nobody to forget.")
    old, programmes = person.name, list(Programme.objects.filter(memberships__person=person).distinct())
    for member in Membership.present.filter(person=person).select_related("programme"):
        change_member(Act(new_id(), person, act.device_time), member, {"here": False})
    sign_out_everywhere(person)
    set_short_code(person, "")
    WrongPassword.objects.filter(name=person.username).delete()
    Invitation.objects.filter(used_by=person).update(name=FORGOTTEN, email="")
    person.memberships.update(number="")
    person.name, person.username, person.email, person.is_active = FORGOTTEN, f"forgotten-{new_id().hex}", "", False
    person.second_step, person.recovery_codes, person.last_login = "", [], None
    person.set_unusable_password()
    person.save()
    for replace_name in in_each_app("forgetting", "replace_name"):
        replace_name(old, FORGOTTEN, programmes)
    for programme in programmes:
        # that it was done stands in the history; what was forgotten does not
        note_change(act.part(programme.pk), programme, person, {}, {"forgotten": True})
