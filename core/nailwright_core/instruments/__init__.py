"""What instruments say, read from their lines: no sockets here."""

from nailwright_core.instruments.lines import LineBuffer
from nailwright_core.instruments.readers import DECODERS, Decoder
from nailwright_core.instruments.reading import Reading

__all__ = ["DECODERS", "Decoder", "LineBuffer", "Reading"]
