"""Photos of volunteers' cards."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from nailwright.common.fields import read_id
from nailwright.common.pictures import read_base64, read_picture
from nailwright.programmes.models import Programme
from nailwright.programmes.policies import require
from nailwright.programmes.record.audit import Act, already_done, apply_change
from nailwright.programmes.record.operations import NotYet
from nailwright.returns.models import Card, CardPhoto
from nailwright_core.common.errors import CoreError

#: So many photos a card may have.
MOST_PHOTOS = 6


def add_card_photo(act: Act, programme: Programme, row: Mapping[str, Any]) -> bool:
    """Keep a photo of a ``card``; its key is the act's.

    Args:
        row: ``card``, ``jpeg`` as base64.

    Raises:
        CoreError: ``card_unknown``, ``too_many_photos``, and as ``read_picture``. Refused: for another one's card.
    """
    card = Card.objects.select_for_update().filter(pk=read_id(row, "card"), programme=programme).first()
    if card is None:
        raise NotYet("card_unknown", "This card is not here: it may come from another device.", "card")
    if card.tagger_id != act.person.pk:
        require(act.person, programme, "correct_record")
    if CardPhoto.objects.filter(pk=act.id).exists():
        return False
    if CardPhoto.present.filter(card=card).count() >= MOST_PHOTOS:
        raise CoreError(
            "too_many_photos", f"A card keeps at most {MOST_PHOTOS} photos. Delete one of them first.", "jpeg"
        )
    picture = read_picture(read_base64(row.get("jpeg"), "jpeg"), "jpeg")
    CardPhoto.objects.create(
        id=act.id,
        card=card,
        recorder=act.person,
        device_time=act.device_time,
        jpeg=picture.jpeg,
        small=picture.small,
    )
    return True


def delete_card_photo(act: Act, programme: Programme, row: Mapping[str, Any]) -> bool:
    """Mark a ``photo`` of a card as deleted, or restore it (``deleted`` false).

    Raises:
        CoreError: ``photo_unknown``. Refused: for another one's card.
    """
    photo = (
        CardPhoto.objects.select_for_update()
        .select_related("card")
        .filter(pk=read_id(row, "photo"), card__programme=programme)
        .first()
    )
    if photo is None:
        raise NotYet("photo_unknown", "This photo is not here: it may come from another device.", "photo")
    if photo.card.tagger_id != act.person.pk:
        require(act.person, programme, "correct_record")
    deleted = row.get("deleted") is not False
    if already_done(act) or bool(photo.deleted_at) == deleted:
        return False
    return apply_change(act, programme, photo, {"deleted_at": act.device_time if deleted else None})
