"""Something is said of fish, a bath or a run; the entry's key becomes the event's."""

from __future__ import annotations

from nailwright.deck.handling.recording import record_event
from nailwright.programmes.record.operations import Kind

KIND = Kind("event.say", "work_deck", record_event)
