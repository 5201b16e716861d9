"""What a programme decides for its crews, as values: sections of rows, each with its columns, bounds and what ships.

``sections`` says what there is to decide, ``values`` reads and checks a whole protocol, ``rules`` looks up in it what holds
for a fish. Nothing here knows where a protocol is kept.
"""

from nailwright_core.protocol.rules import band_for, benchmark_for, bin_for, hand_limits_for, lanes_of, word_for
from nailwright_core.protocol.sections import GROUPS, SECTIONS, Section
from nailwright_core.protocol.values import Protocol, kept_protocol, read_protocol, shipped_protocol

__all__ = [
    "GROUPS", "SECTIONS", "Protocol", "Section", "band_for", "benchmark_for", "bin_for", "hand_limits_for", "kept_protocol", "lanes_of", "read_protocol",
    "shipped_protocol", "word_for",
]  # fmt: skip
