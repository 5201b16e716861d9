"""Placing tags and taking placements back."""

from __future__ import annotations

from typing import TYPE_CHECKING
from uuid import UUID

from django.db import IntegrityError, transaction

from nailwright.programmes.audit import Act
from nailwright.programmes.models import Programme
from nailwright.tags.models import Fish, Placement, Tag
from nailwright.tags.numbers import read_number_of
from nailwright_core.common.errors import CoreError

if TYPE_CHECKING:
    from nailwright.deck.models import Capture


def place_tag(act: Act, programme: Programme, capture: Capture, kind: str, number: str) -> bool:
    """Record that a tag from stock was put into the fish of this capture; the caller has locked the capture.

    Raises:
        CoreError: ``not_scanned`` where the fish was not scanned first, ``tag_not_in_stock``, ``tag_in_fish`` where it
            sits in another living fish, ``fish_has_tag`` where this fish carries one of the kind, and as the number's.
    """
    number = read_number_of(kind, number)
    existing = Placement.objects.filter(pk=act.id).first()
    if existing:
        return False
    if not capture.scanned:
        raise CoreError(
            "not_scanned",
            "Scan the fish before it is given a tag; where nothing is found, say so, then place the tag.",
            "scanned",
        )
    tag = Tag.objects.select_for_update().filter(programme=programme, kind=kind, number=number).first()
    if tag is None:
        raise CoreError(
            "tag_not_in_stock", f"{Tag.Kind(kind).label} {number} is not in this programme's stock.", "number"
        )
    if tag.state == Tag.State.PLACED:
        raise _in_fish(tag)
    if tag.state != Tag.State.STOCK:
        raise CoreError(
            "tag_not_in_stock",
            f"{tag.get_kind_display()} {number} is marked as {tag.get_state_display().lower()}.",
            "number",
        )
    fish = capture.fish or Fish.objects.create(programme=programme, species=capture.species)
    carried = Placement.present.filter(fish=fish, tag__kind=kind).exclude(living_tag=None).select_related("tag").first()
    if carried:
        raise CoreError(
            "fish_has_tag", f"This fish already carries {tag.get_kind_display()} {carried.tag.number}.", "number"
        )
    try:
        with transaction.atomic():
            Placement.objects.create(
                id=act.id,
                tag=tag,
                fish=fish,
                capture=capture,
                living_tag=tag.pk,
                recorder=act.person,
                device_time=act.device_time,
            )
    except IntegrityError as taken:
        raise _in_fish(tag) from taken
    if capture.fish_id is None:
        capture.fish = fish
        capture.save(update_fields=["fish"])
    tag.state = Tag.State.PLACED
    tag.save(update_fields=["state"])
    return True


def withdraw_placements(capture_id: UUID, act: Act) -> None:
    """The capture was taken out: its tags go back into stock."""
    for placement in Placement.present.filter(capture=capture_id).select_related("tag"):
        placement.deleted_at, placement.living_tag = act.device_time, None
        placement.save(update_fields=["deleted_at", "living_tag"])
        Tag.objects.filter(pk=placement.tag_id).update(state=Tag.State.STOCK)


def renew_placements(capture_id: UUID) -> None:
    """The capture was restored: its tags are in the fish again.

    Raises:
        CoreError: ``tag_in_fish`` where a tag has meanwhile gone into another fish.
    """
    for placement in Placement.objects.filter(capture=capture_id).exclude(deleted_at=None).select_related("tag"):
        if Placement.objects.filter(living_tag=placement.tag_id).exists():
            raise _in_fish(placement.tag)
        placement.deleted_at, placement.living_tag = None, placement.tag_id
        placement.save(update_fields=["deleted_at", "living_tag"])
        Tag.objects.filter(pk=placement.tag_id).update(state=Tag.State.PLACED)


def _in_fish(tag: Tag) -> CoreError:
    return CoreError(
        "tag_in_fish",
        f"{tag.get_kind_display()} {tag.number} is already in a living fish. Scan again; if it is right, this fish is a recapture.",
        "number",
    )
