"""What tablets and phones send, read: one entry whose form is right, by whom, and when by which clock."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any
from uuid import UUID

from django.utils import timezone

from nailwright.common.fields import check_key, read_id, read_time, read_word
from nailwright.programmes.models import Membership, Person, Programme
from nailwright.programmes.record.audit import Act, put_right
from nailwright.programmes.record.carrying import Claim, opened
from nailwright.programmes.record.operations import Kind, Row, kind_named, kinds
from nailwright_core.common.errors import CoreError

#: A difference below this is the way of the request through the air, not the clock.
CLOCK_TOLERANCE_S = 5.0
_FAR_CLOCK_S = 100 * 365 * 86_400.0
#: What lies further back, or more than a day ahead, was written by a clock that had lost its time: a tablet may lie in a drawer
#: over winter, not for years.
_LONGEST_BACK, _LONGEST_AHEAD = timedelta(days=3 * 366), timedelta(days=1)


@dataclass(frozen=True)
class Entry:
    """One entry whose form is right."""

    act: Act
    kind: Kind
    #: Name of the kind as it was sent.
    name: str
    row: Row
    digest: str
    #: Of whoever had taken over the tablet, or made an entry that another carries; None where its own person calls.
    caller_role: str | None = None
    #: Whose a carried entry says that it is, unsigned.
    in_name_of: UUID | None = None


class Held(CoreError):
    """An entry whose time cannot be right; everything else of it can."""


Callers = Mapping[str, Membership]
Made = tuple[Mapping[str, Any], Claim | None]


def opened_entry(operation: Mapping[str, Any]) -> Made | CoreError:
    """An entry with what is claimed of whoever made it, where another tablet carries it."""
    try:
        return opened(operation)
    except CoreError as refused:
        return refused


def callers_of(programme: Programme, made: Sequence[Made | CoreError]) -> Callers:
    """Members who had taken over the tablet, or made what another carries, by their keys as texts. One who has left since was one
    then."""
    entries = [each for each in made if not isinstance(each, CoreError)]
    keys = {str(operation["by"]).lower() for operation, _ in entries if operation.get("by")}
    keys |= {claim.person for _, claim in entries if claim}
    valid = [UUID(key) for key in keys if is_key(key)]
    found = Membership.objects.filter(programme=programme, person__in=valid).select_related("person") if valid else ()
    return {str(each.person_id): each for each in found}


def is_key(text: str) -> bool:
    """Whether a text is a key as clients make them."""
    try:
        check_key(UUID(text))
    except (ValueError, CoreError):
        return False
    return True


def read_entry(
    person: Person, operation: Mapping[str, Any], claim: Claim | None, offset_s: float, callers: Callers
) -> Entry | CoreError:
    """An entry whose form is right, or what is wrong with it.

    Args:
        person: who sends it. offset_s: how far the device's clock is behind, where the entry does not say.
    """
    try:
        name = str(operation.get("kind"))
        kind = kind_named(name)
        if kind is None:
            known = ", ".join(sorted(kinds()))
            raise CoreError("kind_unknown", f"Expected a kind of {known}; got {operation.get('kind')!r:.60}.", "kind")
        moment = read_time(operation, "device_time") if "device_time" in operation else timezone.now()
        own = operation.get("clock_offset_s")
        if own is not None:
            if isinstance(own, bool) or not isinstance(own, int | float) or not abs(own) < _FAR_CLOCK_S:
                raise CoreError(
                    "number_out_of_range",
                    f"Expected clock_offset_s as seconds that the device's clock is behind; got {own!r:.60}.",
                    "clock_offset_s",
                )
            offset_s = float(own)
        row = operation.get("row")
        if not isinstance(row, Mapping):
            raise CoreError(
                "row_missing", f"Expected the operation's row as an object; got {type(row).__name__}.", "row"
            )
        reason = read_word(operation, "reason", 200)
        digest = digest_of(name, operation.get("device_time"), row)  # as it was sent, whatever release sends it again
        caller, claimed = None, None
        by = operation.get("by")
        if claim:
            claimed = callers.get(claim.person)
            by = (by or claim.person) if claim.signed else None
        if by:
            caller = callers.get(str(by).lower())
            if caller is None:
                raise CoreError("caller_unknown", "Whoever called this was never a member of the programme.", "by")
        who = caller.person if caller else person
        act = Act(
            read_id(operation, "id"), who, put_right(moment, offset_s), reason, offset_s, operation.get("desk") is True
        )
        _check_time(act.device_time)
        of_another = claimed and not (claim and claim.signed) and claimed.person_id != person.pk
        return Entry(
            act,
            kind,
            name,
            kind.upgraded(row),
            digest,
            caller.role if caller and who.pk != person.pk else None,
            claimed.person_id if claimed and of_another else None,
        )
    except CoreError as refused:
        return refused


def _check_time(moment: datetime) -> None:
    """Hold what no outing of these days can have brought.

    Raises:
        Held: ``time_unlikely``.
    """
    now = timezone.now()
    if not now - _LONGEST_BACK <= moment <= now + _LONGEST_AHEAD:
        raise Held(
            "time_unlikely",
            f"The device's clock said {moment:%Y-%m-%d %H:%M} UTC when this was recorded; the server's says {now:%Y-%m-%d %H:%M}. "
            "Give its time, and it is kept.",
            "device_time",
        )


def clock_offset(device_now: Any) -> float:
    """How far a device's clock is behind, s; 0 where it does not say or hardly differs."""
    if device_now is None:
        return 0.0
    behind = (timezone.now() - read_time({"device_now": device_now}, "device_now")).total_seconds()
    return behind if abs(behind) > CLOCK_TOLERANCE_S else 0.0


def digest_of(kind: str, device_time: Any, row: Mapping[str, Any]) -> str:
    """Of an entry's content, by which the same key is not taken for two things."""
    content = json.dumps([kind, device_time, row], sort_keys=True, default=str)
    return hashlib.sha256(content.encode()).hexdigest()
