"""A photo of a card is deleted, or restored."""

from nailwright.programmes.record.operations import Kind
from nailwright.returns.volunteers.card_photos import delete_card_photo

KIND = Kind("card_photo.delete", "write_card", delete_card_photo)
