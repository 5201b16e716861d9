"""Something is recorded of a fish, a bath or a run."""

from __future__ import annotations

from nailwright.deck.handling.older_entries import with_details
from nailwright.deck.handling.recording import record_event
from nailwright.programmes.record.operations import Kind

KIND = Kind("event.record", "work_deck", record_event, was=("event.say",), upgraded=with_details)
