"""Instruments that are not there: each a TCP server on loopback that speaks lines, as an adapter between serial and network does.

    python -m standins.instruments 9310     # PIT reader, board, balance, GPS, probe on 9310 to 9314; what they do by 9315

On the last port they are told what to do, a JSON object a line: {"do": "length", "value": 437}, {"do": "mass", "value": 890},
{"do": "pit", "number": "999000000120001"}, {"do": "garble", "of": "board"}, {"do": "half", "of": "gps"},
{"do": "flood", "of": "gps", "n": 1000}, {"do": "never settle", "value": 900}, {"do": "unplug", "of": "board"},
{"do": "plug", "of": "board"}. Real instruments of these formats take their place by NAILWRIGHT_INSTRUMENTS.
"""

from __future__ import annotations

import asyncio
import json
import math
import signal
import sys
from collections.abc import Callable
from functools import reduce
from typing import Any

NAMES = ("pit", "board", "balance", "gps", "probe")
#: Of a flood, however long it was asked for.
MOST_LINES = 1_000_000
#: Latitude and longitude of the middle of tonight's stretch in the made-up basin (site K15), degrees.
STRETCH = (44.9725, -31.4555)


def checked(body: str) -> str:
    """A body with its checksum behind a star: the exclusive or of its bytes."""
    return f"{body}*{reduce(lambda total, byte: total ^ byte, body.encode(), 0):02X}"


def pit_frame(number: str) -> str:
    """The frame of a PIT number, ISO 11785 FDX-B, as 32 hexadecimal digits."""
    value = 1 << 63 | int(number[:3]) << 38 | int(number[3:])
    data = f"{value:064b}"[::-1]
    register = 0
    for bit in data:
        register = (register >> 1) ^ (0x8408 if (register ^ int(bit)) & 1 else 0)
    parts = data + f"{register:016b}"[::-1] + "0" * 24
    frame = "00000000001" + "".join(f"{parts[at : at + 8]}1" for at in range(0, len(parts), 8))
    return f"F {int(frame, 2):032X}"


class Instrument:
    """One of them, with whoever listens."""

    def __init__(self, name: str, port: int) -> None:
        self.name, self.port = name, port
        self.server: asyncio.Server | None = None
        self.listeners: set[asyncio.StreamWriter] = set()

    async def plug(self) -> None:
        if not self.server:
            self.server = await asyncio.start_server(self._listen, "127.0.0.1", self.port)

    async def unplug(self) -> None:
        if self.server:
            self.server.close()
            self.server = None
        for each in self.listeners.copy():
            each.transport.abort()

    async def _listen(self, reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
        self.listeners.add(writer)
        try:
            await reader.read()  # nothing is told to it: this ends when the other side hangs up
        except ConnectionError:
            pass
        finally:
            self.listeners.discard(writer)

    def say(self, line: str, end: str = "\r\n") -> None:
        for each in self.listeners:
            each.write(f"{line}{end}".encode())


class Bench:
    """All of them, and what they are told to do."""

    def __init__(self, first_port: int) -> None:
        self.of = {name: Instrument(name, first_port + place) for place, name in enumerate(NAMES)}
        self.control_port = first_port + len(NAMES)

    async def run(self) -> None:
        for each in self.of.values():
            await each.plug()
        control = await asyncio.start_server(self._told, "127.0.0.1", self.control_port)
        stop = asyncio.Event()
        for sign in (signal.SIGTERM, signal.SIGINT):
            asyncio.get_running_loop().add_signal_handler(sign, stop.set)
        idle = asyncio.create_task(self._idle())
        await stop.wait()
        idle.cancel()
        control.close()
        for each in self.of.values():
            await each.unplug()

    async def _idle(self) -> None:
        """The boat goes up and down its stretch at half a metre a second, the water stays about what it is."""
        second = 0
        while True:
            along = 1e-3 * math.sin(second / 300)
            lat, lon = STRETCH[0] + along, STRETCH[1] + along
            minutes = f"{int(lat):02d}{lat % 1 * 60:08.5f},N,{int(-lon):03d}{-lon % 1 * 60:08.5f},W"
            self.of["gps"].say(f"${checked(f'GPGGA,{second % 240000:06d}.00,{minutes},1,09,0.9,212.0,M,40.0,M,,')}")
            if second % 5 == 0:
                self.of["probe"].say(
                    checked(f"PRB temperature_c={9.4 + second % 3 / 10:.1f};ambient_us_cm=173;oxygen_mg_l=10.8")
                )
            second += 1
            await asyncio.sleep(1)

    async def _told(self, reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
        while True:
            try:
                if not (line := await reader.readline()):
                    break
                told = json.loads(line)
                await self.do(**told)
                answer = {"done": told.get("do")}
            except (ValueError, TypeError, KeyError, AttributeError, RecursionError, OverflowError) as error:
                answer = {"error": f"Expected something that the stand-ins can do; {error}"}
            writer.write(json.dumps(answer).encode() + b"\n")
        writer.close()

    def _flood(self, of: str, n: float) -> None:
        for each in range(min(int(n), MOST_LINES)):
            self.of[of].say(checked(f"LEN = {100 + each % 400} mm"))

    async def do(self, do: str, **more: Any) -> None:
        """One thing that happens at the instruments; raises ``KeyError`` where they cannot do it."""
        deeds: dict[str, Callable[..., Any]] = {
            "length": lambda value: self.of["board"].say(checked(f"LEN = {float(value):g} mm")),
            "mass": lambda value: self._settle(float(value)),
            "never settle": lambda value: self._settle(float(value), settles=False),
            "pit": lambda number: self.of["pit"].say(pit_frame(str(number))),
            "garble": lambda of: self.of[of].say("F 00FF3?%&LEN#"),
            "half": lambda of: self.of[of].say("WGT = 8", end=""),
            "flood": self._flood,
            "unplug": lambda of: self.of[of].unplug(),
            "plug": lambda of: self.of[of].plug(),
        }
        done = deeds[do](**more)
        if asyncio.iscoroutine(done):
            await done

    async def _settle(self, grams: float, settles: bool = True) -> None:
        """A balance with a fish on it: it sways, then rests."""
        for share in (0.91, 1.06, 0.98, 1.01):
            self.of["balance"].say(checked(f"WGT ? {grams * share:.1f} g"))
            await asyncio.sleep(0.15)
        if settles:
            self.of["balance"].say(checked(f"WGT = {grams:.1f} g"))


if __name__ == "__main__":
    asyncio.run(Bench(int(sys.argv[1])).run())
