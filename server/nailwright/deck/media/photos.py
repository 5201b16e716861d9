"""Photos of fish and places."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from django.db import transaction

from nailwright.common.fields import one_of, read_id, read_position, read_word
from nailwright.common.pictures import read_base64, read_picture
from nailwright.deck.models import Capture, Photo, PhotoFile
from nailwright.deck.rows import open_outing_of, there, time_of
from nailwright.deck.tasks import tell_of_photo
from nailwright.programmes.models import Programme
from nailwright.programmes.record.audit import Act, already_done, apply_change
from nailwright.programmes.species.known import species_of
from nailwright_core.common.errors import CoreError

_NOTE = 120


def add_photo(act: Act, programme: Programme, row: Mapping[str, Any]) -> bool:
    """Keep a photo of a fish (``capture``) or of the ``outing``; its key is the act's. Of a species of special interest it is
    sent to whom the protocol names.

    Args:
        row: ``outing``, ``capture`` if it is of a fish, ``shows``, ``jpeg`` as base64, and if told ``note``, ``lat``, ``lon``.

    Raises:
        CoreError: ``outing_unknown``, ``outing_closed``, ``capture_unknown``, ``position_half``, and as ``read_picture``.
    """
    outing = open_outing_of(act, programme, row)
    capture = None
    if row.get("capture"):
        capture = there(
            Capture, Capture.objects.select_related("run").filter(pk=read_id(row, "capture")).first(), programme
        )
        if capture.run.outing_id != outing.pk:
            raise CoreError("capture_elsewhere", "This fish belongs to another outing.", "capture")
    shows = one_of(row, "shows", Photo.Shows.values)
    note = read_word(row, "note", _NOTE)
    lat, lon = read_position(row)
    if Photo.objects.filter(pk=act.id).exists():
        return False
    picture = read_picture(read_base64(row.get("jpeg"), "jpeg"), "jpeg")
    photo = Photo.objects.create(
        id=act.id, outing=outing, capture=capture, shows=shows, note=note, width=picture.width, height=picture.height,
        lat=lat, lon=lon, recorder=act.person, device_time=time_of(act, capture) if capture else act.device_time,
    )  # fmt: skip
    PhotoFile.objects.create(photo=photo, jpeg=picture.jpeg, small=picture.small)
    if capture and species_of(programme)[capture.species].special_interest:
        key = str(photo.pk)
        transaction.on_commit(lambda: tell_of_photo.enqueue(key))
    return True


def edit_photo(act: Act, programme: Programme, row: Mapping[str, Any]) -> bool:
    """Change what a ``photo`` shows or its ``note``; ``deleted`` takes it out or puts it back.

    Raises:
        CoreError: ``photo_unknown``, ``outing_closed``, and as the fields'.
    """
    photo = there(
        Photo,
        Photo.objects.select_for_update().select_related("outing").filter(pk=read_id(row, "photo")).first(),
        programme,
    )
    photo.outing.must_be_open(act)
    if already_done(act):
        return False
    values: dict[str, Any] = {}
    if "shows" in row:
        values["shows"] = one_of(row, "shows", Photo.Shows.values)
    if "note" in row:
        values["note"] = read_word(row, "note", _NOTE)
    if isinstance(row.get("deleted"), bool) and row["deleted"] != bool(photo.deleted_at):
        values["deleted_at"] = act.device_time if row["deleted"] else None
    return apply_change(act, programme, photo, values)
