"""Instruments' lines against things outside: frames by a bit-level routine of the tests' own, positions by pynmea2."""

from __future__ import annotations

import random

import pynmea2
import pytest
from hypothesis import given
from hypothesis import strategies as st

from nailwright_core.common.errors import CoreError
from nailwright_core.instruments import DECODERS

from .test_pit_frames import frame_bit_by_bit


def as_line(bits: list[int]) -> str:
    return f"F {int(''.join(map(str, bits)), 2):032X}"


@pytest.mark.parametrize(("country", "identifier"), [(999, 120001), (900, 1), (840, 2**38 - 1)])
def test_a_frame_written_bit_by_bit(country: int, identifier: int) -> None:
    """ISO 11785, FDX-B."""
    read = DECODERS["pit"]().decode(as_line(frame_bit_by_bit(country, identifier)))
    assert read and read.text == f"{country:03d}{identifier:012d}"


def test_no_frame_with_a_bit_turned_is_taken_for_another_number() -> None:
    """Of all single bits: each is either refused, or outside what the number and its checksum are made of (the trailer)."""
    frame = frame_bit_by_bit(999, 120001)
    decode = DECODERS["pit"]().decode
    for place in range(128):
        turned = [bit ^ (at == place) for at, bit in enumerate(frame)]
        try:
            read = decode(as_line(turned))
        except CoreError as refused:
            assert refused.code == "line_garbled"
        else:
            assert read and read.text == "999000000120001" and place >= 101


def test_positions_against_pynmea2() -> None:
    dice = random.Random(7)
    decode = DECODERS["gps"]().decode
    for _ in range(300):
        lat, lon = dice.uniform(-89.9, 89.9), dice.uniform(-179.9, 179.9)
        parts = (
            f"{int(abs(lat)):02d}{abs(lat) % 1 * 60:08.5f}", "N" if lat > 0 else "S",
            f"{int(abs(lon)):03d}{abs(lon) % 1 * 60:08.5f}", "E" if lon > 0 else "W",
        )  # fmt: skip
        gga = pynmea2.GGA("GN", "GGA", ("093012.00", *parts, "1", "08", "1.1", "212.0", "M", "40.0", "M", "", ""))
        rmc = pynmea2.RMC("GP", "RMC", ("093012.00", "A", *parts, "0.5", "10.0", "270926", "", "", "A"))
        for sentence in (gga, rmc):
            read = decode(str(sentence))
            assert read is not None
            theirs = pynmea2.parse(str(sentence), check=True)
            assert (read.values["lat"], read.values["lon"]) == pytest.approx(
                (theirs.latitude, theirs.longitude), abs=2e-7
            )


def test_a_sentence_of_the_books() -> None:
    """NMEA 0183's much printed example, from memory: 48 degrees 07.038 N, 11 degrees 31.000 E."""
    read = DECODERS["gps"]().decode("$GPGGA,123519,4807.038,N,01131.000,E,1,08,0.9,545.4,M,46.9,M,,*47")
    assert read and (read.values["lat"], read.values["lon"]) == pytest.approx((48.1173, 11.516667), abs=1e-6)


@given(st.text(max_size=120))
def test_whatever_comes_is_read_or_refused_in_words(line: str) -> None:
    for decoder in DECODERS.values():
        try:
            decoder().decode(line)
        except CoreError as refused:
            assert refused.code == "line_garbled" and refused.message
