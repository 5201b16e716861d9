"""Tags with a battery: when each was activated, and until when it is expected to be heard."""

from __future__ import annotations

from datetime import date, timedelta
from typing import Any

from django.db import transaction
from django.utils import timezone

from nailwright.programmes.models import Programme
from nailwright.programmes.policies import require
from nailwright.programmes.record.audit import Act, apply_change
from nailwright.tags.models import Placement, Tag, TagKind
from nailwright.tags.numbers import read_numbers_of
from nailwright_core.common.errors import CoreError
from nailwright_core.tags.battery import last_ping

#: Kinds that send or write by a battery.
POWERED = (TagKind.ACOUSTIC, TagKind.RADIO, TagKind.SATELLITE, TagKind.ARCHIVAL)
#: So many days before its end a battery is told of.
SOON_DAYS = 60


def transmitters_of(programme: Programme) -> list[dict[str, Any]]:
    """Tags with a battery that are in a fish or activated, those that end first at the top; those of which nobody knows it last."""
    tags = Tag.objects.filter(programme=programme, kind__in=POWERED).select_related("batch")
    placed = {
        each.tag_id: each
        for each in Placement.present.filter(tag__in=tags).select_related("fish").order_by("device_time")
    }
    today = timezone.now().date()
    told = [
        _told(tag, placed.get(tag.pk), today) for tag in tags.order_by("number") if tag.pk in placed or tag.activated_on
    ]
    return sorted(told, key=lambda each: (each["until"] is None, each["until"] or today, each["number"]))


def _told(tag: Tag, placement: Placement | None, today: date) -> dict[str, Any]:
    since = tag.activated_on or (placement.device_time.date() if placement else None)
    days = tag.batch.battery_days if tag.batch else None
    until = last_ping(since, days) if since and days else None
    return {
        "kind": tag.kind,
        "number": tag.number,
        "batch": tag.batch.name if tag.batch else "",
        "state": tag.state,
        "fish": placement.fish_id if placement else None,
        "species": placement.fish.species if placement else "",
        "since": since,
        "activated": tag.activated_on is not None,
        "battery_days": days,
        "until": until,
        "life": _life(until, today),
    }


def _life(until: date | None, today: date) -> str:
    if until is None:
        return "unknown"
    if until < today:
        return "over"
    return "soon" if until - today <= timedelta(days=SOON_DAYS) else "sending"


def activate_tags(
    act: Act, programme: Programme, kind: str, numbers: str, day: date | None
) -> tuple[int, tuple[tuple[str, str], ...]]:
    """Note on which day tags were activated; None takes that back.

    Returns:
        How many changed, and those that may not, with why.

    Raises:
        CoreError: ``tag_without_battery``, ``day_impossible``, and as ``read_numbers_of``. Refused: ``role_may_not``.
    """
    require(act.person, programme, "keep_tags")
    if kind not in POWERED:
        raise CoreError(
            "tag_without_battery", f"Expected a kind with a battery: {', '.join(POWERED)}; got '{kind[:20]}'.", "kind"
        )
    if day and day > act.device_time.date() + timedelta(days=1):
        raise CoreError("day_impossible", f"Expected a day until today; got {day:%d %b %Y}.", "day")
    read = read_numbers_of(kind, numbers)
    refused, changed = list(read.unread), 0
    with transaction.atomic():
        rows = Tag.objects.select_for_update().filter(programme=programme, kind=kind, number__in=read.numbers)
        tags = {tag.number: tag for tag in rows}
        for number in read.numbers:
            tag = tags.get(number)
            placed = Placement.present.filter(tag=tag).order_by("device_time").first() if tag else None
            if tag is None:
                refused.append((number, "not in this programme's stock"))
            elif day and placed and day > placed.device_time.date():
                refused.append((number, f"it was implanted on {placed.device_time:%d %b %Y}, before that day"))
            else:
                changed += apply_change(act.part(tag.pk), programme, tag, {"activated_on": day})
    return changed, tuple(refused)
