"""A volunteer's card is changed."""

from nailwright.programmes.record.operations import Kind
from nailwright.returns.volunteers.cards import edit_card

KIND = Kind("card.edit", "write_card", edit_card)
