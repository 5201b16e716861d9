"""What was recorded of a fish, a bath or a run is corrected field by field, deleted, or restored."""

from __future__ import annotations

from nailwright.deck.handling.older_entries import with_details
from nailwright.deck.handling.recording import edit_event
from nailwright.programmes.record.operations import Kind

KIND = Kind("event.edit", "work_deck", edit_event, upgraded=with_details)
