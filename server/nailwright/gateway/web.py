"""The gateway's few addresses over HTTP: a stream for each Deck, and what stand-ins are told to do.

Plain HTTP/1.1 on asyncio: three fixed answers need no server of their own, and a stream holds one small task here and none of
the application's threads.
"""

from __future__ import annotations

import asyncio
import json
import logging
import time
from collections.abc import Collection, Mapping
from dataclasses import dataclass
from urllib.parse import parse_qs, urlsplit
from uuid import UUID

from django.db import close_old_connections

from nailwright.gateway.hub import Hub
from nailwright.gateway.tickets import has_ended, read_ticket

log = logging.getLogger(__name__)

_MOST_HEAD, _MOST_BODY = 16_384, 4096
_WAIT_S = 10.0
#: A line that says nothing, so that proxies on the way keep the stream open and a dead one is noticed.
_STILL_HERE_S = 15.0
#: So often it is looked whether a ticket's sign-in has ended.
LOOK_EVERY_S = 10.0
_ASK_S = 3.0
#: Who takes nothing for so long is gone: what waits for them would fill the memory.
_SLOWEST_S = 20.0


@dataclass(frozen=True)
class _Asked:
    method: str
    path: str
    query: Mapping[str, str]
    origin: str
    body: bytes


class Web:
    """Serves pages of ``origins``; ``standins`` is the port on which they are told what to do."""

    def __init__(self, hub: Hub, origins: Collection[str], standins: int | None) -> None:
        self._hub, self._origins, self._standins = hub, origins, standins
        self._open: dict[UUID, asyncio.Queue[str]] = {}

    async def serve(self, reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
        """One connection, one request."""
        try:
            async with asyncio.timeout(_WAIT_S):
                asked = await _read(reader)
            await self._answer(asked, writer)
        except (TimeoutError, ValueError, asyncio.IncompleteReadError, asyncio.LimitOverrunError):
            _refuse(writer, 400, "Expected a short request of HTTP/1.1.")
        except ConnectionError:
            pass
        finally:
            writer.close()

    async def _answer(self, asked: _Asked, writer: asyncio.StreamWriter) -> None:
        if asked.origin and asked.origin not in self._origins:
            return _refuse(writer, 403, "Another page's streams are none of its affair.")
        if asked.method == "OPTIONS":
            return _send(writer, 204, b"", asked.origin)
        ticket = read_ticket(asked.query.get("ticket", ""))
        if ticket is None or await _ended(ticket):
            return _refuse(writer, 403, "The ticket is not good, or has ended: load the Deck again.", asked.origin)
        if (asked.method, asked.path) == ("GET", "/stream"):
            return await self._stream(asked, writer, ticket)
        if (asked.method, asked.path) == ("POST", "/play") and self._standins:
            return await self._play(asked, writer)
        _refuse(writer, 404, "Nothing is here.", asked.origin)

    async def _stream(self, asked: _Asked, writer: asyncio.StreamWriter, ticket: UUID) -> None:
        if before := self._open.get(ticket):
            self._hub.leave(
                before
            )  # a ticket holds one stream open: the newest, since one whose line broke comes again
        queue = self._hub.join()
        if queue is None:
            return _refuse(writer, 503, "Too many Decks listen already.", asked.origin)
        self._open[ticket] = queue
        looked = time.monotonic()
        try:
            writer.write(
                _head(200, "text/event-stream", asked.origin, {"Cache-Control": "no-store", "X-Accel-Buffering": "no"})
            )
            while not writer.is_closing():
                try:
                    async with asyncio.timeout(_STILL_HERE_S):
                        message = await queue.get()
                except TimeoutError:
                    message = ": still here\n\n"
                if not message:
                    break  # the gateway ends, or the ticket's newer stream took this one's place
                writer.write(message.encode())
                async with asyncio.timeout(_SLOWEST_S):
                    await writer.drain()
                if time.monotonic() - looked >= LOOK_EVERY_S:
                    looked = time.monotonic()
                    if await _ended(ticket):
                        break
        except TimeoutError:
            log.info("a listener took nothing for %d s and was left behind", _SLOWEST_S)
            writer.transport.abort()
        finally:
            self._hub.listeners.discard(queue)
            if self._open.get(ticket) is queue:
                del self._open[ticket]

    async def _play(self, asked: _Asked, writer: asyncio.StreamWriter) -> None:
        try:
            deed = json.dumps(json.loads(asked.body)).encode() + b"\n"
            reader, out = await asyncio.open_connection("127.0.0.1", self._standins)
        except (ValueError, OSError, RecursionError) as error:
            return _refuse(writer, 400, f"The stand-ins were not told: {str(error)[:80]}", asked.origin)
        out.write(deed)
        async with asyncio.timeout(_WAIT_S):
            answer = await reader.readline()
        out.close()
        _send(writer, 200 if b'"done"' in answer else 422, answer, asked.origin)


async def _ended(ticket: UUID) -> bool:
    """Asks the database beside the streams, and waits for it no longer than a Deck waits for its instruments."""
    try:
        async with asyncio.timeout(_ASK_S):
            return await asyncio.to_thread(_look, ticket)
    except TimeoutError:
        return False


def _look(ticket: UUID) -> bool:
    close_old_connections()  # one that the database has closed since is opened anew
    return has_ended(ticket)


async def _read(reader: asyncio.StreamReader) -> _Asked:
    head = await reader.readuntil(b"\r\n\r\n")
    if len(head) > _MOST_HEAD:
        raise ValueError("a head that is too long")
    first, *lines = head.decode("latin-1").split("\r\n")
    method, target, _ = first.split(" ")
    headers = {
        name.strip().lower(): value.strip() for name, _, value in (line.partition(":") for line in lines if line)
    }
    length = int(headers.get("content-length", 0))
    if not 0 <= length <= _MOST_BODY:
        raise ValueError("a body that is too long")
    address = urlsplit(target)
    query = {name: values[0] for name, values in parse_qs(address.query).items()}
    return _Asked(method, address.path, query, headers.get("origin", ""), await reader.readexactly(length))


_REASONS = {
    200: "OK",
    204: "No Content",
    400: "Bad Request",
    403: "Forbidden",
    404: "Not Found",
    422: "Unprocessable",
    503: "Busy",
}


def _head(status: int, content_type: str, origin: str, more: Mapping[str, str] | None = None) -> bytes:
    headers = {
        "Content-Type": content_type, "Connection": "close", "X-Content-Type-Options": "nosniff",
        **({"Access-Control-Allow-Origin": origin, "Vary": "Origin", "Access-Control-Allow-Headers": "Content-Type"} if origin else {}),
        **(more or {}),
    }  # fmt: skip
    lines = "".join(f"{name}: {value}\r\n" for name, value in headers.items())
    return f"HTTP/1.1 {status} {_REASONS[status]}\r\n{lines}\r\n".encode()


def _send(writer: asyncio.StreamWriter, status: int, body: bytes, origin: str) -> None:
    writer.write(_head(status, "application/json", origin, {"Content-Length": str(len(body))}) + body)


def _refuse(writer: asyncio.StreamWriter, status: int, words: str, origin: str = "") -> None:
    _send(writer, status, json.dumps({"message": words}).encode(), origin)
