"""A volunteer's card is kept."""

from nailwright.programmes.record.operations import Kind
from nailwright.returns.volunteers.cards import record_card

KIND = Kind("card.record", "write_card", record_card)
