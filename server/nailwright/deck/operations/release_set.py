"""Fish leave the boat, or are aboard again."""

from __future__ import annotations

from nailwright.deck.handling.releases import set_release
from nailwright.programmes.record.operations import Kind

KIND = Kind("release.set", "work_deck", set_release)
