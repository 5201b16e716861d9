"""What a programme decides for its crews, in versions that never change."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from django.db import transaction

from nailwright.programmes.models import Programme, ProtocolVersion
from nailwright.programmes.policies import require
from nailwright.programmes.record.audit import Act, must_say_why
from nailwright_core.common.errors import CoreError
from nailwright_core.protocol import SECTIONS, Protocol, kept_protocol, read_protocol, shipped_protocol


def standing_version(programme: Programme) -> ProtocolVersion:
    """The version that holds now; the first one is what ships."""
    last = programme.protocols.first()
    if last is None:
        with transaction.atomic():
            Programme.objects.select_for_update().get(pk=programme.pk)
            first = {"values": shipped_protocol().as_values(), "why": "as it ships"}
            ProtocolVersion.objects.get_or_create(programme=programme, number=1, defaults=first)
        last = programme.protocols.first()
        assert last is not None
    return last


def protocol_in(version: ProtocolVersion | None) -> Protocol:
    """What a version says; where there is none (an outing of before there were any, or of a file), what ships."""
    return shipped_protocol() if version is None else kept_protocol(version.values)


def standing_protocol(programme: Programme) -> Protocol:
    """What holds now."""
    return protocol_in(programme.protocols.first())


def decide(act: Act, programme: Programme, sections: Mapping[str, Any], based_on: int) -> ProtocolVersion:
    """Make the next version: these sections anew, all others as they are; outings that are made from now on keep it.

    Args:
        based_on: the number that whoever decides had before their eyes.

    Raises:
        CoreError: ``reason_missing``; ``protocol_changed`` where somebody changed one of these sections since; as
            ``read_protocol``.
    """
    require(act.person, programme, "plan")
    with transaction.atomic():
        locked = Programme.objects.select_for_update().get(pk=programme.pk)
        there = ProtocolVersion.objects.filter(pk=act.id, programme=locked).first()
        if there:
            return there
        now = standing_version(locked)
        must_say_why(act, "limits of the new animal-care protocol")
        _nobody_else_meant_these(locked, now, sections, based_on)
        values = {**now.values, **sections}
        read = read_protocol(values, set(locked.species.values_list("code", flat=True)))
        if read.as_values() == protocol_in(now).as_values():
            return now
        return ProtocolVersion.objects.create(
            id=act.id, programme=locked, number=now.number + 1, values=read.as_values(), why=act.reason.strip(),
            person=act.person, made_at=act.device_time,
        )  # fmt: skip


def _nobody_else_meant_these(
    programme: Programme, now: ProtocolVersion, sections: Mapping[str, Any], based_on: int
) -> None:
    seen = programme.protocols.filter(number=based_on).first()
    if seen is None:
        raise CoreError("version_unknown", f"There is no version {based_on} of this protocol.", "based_on")
    changed = [code for code in sections if seen.values.get(code) != now.values.get(code) and code in SECTIONS]
    if changed:
        who = now.person.name if now.person else "somebody"
        titles = ", ".join(SECTIONS[code].title for code in changed)
        raise CoreError(
            "protocol_changed",
            f"{who} changed {titles} meanwhile (version {now.number}). Look at it, then decide again; what you typed is kept here.",
            "based_on",
        )
