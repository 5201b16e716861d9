"""A tag from stock went into a fish; the entry's key becomes the placement's."""

from __future__ import annotations

from nailwright.common.fields import read_id
from nailwright.deck.encounters import renew_encounters
from nailwright.deck.rows import locked_capture, time_of
from nailwright.programmes.models import Programme
from nailwright.programmes.record.audit import Act
from nailwright.programmes.record.operations import Kind, Row
from nailwright.tags.actions import InHand, place_tag


def place_tag_in_capture(act: Act, programme: Programme, row: Row) -> bool:
    """Place the tag of the row's ``kind`` and ``number`` in the fish of its ``capture``."""
    capture = locked_capture(programme, read_id(row, "capture"))
    capture.run.outing.must_be_open(act)
    hand = InHand(capture.pk, capture.species, capture.fish_id, bool(capture.scanned))
    fish = place_tag(act, programme, hand, row, time_of(act, capture))
    if fish is None:
        return False
    if capture.fish_id != fish:
        capture.fish_id = fish
        capture.save(update_fields=["fish"])
        renew_encounters([capture.pk])
    return True


KIND = Kind("tag.place", "work_deck", place_tag_in_capture)
