"""What a programme is made of, as its screens show it."""

from __future__ import annotations

from typing import Any

from django.utils import timezone

from nailwright.programmes.models import Person, Programme, Role
from nailwright.programmes.species.known import species_of
from nailwright_core.common.species import OTHER


def people_of(person: Person, programme: Programme) -> dict[str, Any]:
    """Those who are here, those who left, and to a lead the invitations that are still good.

    Mail addresses are for leads alone.
    """
    members = programme.memberships.select_related("person").order_by("left_at", "joined_at", "pk")
    leads = any(each.person_id == person.pk and each.role == Role.LEAD and not each.left_at for each in members)
    open_ones = programme.invitations.filter(used_at=None, withdrawn_at=None, ends_at__gt=timezone.now())
    return {
        "members": [_member(each, leads) for each in members],
        "invitations": open_ones.select_related("inviter") if leads else [],
    }


def _member(row: Any, with_mail: bool) -> Any:
    row.email = row.person.email if with_mail else ""
    return row


def species_lists(programme: Programme) -> dict[str, Any]:
    """The list as it is called, species that were on it, and all that are known here."""
    rows = list(programme.species.all())
    return {
        "listed": [each.code for each in rows if each.retired_at is None],
        "retired": [each.code for each in rows if each.retired_at],
        "own": [each.code for each in rows if each.own is not None],
        "known": [kind for kind in species_of(programme).values() if kind.code != OTHER.code],
    }
