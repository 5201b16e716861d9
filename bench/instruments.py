"""Readings a second through the gateway: from a socket to what listeners are told, and decoding alone."""

from __future__ import annotations

import asyncio
import time

from bench.size import size
from bench.timing import seconds, show
from nailwright.gateway.hub import Hub
from nailwright_core.instruments import DECODERS, LineBuffer
from standins.instruments import checked, pit_frame

LINES = size(20_000, 500)


def measure() -> None:
    length = f"{checked('LEN = 437 mm')}\r\n".encode() * LINES
    frames = f"{pit_frame('999000000120001')}\r\n".encode() * LINES
    for kind, wire in (("board", length), ("pit", frames)):
        decoder = DECODERS[kind]()

        def decode(decoder=decoder, wire=wire) -> None:  # type: ignore[no-untyped-def]
            buffer = LineBuffer()
            for at in range(0, len(wire), 4096):
                for line in buffer.feed(wire[at : at + 4096]):
                    decoder.decode(line)

        show(f"{kind}: lines decoded", f"{LINES / seconds(decode, 3):,.0f} /s")
    lines, told = asyncio.run(_through())
    show("gateway: lines from a socket, three instruments at once", f"{lines:,.0f} /s", f"{told} messages to each Deck")


async def _through() -> tuple[float, int]:
    """Three instruments that say as much as they can for some seconds, and one listener."""

    async def flood(reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
        lines = b"".join(f"{checked(f'LEN = {100 + n % 400} mm')}\r\n".encode() for n in range(LINES))
        writer.write(lines)
        await writer.drain()
        await reader.read()  # until the other side hangs up

    servers = [await asyncio.start_server(flood, "127.0.0.1", 0) for _ in range(3)]
    # the links take one instrument of each kind: three hubs stand for three boards
    hubs = [Hub({"board": ("127.0.0.1", each.sockets[0].getsockname()[1])}) for each in servers]
    heard = 0

    def count(kind: str, reading: object, hub: Hub) -> None:
        nonlocal heard
        heard += 1
        hub._pending[(kind, "")] = reading  # type: ignore[assignment]

    for hub in hubs:
        hub.links[0]._told = lambda kind, reading, hub=hub: count(kind, reading, hub)  # type: ignore[misc]
    queue = hubs[0].join()
    assert queue
    began = time.perf_counter()
    running = [asyncio.create_task(hub.run()) for hub in hubs]
    while heard < 3 * LINES:
        await asyncio.sleep(0.01)
    took = time.perf_counter() - began
    await asyncio.sleep(0.3)
    for each in running:
        each.cancel()
    await asyncio.gather(*running, return_exceptions=True)
    return 3 * LINES / took, queue.qsize()
