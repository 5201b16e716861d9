"""What was said is put right field by field, taken out, or put back."""

from __future__ import annotations

from nailwright.deck.actions.events import edit_event
from nailwright.programmes.operations import Kind

KIND = Kind("event.edit", "work_deck", edit_event)
