"""PIT numbers: as they are typed, as they are stored, and as they come over the air.

The 64 bits of a code and their order: ISO 11784. The frame of 128 bits round them (header, control bits, CRC, trailer):
ISO 11785, FDX-B. The CRC is that of ISO 11785 in the CRC catalogues: polynomial x^16 + x^12 + x^5 + 1 reflected (0x8408),
initial value 0, whose check value over "123456789" is 0x2189.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from typing import NoReturn

from nailwright_core.common.errors import CoreError
from nailwright_core.tags.countries import COUNTRY_CODES

TEST_COUNTRY = 999
MANUFACTURERS = range(900, 999)
MAX_IDENTIFIER = 2**38 - 1

#: What may stand before the identifier.
COUNTRIES = COUNTRY_CODES | set(MANUFACTURERS) | {TEST_COUNTRY}
#: The first bits of a frame.
HEADER = "00000000001"
_FRAME_BITS = 128


@dataclass(frozen=True)
class PitCode:
    """One PIT number.

    Attributes:
        country: 3-digit country of ISO 3166, manufacturer (900 to 998), or 999 for tests.
        identifier: 38-bit number within it.
        animal, data_block: the two flags; ``reserved`` the 14 bits between them.
    """

    country: int
    identifier: int
    animal: bool = True
    data_block: bool = False
    reserved: int = 0

    @property
    def decimal15(self) -> str:
        """The 15 digits that are shown and typed."""
        return f"{self.country:03d}{self.identifier:012d}"

    @property
    def hex16(self) -> str:
        """The 64 bits as 16 hexadecimal digits, the animal flag first."""
        return f"{self._number():016X}"

    def _number(self) -> int:
        return self.animal << 63 | self.reserved << 49 | self.data_block << 48 | self.country << 38 | self.identifier


def parse_pit(text: str) -> PitCode:
    """Read a PIT number: 15 decimal digits, 16 hexadecimal digits, 3 and 10 of them with a point between, or a frame.

    Spaces, points, dashes and underscores between digits are passed over, as readers and people put them; a point behind
    three of thirteen hexadecimal digits says that manufacturer and number are both hexadecimal. Sixteen digits are taken for
    hexadecimal only where they say that they belong to an animal: else they are a decimal number with one too many.

    Args:
        text: 15 digits, or 16 hexadecimal ones.

    Raises:
        CoreError: ``pit_empty``, ``pit_length``, ``pit_unreadable``, ``pit_flags``, ``pit_country``, ``pit_identifier``, and
            for frames as ``decode_fdxb``; field ``pit``.
    """
    if parted := re.fullmatch(r"\s*([0-9A-Fa-f]{3})\.([0-9A-Fa-f]{10})\s*", text):
        return _checked(int(parted[1], 16), int(parted[2], 16), text)
    body = re.sub(r"[\s._-]", "", text)
    if not body:
        _refuse("pit_empty", "Expected a PIT number of 15 digits; got nothing.")
    if re.fullmatch(r"[01]{128}", body):
        return _of_an_animal(decode_fdxb(body), text)
    if re.fullmatch(r"\d{15}", body):
        return _checked(int(body[:3]), int(body[3:]), text)
    if re.fullmatch(r"[0-9A-Fa-f]{16}", body):
        return _of_an_animal(_from_number(int(body, 16), text, body), text)
    shown = text.strip() if len(text.strip()) <= 40 else f"{text.strip()[:37]}..."
    if not re.fullmatch(r"[0-9A-Fa-f]+", body):
        _refuse("pit_unreadable", f"Expected a PIT number of 15 digits; got '{shown}', which holds other signs.")
    _refuse(
        "pit_length",
        f"A PIT number has 15 digits (or 16 hexadecimal ones); got {len(body)}: '{shown}'. Scan it again.",
    )


def encode_fdxb(code: PitCode) -> str:
    """The frame of 128 bits as a text of 0 and 1, in the order in which they are sent.

    Args:
        code: country and identifier.

    Raises:
        CoreError: ``pit_country`` or ``pit_identifier``.
    """
    _checked(code.country, code.identifier, code.decimal15)
    data = _lowest_first(code._number(), 64)
    checksum = _lowest_first(_crc(data), 16)
    return HEADER + _controlled(data) + _controlled(checksum) + _controlled("0" * 24)


def decode_fdxb(bits: str) -> PitCode:
    """The code in a frame of 128 bits (a text of 0 and 1).

    Args:
        bits: as they were sent, 128 characters of 0 and 1.

    Raises:
        CoreError: ``pit_frame`` (length, header or control bits), ``pit_crc``, ``pit_country``.
    """
    if not re.fullmatch(rf"[01]{{{_FRAME_BITS}}}", bits):
        _refuse("pit_frame", f"Expected a frame of 128 bits; got {len(bits)} signs.")
    if not bits.startswith(HEADER):
        _refuse("pit_frame", f"Expected the header {HEADER}; got {bits[:11]}.")
    groups = [bits[at : at + 9] for at in range(len(HEADER), _FRAME_BITS, 9)]
    if any(group[8] != "1" for group in groups):
        _refuse("pit_frame", "A control bit is 0 where it must be 1; the frame was read badly. Scan again.")
    data = "".join(group[:8] for group in groups[:8])
    got = int("".join(group[:8] for group in groups[8:10])[::-1], 2)
    if got != (wanted := _crc(data)):
        read = _unchecked(int(data[::-1], 2)).decimal15
        _refuse("pit_crc", f"The checksum does not fit: {got:04X} where {wanted:04X} belongs to {read}. Scan again.")
    return _from_number(int(data[::-1], 2), _unchecked(int(data[::-1], 2)).decimal15)


def _from_number(number: int, text: str, body: str = "") -> PitCode:
    code = _unchecked(number)
    if body.isdigit() and (not code.animal or code.reserved):
        _refuse("pit_length", f"A PIT number has 15 digits; got 16: '{text.strip()}'. Scan it again.")
    _checked(code.country, code.identifier, text)
    return code


def _of_an_animal(code: PitCode, text: str) -> PitCode:
    if code.animal and not code.reserved:
        return code
    what = "has bits set that are kept for later" if code.animal else "says that it belongs to no animal"
    _refuse(
        "pit_flags",
        f"'{text.strip()[:40]}' {what}. Scan it again; if it reads the same, keep it as it is in the fish's note.",
    )


def _unchecked(number: int) -> PitCode:
    return PitCode(
        country=number >> 38 & 0x3FF,
        identifier=number & MAX_IDENTIFIER,
        animal=bool(number >> 63),
        data_block=bool(number >> 48 & 1),
        reserved=number >> 49 & 0x3FFF,
    )


def _checked(country: int, identifier: int, text: str) -> PitCode:
    if country not in COUNTRIES:
        _refuse(
            "pit_country",
            f"'{text.strip()}' begins with {country:03d}, which is no country (ISO 3166) and no manufacturer (900 to 998). "
            "Scan it again.",
        )
    if not 0 <= identifier <= MAX_IDENTIFIER:
        _refuse(
            "pit_identifier",
            f"The last 12 digits of '{text.strip()}' are above {MAX_IDENTIFIER}, the largest there is.",
        )
    return PitCode(country, identifier)


def _lowest_first(number: int, width: int) -> str:
    return f"{number:0{width}b}"[::-1]


def _controlled(bits: str) -> str:
    """A 1 after every 8 bits, so that no data can look like the header."""
    return "".join(bits[at : at + 8] + "1" for at in range(0, len(bits), 8))


def _crc(bits: str) -> int:
    """CRC over bits in the order in which they are sent."""
    crc = 0
    for bit in bits:
        low = (crc ^ int(bit)) & 1
        crc >>= 1
        if low:
            crc ^= 0x8408
    return crc


def _refuse(code: str, message: str) -> NoReturn:
    raise CoreError(code, message, "pit")
