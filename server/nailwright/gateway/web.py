"""The gateway's two addresses over HTTP: a stream for each Deck, and what stand-ins are told to do.

An ASGI application: a stream holds one small task here and none of the application's threads.
"""

from __future__ import annotations

import asyncio
import json
import logging
import time
from collections.abc import AsyncIterator, Collection
from uuid import UUID

import uvicorn
from django.db import close_old_connections
from sse_starlette import EventSourceResponse, ServerSentEvent
from sse_starlette.sse import SendTimeoutError
from starlette.middleware.cors import CORSMiddleware
from starlette.requests import ClientDisconnect, Request
from starlette.responses import JSONResponse, Response
from starlette.types import Receive, Scope, Send

from nailwright.gateway.hub import Hub
from nailwright.gateway.tickets import has_ended, read_ticket

log = logging.getLogger(__name__)

_MOST_HEAD, _MOST_BODY = 16_384, 4096
_WAIT_S = 10.0
#: A line that says nothing, so that proxies on the way keep the stream open and a dead one is noticed.
STILL_HERE_S = 15.0
#: So often it is looked whether a ticket's sign-in has ended.
LOOK_EVERY_S = 10.0
_ASK_S = 3.0
#: Who takes nothing for so long is gone: what waits for them would fill the memory.
SLOWEST_S = 20.0


class Web:
    """Serves pages of ``origins``; ``standins`` is the port on which they are told what to do."""

    def __init__(self, hub: Hub, origins: Collection[str], standins: int | None) -> None:
        self._hub, self._origins, self._standins = hub, origins, standins
        self._open: dict[UUID, asyncio.Queue[str]] = {}

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """One request."""
        request = Request(scope, receive)
        try:
            response = await self._answer(request)
        except ClientDisconnect:
            return
        try:
            await response(scope, receive, send)
        except SendTimeoutError:
            log.info("a listener took nothing for %d s and was left behind", SLOWEST_S)

    async def _answer(self, request: Request) -> Response:
        origin = request.headers.get("origin", "")
        if origin and origin not in self._origins:
            return _refusal(403, "Another page's streams are none of its affair.")
        ticket = read_ticket(request.query_params.get("ticket", ""))
        if ticket is None or await _ended(ticket):
            return _refusal(403, "The ticket is not good, or has ended: load the Deck again.")
        if (request.method, request.url.path) == ("GET", "/stream"):
            return self._stream(ticket)
        if (request.method, request.url.path) == ("POST", "/play") and self._standins:
            return await self._play(request)
        return _refusal(404, "Nothing is here.")

    def _stream(self, ticket: UUID) -> Response:
        if before := self._open.get(ticket):
            # a ticket holds one stream open: the newest, since one whose line broke comes again
            self._hub.leave(before)
        queue = self._hub.join()
        if queue is None:
            return _refusal(503, "Too many Decks listen already.")
        self._open[ticket] = queue
        return EventSourceResponse(
            self._messages(ticket, queue), ping=STILL_HERE_S, sep="\n", send_timeout=SLOWEST_S,
            ping_message_factory=lambda: ServerSentEvent(comment="still here", sep="\n"),
        )  # fmt: skip

    async def _messages(self, ticket: UUID, queue: asyncio.Queue[str]) -> AsyncIterator[bytes]:
        """What the instruments say, until the gateway or the ticket ends, or the ticket's newer stream takes this one's place."""
        looked = time.monotonic()
        try:
            while True:
                message = None
                try:
                    async with asyncio.timeout(LOOK_EVERY_S):
                        message = await queue.get()
                except TimeoutError:
                    pass  # nothing was said; the ticket is looked at all the same
                if message == "":
                    return
                if message:
                    yield message.encode()
                if time.monotonic() - looked >= LOOK_EVERY_S:
                    looked = time.monotonic()
                    if await _ended(ticket):
                        return
        finally:
            self._hub.listeners.discard(queue)
            if self._open.get(ticket) is queue:
                del self._open[ticket]

    async def _play(self, request: Request) -> Response:
        try:
            deed = json.dumps(json.loads(await _body(request))).encode() + b"\n"
            reader, out = await asyncio.open_connection("127.0.0.1", self._standins)
        except (ValueError, OSError, RecursionError, TimeoutError) as error:
            return _refusal(400, f"The stand-ins were not told: {str(error)[:80]}")
        out.write(deed)
        async with asyncio.timeout(_WAIT_S):
            answer = await reader.readline()
        out.close()
        return Response(answer, 200 if b'"done"' in answer else 422, media_type="application/json")


def server_of(web: Web, origins: Collection[str], host: str, port: int) -> uvicorn.Server:
    """What serves it to the pages of ``origins``; a port of 0 is any free one."""
    application = CORSMiddleware(
        web, allow_origins=[*origins], allow_methods=["GET", "POST"], allow_headers=["Content-Type"]
    )
    return uvicorn.Server(
        uvicorn.Config(
            application, host, port, lifespan="off", http="h11", ws="none", access_log=False, log_level="warning", server_header=False,
            h11_max_incomplete_event_size=_MOST_HEAD, timeout_graceful_shutdown=1,
        )
    )  # fmt: skip


async def _body(request: Request) -> bytes:
    """Raises ValueError for one that is too long, TimeoutError for one that does not come."""
    body = b""
    async with asyncio.timeout(_WAIT_S):
        async for piece in request.stream():
            body += piece
            if len(body) > _MOST_BODY:
                raise ValueError(f"expected at most {_MOST_BODY} bytes")
    return body


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


def _refusal(status: int, words: str) -> Response:
    return JSONResponse({"message": words}, status)
