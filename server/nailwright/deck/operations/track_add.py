"""Positions of a receiver during a run."""

from __future__ import annotations

from nailwright.deck.runs.keeping_tracks import add_track
from nailwright.programmes.record.operations import Kind

KIND = Kind("track.add", "work_deck", add_track)
