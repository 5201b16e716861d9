"""Inviting people: a link that is good once, for one role, for two weeks."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

from django.db import transaction
from django.utils import timezone

from nailwright.common.rows import new_id
from nailwright.programmes.models import Invitation, Membership, Person, Programme, Role
from nailwright.programmes.people.account import make_person
from nailwright.programmes.people.mail import send_mail
from nailwright.programmes.people.secrets import digest, long_key
from nailwright.programmes.policies import require
from nailwright.programmes.record.audit import Act, apply_change
from nailwright_core.common.errors import CoreError

GOOD_FOR = timedelta(days=14)


def invite(
    person: Person, programme: Programme, name: str, role: str, email: str, site: str
) -> tuple[Invitation, str, bool]:
    """Invite somebody.

    Args:
        site: where this installation is reached, such as https://fish.example.org; the link begins with it.

    Returns:
        The invitation; its link, which is told this once; whether it went out by mail.

    Raises:
        CoreError: ``already_in`` where the mail address is a member's.
    """
    require(person, programme, "lead")
    there = Membership.present.filter(programme=programme, person__email__iexact=email).select_related("person").first()
    if email and there:
        told = f"{there.person.name} has this address and is in already, as {there.get_role_display().lower()}."
        raise CoreError("already_in", told, "email")
    key = long_key()
    row = Invitation.objects.create(
        programme=programme, digest=digest(key), name=name.strip(), email=email, role=role, inviter=person,
        ends_at=timezone.now() + GOOD_FOR,
    )  # fmt: skip
    link = f"{site}/join#{key}"
    text = (
        f"{person.name} invites you to {programme.name} as {Role(role).label.lower()}.\n\n"
        f"Open this link to choose your name and password; it is good once, until {row.ends_at:%d %b %Y}:\n\n{link}\n\n"
        "If you do not know what this is about, throw it away: nothing happens.\n"
    )
    return row, link, bool(email) and send_mail(email, f"Invitation to {programme.name}", text)


def withdraw(person: Person, invitation: Invitation) -> Invitation:
    """Take an invitation back that nobody has used yet."""
    require(person, invitation.programme, "lead")
    with transaction.atomic():
        locked = Invitation.objects.select_for_update().get(pk=invitation.pk)
        if locked.used_at:
            raise CoreError("invitation_used", f"{locked.name} has come in already; end their membership instead.")
        locked.withdrawn_at = locked.withdrawn_at or timezone.now()
        locked.save(update_fields=["withdrawn_at"])
    return locked


def look_at(key: str) -> Invitation:
    """The invitation that a link holds, while it can be used.

    Raises:
        CoreError: ``invitation_unknown``, ``invitation_used``, ``invitation_withdrawn``, ``invitation_over``.
    """
    return _usable(Invitation.objects.select_related("programme", "inviter"), key)


def accept(key: str, signed_in: Person | None, person: dict[str, Any] | None) -> Person:
    """Come in, as who is signed in or as somebody new.

    Raises:
        CoreError: as ``look_at`` and ``make_person``; ``already_in``; ``person_missing``.
    """
    with transaction.atomic():
        row = _usable(Invitation.objects.select_for_update().select_related("programme", "inviter"), key)
        if signed_in is None and person is None:
            raise CoreError("person_missing", "Expected a name and a password for your account.", "username")
        comer = signed_in or make_person(**(person or {}), email=row.email)
        there = Membership.objects.filter(programme=row.programme, person=comer).first()
        if there and there.left_at is None:
            told = f"You are in {row.programme.name} already, as {there.get_role_display().lower()}. The link is still good for somebody else."
            raise CoreError("already_in", told)
        if there:  # who left comes back with their number and their name
            act = Act(new_id(), comer, timezone.now(), f"back by an invitation of {row.inviter.name}")
            apply_change(act, row.programme, there, {"role": row.role, "left_at": None, "joined_at": timezone.now()})
        else:
            Membership.objects.create(programme=row.programme, person=comer, role=row.role)
        row.used_at, row.used_by = timezone.now(), comer
        row.save(update_fields=["used_at", "used_by"])
    return comer


def _usable(rows: Any, key: str) -> Invitation:
    row: Invitation | None = rows.filter(digest=digest(key)).first()
    again = "Ask for a new one."
    if row is None:
        raise CoreError("invitation_unknown", f"This invitation does not exist. Was the link copied whole? {again}")
    if row.used_at:
        raise CoreError(
            "invitation_used", f"This invitation has been used. If it was not by you, tell {row.inviter.name}."
        )
    if row.withdrawn_at:
        raise CoreError("invitation_withdrawn", f"This invitation was taken back. {again}")
    if row.ends_at < timezone.now():
        raise CoreError("invitation_over", f"This invitation was good until {row.ends_at:%d %b %Y}. {again}")
    return row
