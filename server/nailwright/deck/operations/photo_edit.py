"""What a photo shows is put right; it is taken out, or put back."""

from __future__ import annotations

from nailwright.deck.media.photos import edit_photo
from nailwright.programmes.record.operations import Kind

KIND = Kind("photo.edit", "work_deck", edit_photo)
