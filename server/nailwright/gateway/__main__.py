"""python -m nailwright.gateway 8430

NAILWRIGHT_INSTRUMENTS: what is where, such as ``pit=127.0.0.1:9310,board=127.0.0.1:9311``. NAILWRIGHT_GATEWAY_ORIGINS: pages that
may listen, with blanks between. NAILWRIGHT_STANDINS: the port on which stand-ins are told what to do; only then can they be.
It binds to loopback, or to NAILWRIGHT_GATEWAY_BIND.
"""

from __future__ import annotations

import asyncio
import logging
import os
import sys

import django


async def serve(port: int) -> None:
    from nailwright.gateway.hub import Hub
    from nailwright.gateway.web import Web, server_of

    hub = Hub(read_instruments(os.environ.get("NAILWRIGHT_INSTRUMENTS", "")))
    origins = frozenset(os.environ.get("NAILWRIGHT_GATEWAY_ORIGINS", "").split())
    standins = os.environ.get("NAILWRIGHT_STANDINS", "")
    web = Web(hub, origins, int(standins) if standins else None)
    server = server_of(web, origins, os.environ.get("NAILWRIGHT_GATEWAY_BIND", "127.0.0.1"), port)
    running = asyncio.create_task(hub.run())
    serving = asyncio.create_task(server.serve())  # until SIGTERM or SIGINT, by which its streams end too
    await asyncio.wait({running, serving}, return_when=asyncio.FIRST_COMPLETED)
    failed = running.done()  # it never ends by itself: whoever started us starts us again
    hub.end()
    server.should_exit = True
    await serving
    running.cancel()
    await asyncio.gather(running, return_exceptions=True)
    if failed:
        running.result()


def read_instruments(text: str) -> dict[str, tuple[str, int]]:
    """Addresses by name: its kind, the second of a kind with "-2" and so on; ends with a word on what was expected."""
    from nailwright_core.instruments import DECODERS

    found: dict[str, tuple[str, int]] = {}
    for part in filter(None, (each.strip() for each in text.split(","))):
        kind, _, address = part.partition("=")
        host, _, port = address.rpartition(":")
        if kind not in DECODERS or not host or not port.isdigit() or (host, int(port)) in found.values():
            sys.exit(
                f"NAILWRIGHT_INSTRUMENTS: expected {', '.join(DECODERS)} as kind=host:port, each address once; got '{part}'."
            )
        before = sum(name.partition("-")[0] == kind for name in found)
        found[f"{kind}-{before + 1}" if before else kind] = (host, int(port))
    return found


if __name__ == "__main__":
    logging.basicConfig(level=logging.INFO)
    django.setup()
    asyncio.run(serve(int(sys.argv[1])))
