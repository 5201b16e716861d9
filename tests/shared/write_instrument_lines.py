"""Writes ``instrument-lines.json`` from core: lines of instruments, and what each of core's decoders reads in them."""

from __future__ import annotations

import json
import random
from pathlib import Path
from typing import Any

from nailwright_core.common.errors import CoreError
from nailwright_core.instruments import DECODERS
from nailwright_core.instruments.readers import checksum
from nailwright_core.tags.pit import encode_fdxb, parse_pit

FILE = Path(__file__).with_name("instrument-lines.json")
BODIES = (
    "LEN = 437 mm", "LEN = 43.7 cm", "LEN ? 437 mm", "LEN = 9000 mm", "LEN = 437 in", "LEN = 0 mm",
    "WGT = 890.0 g", "WGT ? 874.25 g", "WGT = 1.25 kg", "WGT = -5 g", "WGT = 3000 kg",
    "PRB temperature_c=9.4;oxygen_mg_l=10.8", "PRB temperature_c=-1.5", "PRB temperature_c=94", "PRB sky=3", "PRB",
    "PRB ambient_us_cm=173;",
)  # fmt: skip
SENTENCES = (
    "GPGGA,123519,4807.038,N,01131.000,E,1,08,0.9,545.4,M,46.9,M,,", "GNRMC,1,A,3352.12345,S,15112.5,W,,,,,",
    "GPGGA,1,4807.038,N,01131.000,E,0,00,,", "GPGGA,1,4807.038,N,01131.000,E,8,08,0.9", "GPRMC,1,V,,,,,",
    "GPGSV,1,1,00", "GPGGA,1,0000.000,N,00000.000,E,1,08,0.9", "GPGGA,1,9907.038,N,01131.000,E,1,08,0.9",
    "GPGGA,1,4870.038,N,01131.000,E,1,08,0.9", "GPGGA,1,,,,,1,08,0.9", "GPGGA,1", "GPGGA,1,4807.038,NS,01131.0,E,1,08,9",
)  # fmt: skip
NUMBERS = ("999000000120001", "900274877906943", "840000000000001")


def lines() -> list[str]:
    """Whole lines of every kind, each also changed or cut off by seeded dice."""
    dice = random.Random(11)
    frames = [f"F {int(encode_fdxb(parse_pit(number)), 2):032X}" for number in NUMBERS]
    whole = [
        *(f"{body}*{checksum(body):02X}" for body in BODIES),
        *(f"${body}*{checksum(body):02X}" for body in SENTENCES),
        *frames,
        "LEN = 437 mm", "LEN = 437 mm*00", "hello", "F 0123", f"F {'0' * 32}", f"F {'F' * 32}", "$*00", "*", "$GPGGA*56",
    ]  # fmt: skip
    return whole + [_changed(dice, each) for each in whole for _ in range(3)]


def _changed(dice: random.Random, line: str) -> str:
    at = dice.randrange(len(line))
    if dice.random() < 0.3:
        return line[:at] or "?"
    sign = dice.choice("0123456789ABCDEF*=?, ")
    changed = line[:at] + sign + line[at + 1 :]
    body, star, _ = changed.lstrip("$").rpartition("*")
    # half of them with a checksum that fits, so that more than the checksum is tried
    if star and dice.random() < 0.5:
        changed = f"{'$' if changed.startswith('$') else ''}{body}*{checksum(body):02X}"
    return changed.strip() or "?"


def cases() -> list[dict[str, Any]]:
    """Each line with what each decoder reads in it; an instrument that is not named there refuses it as garbled."""
    return [{"line": line, "read": _read(line)} for line in lines()]


def _read(line: str) -> dict[str, Any]:
    found: dict[str, Any] = {}
    for name, decoder in DECODERS.items():
        try:
            read = decoder().decode(line)
        except CoreError:
            continue
        found[name] = read and {
            "kind": read.kind, "text": read.text, "values": dict(read.values), "stable": read.stable,
        }  # fmt: skip
    return found


if __name__ == "__main__":
    FILE.write_text(json.dumps(cases(), separators=(",", ":")) + "\n", encoding="utf-8")
