"""Lines of instruments: whole, half, garbled, too long, too many."""

from __future__ import annotations

import json
import sys
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nailwright_core.common.errors import CoreError
from nailwright_core.instruments import DECODERS, LineBuffer
from nailwright_core.instruments.readers import checksum

sys.path.insert(0, str(Path(__file__).resolve().parents[3] / "tests" / "shared"))
import write_instrument_lines  # beside its file, in no package


def line(body: str) -> str:
    return f"{body}*{checksum(body):02X}"


def test_shared_cases_are_fresh() -> None:
    """What a tablet is held to is what core says today; else run tests/shared/write_instrument_lines.py."""
    kept = json.loads(write_instrument_lines.FILE.read_text(encoding="utf-8"))
    assert kept == write_instrument_lines.cases()


@pytest.mark.parametrize(
    ("instrument", "body", "kind", "values", "stable"),
    [
        ("board", "LEN = 437 mm", "length", {"length": 437.0}, True),
        ("board", "LEN = 43.7 cm", "length", {"length": 437.0}, True),
        ("balance", "WGT = 890.0 g", "mass", {"mass": 890.0}, True),
        ("balance", "WGT ? 874.2 g", "mass", {"mass": 874.2}, False),
        ("balance", "WGT = 1.25 kg", "mass", {"mass": 1250.0}, True),
        (
            "probe",
            "PRB temperature_c=9.4;ambient_us_cm=173",
            "water",
            {"temperature_c": 9.4, "ambient_us_cm": 173.0},
            True,
        ),
    ],
    ids=["board", "board-cm", "balance", "balance-moves", "balance-kg", "probe"],
)
def test_what_they_say(instrument: str, body: str, kind: str, values: dict[str, float], stable: bool) -> None:
    read = DECODERS[instrument]().decode(line(body))
    assert read and (read.kind, dict(read.values), read.stable) == (kind, values, stable)


@pytest.mark.parametrize(
    ("instrument", "text", "words"),
    [
        ("board", "LEN = 437 mm", "Expected a checksum"),
        ("board", "LEN = 437 mm*00", "does not fit"),
        ("board", line("LEN = 437"), "Expected LEN"),
        ("board", line("LEN = 437 in"), "mm, cm"),
        ("board", line("LEN = 9000 mm"), "at most 3000"),
        ("board", line("WGT = 437 g"), "Expected LEN"),
        ("balance", line("WGT = -5 g"), "Expected WGT"),
        ("probe", line("PRB"), "Expected PRB"),
        ("probe", line("PRB temperature_c=94"), "expected"),
        ("probe", line("PRB sky=3"), "no reading with a figure"),
        ("probe", line("PRB vigour=3"), "no reading with a figure"),
        ("pit", "F 0123", "32 hexadecimal"),
        ("pit", f"F {'0' * 32}", "header"),
        ("gps", "hello", "NMEA"),
        ("gps", "$GPGGA,123519,4807.038,N,01131.000,E,1,08,0.9,545.4,M,46.9,M,,*48", "does not fit"),
        ("gps", f"${line('GPGGA,1,9907.038,N,01131.000,E,1,08,0.9')}", "beyond the earth"),
        ("gps", f"${line('GPGGA,1,4870.038,N,01131.000,E,1,08,0.9')}", "beyond the earth"),
        ("gps", f"${line('GPGGA,1,,,,,1,08,0.9')}", "cannot be read"),
        ("gps", f"${line('GPGGA,1')}", "too few"),
    ],
)
def test_garbled(instrument: str, text: str, words: str) -> None:
    with pytest.raises(CoreError, match=words) as refused:
        DECODERS[instrument]().decode(text)
    assert refused.value.code == "line_garbled"


@pytest.mark.parametrize(
    "body",
    [
        "GPGGA,1,4807.038,N,01131.000,E,0,00,,",
        "GPRMC,1,V,,,,,",
        "GPGGA,1,4807.038,N,01131.000,E,8,08,0.9",
        "GPGSV,1,1,00",
        "GPGGA,1,0000.000,N,00000.000,E,1,08,0.9",
    ],
    ids=["no-fix", "no-fix-rmc", "simulated", "another-sentence", "at-zero-and-zero"],
)
def test_no_position_is_none(body: str) -> None:
    assert DECODERS["gps"]().decode(f"${line(body)}") is None


@given(st.lists(st.text(alphabet="ab *=0", min_size=1, max_size=40).filter(str.strip), max_size=8), st.data())
def test_lines_come_whole_in_whatever_pieces(lines: list[str], data: st.DataObject) -> None:
    wire = b"".join(f"{each}\r\n".encode() for each in lines)
    buffer, found = LineBuffer(), []
    while wire:
        n = data.draw(st.integers(1, len(wire)))
        found += buffer.feed(wire[:n])
        wire = wire[n:]
    assert found == [each.strip() for each in lines]


def test_a_line_that_never_ends_is_dropped_and_the_next_is_read() -> None:
    buffer = LineBuffer()
    for _ in range(1000):
        assert buffer.feed(b"x" * 100) == []
    assert buffer.feed(b"tail\nLEN\n") == ["LEN"]
    assert buffer.dropped >= 1
    assert buffer.feed(b"y" * 300 + b"\nnext\nhal") == ["next"]
    assert buffer.feed(b"f\n") == ["half"]
    assert buffer.feed(b"\xff\xfe\n") == ["??"]
