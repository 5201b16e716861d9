"""A photo of a volunteer's card is kept."""

from nailwright.programmes.record.operations import Kind
from nailwright.returns.volunteers.card_photos import add_card_photo

KIND = Kind("card_photo.add", "write_card", add_card_photo)
