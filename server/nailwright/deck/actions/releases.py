"""How fish leave the boat, and who is still aboard."""

from __future__ import annotations

import uuid
from collections.abc import Iterable, Mapping
from typing import Any

from django.db.models import Q, QuerySet, Sum

from nailwright.deck.models import Capture, Outing, Release
from nailwright.programmes.audit import Act, already_done, apply_change, note_change
from nailwright.programmes.models import Programme
from nailwright.programmes.operations import Waits
from nailwright_core.common.errors import CoreError

MAX_AT_ONCE = 1000


def aboard_of(outings: Iterable[Outing]) -> QuerySet[Capture]:
    """Captures of outings that have not left."""
    left = Q(release__isnull=False, release__deleted_at=None)
    return Capture.present.filter(run__outing__in=list(outings), run__deleted_at=None).exclude(left)


def count_aboard(outing: Outing) -> int:
    """Fish still in the live well."""
    return int(aboard_of([outing]).aggregate(fish=Sum("count"))["fish"] or 0)


def set_release(act: Act, programme: Programme, row: Mapping[str, Any]) -> bool | Waits:
    """Say of one or many captures how their fish left, or, with no code, that they are still aboard.

    Each release's key follows from the act's and the capture's, so that doing it twice changes nothing: fish that have not
    arrived yet hold up none of the others.

    Raises:
        CoreError: ``captures_unreadable``, ``release_unknown``, ``outing_closed``.
    """
    keys, code = _keys(row), row.get("code")
    if code is not None and code not in Release.Code.values:
        known = ", ".join(Release.Code.values)
        raise CoreError("release_unknown", f"Expected a release of {known}; got {str(code)[:20]!r}.", "code")
    captures = list(
        Capture.objects.select_for_update().filter(pk__in=keys, programme=programme).select_related("run__outing")
    )
    for outing in {capture.run.outing for capture in captures}:
        outing.must_be_open()
    there = {each.capture_id: each for each in Release.objects.filter(capture__in=captures)}
    changed = [_set_one(act, programme, each, there.get(each.pk), code) for each in captures]
    if missing := len(keys) - len(captures):
        return Waits(f"{missing} of the {len(keys)} fish of this release have not arrived yet; the others left.")
    return any(changed)


def _set_one(act: Act, programme: Programme, capture: Capture, before: Release | None, code: str | None) -> bool:
    key = uuid.uuid5(act.id, str(capture.pk))
    if before is None:
        if code is None:
            return False
        Release.objects.create(id=key, capture=capture, code=code, recorder=act.person, device_time=act.device_time)
        return True
    if before.pk == key and before.device_time == act.device_time:
        return False
    single = act.part(f"change {capture.pk}")
    values: dict[str, Any] = {"deleted_at": act.device_time} if code is None else {"code": code, "deleted_at": None}
    if already_done(single):
        return False
    if before.device_time > act.device_time:
        note_change(single, programme, before, {}, {}, late=values)
        return True
    return apply_change(single, programme, before, {**values, "device_time": act.device_time})


def _keys(row: Mapping[str, Any]) -> set[uuid.UUID]:
    given = row.get("captures")
    if not isinstance(given, list) or not 1 <= len(given) <= MAX_AT_ONCE:
        raise CoreError("captures_unreadable", f"Expected the keys of 1 to {MAX_AT_ONCE} captures.", "captures")
    try:
        return {uuid.UUID(str(each)) for each in given}
    except ValueError as error:
        raise CoreError("captures_unreadable", "Expected each capture's key as a UUID.", "captures") from error
