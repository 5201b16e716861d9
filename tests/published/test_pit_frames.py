"""PIT frames against ISO 11785 by a bit-level routine of the tests' own, and countries against a general library."""

from __future__ import annotations

import binascii

import pycountry
import pytest

from nailwright_core.tags.countries import COUNTRY_CODES
from nailwright_core.tags.pit import PitCode, _crc, encode_fdxb


def test_crc_of_the_catalogue() -> None:
    """CRC catalogues, ISO 11785 / KERMIT: "123456789" gives 0x2189; each byte is sent lowest bit first."""
    bits = "".join(f"{byte:08b}"[::-1] for byte in b"123456789")
    assert _crc(bits) == 0x2189


def test_crc_against_the_standard_library() -> None:
    """binascii.crc_hqx is the same polynomial unreflected: reflecting bytes and result gives ours."""
    data = bytes(range(8))
    mirrored = bytes(int(f"{byte:08b}"[::-1], 2) for byte in data)
    wanted = int(f"{binascii.crc_hqx(mirrored, 0):016b}"[::-1], 2)
    assert _crc("".join(f"{byte:08b}"[::-1] for byte in data)) == wanted


def frame_bit_by_bit(country: int, identifier: int) -> list[int]:
    """ISO 11785 FDX-B written down one bit at a time, as the standard's picture shows it."""
    frame = [0] * 10 + [1]
    payload: list[int] = []
    for place in range(38):
        payload.append(identifier // 2**place % 2)
    for place in range(10):
        payload.append(country // 2**place % 2)
    payload.append(0)  # no data block
    payload.extend([0] * 14)  # reserved
    payload.append(1)  # an animal
    register = [0] * 16  # register[0] is the highest power of the reflected CRC, shifted out last
    for bit in payload:
        feedback = register[15] ^ bit
        register = [0, *register[:15]]
        if feedback:
            for tap in (0, 5, 12):
                register[tap] ^= 1
    checksum = register[::-1]
    for part in (payload, checksum, [0] * 24):
        for start in range(0, len(part), 8):
            frame.extend(part[start : start + 8])
            frame.append(1)
    return frame


@pytest.mark.parametrize("identifier", [0, 1, 2**38 - 1, 123456789012, 87654321])
@pytest.mark.parametrize("country", [999, 900, 36, 840])
def test_frames_bit_by_bit(country: int, identifier: int) -> None:
    assert [int(bit) for bit in encode_fdxb(PitCode(country, identifier))] == frame_bit_by_bit(country, identifier)


def test_countries_against_pycountry() -> None:
    assert {int(country.numeric) for country in pycountry.countries} == COUNTRY_CODES
