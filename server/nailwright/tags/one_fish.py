"""Two records that are found to be one fish are merged, one that is found to be two is split; both are taken back exactly.

What is moved are the rows of every room that name a fish, found by their keys, so that no later room is forgotten; encounters follow.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from typing import Any
from uuid import UUID

from django.db import models, transaction
from django.db.models import QuerySet

from nailwright.common.rows import new_id
from nailwright.programmes.models import Change, Programme
from nailwright.programmes.policies import require
from nailwright.programmes.record.audit import Act, must_say_why, note_change
from nailwright.programmes.record.effects import WITH_IT, Effects, undo
from nailwright.tags.encounters import replace_encounters
from nailwright.tags.models import Encounter, Fish, Placement, Scan
from nailwright_core.common.errors import CoreError

#: By what a row belongs to a meeting; of all others by its own key.
_OF_MEETING: dict[type[models.Model], str] = {Scan: "source_id", Placement: "capture_id"}


def merge_fish(act: Act, keep: Fish, gone: Fish) -> None:
    """Say that two are one: all that was ``gone``'s is ``keep``'s from now on.

    Raises:
        CoreError: ``fish_same``, ``fish_species_differ``, ``fish_merged``, ``fish_ended`` where one had died, or was kept, before the other was
            met last; ``reason_missing``. Refused: ``role_may_not``.
    """
    require(act.person, keep.programme, "correct_record")
    must_say_why(act, "both tags were read on it")
    with transaction.atomic():
        kept, lost = _locked(keep.programme, (keep.pk, gone.pk))
        if kept.pk == lost.pk:
            raise CoreError("fish_same", "These are one fish already.", "other")
        if kept.species != lost.species:
            raise CoreError(
                "fish_species_differ",
                "Fish of two species are not one. Put the species right first, where one is wrong.",
                "other",
            )
        for each in (kept, lost):
            if each.merged_into_id:
                raise CoreError("fish_merged", "This fish was merged with another already; open that one.", "other")
        _check_lives(kept, lost)
        effects = _move(_all_rows(lost), kept)
        effects.set(lost, merged_into_id=kept.pk)
        _note(act, lost, effects, {"merged_into": str(kept.pk)})


def split_fish(act: Act, fish: Fish, meetings: Sequence[UUID]) -> Fish:
    """Say that these meetings (keys of captures, cards, reports) were of another fish: they, and the tags placed at them, become a new one's.

    Raises:
        CoreError: ``split_nothing``, ``split_all``, ``meeting_unknown``, ``reason_missing``. Refused: ``role_may_not``.
    """
    require(act.person, fish.programme, "correct_record")
    must_say_why(act, "the number was misread in May")
    with transaction.atomic():
        (old,) = _locked(fish.programme, (fish.pk,))
        there = set(Encounter.objects.filter(fish=old).values_list("source_id", flat=True))
        chosen = set(meetings)
        if not chosen:
            raise CoreError("split_nothing", "Choose the meetings that were of another fish.", "meetings")
        if chosen - there:
            raise CoreError(
                "meeting_unknown", "One of these meetings is not of this fish (any more). Load it again.", "meetings"
            )
        if chosen == there:
            raise CoreError("split_all", "These are all its meetings: leave one at least with this fish.", "meetings")
        new = Fish.objects.create(id=new_id(), programme=old.programme, species=old.species, split_from_id=old.pk)
        effects = _move(_rows_at(old, chosen), new)
        _note(act, new, effects, {"split_from": str(old.pk)})
    return new


def take_back(act: Act, fish: Fish) -> Fish:
    """Undo what was last merged into a fish, or split off it or as it; what was changed since stands.

    Args:
        fish: the one that a merging emptied, or that a splitting made.

    Returns:
        The fish that it was merged with, or split from.

    Raises:
        CoreError: ``nothing_to_take_back``, ``reason_missing``. Refused: ``role_may_not``.
    """
    require(act.person, fish.programme, "correct_record")
    must_say_why(act, "they were two after all")
    with transaction.atomic():
        (row,) = _locked(fish.programme, (fish.pk,))
        other = row.merged_into_id or row.split_from_id
        change = _last_change(row)
        if other is None or change is None:
            raise CoreError(
                "nothing_to_take_back", "This fish was neither merged with another nor split from one.", "fish"
            )
        among = {
            relation: (relation._base_manager.filter(fish__programme=row.programme), (_field(relation),))
            for relation in _models()
        }
        undone = undo(
            change.before.get(WITH_IT, ()),
            {**among, Fish: (Fish.objects.filter(programme=row.programme_id), ("merged_into_id",))},
        )
        sources = {_meeting_of(each) for each in undone if not isinstance(each, Fish)}
        back, was = (row.pk, other) if row.merged_into_id else (other, row.pk)
        _follow(Encounter.objects.filter(fish=was, source_id__in=sources), back)
        if row.split_from_id and not row.merged_into_id:
            # nothing of it is left, unless it was met since: its address leads to the fish that it was split from
            row.split_from_id = None
            row.merged_into_id = None if Encounter.objects.filter(fish=row).exists() else other
            row.save(update_fields=["split_from_id", "merged_into_id"])
        else:
            Fish.objects.filter(pk=row.pk).update(merged_into_id=None)
        note_change(act, row.programme, row, {"joined_with": str(other)}, {"taken_back": True})
    return Fish.objects.get(pk=other)


def joined_with(fish: Fish) -> Iterator[dict[str, Any]]:
    """Fish that were merged into this one or split from it, and the one that it was split from; with who said so, when and why."""
    rows = Fish.objects.filter(
        models.Q(merged_into_id=fish.pk)
        | models.Q(split_from_id=fish.pk)
        | models.Q(pk=fish.pk, split_from_id__isnull=False)
    )
    for each in rows.order_by("server_time"):
        change = _last_change(each)
        # one whose splitting was taken back is merged by that alone
        if change and ("merged_into" in change.after) == (each.merged_into_id is not None):
            what = "merged" if each.merged_into_id else "split"
            yield {"fish": each.pk, "what": what, "other": each.split_from_id if each.pk == fish.pk else each.pk, "at": change.device_time,
                   "person": change.person.name, "reason": change.reason}  # fmt: skip


def _locked(programme: Programme, keys: Sequence[UUID]) -> list[Fish]:
    """In the order of the keys; locked in one order, so that two who merge the same pair do not wait for each other."""
    rows = {
        each.pk: each
        for each in Fish.objects.select_for_update().filter(programme=programme, pk__in=keys).order_by("pk")
    }
    return [rows[key] for key in keys]


def _models() -> list[type[models.Model]]:
    """Every table that names a fish, but for encounters, which follow."""
    return [each.related_model for each in Fish._meta.related_objects if each.related_model is not Encounter]


def _field(model: type[models.Model]) -> str:
    return next(field.attname for field in model._meta.concrete_fields if field.related_model is Fish)


def _all_rows(fish: Fish) -> Iterator[models.Model]:
    for model in _models():
        yield from model._base_manager.select_for_update().filter(fish=fish)


def _rows_at(fish: Fish, meetings: Iterable[UUID]) -> Iterator[models.Model]:
    for model in _models():
        by = f"{_OF_MEETING.get(model, 'pk')}__in"
        yield from model._base_manager.select_for_update().filter(fish=fish, **{by: list(meetings)})


def _meeting_of(row: models.Model) -> UUID:
    key: UUID = getattr(row, _OF_MEETING.get(type(row), "pk"))
    return key


def _move(rows: Iterable[models.Model], to: Fish) -> Effects:
    effects = Effects()
    moved = list(rows)
    met = {_meeting_of(each) for each in moved}
    was = {each.__dict__["fish_id"] for each in moved}
    for each in moved:
        effects.set(each, **{_field(type(each)): to.pk})
    _follow(Encounter.objects.filter(fish__in=was, source_id__in=met), to.pk)
    return effects


def _follow(met: QuerySet[Encounter], to: UUID) -> None:
    """Encounters of another fish from now on; their keys follow from it."""
    rows = list(met)
    for kind in {each.kind for each in rows}:
        of_kind = [each for each in rows if each.kind == kind]
        now = [
            Encounter(
                **{field.attname: getattr(each, field.attname) for field in Encounter._meta.concrete_fields}
                | {"fish_id": to}
            )
            for each in of_kind
        ]
        replace_encounters(kind, [each.source_id for each in of_kind], now)


def _check_lives(one: Fish, other: Fish) -> None:
    """Refuse where one ended before the other was met last."""
    for ended, lives in ((one, other), (other, one)):
        end = Encounter.objects.filter(fish=ended, disposition__in=Encounter.LOSSES).order_by("at").first()
        later = end and Encounter.objects.filter(fish=lives, at__gt=end.at).order_by("at").first()
        if end and later:
            raise CoreError(
                "fish_ended",
                f"One of them was {end.get_disposition_display().lower()} on {end.at:%Y-%m-%d}, and the other was met on {later.at:%Y-%m-%d}: "
                "they are not one, or one of these is wrong. Put that right first.",
                "other",
            )


def _note(act: Act, row: Fish, effects: Effects, after: dict[str, Any]) -> None:
    note_change(act, row.programme, row, {WITH_IT: effects.rows, **dict.fromkeys(after)}, after)


def _last_change(row: Fish) -> Change | None:
    rows = Change.objects.filter(table="fish", row=row.pk).select_related("person").order_by("-server_time", "-id")
    return next((each for each in rows if {"merged_into", "split_from"} & set(each.after)), None)
