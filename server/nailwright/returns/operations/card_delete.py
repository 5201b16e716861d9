"""A volunteer's card is deleted, or restored."""

from nailwright.programmes.record.operations import Kind
from nailwright.returns.volunteers.cards import delete_card

KIND = Kind("card.delete", "write_card", delete_card)
