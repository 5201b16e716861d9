"""A link to each instrument: connected again whenever it comes back, its lines decoded."""

from __future__ import annotations

import asyncio
import logging
import time
from collections.abc import Callable

from nailwright_core.common.errors import CoreError
from nailwright_core.instruments import DECODERS, LineBuffer, Reading

log = logging.getLogger(__name__)

AGAIN_S = 1.0
#: What comes after a garbled line takes its place as the state after so long.
GARBLED_FOR_S = 5.0


class Link:
    """One instrument at an address.

    ``name`` is its kind, the second of a kind with "-2" behind it. ``state``: "absent", "connected", "silent" or "garbled"; ``told`` is called with what it reads, ``changed`` when the state does.
    """

    def __init__(
        self, name: str, host: str, port: int, told: Callable[[str, Reading], None], changed: Callable[[], None]
    ) -> None:
        self.name, self.host, self.port = name, host, port
        kind, _, self._number = name.partition("-")
        self._decoder, self._told, self._changed = DECODERS[kind](), told, changed
        self._connected = False
        self._last_line = self._last_garbled = 0.0
        self.why = ""
        self.garbled = 0
        self._state = "absent"

    @property
    def title(self) -> str:
        return f"{self._decoder.title} {self._number}".rstrip()

    @property
    def state(self) -> str:
        now = time.monotonic()
        if not self._connected:
            return "absent"
        if self._last_garbled and now - self._last_garbled < GARBLED_FOR_S:
            return "garbled"
        silent = self._decoder.silent_after_s
        return "silent" if silent and now - self._last_line > silent else "connected"

    async def run(self) -> None:
        """For as long as the gateway runs."""
        while True:
            try:
                async with asyncio.timeout(5):
                    reader, writer = await asyncio.open_connection(self.host, self.port)
            except (OSError, TimeoutError):
                self.look()
                await asyncio.sleep(AGAIN_S)
                continue
            self._connected, self._last_line, self._last_garbled = True, time.monotonic(), 0.0
            self.look()
            buffer = LineBuffer()
            try:
                while received := await reader.read(4096):
                    for line in buffer.feed(received):
                        self.hear(line)
                    await asyncio.sleep(0)  # a thousand lines a second hold up none of the other instruments
            except OSError as error:
                log.info("%s hung up: %s", self.name, error)
            except Exception:  # a fault of ours in one line must not end the others' evening: said, and connected anew
                log.exception("a line of %s was not understood", self.name)
                await asyncio.sleep(AGAIN_S)
            finally:
                writer.close()
            self._connected = False
            self.look()

    def hear(self, line: str) -> None:
        """A line came; one that is garbled changes nothing but the state."""
        self._last_line = time.monotonic()
        try:
            reading = self._decoder.decode(line)
        except CoreError as refused:
            self._last_garbled, self.why = self._last_line, refused.message
            self.garbled += 1
        else:
            if reading:
                self._told(self.name, reading)
        self.look()

    def look(self) -> None:
        """Tells where the state is another than it was."""
        now = self.state
        if now != self._state:
            self._state = now
            self._changed()
