"""Opening, closing and reopening an outing."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import date
from uuid import UUID

from django.db import transaction

from nailwright.common.database_retries import settled
from nailwright.deck.handling.releases import count_aboard
from nailwright.deck.handling.summary import renew_handling
from nailwright.deck.models import Gear, Handling, Handover, Outing, Run
from nailwright.deck.outing.checklists import needed_for
from nailwright.deck.outing.ledger import open_lines
from nailwright.deck.outing.visits import groups_are_old, visit_before
from nailwright.deck.tasks import group_lengths
from nailwright.programmes.models import Person, Programme
from nailwright.programmes.policies import require
from nailwright.programmes.protocols import standing_version
from nailwright.programmes.record.audit import Act, already_done, apply_change
from nailwright.programmes.record.receiving import key_taken
from nailwright.waters.models import Water
from nailwright_core.common.errors import CoreError


def open_outing(
    person: Person,
    programme: Programme,
    *,
    outing_id: UUID,
    water: Water,
    day: date,
    gear: str,
    more_gears: Sequence[str] = (),
    name: str = "",
    units: Mapping[str, str] | None = None,
) -> Outing:
    """Open an outing on one of the programme's waters, under the protocol that holds now; the checklists of its gear are asked for."""
    require(person, programme, "open_outing")
    if water.programme_id != programme.pk:
        raise CoreError("water_elsewhere", "This water belongs to another programme.", "water")
    values = {
        "programme": programme,
        "water": water,
        "date": day,
        "gear": gear,
        "more_gears": [each for each in dict.fromkeys(more_gears) if each != gear],
        "name": name or f"{water.name}, {Gear(gear).label.lower()}",
        "checklists": list(needed_for(gear, *more_gears)),
        "protocol": standing_version(programme),
        "opened_by": person,
        **(units or {}),
    }
    # a second touch finds what the first one made, also where it is a moment faster
    outing, _ = settled(lambda: Outing.objects.get_or_create(pk=outing_id, defaults=values))
    if outing.programme_id != programme.pk:
        raise key_taken("outing")
    before = visit_before(outing)
    if before and groups_are_old(before):
        group_lengths.enqueue(str(before.pk))
    return outing


def close_outing(act: Act, outing: Outing, name: str = "", note: str = "") -> Outing:
    """Close an outing whose runs have all ended and whose fish have all left; who hands it over signs with a name.

    Of two who close it at the same moment the first one's signature stands.
    """
    require(act.person, outing.programme, "close_outing")
    outing.must_be_theirs(act.person)
    with transaction.atomic():
        locked = Outing.objects.select_for_update().get(pk=outing.pk)
        if already_done(act):
            return locked
        running = Run.present.filter(outing=locked, ended_at=None).order_by("number").first()
        if running:
            raise CoreError(
                "run_still_going", f"Run {running.number} has not ended. End it, then close the outing.", "state"
            )
        aboard = count_aboard(locked)
        if aboard:
            raise CoreError(
                "fish_aboard",
                f"{aboard} fish came aboard and have not left: say of each how it was released, then close the outing.",
                "state",
            )
        lines = open_lines(locked)
        if apply_change(act, locked.programme, locked, {"state": Outing.State.CLOSED}):
            Handover.objects.create(
                id=act.id, outing=locked, name=name or act.person.name, note=note, lines=lines, person=act.person, at=act.device_time
            )  # fmt: skip
    return locked


def reopen_outing(act: Act, outing: Outing) -> Outing:
    """Open a closed outing again."""
    require(act.person, outing.programme, "reopen_outing")
    with transaction.atomic():
        locked = Outing.objects.select_for_update().get(pk=outing.pk)
        if not already_done(act):
            apply_change(act, locked.programme, locked, {"state": Outing.State.OPEN})
    return locked


def go_by_protocol(act: Act, outing: Outing) -> Outing:
    """Let an outing that is still open go by the protocol that holds now; what it went by before stands in its history.

    Raises:
        CoreError: ``outing_closed``.
    """
    require(act.person, outing.programme, "plan")
    with transaction.atomic():
        locked = Outing.objects.select_for_update().get(pk=outing.pk)
        if not already_done(act):
            locked.must_be_open(act)
            apply_change(act, locked.programme, locked, {"protocol": standing_version(locked.programme)})
            # which lanes lie in air is the protocol's word
            renew_handling(Handling.objects.filter(capture__run__outing=locked).values_list("pk", flat=True))
    return locked
