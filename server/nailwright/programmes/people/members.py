"""Who is in a programme: roles, numbers, leaving, and shutting out a device that was lost."""

from __future__ import annotations

from typing import Any

from django.db import transaction
from django.utils import timezone

from nailwright.programmes.models import Membership, Person, Programme, Role
from nailwright.programmes.people.account import end_tokens, reset_links, sign_out_everywhere
from nailwright.programmes.policies import require
from nailwright.programmes.record.audit import Act, apply_change
from nailwright_core.common.errors import CoreError


def change_member(act: Act, member: Membership, values: dict[str, Any]) -> Membership:
    """Another role or number, or that somebody has left or come back. A programme always has a lead.

    Args:
        values: any of ``role``, ``number``, ``here``.

    Raises:
        CoreError: ``last_lead``, ``number_taken``.
    """
    if values != {"here": False} or member.person_id != act.person.pk:  # anybody may leave by themselves
        require(act.person, member.programme, "lead")
    else:
        require(act.person, member.programme, "read")
    with transaction.atomic():
        # all of the programme's, so that two leads who leave at the same moment wait for each other
        rows = {each.pk: each for each in Membership.objects.select_for_update().filter(programme=member.programme)}
        locked = rows[member.pk]
        wanted = {name: value for name, value in values.items() if name != "here"}
        if "here" in values and values["here"] != (locked.left_at is None):
            wanted["left_at"] = None if values["here"] else timezone.now()
        after = {"role": locked.role, "left_at": locked.left_at, **wanted}
        leads = [each for each in rows.values() if each.role == Role.LEAD and each.left_at is None]
        if leads == [locked] and (after["role"] != Role.LEAD or after["left_at"] is not None):
            raise CoreError(
                "last_lead",
                f"{locked.person.name} is the only lead of {member.programme.name}. Make somebody else lead first.",
                "role",
            )
        number = wanted.get("number")
        if number and any(each.number == number and each.pk != locked.pk for each in rows.values()):
            raise CoreError("number_taken", f"Number {number} is somebody else's, maybe of one who has left.", "number")
        apply_change(act, member.programme, locked, wanted)
        if wanted.get("left_at"):
            # in another programme they stay signed in; a token that may be anywhere is made anew there
            elsewhere = Membership.present.filter(person=locked.person_id).exists()
            (end_tokens if elsewhere else sign_out_everywhere)(locked.person)
    return locked


def shut_out(person: Person, member: Membership) -> None:
    """End every sign-in of a member's, for a tablet that was lost or stolen; they sign in again with their password."""
    require(person, member.programme, "lead")
    sign_out_everywhere(member.person)


def password_link(person: Person, member: Membership, site: str) -> str:
    """A link by which a member who has no mail sets a new password; told to the lead, who hands it over.

    Raises:
        CoreError: ``elsewhere_too`` for one who is in a programme that this lead does not lead: it would open that, too.
    """
    require(person, member.programme, "lead")
    led = Programme.objects.filter(memberships__in=Membership.present.filter(person=person, role=Role.LEAD))
    if Membership.present.filter(person=member.person).exclude(programme__in=led).exists():
        raise CoreError(
            "elsewhere_too",
            f"{member.person.name} is in other programmes, too, which a link of yours would open. They can ask for one by mail.",
        )
    return link_for(member.person, site)


def link_for(person: Person, site: str) -> str:
    """The link by which a person sets a new password."""
    return f"{site}/password#{person.pk}.{reset_links.make_token(person)}"
