"""The ledger of one tag: everything that ever happened to it, in order of time. Nothing in it is ever changed or taken out."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import datetime, time
from typing import Any
from uuid import UUID
from zoneinfo import ZoneInfo

from nailwright.programmes.models import Change, Programme
from nailwright.tags.models import Placement, Scan, Tag, TagIssue, TagState
from nailwright.tags.numbers import read_number_of
from nailwright_core.common.errors import CoreError

#: What a change of state is called in the ledger; where it stood before matters for one that is in stock again.
_INTO = {
    TagState.SPOILED: "spoiled", TagState.LOST: "lost", TagState.DESTROYED: "destroyed", TagState.SHED: "shed", TagState.REMOVED: "removed",
    TagState.PLACED: "back on its fish", TagState.ISSUED: "usable after all", TagState.ELSEWHERE: "read on another fish",
}  # fmt: skip
_INTO_STOCK = {
    TagState.LOST: "found", TagState.SPOILED: "usable after all", TagState.REMOVED: "cleaned, to be used again", TagState.ISSUED: "returned",
}  # fmt: skip


def moves_of(programme: Programme, kind: str, number: str) -> list[dict[str, Any]]:
    """Each move: when, what, by whom, and what was said of it, the oldest first.

    Raises:
        CoreError: ``tag_not_in_stock``, and as the number's.
    """
    read = read_number_of(kind, number)
    tag = Tag.objects.filter(programme=programme, kind=kind, number=read).select_related("batch").first()
    if tag is None:
        raise CoreError("tag_not_in_stock", f"{read} is not in this programme's stock.", "number")
    found = [*_received(tag), *_handed_out(tag), *_placed(tag), *_read(tag), *_changed(tag)]
    return sorted(found, key=lambda each: each["at"])


def _move(at: datetime, what: str, person: str = "", details: str = "", fish: UUID | None = None) -> dict[str, Any]:
    return {"at": at, "what": what, "person": person, "details": details, "fish": fish}


def _received(tag: Tag) -> Iterator[dict[str, Any]]:
    batch = tag.batch
    if batch and batch.received:
        at = datetime.combine(batch.received, time(), ZoneInfo(tag.programme.time_zone))
        yield _move(at, "received", details=", ".join(filter(None, (batch.name, batch.supplier))))


def _handed_out(tag: Tag) -> Iterator[dict[str, Any]]:
    for each in TagIssue.objects.filter(tag=tag).select_related("person", "issuer"):
        to = each.person.name if each.person else each.boat or "an outing"
        yield _move(each.issued_at, "issued", each.issuer.name, f"to {to}")
        if each.returned_at:
            yield _move(each.returned_at, "returned", details=f"by {to}")


def _placed(tag: Tag) -> Iterator[dict[str, Any]]:
    for each in Placement.objects.filter(tag=tag).select_related("recorder"):
        yield _move(each.device_time, "placed", each.recorder.name, each.get_quality_display(), each.fish_id)
        if each.deleted_at:
            yield _move(each.deleted_at, "placement taken back", fish=each.fish_id)


def _read(tag: Tag) -> Iterator[dict[str, Any]]:
    rows = Scan.present.filter(programme=tag.programme_id, kind=tag.kind, number=tag.number).select_related("recorder")
    for each in rows:
        yield _move(each.device_time, "read", each.recorder.name, each.reader, each.fish_id)


def _changed(tag: Tag) -> Iterator[dict[str, Any]]:
    """Changes of state with their reasons; a handing back is told by its issue."""
    rows = Change.objects.filter(table="tag", row=tag.pk).select_related("person")
    for each in rows:
        before, after = each.before.get("state"), each.after.get("state")
        what = _INTO_STOCK.get(before) if after == TagState.STOCK else _INTO.get(after)
        if what:
            yield _move(each.device_time, what, each.person.name, each.reason)
