"""Taking a fish out of the record, and putting it back. Where the fish was marked by the call, what is meant is asked."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any
from uuid import UUID

from django.db.models import Model

from nailwright.common.fields import one_of
from nailwright.deck.encounters import renew_encounters
from nailwright.deck.handling.summary import renew_handling
from nailwright.deck.models import Capture
from nailwright.deck.rows import locked_capture
from nailwright.programmes.models import Programme
from nailwright.programmes.record.audit import Act, apply_change, changed_since, note_change
from nailwright.programmes.record.effects import WITH_IT, Effects, effects_of, undo
from nailwright.tags.actions import (
    check_put_back,
    living_placements,
    read_since,
    renew_placements,
    unknown_fish,
    withdraw,
)
from nailwright.tags.models import Placement, Scan, Tag
from nailwright.tags.scans import Read
from nailwright_core.common.errors import CoreError

#: The fish carries the tag, only this call is wrong; or it was never marked, and the later readings are of some other fish.
MEANT = ("fish_keeps_mark", "never_marked")


def take_out(act: Act, programme: Programme, capture_id: UUID, row: Mapping[str, Any]) -> bool:
    """Mark a fish as taken out; ``put_back`` undoes it.

    Args:
        row: ``meant``, one of ``MEANT``, where the call marked a fish that later calls know by that mark.

    Raises:
        CoreError: ``outing_closed``; ``mark_known_later`` where ``meant`` is needed and was not said.
    """
    capture = locked_capture(programme, capture_id)
    capture.run.outing.must_be_open(act)
    if capture.deleted_at:
        return False
    if "deleted_at" in changed_since(capture, act.device_time):
        return apply_change(act, programme, capture, {"deleted_at": act.device_time})  # late: kept in the history
    touched, effects = {capture.pk}, Effects()
    meant = one_of(row, "meant", ("", *MEANT))
    for placement in living_placements([capture.pk]):
        later = read_since([placement])
        if not later:
            withdraw(placement, act, effects)
        elif not meant:
            raise _known_later(placement, len(later))
        elif meant == "fish_keeps_mark":
            effects.note(placement, capture_id=later[0].source_id)
            apply_change(act.part(placement.pk), programme, placement, {"capture_id": later[0].source_id})
        else:
            withdraw(placement, act, effects, misread=True)
            touched |= _unlink(act, programme, placement, later, effects)
    for scan in Scan.present.filter(source_id=capture.pk):
        effects.set(scan, deleted_at=act.device_time)
    changed = apply_change(act, programme, capture, {"deleted_at": act.device_time}, also=({WITH_IT: effects.rows}, {}))
    renew_encounters(touched)
    renew_handling(touched)
    return changed


def put_back(act: Act, programme: Programme, capture_id: UUID) -> bool:
    """Restore a fish that was taken out, and all that went with it: the tags it was given, and what later calls knew by them.

    Raises:
        CoreError: ``outing_closed``; ``tag_in_fish`` where a tag has meanwhile gone into another fish.
    """
    capture = locked_capture(programme, capture_id)
    capture.run.outing.must_be_open(act)
    if capture.deleted_at is None:
        return False
    touched = {capture.pk}
    if "deleted_at" not in changed_since(capture, act.device_time):
        effects = effects_of(capture, "deleted_at")
        if effects is None:  # taken out before effects were noted
            renew_placements(capture.pk)
            Scan.objects.filter(source_id=capture.pk, deleted_at=capture.deleted_at).update(deleted_at=None)
        else:
            check_put_back(programme, effects)
            touched |= {row.pk for row in _undone(act, programme, effects) if isinstance(row, Capture)}
    changed = apply_change(act, programme, capture, {"deleted_at": None})
    renew_encounters(touched)
    renew_handling(touched)
    return changed


def _undone(act: Act, programme: Programme, effects: list[dict[str, Any]]) -> list[Model]:
    """Undo effects; what is seen of later calls and placements stands in their history as well."""
    rows = undo(
        effects,
        {
            Capture: (Capture.objects.filter(programme=programme), ("fish_id", "scanned")),
            Placement: (Placement.objects.filter(tag__programme=programme), ("capture_id", "deleted_at", "living_tag")),
            Scan: (Scan.objects.filter(programme=programme), ("deleted_at", "fish_id", "result")),
            Tag: (Tag.objects.filter(programme=programme), ("state",)),
        },
    )
    for each in effects:
        row = next((row for row in rows if str(row.pk) == each["row"]), None)
        if isinstance(row, Capture | Placement) and "deleted_at" not in each["after"]:
            note_change(act.part(row.pk), programme, row, each["after"], each["before"])
    return rows


def _unlink(act: Act, programme: Programme, placement: Placement, later: list[Scan], effects: Effects) -> set[UUID]:
    """Later calls that knew the fish by this mark alone keep what they read, as of a fish that nobody here tagged."""
    others = Placement.present.filter(fish=placement.fish_id).exclude(living_tag=None).exclude(pk=placement.pk)
    by_others = {scan.source_id for scan in read_since(list(others.select_related("tag")))}
    keys = {scan.source_id for scan in later} - by_others
    unlinked = list(Capture.objects.select_for_update().filter(pk__in=keys, fish=placement.fish_id))
    number = Read(placement.tag.kind, placement.tag.number)
    fish = unknown_fish(programme, [([number], capture.species) for capture in unlinked])
    of = {capture.pk: key for capture, key in zip(unlinked, fish, strict=True)}
    for capture in unlinked:
        values = {"fish_id": of[capture.pk], "scanned": Capture.Scanned.FOREIGN}
        effects.note(capture, **values)
        apply_change(act.part(capture.pk), programme, capture, values)
    for scan in later:
        effects.set(scan, fish_id=of.get(scan.source_id), result=Scan.Result.FOREIGN)
    return keys


def _known_later(placement: Placement, n: int) -> CoreError:
    return CoreError(
        "mark_known_later",
        f"This call gave the fish its {placement.tag.get_kind_display()} {placement.tag.number}, and "
        f"{n} later {'call knows' if n == 1 else 'calls know'} it by that number. Say what is meant: the fish carries the "
        "tag and only this call is wrong (fish_keeps_mark), or it was never marked here (never_marked).",
        "meant",
    )
