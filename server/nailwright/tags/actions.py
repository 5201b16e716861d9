"""Placing tags, and taking placements back."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any
from uuid import UUID

from django.db import IntegrityError, transaction

from nailwright.common.fields import one_of
from nailwright.programmes.models import Programme
from nailwright.programmes.protocols import standing_protocol
from nailwright.programmes.record.audit import Act, already_done, apply_change
from nailwright.programmes.record.effects import Effects
from nailwright.tags.models import Fish, Placement, Scan, Tag, TagKind, TagState
from nailwright.tags.numbers import read_number_of
from nailwright.tags.scans import Read, unknown_fish_key
from nailwright.tags.states import change_state, check_change
from nailwright_core.common.errors import CoreError
from nailwright_core.protocol import SECTIONS


@dataclass(frozen=True)
class InHand:
    """A fish in hand, as the room that holds it tells the tags: its row's key, who it is if known, whether scanned."""

    capture_id: UUID
    species: str
    fish_id: UUID | None
    scanned: bool


def _body_sites(programme: Programme) -> list[str]:
    """Codes of the protocol that holds now, and those that ship: a tablet may still go by the version before."""
    rows = (*standing_protocol(programme).rows("body_sites"), *SECTIONS["body_sites"].ships)
    return list(dict.fromkeys(str(each["code"]) for each in rows))


def place_tag(act: Act, programme: Programme, hand: InHand, row: Mapping[str, Any], at: datetime) -> UUID | None:
    """Record that a tag from stock was put into a fish in hand, whose row the caller has locked.

    Args:
        row: ``kind``, ``number``, and if told ``body_site`` and ``quality``.
        at: when it was put in.

    Returns:
        The fish that carries it now; None where this very placement was there already.

    Raises:
        CoreError: ``not_scanned`` where the fish was not scanned first, ``tag_not_in_stock``, ``tag_state``, ``tag_in_fish``
            where it sits in another living fish, ``fish_has_tag`` where this fish carries one of the kind, and as the
            number's.
    """
    kind = str(row.get("kind"))
    number = read_number_of(kind, str(row.get("number")))
    where = one_of(row, "body_site", ("", *_body_sites(programme)))
    quality = one_of(row, "quality", ("", *Placement.Quality.values))
    if Placement.objects.filter(pk=act.id).exists():
        return None
    if not hand.scanned:
        raise CoreError(
            "not_scanned",
            "Scan the fish before it is given a tag; where nothing is found, say so, then place the tag.",
            "scanned",
        )
    tag = Tag.objects.select_for_update().filter(programme=programme, kind=kind, number=number).first()
    if tag is None:
        raise CoreError(
            "tag_not_in_stock", f"{TagKind(kind).label} {number} is not in this programme's stock.", "number"
        )
    if tag.state == TagState.PLACED:
        raise in_fish(tag)
    if tag.state not in (TagState.STOCK, TagState.ISSUED):
        raise CoreError(
            "tag_not_in_stock",
            f"{tag.get_kind_display()} {number} is marked '{tag.get_state_display().lower()}', so it is not there to be placed.",
            "number",
        )
    fish_id = hand.fish_id or Fish.objects.create(programme=programme, species=hand.species).pk
    carried = Placement.present.filter(fish=fish_id, tag__kind=kind).exclude(living_tag=None).select_related("tag")
    if there := carried.first():
        raise CoreError(
            "fish_has_tag", f"This fish already carries {tag.get_kind_display()} {there.tag.number}.", "number"
        )
    try:
        with transaction.atomic():
            Placement.objects.create(
                id=act.id,
                tag=tag,
                fish_id=fish_id,
                capture_id=hand.capture_id,
                living_tag=tag.pk,
                tag_before=tag.state,
                body_site=where,
                quality=quality,
                recorder=act.person,
                device_time=at,
            )
    except IntegrityError as taken:
        raise in_fish(tag) from taken
    change_state(tag, TagState.PLACED)
    return fish_id


