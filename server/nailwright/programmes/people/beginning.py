"""The first account of an installation, and programmes that are begun."""

from __future__ import annotations

from typing import Any
from zoneinfo import available_timezones

from django.db import transaction
from django.utils import timezone

from nailwright.common.errors import Refused
from nailwright.programmes.models import FirstCode, Membership, Person, Programme, Role
from nailwright.programmes.people.account import make_person
from nailwright.programmes.people.secrets import digest_of_code, same_code, spoken_code
from nailwright.programmes.policies import require
from nailwright.programmes.record.audit import Act, apply_change
from nailwright_core.common.errors import CoreError

#: Demo people sign in by one touch and own nothing.
DEMO_PREFIX = "demo-"


def demo_people() -> Any:
    """The people of the made-up basin."""
    return Person.objects.filter(username__startswith=DEMO_PREFIX).order_by("date_joined")


def is_claimed() -> bool:
    """Whether somebody real has an account here."""
    return Person.objects.exclude(username__startswith=DEMO_PREFIX).exists()


def new_first_code() -> str | None:
    """A code for whoever starts the server to make the first account with; the one before ends. None once that is done."""
    if is_claimed():
        return None
    code = spoken_code()
    told = {"digest": digest_of_code(code), "made_at": timezone.now(), "used_at": None}
    FirstCode.objects.update_or_create(pk=1, defaults=told)
    return code


def claim(code: str, person: dict[str, Any], programme: dict[str, Any]) -> Person:
    """Make the first account, a lead's, and its programme; all or nothing, and once.

    Raises:
        Refused: ``already_claimed``. CoreError: ``code_wrong``, and as ``make_person`` and ``begin``.
    """
    with transaction.atomic():
        row = FirstCode.objects.select_for_update().filter(pk=1).first()  # of two at once, the second waits here
        if is_claimed():
            raise Refused(
                "already_claimed", "This installation has its first account already. Ask its lead to invite you."
            )
        if row is None or not same_code(code, row.digest):
            raise CoreError(
                "code_wrong",
                "This is not the code that the server printed when it started last. Look there, or start it again for a new one.",
                "code",
            )
        made = make_person(**person)
        begin(made, programme)
        row.used_at = timezone.now()
        row.save(update_fields=["used_at"])
    return made


def begin_another(person: Person, programme: dict[str, Any]) -> Programme:
    """A further programme, led by whoever begins it; for those who lead one already.

    Raises:
        Refused: ``role_may_not``, ``demo_person``.
    """
    if person.username.startswith(DEMO_PREFIX):
        raise Refused("demo_person", "The demo's people are made up. Sign out and make an account of your own first.")
    if not Membership.present.filter(person=person, role=Role.LEAD).exists():
        raise Refused("role_may_not", "A programme is begun by somebody who leads one already. Ask your lead.")
    with transaction.atomic():
        return begin(person, programme)


def begin(person: Person, programme: dict[str, Any]) -> Programme:
    check_time_zone(programme["time_zone"])
    if Programme.objects.filter(name__iexact=programme["name"], memberships__person=person).exists():
        raise CoreError("programme_there", f"You have a programme called {programme['name']} already.", "name")
    made = Programme.objects.create(**programme)
    Membership.objects.create(programme=made, person=person, role=Role.LEAD)
    return made


def change_programme(act: Act, programme: Programme, values: dict[str, Any]) -> Programme:
    """Name, time zone, units and language of dates. Waters that were in the programme's zone move with it."""
    require(act.person, programme, "lead")
    if "time_zone" in values:
        check_time_zone(values["time_zone"])
    with transaction.atomic():
        locked = Programme.objects.select_for_update().get(pk=programme.pk)
        before = locked.time_zone
        apply_change(act, locked, locked, values)
        if locked.time_zone != before:
            for water in locked.waters.select_for_update().filter(time_zone=before):
                apply_change(act.part(water.pk), locked, water, {"time_zone": locked.time_zone})
    return locked


def check_time_zone(name: str) -> None:
    """Raises CoreError ``time_zone_unknown``."""
    if name not in available_timezones():
        raise CoreError(
            "time_zone_unknown",
            f"There is no time zone '{name}'. Expected a name such as Europe/Oslo, America/Chicago or UTC.",
            "time_zone",
        )
