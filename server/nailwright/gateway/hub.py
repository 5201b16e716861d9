"""What the instruments said last, and who is told."""

from __future__ import annotations

import asyncio
import itertools
import json
from collections.abc import Mapping
from typing import Any

from nailwright.gateway.links import Link
from nailwright_core.instruments import Reading

#: Readings are told so often at most; of one instrument's figures the newest counts, of numbers each.
EVERY_S = 0.1
#: A listener that takes nothing for so many messages is left behind, not waited for.
MOST_WAITING = 200
#: More Decks than this listen to no boat.
MOST_LISTENERS = 50


class Hub:
    """Links and listeners."""

    def __init__(self, instruments: Mapping[str, tuple[str, int]]) -> None:
        self.links = [Link(name, *address, self.tell, self.changed) for name, address in instruments.items()]
        self.listeners: set[asyncio.Queue[str]] = set()
        self._pending: dict[tuple[str, str], Reading] = {}
        self._numbers = itertools.count(1)
        self._states_changed = False

    async def run(self) -> None:
        """For as long as the gateway runs."""
        async with asyncio.TaskGroup() as tasks:
            for link in self.links:
                tasks.create_task(link.run())
            tasks.create_task(self._flush())

    def tell(self, name: str, reading: Reading) -> None:
        self._pending[(name, reading.text)] = reading

    def changed(self) -> None:
        self._states_changed = True

    def states(self) -> str:
        told = [
            {"kind": each.name, "title": each.title, "state": each.state, "why": each.why, "garbled": each.garbled}
            for each in self.links
        ]
        return _message("states", told)

    def join(self) -> asyncio.Queue[str] | None:
        """A queue of messages for a listener, the states first; None where too many listen already."""
        if len(self.listeners) >= MOST_LISTENERS:
            return None
        queue: asyncio.Queue[str] = asyncio.Queue(MOST_WAITING)
        queue.put_nowait(self.states())
        self.listeners.add(queue)
        return queue

    def leave(self, queue: asyncio.Queue[str]) -> None:
        """A listener is told that nothing more comes."""
        self.listeners.discard(queue)
        while not queue.empty():
            queue.get_nowait()
        queue.put_nowait("")

    def end(self) -> None:
        """Nothing more comes, for any of them."""
        for queue in list(self.listeners):
            self.leave(queue)

    async def _flush(self) -> None:
        while True:
            await asyncio.sleep(EVERY_S)
            for link in self.links:
                link.look()  # silence comes by itself
            if self._states_changed:
                self._states_changed = False
                self._send(self.states())
            pending, self._pending = self._pending, {}
            for (name, _), reading in pending.items():
                told = {
                    "n": next(self._numbers), "instrument": name, "kind": reading.kind, "text": reading.text,
                    "values": dict(reading.values), "stable": reading.stable,
                }  # fmt: skip
                self._send(_message("reading", told))

    def _send(self, message: str) -> None:
        for queue in self.listeners:
            if queue.full():
                queue.get_nowait()  # the oldest: what is new matters
            queue.put_nowait(message)


def _message(event: str, data: Any) -> str:
    return f"event: {event}\ndata: {json.dumps(data)}\n\n"