def describe_placement(act: Act, programme: Programme, capture_id: UUID, row: Mapping[str, Any]) -> bool:
    """Say where a tag sits in the fish of a capture, or how well; only what the row tells changes.

    Args:
        row: ``kind`` and ``number`` of the tag, and ``body_site``, ``quality`` if told.

    Raises:
        CoreError: ``placement_unknown`` where that tag was not placed at that capture, and as the number's.
    """
    kind = str(row.get("kind"))
    number = read_number_of(kind, str(row.get("number")))
    placement = (
        Placement.objects.select_for_update()
        .filter(capture_id=capture_id, tag__programme=programme, tag__kind=kind, tag__number=number, deleted_at=None)
        .first()
    )
    if placement is None:
        raise CoreError(
            "placement_unknown", f"No {number} was placed in this fish here, or that was taken back.", "number"
        )
    allowed = {"body_site": _body_sites(programme), "quality": Placement.Quality.values}
    values = {name: one_of(row, name, ("", *codes)) for name, codes in allowed.items() if name in row}
    return False if already_done(act) else apply_change(act, programme, placement, values)


def spoil_tag(act: Act, programme: Programme, row: Mapping[str, Any], spoiled: bool = True) -> bool:
    """A tag of the stock, or one that was handed out, was damaged before use; or it is usable after all.

    Args:
        row: ``kind`` and ``number`` of the tag.

    Raises:
        CoreError: ``tag_not_in_stock``, ``tag_state`` (it sits in a fish, say), and as the number's.
    """
    kind = str(row.get("kind"))
    number = read_number_of(kind, str(row.get("number")))
    tag = Tag.objects.select_for_update().filter(programme=programme, kind=kind, number=number).first()
    if tag is None:
        raise CoreError(
            "tag_not_in_stock", f"{TagKind(kind).label} {number} is not in this programme's stock.", "number"
        )
    if already_done(act):
        return False
    if spoiled:
        if tag.state != TagState.SPOILED:
            check_change(tag, TagState.SPOILED)
        return apply_change(act, programme, tag, {"state": TagState.SPOILED})
    if tag.state != TagState.SPOILED:
        return False  # it is in use: nothing is to be taken back
    return apply_change(act, programme, tag, {"state": _before_spoiled(programme, tag)})


def shed_tag(act: Act, programme: Programme, fish_id: UUID | None, row: Mapping[str, Any], shed: bool = True) -> bool:
    """A known fish was met without one of its tags (a scar, the second tag left); or it was found on it after all.

    Args:
        fish_id: the fish in hand, whose row the caller has locked. row: ``kind`` and ``number`` of the tag.

    Raises:
        CoreError: ``tag_not_of_fish`` where that fish never carried it, ``tag_in_fish`` where it sits in another one since,
            ``tag_state``, and as the number's.
    """
    kind = str(row.get("kind"))
    number = read_number_of(kind, str(row.get("number")))
    placements = Placement.objects.select_for_update().filter(
        fish=fish_id, tag__programme=programme, tag__kind=kind, tag__number=number, deleted_at=None
    )
    placement = placements.select_related("tag").order_by("-device_time").first() if fish_id else None
    if placement is None:
        raise CoreError(
            "tag_not_of_fish", f"This fish is not known to have carried {TagKind(kind).label} {number}.", "number"
        )
    if already_done(act):
        return False
    tag = Tag.objects.select_for_update().get(pk=placement.tag_id)
    to = TagState.SHED if shed else TagState.PLACED
    if tag.state == to:
        return False
    check_change(tag, to)
    if not shed and Placement.objects.filter(living_tag=tag.pk).exists():
        raise in_fish(tag)
    apply_change(act.part(tag.pk), programme, tag, {"state": to})
    return apply_change(act, programme, placement, {"living_tag": None if shed else tag.pk})


def _before_spoiled(programme: Programme, tag: Tag) -> str:
    """Where a damaged tag was: one that was handed out is with whoever had it."""
    changes = programme.changes.filter(table="tag", row=tag.pk).order_by("-server_time", "-id")
    spoiled = next((each for each in changes if each.after.get("state") == TagState.SPOILED), None)
    return spoiled.before["state"] if spoiled else TagState.STOCK


