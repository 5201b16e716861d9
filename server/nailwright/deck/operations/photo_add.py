"""A photo of a fish or a place."""

from __future__ import annotations

from nailwright.deck.media.photos import add_photo
from nailwright.programmes.record.operations import Kind

KIND = Kind("photo.add", "work_deck", add_photo)
