"""What was said is put right field by field, taken out, or put back."""

from __future__ import annotations

from nailwright.deck.handling.recording import edit_event
from nailwright.programmes.record.operations import Kind

KIND = Kind("event.edit", "work_deck", edit_event)