def unknown_fish(programme: Programme, met: Sequence[tuple[Sequence[Read], str]]) -> list[UUID]:
    """The fish that carry tags which nobody here placed: read twice they are one fish met twice.

    Args:
        met: numbers read on one fish, and its species code. A number that another programme gave out may stand on one of
            another species too, which is another fish.

    Returns:
        The fish of each, made where none of its numbers was read before. Its key follows from the smallest number, so that tablets without
        a signal mean the same one (``tests/shared/marks.json``).
    """
    numbers = {(each.kind, each.number) for reads, _ in met for each in reads}
    before = Scan.present.filter(
        programme=programme, number__in={number for _, number in numbers}, result=Scan.Result.FOREIGN
    ).exclude(fish=None)
    known: dict[tuple[str, str, str], UUID] = {}
    for kind, number, fish, of in before.values_list("kind", "number", "fish_id", "fish__species"):  # oldest first
        known.setdefault((kind, number, of), fish)
    found: list[UUID] = []
    fresh: dict[UUID, str] = {}
    for reads, species in met:
        own = [(each.kind, each.number, species) for each in reads]
        carrier = next((known[each] for each in own if each in known), None)
        if carrier is None:
            carrier = unknown_fish_key(programme.pk, reads, species)
            fresh[carrier] = species
        known.update(dict.fromkeys(own, carrier))
        found.append(carrier)
    Fish.objects.bulk_create(
        [Fish(id=key, programme=programme, species=species) for key, species in fresh.items()], ignore_conflicts=True
    )
    return found


def read_since(placements: Sequence[Placement]) -> list[Scan]:
    """Readings of these tags on other captures than the ones at which they were placed, oldest first."""
    found: list[Scan] = []
    for each in placements:
        scans = Scan.present.filter(programme=each.tag.programme_id, kind=each.tag.kind, number=each.tag.number)
        found.extend(scans.exclude(source_id=each.capture_id))
    return sorted(found, key=lambda scan: (scan.device_time, str(scan.pk)))


def living_placements(capture_ids: Sequence[UUID]) -> list[Placement]:
    """Tags that were placed at these captures and are in their fish still."""
    present = Placement.present.filter(capture_id__in=capture_ids).exclude(living_tag=None)
    return list(present.select_related("tag").order_by("device_time", "id"))


def withdraw(placement: Placement, act: Act, effects: Effects, misread: bool = False) -> None:
    """Take a placement back: its tag goes where it was before.

    Args:
        misread: its number was read since, so that some fish carries it: it never returns to stock.
    """
    effects.set(placement, deleted_at=act.device_time, living_tag=None)
    state = TagState.ELSEWHERE if misread else placement.tag_before
    check_change(placement.tag, state)
    effects.set(placement.tag, state=state)


def check_put_back(programme: Programme, effects: Iterable[Mapping[str, Any]]) -> None:
    """Refuse to put tags back into their fish where one has meanwhile gone into another, or elsewhere.

    Raises:
        CoreError: ``tag_in_fish``, ``tag_state``.
    """
    tags = {each["row"]: each["after"].get("state") for each in effects if each["model"] == "tags.tag"}
    for tag in Tag.objects.select_for_update().filter(programme=programme, pk__in=tags):
        if Placement.objects.filter(living_tag=tag.pk).exists():
            raise in_fish(tag)
        if tag.state != tags[str(tag.pk)]:
            raise CoreError(
                "tag_state",
                f"{tag.get_kind_display()} {tag.number} was in this fish and is meanwhile marked "
                f"'{tag.get_state_display().lower()}'. Put that right first; then restore the fish.",
                "number",
            )


def renew_placements(capture_id: UUID) -> None:
    """The capture was restored: its tags are in the fish again.

    Raises:
        CoreError: ``tag_in_fish`` where a tag has meanwhile gone into another fish.
    """
    for placement in Placement.objects.filter(capture_id=capture_id).exclude(deleted_at=None).select_related("tag"):
        tag = Tag.objects.select_for_update().get(pk=placement.tag_id)
        if Placement.objects.filter(living_tag=tag.pk).exists():
            raise in_fish(tag)
        placement.deleted_at, placement.living_tag = None, tag.pk
        placement.save(update_fields=["deleted_at", "living_tag"])
        change_state(tag, TagState.PLACED)


def in_fish(tag: Tag) -> CoreError:
    """The refusal of a number that sits in a living fish."""
    return CoreError(
        "tag_in_fish",
        f"{tag.get_kind_display()} {tag.number} is already in a living fish. Scan again; if it is right, this fish is a recapture.",
        "number",
    )
